//! What people are told.

use crate::finding::{GroupReason, Met};
use crate::fix::Shell;
use crate::guide::{Group, Guide, Requirement, Subject};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: GroupReason) -> String {
    let name = if let Subject::Group(group) = &words.requirement.subject { group.name.as_str() } else { "" };
    match reason {
        GroupReason::UntilSignIn => {
            format!("You were added to the group {name}, but this session began before that: it counts from your next sign-in.")
        }
        GroupReason::NotMember => format!("You are not a member of the group {name}."),
        GroupReason::Absent => format!("This machine has no group {name}."),
    }
}

pub(crate) fn found(reason: GroupReason) -> &'static str {
    match reason {
        GroupReason::UntilSignIn => "from your next sign-in",
        GroupReason::NotMember => "not a member",
        GroupReason::Absent => "no such group",
    }
}

impl ReasonWords for GroupReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, *self)
    }

    fn found(&self) -> Option<String> {
        Some(found(*self).to_owned())
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Group {
    fn met(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::GroupNotNeeded => format!("You are the administrator, who needs no group {}.", self.name),
            _ => format!("You are in the group {}.", self.name),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        if let Met::GroupNotNeeded = met { "not needed" } else { "in force" }.to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some("in force".to_owned())
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        let line = if shell.is_unix() {
            "id -nG"
        } else if shell == Shell::PowerShell {
            "whoami /groups"
        } else {
            return None;
        };
        Some((line.to_owned(), format!("names {}", self.name)))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let name = if requirement.title.is_some() { format!(" of the group {}", self.name) } else { String::new() };
        format!("you are a member{name}")
    }
}
