//! What waits for what in a report, found out once for all.

use crate::finding::Verdict;
use crate::prelude::*;
use crate::settled::RequirementResult;

/// By requirement: where its result stands, what waits for it, and whether what it waits for is unmet in the end.
#[derive(Debug)]
pub(super) struct Roots {
    positions: Vec<Option<usize>>,
    /// By requirement, the positions of the results that wait for it.
    followers: Vec<Vec<usize>>,
    /// By requirement, whether something that it waits for, at any distance, is unmet.
    is_unmet_below: Vec<bool>,
}

impl Roots {
    /// For the results of a guide with so many requirements. Each edge is walked once: what is unmet spreads to all that wait for it.
    pub(super) fn of(count: usize, settled: &[RequirementResult]) -> Self {
        let mut roots =
            Self { positions: vec![None; count], followers: vec![Vec::new(); count], is_unmet_below: vec![false; count] };
        for (at, one) in settled.iter().enumerate() {
            if let Some(position) = roots.positions.get_mut(one.index) {
                *position = Some(at);
            }
            for root in one.finding.waits_for() {
                if let Some(followers) = roots.followers.get_mut(*root) {
                    followers.push(at);
                }
            }
        }
        let mut open: Vec<usize> =
            settled.iter().filter(|one| one.finding.verdict() == Verdict::Unmet).map(|one| one.index).collect();
        while let Some(index) = open.pop() {
            for follower in roots.followers.get(index).into_iter().flatten().filter_map(|at| settled.get(*at)) {
                if let Some(unmet) = roots.is_unmet_below.get_mut(follower.index).filter(|unmet| !**unmet) {
                    *unmet = true;
                    open.push(follower.index);
                }
            }
        }
        roots
    }

    pub(super) fn position(&self, index: usize) -> Option<usize> {
        self.positions.get(index).copied().flatten()
    }

    pub(super) fn followers(&self, index: usize) -> &[usize] {
        self.followers.get(index).map_or(&[], Vec::as_slice)
    }

    /// The verdict, but for what is blocked that of its roots: unmet where one is.
    pub(super) fn verdict(&self, one: &RequirementResult) -> Verdict {
        match one.finding.verdict() {
            Verdict::Blocked if self.is_unmet_below.get(one.index) == Some(&true) => Verdict::Unmet,
            verdict @ (Verdict::Met | Verdict::Unmet | Verdict::Unknown | Verdict::Blocked | Verdict::Skipped) => verdict,
        }
    }
}
