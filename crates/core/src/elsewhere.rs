//! What is known of other places where the work goes on, by what was checked there.

use crate::prelude::*;
use crate::verdict::Verdict;
use alloc::collections::BTreeMap;

/// What a report from another place says of the requirements that belong there.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct PlaceReport {
    /// The index of the place.
    pub place: usize,
    /// The verdicts that were found there, by the index of the requirement; what was left out there is not among them.
    pub verdicts: BTreeMap<usize, Verdict>,
    /// When it was checked there, as RFC 3339 writes times.
    pub started: Option<String>,
}

impl PlaceReport {
    /// What was found at a place.
    pub fn new(place: usize, verdicts: impl IntoIterator<Item = (usize, Verdict)>, started: Option<String>) -> Self {
        Self { place, verdicts: verdicts.into_iter().collect(), started }
    }
}
