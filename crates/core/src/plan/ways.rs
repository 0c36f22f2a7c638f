//! Which steps clear the way for others, though no requirement says so: nothing is installed on a full disk or without a network, and a folder is
//! made one's own before what lies in it.

use super::Item;
use crate::cause::Cause;
use crate::fix::{Change, CheckoutChange, Effect};
use crate::prelude::*;
use hashbrown::HashMap;

/// What keeps everything from being fetched and installed, whatever it is.
fn bars_all(cause: Cause) -> bool {
    matches!(
        cause,
        Cause::DiskShort
            | Cause::DiskShortTogether
            | Cause::DiskInodesShort
            | Cause::ReachOffline
            | Cause::ReachNoNames
            | Cause::ReachProxy
            | Cause::ClockWrong
    )
}

/// So many come before all that is fetched; each with each would be too many to put in order.
const MOST_CLEARING: usize = 16;

/// Which items each should come after.
pub(super) fn cleared(items: &[Item<'_>]) -> Vec<Vec<usize>> {
    let clears = |at: &usize| items.get(*at).is_some_and(|item| item.causes.iter().copied().any(bars_all));
    let clearing: Vec<usize> = (0..items.len()).filter(clears).take(MOST_CLEARING).collect();
    let mut of_paths: HashMap<&str, usize> = HashMap::new();
    let mut of_checkouts: HashMap<&str, usize> = HashMap::new();
    for (at, item) in items.iter().enumerate() {
        for change in changes(item) {
            if let Change::Path { path, .. } = change {
                of_paths.entry(path).or_insert(at);
            } else if let Change::Checkout(path, CheckoutChange::PutAside) = change {
                of_checkouts.insert(path, at);
            }
        }
    }
    let of = |(at, item): (usize, &Item<'_>)| {
        let mut first = Vec::new();
        if item.fix.fetches() {
            // What is only recommended keeps nobody from what is needed.
            let weighty = |other: &usize| items.get(*other).is_some_and(|other| other.level <= item.level);
            first.extend(clearing.iter().copied().filter(weighty));
        }
        for change in changes(item) {
            if let Change::Path { path, .. } = change {
                first.extend(folders_above(path).filter_map(|folder| of_paths.get(folder)).copied());
            } else if let Change::Checkout(path, CheckoutChange::Branch(_)) = change {
                first.extend(of_checkouts.get(path.as_str()).copied());
            }
        }
        first.retain(|other| *other != at);
        first
    };
    items.iter().enumerate().map(of).collect()
}

fn changes<'i>(item: &'i Item<'_>) -> impl Iterator<Item = &'i Change> {
    let changes: &[Change] = if let Effect::Changes(changes) = &item.fix.effect { changes } else { &[] };
    changes.iter()
}

/// The folders that a path lies in, the nearest first.
fn folders_above(path: &str) -> impl Iterator<Item = &str> {
    path.char_indices().rev().filter(|(_, c)| matches!(c, '/' | '\\')).filter_map(|(at, _)| path.get(..at))
}
