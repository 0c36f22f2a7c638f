//! What people are told.

use crate::finding::{LibraryReason, LibraryTrouble, Met};
use crate::fix::{Shell, quote};
use crate::guide::{Guide, Library, Requirement, Subject};
use crate::kinds::tool::words::older;
use crate::prelude::*;
use crate::version::RangeMatch;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &LibraryReason) -> String {
    let Subject::Library(library) = &words.requirement.subject else { return words.title() };
    let name = &library.name;
    let range = library.version.as_ref().map(ToString::to_string).unwrap_or_default();
    if let Some(other) = &reason.other {
        let first = match &reason.trouble {
            LibraryTrouble::OutOfRange { found, .. } => format!("Builds find {name} {found} first"),
            LibraryTrouble::Incomparable { found } => format!("Builds find {name} first that calls its version {found}"),
            LibraryTrouble::Missing | LibraryTrouble::Lacks { .. } | LibraryTrouble::NoHeaders { .. } => {
                format!("Builds do not find {name}")
            }
        };
        return format!("{first}, but one that would do is here: {}, described in {}.", other.version, other.at);
    }
    match &reason.trouble {
        LibraryTrouble::Missing => format!("The library {name} is not installed."),
        LibraryTrouble::Lacks { other } => {
            format!("The library {name} is here, but to build against it {other} is needed too, and that is not installed.")
        }
        LibraryTrouble::NoHeaders { loaded_from } => {
            format!("The library {name} is here ({loaded_from}), but not what is needed to build against it.")
        }
        LibraryTrouble::OutOfRange { found, miss } if miss.fit == RangeMatch::TooOld => {
            older(&format!("The library {name}"), found, &miss.nearest)
        }
        LibraryTrouble::OutOfRange { found, .. } => {
            format!("The library {name} is {found}, and this project works with {range}.")
        }
        LibraryTrouble::Incomparable { found } => {
            format!("The library {name} calls its version {found}, which cannot be compared with {range}.")
        }
    }
}

pub(crate) fn found(reason: &LibraryReason) -> String {
    match &reason.trouble {
        LibraryTrouble::Missing => "not installed".to_owned(),
        LibraryTrouble::Lacks { other } => format!("without {other}"),
        LibraryTrouble::NoHeaders { .. } => "only to run with".to_owned(),
        LibraryTrouble::OutOfRange { found, .. } => found.to_string(),
        LibraryTrouble::Incomparable { found } => found.clone(),
    }
}

impl ReasonWords for LibraryReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

impl SubjectWords for Library {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Library { version } = met { format!("The library {} {version} is here.", self.name) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Library { version } = met { version.clone() } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        self.version.as_ref().map(ToString::to_string)
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        let then = match &self.version {
            Some(range) => format!("shows a version that is {range}"),
            None => "shows a version".to_owned(),
        };
        shell.is_unix().then(|| (format!("pkg-config --modversion {}", quote(&self.name, shell)), then))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let name = if requirement.title.is_some() { format!("{}, ", self.name) } else { String::new() };
        let version = self.version.as_ref().map(|range| format!("version {range}, ")).unwrap_or_default();
        format!("{name}{version}with what is needed to build against it")
    }
}
