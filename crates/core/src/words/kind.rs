//! What people are told of each kind.

use super::Words;
use crate::finding::Met;
use crate::fix::Shell;
use crate::guide::{Guide, Requirement, Subject};
use crate::kinds::{Reason, with_reason, with_subject};
use crate::prelude::*;

/// What people are told of it: in `words.rs` of each kind.
pub(crate) trait SubjectWords {
    /// What is said where it is met, in a sentence.
    fn met(&self, words: &Words<'_>, met: &Met) -> String;

    /// The same in a few words.
    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String;

    /// What is wanted, in a few words.
    fn wanted(&self) -> Option<String>;

    /// What is wanted, in a few words that stand behind a title, in a list of all that a guide asks.
    fn listed(&self, requirement: &Requirement, guide: &Guide) -> String;

    /// A line to type that shows by itself whether it is met, and what it then does: `("cmake --version", "answers")`; none where only
    /// another check tells.
    fn success_check(&self, _: Shell) -> Option<(String, String)> {
        None
    }
}

/// What people are told of such facts: in `words.rs` of each kind.
pub(crate) trait ReasonWords {
    /// A sentence or two that a beginner understands.
    fn message(&self, words: &Words<'_>) -> String;

    /// What was found, in a few words; none where there is nothing to say beside the message.
    fn found(&self) -> Option<String>;

    /// What was wanted of the thing that failed, where that is another than the requirement as a whole says.
    fn wanted(&self, _: &Words<'_>) -> Option<String> {
        None
    }
}

/// The words of a kind.
pub(crate) fn of_subject(subject: &Subject) -> &dyn SubjectWords {
    with_subject!(subject, one => one)
}

/// The words of a reason.
pub(crate) fn of_reason(reason: &Reason) -> &dyn ReasonWords {
    with_reason!(reason, one => one)
}
