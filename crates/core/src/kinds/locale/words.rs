//! What people are told.

use crate::finding::{LocaleReason, Met};
use crate::fix::Shell;
use crate::guide::{Guide, Locale, Requirement, Subject};
use crate::prelude::*;
use crate::text::join_words;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &LocaleReason) -> String {
    let name = if let Subject::Locale(locale) = &words.requirement.subject { locale.name.as_str() } else { "" };
    match reason {
        LocaleReason::Missing { others } if others.is_empty() => format!("The locale {name} is not made on this machine."),
        LocaleReason::Missing { others } => {
            let are = if others.len() == 1 { "is" } else { "are" };
            format!("The locale {name} is not made on this machine. There {are} {}.", join_words(others, "and"))
        }
        LocaleReason::OtherEncoding { encoding } if encoding.is_empty() => {
            format!("The locale {name} is here, but its characters are not UTF-8.")
        }
        LocaleReason::OtherEncoding { encoding } => {
            format!("The locale {name} is here, but its characters are {encoding}, and UTF-8 is needed.")
        }
    }
}

pub(crate) fn found(reason: &LocaleReason) -> String {
    match reason {
        LocaleReason::Missing { .. } => "not made here".to_owned(),
        LocaleReason::OtherEncoding { encoding } if encoding.is_empty() => "another encoding".to_owned(),
        LocaleReason::OtherEncoding { encoding } => encoding.clone(),
    }
}

pub(crate) fn wanted(locale: &Locale) -> String {
    if locale.utf8 { format!("{}, with UTF-8", locale.name) } else { locale.name.clone() }
}

impl ReasonWords for LocaleReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

impl SubjectWords for Locale {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Locale { name } = met { format!("The locale {name} is made here.") } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Locale { name } = met { name.clone() } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        shell.is_unix().then(|| ("locale -a".to_owned(), format!("lists {}", self.name)))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("{} made here", self.name)
    }
}
