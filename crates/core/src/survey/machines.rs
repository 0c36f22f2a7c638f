//! Reports that can be told to be of one machine: the newest counts, and the one after another tells which fixes helped.

use super::compact_report::CompactReport;
use crate::prelude::*;
use hashbrown::HashMap;

/// So many machines are told apart; whoever comes then counts each time.
pub(super) const MOST_MACHINES: usize = 100_000;
/// So many reports of one are kept, the newest.
const MOST_REPORTS: usize = 16;
/// Longer words are no ids of ours.
const LONGEST_ID: usize = 64;

/// What is kept of each.
#[derive(Debug, Clone, Default)]
pub(super) struct Machines {
    by_id: HashMap<Box<str>, Vec<CompactReport>>,
}

impl Machines {
    /// Keeps a report; gives it back where there is no room for another machine.
    pub(super) fn keep(&mut self, id: &str, essence: CompactReport) -> Option<CompactReport> {
        if id.is_empty() || id.len() > LONGEST_ID || (self.by_id.len() >= MOST_MACHINES && !self.by_id.contains_key(id)) {
            return Some(essence);
        }
        let kept = self.by_id.entry(id.into()).or_default();
        kept.push(essence);
        if kept.len() > MOST_REPORTS {
            kept.sort_by_key(CompactReport::place);
            kept.remove(0);
        }
        None
    }

    /// How many machines there are.
    pub(super) fn len(&self) -> usize {
        self.by_id.len()
    }

    /// The reports of each machine, the oldest first.
    pub(super) fn in_order(self) -> impl Iterator<Item = (Box<str>, Vec<CompactReport>)> {
        self.by_id.into_iter().map(|(id, mut reports)| {
            reports.sort_by_key(CompactReport::place);
            (id, reports)
        })
    }
}
