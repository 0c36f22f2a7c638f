//! What settles it.

use crate::finding::CommandReason;
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Command, Requirement, Subject};
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: &CommandReason) -> Option<Fix> {
    let Subject::Command(command) = &case.requirement.subject else { return None };
    match reason {
        CommandReason::NotFound => Some(Fix::say(format!("Install {}, then check again.", command.words.first()?))),
        CommandReason::NotStarted { .. }
        | CommandReason::TimeUp { .. }
        | CommandReason::Crashed { .. }
        | CommandReason::Status { .. }
        | CommandReason::Output { .. } => {
            let words: Vec<String> = command.words.iter().map(|word| case.quoted(word)).collect();
            Some(Fix::say("Run it yourself in the project's folder, and do what its message says.").run(vec![words.join(" ")]))
        }
        CommandReason::NoConsent | CommandReason::NothingStarts { .. } | CommandReason::Interrupted => None,
    }
}

impl ReasonFixes for CommandReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let printed = if let Self::Status { said, .. } | Self::Crashed { said, .. } = self {
            said.clone()
        } else if let Self::Output { printed } = self {
            Some(printed.clone())
        } else {
            None
        };
        Fills { printed, ..Fills::default() }
    }
}

impl SubjectFixes for Command {}
