//! What people are told.

use crate::finding::{Met, SystemReason, SystemTrouble, SystemUnknown};
use crate::guide::{Guide, Requirement, Subject, Systems};
use crate::prelude::*;
use crate::text::join_words;
use crate::version::RangeMatch;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &SystemReason) -> String {
    let name = reason.name;
    let Subject::System(need) = &words.requirement.subject else { return format!("This project does not work on {name}.") };
    match &reason.trouble {
        SystemTrouble::Other => format!("This project does not work on {name}."),
        SystemTrouble::OtherDistribution { found } => {
            format!("This is {found}, and this project works on {}.", join_words(&need.distros, "or"))
        }
        SystemTrouble::OutOfRange { found, range, miss } => {
            let how = match miss.fit {
                RangeMatch::TooOld => "too old",
                RangeMatch::TooNew => "too new",
                RangeMatch::Inside | RangeMatch::Excluded | RangeMatch::Incomparable => "ruled out",
            };
            format!("{name} {found} is {how}: this project works with {range}.")
        }
        SystemTrouble::Incomparable { found, range } => {
            format!("The version of {name}, {found}, cannot be compared with {range}.")
        }
        SystemTrouble::Edition { found } => {
            format!("The edition here is {found}, and this project works with {}.", join_words(&need.editions, "or"))
        }
        SystemTrouble::Arch { found } => {
            format!("The kind of processor here is {found}, and this project works with {}.", join_words(&need.arches, "or"))
        }
        SystemTrouble::Unknown { what } => {
            let what = match what {
                SystemUnknown::Version => format!("version of {name}"),
                SystemUnknown::Distribution => "distribution".to_owned(),
                SystemUnknown::Edition => "edition".to_owned(),
            };
            format!("Which {what} this is could not be found out.")
        }
    }
}

pub(crate) fn wanted_of(words: &Words<'_>, reason: &SystemReason) -> Option<String> {
    let Subject::System(need) = &words.requirement.subject else { return None };
    match &reason.trouble {
        SystemTrouble::Edition { .. } => Some(join_words(&need.editions, "or")),
        SystemTrouble::Arch { .. } => Some(join_words(&need.arches, "or")),
        SystemTrouble::OtherDistribution { .. } => Some(join_words(&need.distros, "or")),
        SystemTrouble::OutOfRange { range, .. } | SystemTrouble::Incomparable { range, .. } => {
            Some(format!("{} {range}", reason.name))
        }
        SystemTrouble::Other | SystemTrouble::Unknown { .. } => None,
    }
}

impl ReasonWords for SystemReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(self.system.clone())
    }

    fn wanted(&self, words: &Words<'_>) -> Option<String> {
        wanted_of(words, self)
    }
}

impl SubjectWords for Systems {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::System(system) = met { format!("This is {system}.") } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::System(system) = met { system.to_string() } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(self.to_string())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        self.to_string()
    }
}
