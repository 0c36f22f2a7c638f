//! `locale`: the system has made it, and its characters are UTF-8 where that is asked for.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, LocaleReason, Met};
use crate::guide::Locale;
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;

/// So many others are named where the wanted one is missing.
const MOST_NAMED: usize = 3;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Locale) -> Result<Conclusion, Stop> {
    let made = inquiry.locales()?;
    let found = made.iter().find(|one| is_same(one, &wanted.name));
    Ok(match found {
        Some(name) if !wanted.utf8 || is_utf8(name) => Met::Locale { name: name.clone() }.into(),
        Some(name) => LocaleReason::OtherEncoding { encoding: encoding(name).unwrap_or_default().to_owned() }.into(),
        None => {
            let others = made.iter().filter(|name| is_utf8(name)).take(MOST_NAMED).cloned().collect();
            LocaleReason::Missing { others }.into()
        }
    })
}

fn encoding(name: &str) -> Option<&str> {
    name.split('@').next()?.split_once('.').map(|(_, encoding)| encoding)
}

/// Encodings are written in several ways: `UTF-8` and `utf8` are one (glibc's manual, locale names: letters and digits count, in any case).
fn is_utf8(name: &str) -> bool {
    encoding(name).is_some_and(|encoding| normalised(encoding) == "utf8")
}

fn normalised(encoding: &str) -> String {
    encoding.chars().filter(char::is_ascii_alphanumeric).map(|c| c.to_ascii_lowercase()).collect()
}

fn is_same(one: &str, other: &str) -> bool {
    let parts = |name: &str| {
        let (rest, modifier) = name.split_once('@').unwrap_or((name, ""));
        let (language, encoding) = rest.split_once('.').unwrap_or((rest, ""));
        (language.to_owned(), normalised(encoding), modifier.to_owned())
    };
    parts(one) == parts(other)
}

impl Assess for Locale {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
