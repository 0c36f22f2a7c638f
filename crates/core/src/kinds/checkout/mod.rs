//! `checkout`: the state of the working copy.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::programs::Programs;
use crate::guide::reading::{flag, text};
use crate::guide::vocabulary::Shape::{Flag, Text, Word};
use crate::guide::vocabulary::may;
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::statement::Topic;

/// `checkout = "."`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
#[allow(clippy::struct_excessive_bools, reason = "each is a key of its own")]
pub struct Checkout {
    /// Where it is.
    pub path: String,
    /// The branch that must be current.
    pub branch: Option<String>,
    /// Submodules must be fetched.
    pub submodules: bool,
    /// Large files must be fetched.
    pub large_files: bool,
    /// Nothing may be uncommitted.
    pub clean: bool,
    /// All of its history must be here.
    pub history: bool,
    /// Its tags must be here.
    pub tags: bool,
    /// Its texts must have the line ends of Unix.
    pub line_ends: bool,
}

/// How guides say it.
pub(crate) const CHECKOUT: Entry<Checkout> = Entry {
    shape: Text,
    further: &[
        may("branch", Text),
        may("submodules", Flag),
        may("large_files", Flag),
        may("clean", Flag),
        may("history", Word(&["full"])),
        may("tags", Flag),
        may("line_ends", Word(&["lf"])),
    ],
    several: None,
    about: &[About::Checkout],
    looks_ahead: true,
    read: |fields, _| checkout(fields),
};

impl SubjectEntry for Checkout {
    fn kind(&self) -> Kind {
        Kind::Checkout
    }

    fn title(&self) -> String {
        "working copy".to_owned()
    }

    fn wanted_value(&self) -> Option<String> {
        self.branch.clone()
    }

    fn topics(&self) -> Vec<Topic> {
        let submodules = self.submodules.then_some(Topic::Submodules);
        let large_files = self.large_files.then(|| Topic::Tool("git-lfs".to_owned()));
        submodules.into_iter().chain(large_files).chain([Topic::Tool("git".to_owned())]).collect()
    }

    fn needs(&self, programs: &Programs<'_>) -> Vec<usize> {
        let asks_git = self.large_files || self.clean;
        programs.tool("git").filter(|_| asks_git).into_iter().collect()
    }
}

fn checkout(fields: &Fields<'_>) -> Option<Checkout> {
    Some(Checkout {
        path: text(fields, "checkout")?,
        branch: names::branch(fields),
        submodules: flag(fields, "submodules"),
        large_files: flag(fields, "large_files"),
        clean: flag(fields, "clean"),
        history: fields.word("history", &[("full", ())]).is_some(),
        tags: flag(fields, "tags"),
        line_ends: fields.word("line_ends", &[("lf", ())]).is_some(),
    })
}
