//! What people are told.

use crate::finding::{LimitReason, Met};
use crate::fix::Shell;
use crate::guide::{Guide, Limit, LimitKind, Requirement, Subject};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

/// A limit in words, to stand behind "for" or "allows".
fn limited(kind: LimitKind) -> &'static str {
    match kind {
        LimitKind::OpenFiles => "files that are open at once",
        LimitKind::FileWatches => "files that are watched for changes",
        LimitKind::Processes => "processes at once",
        LimitKind::PathLength => "long paths",
        LimitKind::SymbolicLinks => "to make symbolic links",
    }
}

pub(crate) fn message(words: &Words<'_>, reason: LimitReason) -> String {
    let Subject::Limit(limit) = &words.requirement.subject else { return words.title() };
    let what = limited(limit.kind);
    match reason {
        LimitReason::Lacks => format!("This system does not allow you {what}."),
        LimitReason::Low { number, needed, own } => {
            let yourself = if own { " You may raise it yourself." } else { "" };
            format!("The limit for {what} is {number}, and {needed} is needed.{yourself}")
        }
    }
}

pub(crate) fn found(reason: LimitReason) -> String {
    match reason {
        LimitReason::Lacks => "not allowed".to_owned(),
        LimitReason::Low { number, .. } => number.to_string(),
    }
}

pub(crate) fn wanted(limit: &Limit) -> String {
    limit.at_least.map_or_else(|| "allowed".to_owned(), |least| format!("{least} or more"))
}

impl ReasonWords for LimitReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, *self)
    }

    fn found(&self) -> Option<String> {
        Some(found(*self))
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Limit {
    fn met(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::LimitHigh { number } => format!("The limit for {} is {number}.", limited(self.kind)),
            Met::Unlimited => format!("There is no limit for {}.", limited(self.kind)),
            _ => format!("This system allows you {}.", limited(self.kind)),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::LimitHigh { number } => number.to_string(),
            Met::Unlimited => "no limit".to_owned(),
            _ => "allowed".to_owned(),
        }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        let line = match self.kind {
            LimitKind::OpenFiles => "ulimit -n",
            LimitKind::Processes => "ulimit -u",
            LimitKind::FileWatches => "cat /proc/sys/fs/inotify/max_user_watches",
            LimitKind::PathLength | LimitKind::SymbolicLinks => return None,
        };
        let least = self.at_least.filter(|_| shell.is_unix())?;
        Some((line.to_owned(), format!("shows {least} or more")))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        let what = match self.kind {
            LimitKind::OpenFiles => "open files",
            LimitKind::Processes => "processes",
            LimitKind::FileWatches => "watched files",
            LimitKind::PathLength => "characters in a path",
            LimitKind::SymbolicLinks => "links can be made",
        };
        self.at_least.map_or_else(|| what.to_owned(), |least| format!("{least} {what} at least"))
    }
}
