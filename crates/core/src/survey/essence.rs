//! What is kept of a report: numbers instead of its texts.

use super::Changed;
use super::week::Moment;
use crate::guide::Level;
use crate::prelude::*;
use crate::report::Outcome;
use crate::verdict::Verdict;

/// Nothing.
pub(super) const NONE: u32 = u32::MAX;

/// What is kept of a row.
#[derive(Debug, Clone)]
pub(super) struct Item {
    pub(super) requirement: u32,
    pub(super) verdict: Verdict,
    pub(super) level: Level,
    pub(super) cause: u32,
    pub(super) version: u32,
    pub(super) fix: u32,
}

/// What is kept of a report.
#[derive(Debug, Clone)]
pub(super) struct Essence {
    pub(super) when: Option<Moment>,
    /// Tells two reports of one moment apart, in whichever order and on whichever thread they came.
    pub(super) mark: u64,
    pub(super) outcome: Outcome,
    pub(super) group: u32,
    pub(super) changed: Option<Changed>,
    pub(super) items: Box<[Item]>,
}

impl Essence {
    /// Where it stands among the reports of its machine.
    pub(super) fn place(&self) -> (Option<Moment>, u64) {
        (self.when, self.mark)
    }
}
