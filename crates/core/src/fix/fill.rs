//! What fills the placeholders of a guide's fix.

use super::{Circumstances, kind, quote};
use crate::finding::Reason;
use crate::guide::{Placeholder, Requirement, placeholder_pieces};
use crate::prelude::*;
use crate::text::Pattern;

/// How values are put into a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Quoting {
    /// As they are, for people.
    Plain,
    /// As one word each, for the person's shell.
    Shell,
}

/// The values that a finding has.
pub(super) struct Values<'a> {
    requirement: &'a Requirement,
    reason: &'a Reason,
    pub(super) here: &'a Circumstances<'a>,
    /// What the fix's own pattern found in what was printed.
    captured: Option<String>,
}

impl<'a> Values<'a> {
    pub(super) fn of(requirement: &'a Requirement, reason: &'a Reason, here: &'a Circumstances<'a>) -> Self {
        Self { requirement, reason, here, captured: None }
    }

    /// With what a fix's pattern finds in what the command printed; none where it must find something and does not.
    pub(super) fn where_it_prints(mut self, prints: Option<&Pattern>) -> Option<Self> {
        if let Some(pattern) = prints {
            let printed = kind::of_reason(self.reason).fills(self.requirement).printed?;
            self.captured = Some(pattern.capture(&printed)?.trim().to_owned());
        }
        Some(self)
    }

    /// The text with its placeholders filled in; none where the finding cannot fill one.
    pub(super) fn fill(&self, text: &str, quoting: Quoting) -> Option<String> {
        let mut filled = String::with_capacity(text.len());
        for piece in placeholder_pieces(text) {
            match piece {
                Err(plain) => filled.push_str(plain),
                Ok(word) => {
                    let placeholder = Placeholder::ALL.into_iter().find(|one| one.word() == word)?;
                    let value = self.value(placeholder)?;
                    filled.push_str(&if quoting == Quoting::Shell { quote(&value, self.here.shell) } else { value });
                }
            }
        }
        Some(filled)
    }

    fn value(&self, placeholder: Placeholder) -> Option<String> {
        let fills = kind::of_reason(self.reason).fills(self.requirement);
        match placeholder {
            Placeholder::Found => fills.found,
            Placeholder::Wanted => fills.wanted.or_else(|| self.requirement.subject.facts().wanted_value()),
            Placeholder::Path => fills.path,
            Placeholder::Port => fills.port.map(|port| port.to_string()),
            Placeholder::FreePort => fills.free_port.map(|port| port.to_string()),
            Placeholder::User => self.here.user().map(ToOwned::to_owned),
            Placeholder::StartupFile => self.here.startup_file().map(ToOwned::to_owned),
            Placeholder::Holder => fills.holder,
            Placeholder::Folder => {
                let path = fills.path?;
                let (folder, _) = path.rsplit_once(['/', '\\'])?;
                Some(if folder.is_empty() { "/".to_owned() } else { folder.to_owned() })
            }
            Placeholder::Captured => self.captured.clone(),
            Placeholder::ShortBy => fills.short_by.map(|size| size.to_string()),
        }
    }
}
