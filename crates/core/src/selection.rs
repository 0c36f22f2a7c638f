//! What a person chose to have checked, and what they agreed to.

use crate::advice::Advice;
use crate::guide::Requirement;
use crate::prelude::*;
use crate::probe::Permission;
use alloc::collections::{BTreeMap, BTreeSet};

/// Whether the person agreed to run what goes beyond asking known programs for their version.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum Consent {
    /// No.
    #[default]
    Withheld,
    /// To whatever this guide asks for, without having been asked.
    Given,
    /// To exactly these argument lists, the program first, each with the mark of what it was agreed to with: its program, its folder, the
    /// scripts that it names. Who starts it compares the mark.
    For(Arc<BTreeMap<Vec<String>, String>>),
}

impl Consent {
    /// By what permission a program may be started with these words, of which it is the first; `None` where there is none.
    pub fn permits(&self, words: &[String]) -> Option<Permission> {
        match self {
            Self::Withheld => None,
            Self::Given => Some(Permission::Given),
            Self::For(agreed) => agreed.get(words).map(|mark| Permission::Marked(mark.clone())),
        }
    }
}

/// What was chosen to be checked.
#[derive(Debug, Clone, Default)]
pub struct Selection {
    /// The index of the contributor's role; everyone's where none is given.
    pub role: Option<usize>,
    /// The indexes of the requirements to check; all where empty.
    pub only: Vec<usize>,
    /// The index of the stage to check; all where none is given.
    pub stage: Option<usize>,
    /// Stages that need the running project are checked too.
    pub after_start: bool,
    /// What needs the network is left out.
    pub offline: bool,
    /// The index of the place where one is, where the person says it; else it is found out.
    pub place: Option<usize>,
    /// Tools are started to say their version, also where their installation states it.
    pub start_all: bool,
    /// The person's consent.
    pub consent: Consent,
    /// What the person was advised in earlier looks.
    pub advised: Arc<BTreeSet<Advice>>,
}

impl Selection {
    /// Whether a requirement was asked for at all.
    pub fn includes(&self, requirement: &Requirement, index: usize) -> bool {
        (self.only.is_empty() || self.only.contains(&index)) && self.stage.is_none_or(|stage| stage == requirement.stage)
    }
}
