//! What a person chose to have checked, and what they agreed to.

use crate::guide::Requirement;
use crate::prelude::*;

/// Whether the person agreed to run what goes beyond asking known programs for their version.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Consent {
    /// No.
    #[default]
    Withheld,
    /// Yes, for this guide.
    Given,
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
    /// The person's consent.
    pub consent: Consent,
}

impl Selection {
    /// Whether a requirement was asked for at all.
    pub fn includes(&self, requirement: &Requirement, index: usize) -> bool {
        (self.only.is_empty() || self.only.contains(&index)) && self.stage.is_none_or(|stage| stage == requirement.stage)
    }
}
