//! What is kept of a report: numbers instead of its texts.

use super::Changed;
use super::week::Moment;
use crate::guide::Level;
use crate::prelude::*;
use crate::report::Outcome;
use crate::verdict::Verdict;
use hashbrown::HashSet;

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

/// What needed things come to that were all looked at.
fn outcome(items: &[Item]) -> Outcome {
    let any = |verdict: Verdict| items.iter().any(|item| item.level == Level::Must && item.verdict == verdict);
    if any(Verdict::Unmet) {
        Outcome::NotReady
    } else if any(Verdict::Unknown) || any(Verdict::Blocked) {
        Outcome::Undecided
    } else {
        Outcome::Ready
    }
}

/// What is kept of a report.
#[derive(Debug, Clone)]
pub(super) struct CompactReport {
    pub(super) when: Option<Moment>,
    /// Tells two reports of one moment apart, in whichever order and on whichever thread they came.
    pub(super) mark: u64,
    pub(super) outcome: Outcome,
    pub(super) in_part: bool,
    pub(super) elsewhere: bool,
    pub(super) group: u32,
    pub(super) changed: Option<Changed>,
    pub(super) items: Box<[Item]>,
}

impl CompactReport {
    /// This one, with what a later report of a part of the same machine says: newer where both say something.
    pub(super) fn with(&self, part: &Self) -> Self {
        let newer: HashSet<u32> = part.items.iter().map(|item| item.requirement).collect();
        let rest = self.items.iter().filter(|item| !newer.contains(&item.requirement));
        let items: Box<[Item]> = rest.chain(&*part.items).cloned().collect();
        let elsewhere = self.elsewhere || part.elsewhere;
        let outcome = match (outcome(&items), self.in_part, elsewhere, self.outcome) {
            (Outcome::Ready, true, ..) => Outcome::ReadyInPart,
            (Outcome::Ready, _, true, Outcome::ReadyHere) => Outcome::ReadyHere,
            (Outcome::Ready, _, true, _) => Outcome::Undecided,
            (of_items, ..) => of_items,
        };
        let (when, mark, group) = (part.when, part.mark, part.group);
        Self { when, mark, outcome, in_part: self.in_part, elsewhere, group, changed: part.changed.or(self.changed), items }
    }

    /// The day on which its week began, as days since 1970-01-01 (which was a Thursday).
    pub(super) fn monday(&self) -> Option<i64> {
        self.when.map(|when| when.day - (when.day + 3).rem_euclid(7))
    }

    /// Where it stands among the reports of its machine.
    pub(super) fn place(&self) -> (Option<Moment>, u64) {
        (self.when, self.mark)
    }
}
