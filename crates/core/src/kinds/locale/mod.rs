//! `locale`: a locale that is made here.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, shortened};
use crate::guide::reading::{bad, flag};
use crate::guide::vocabulary::Shape::{Flag, Text};
use crate::guide::vocabulary::may;
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `locale = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Locale {
    /// Its name, as `en_US.UTF-8`.
    pub name: String,
    /// Its characters must be UTF-8, whatever it is called.
    pub utf8: bool,
}

/// How guides say it.
pub(crate) const LOCALE: Entry<Locale> = Entry {
    shape: Text,
    further: &[may("utf8", Flag)],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, _| locale(fields),
};

impl SubjectEntry for Locale {
    fn kind(&self) -> Kind {
        Kind::Locale
    }

    fn title(&self) -> String {
        format!("locale {}", self.name)
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.name.clone())
    }
}

/// A locale's name goes into a command that a person pastes (POSIX Base Definitions 8.2: language, territory, encoding, modifier).
fn locale(fields: &Fields<'_>) -> Option<Locale> {
    let name = names::placed(fields, "locale")?;
    let right = |c: char| c.is_ascii_alphanumeric() || "_.-@".contains(c);
    if name.value.is_empty()
        || name.value.len() > 60
        || !name.value.starts_with(|c: char| c.is_ascii_alphabetic())
        || !name.value.chars().all(right)
    {
        bad(fields, name.span, format!("`{}` is not the name of a locale, like \"en_US.UTF-8\"", shortened(name.value)));
    }
    Some(Locale { name: name.value.to_owned(), utf8: flag(fields, "utf8") })
}
