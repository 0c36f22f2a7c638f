//! `setting`: a setting of the version control.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, shortened};
use crate::guide::programs::Programs;
use crate::guide::reading::{bad, check_word};
use crate::guide::vocabulary::Shape::{Text, Word};
use crate::guide::vocabulary::{EXAMPLE, MEANS, may};
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::Pattern;

/// `setting = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Setting {
    /// Its key.
    pub key: String,
    /// Whose setting it is.
    pub of: String,
    /// The shape of its value.
    pub matches: Option<Pattern>,
}

/// How guides say it.
pub(crate) const SETTING: Entry<Setting> = Entry {
    shape: Text,
    further: &[may("of", Word(&["git"])), may("matches", Text), MEANS, EXAMPLE],
    several: None,
    about: &[About::Checkout],
    looks_ahead: true,
    read: |fields, _| setting(fields),
};

impl SubjectEntry for Setting {
    fn kind(&self) -> Kind {
        Kind::Setting
    }

    fn title(&self) -> String {
        format!("{} setting {}", self.of, self.key)
    }

    fn pattern(&self) -> Option<&Pattern> {
        self.matches.as_ref()
    }

    fn topics(&self) -> Vec<Topic> {
        vec![Topic::Tool(self.of.clone())]
    }

    fn needs(&self, programs: &Programs<'_>) -> Vec<usize> {
        programs.tool(&self.of).into_iter().collect()
    }

    fn asks(&self) -> Option<String> {
        Some(format!("setting {} {}", self.of, self.key))
    }
}

fn setting(fields: &Fields<'_>) -> Option<Setting> {
    let key = names::placed(fields, "setting")?;
    let of = fields.text("of");
    if let Some(of) = &of {
        check_word(fields, "version control whose settings are read", of, &["git"]);
    }
    // A key becomes an argument: nothing but a key may pass (git-config(1)).
    let right = |c: char| c.is_ascii_alphanumeric() || "-_./:@".contains(c);
    if !key.value.chars().all(right) || !key.value.contains('.') || key.value.starts_with(['-', '.']) {
        bad(fields, key.span.clone(), format!("`{}` is not the key of a setting, like \"user.email\"", shortened(key.value)));
    }
    Some(Setting {
        key: key.value.to_owned(),
        of: of.map_or_else(|| "git".to_owned(), |of| of.value.to_owned()),
        matches: fields.read("matches", Pattern::new),
    })
}
