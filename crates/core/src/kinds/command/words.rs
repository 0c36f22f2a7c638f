//! What people are told.

use crate::finding::{CommandReason, Met};
use crate::guide::{Command, Guide, Requirement, Subject};
use crate::kinds::tool::words::it_said;
use crate::prelude::*;
use crate::text::seconds;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &CommandReason) -> String {
    let Subject::Command(wanted) = &words.requirement.subject else { return words.title() };
    let shown = words.command(&wanted.words);
    match reason {
        CommandReason::NoConsent => format!("`{shown}` was not run: a command of the guide needs your consent. Read it first."),
        CommandReason::NotFound => {
            let program = wanted.words.first().map_or("", String::as_str);
            format!("`{shown}` cannot be run: {program} was not found.")
        }
        CommandReason::NotStarted { reason } => format!("`{shown}` could not be started: {reason}."),
        CommandReason::NothingStarts { reason } => {
            format!("`{shown}` could not be run: no program can be started here: {reason}.")
        }
        CommandReason::TimeUp { after_ms } => {
            format!("`{shown}` was still running after {} s and was stopped, with all that it had started.", seconds(*after_ms))
        }
        CommandReason::Interrupted => format!("`{shown}` was interrupted before it ended."),
        CommandReason::Crashed { signal, said } => format!("`{shown}` crashed (signal {signal}){}", it_said(said.as_deref())),
        CommandReason::Status { status, said } => {
            let should = if wanted.exit == 0 { String::new() } else { format!(", and {} is expected", wanted.exit) };
            format!("`{shown}` ended with the exit status {status}{should}{}", it_said(said.as_deref()))
        }
        CommandReason::Output { printed } => {
            let pattern = if words.requirement.means.is_some() { "" } else { "what fits this pattern, " };
            let form = words.form();
            if printed.is_empty() {
                format!("`{shown}` ran, but printed nothing. What is expected is {pattern}{form}")
            } else {
                format!("`{shown}` ran, but printed something else than what is expected: {pattern}{form}")
            }
        }
    }
}

pub(crate) fn found(reason: &CommandReason) -> Option<String> {
    Some(match reason {
        CommandReason::NoConsent => "not run".to_owned(),
        CommandReason::NotFound => "not found".to_owned(),
        CommandReason::NotStarted { .. } => "did not start".to_owned(),
        CommandReason::TimeUp { .. } => "did not end".to_owned(),
        CommandReason::Crashed { .. } => "crashed".to_owned(),
        CommandReason::Status { status, .. } => format!("exit status {status}"),
        CommandReason::Output { printed } if printed.is_empty() => "nothing printed".to_owned(),
        CommandReason::Output { printed } => printed.clone(),
        CommandReason::NothingStarts { .. } | CommandReason::Interrupted => return None,
    })
}

/// A command that did not run is wanted to run; only one that did is held against its pattern.
pub(crate) fn wanted_of(words: &Words<'_>, reason: &CommandReason) -> Option<String> {
    let Subject::Command(command) = &words.requirement.subject else { return None };
    match reason {
        CommandReason::Output { .. } => None,
        _ if command.exit == 0 => Some("runs without an error".to_owned()),
        CommandReason::NoConsent
        | CommandReason::NotFound
        | CommandReason::NotStarted { .. }
        | CommandReason::NothingStarts { .. }
        | CommandReason::TimeUp { .. }
        | CommandReason::Interrupted
        | CommandReason::Crashed { .. }
        | CommandReason::Status { .. } => Some(format!("exit status {}", command.exit)),
    }
}

pub(crate) fn wanted(command: &Command) -> String {
    match (command.exit, &command.matches) {
        (0, None) => "runs without an error".to_owned(),
        (0, Some(pattern)) => format!("prints what fits {}", pattern.source()),
        (status, _) => format!("exit status {status}"),
    }
}

impl ReasonWords for CommandReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        found(self)
    }

    fn wanted(&self, words: &Words<'_>) -> Option<String> {
        wanted_of(words, self)
    }
}

impl SubjectWords for Command {
    fn met(&self, words: &Words<'_>, _: &Met) -> String {
        format!("`{}` ran as expected.", words.command(&self.words))
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "as expected".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let ends = if self.exit == 0 { "ends well".to_owned() } else { format!("ends with {}", self.exit) };
        let means = self.matches.as_ref().and(requirement.means.as_ref());
        let says = means.map(|means| format!(" and says {means}")).unwrap_or_default();
        format!("`{}` {ends}{says}", self.words.join(" "))
    }
}
