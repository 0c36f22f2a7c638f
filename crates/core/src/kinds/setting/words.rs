//! What people are told.

use crate::finding::{Met, SettingReason};
use crate::fix::{Shell, quote};
use crate::guide::{Guide, Requirement, Setting, Subject};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: SettingReason) -> String {
    let Subject::Setting(setting) = &words.requirement.subject else { return words.title() };
    let (of, key) = (&setting.of, &setting.key);
    match reason {
        SettingReason::Unset => format!("The {of} setting {key} is not set."),
        SettingReason::Shape => {
            format!("The {of} setting {key} does not have the form that is needed: {}", words.form())
        }
    }
}

pub(crate) fn found(reason: SettingReason) -> &'static str {
    match reason {
        SettingReason::Unset => "not set",
        SettingReason::Shape => "another form",
    }
}

pub(crate) fn wanted(setting: &Setting) -> &'static str {
    if setting.matches.is_some() { "set, in the right form" } else { "set" }
}

impl ReasonWords for SettingReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, *self)
    }

    fn found(&self) -> Option<String> {
        Some(found(*self).to_owned())
    }
}

impl SubjectWords for Setting {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        format!("The {} setting {} is set.", self.of, self.key)
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "set".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self).to_owned())
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        Some((format!("git config {}", quote(&self.key, shell)), "shows your value".to_owned()))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let shape = requirement.means.as_ref().map(|means| format!(", to {means}")).unwrap_or_default();
        format!("{} set in {}{shape}", self.key, self.of)
    }
}
