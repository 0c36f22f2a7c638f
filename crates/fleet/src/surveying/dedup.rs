//! The same report sent twice: it says nothing twice.

use hashbrown::{DefaultHashBuilder, HashSet};
use std::hash::BuildHasher;
use std::sync::Mutex;
use std::sync::atomic::{AtomicU64, Ordering};

/// So many are remembered (some 10 MB); a copy of one after these counts again.
const MOST_REMEMBERED: usize = 900_000;

/// What was read so far, by marks of its bytes.
#[derive(Debug, Default)]
pub(super) struct Deduplicator {
    /// Begins otherwise in each process: nobody can write a report that has another's mark.
    marks: DefaultHashBuilder,
    seen: Mutex<HashSet<u64>>,
    found: AtomicU64,
}

impl Deduplicator {
    /// The mark of a document: the same for the same bytes, but for what is blank around them.
    pub(super) fn mark(&self, document: &[u8]) -> u64 {
        self.marks.hash_one(document.trim_ascii())
    }

    /// Whether nothing of this mark was there before; else it is counted as a copy.
    pub(super) fn is_new(&self, mark: u64) -> bool {
        // What another thread left half done is only a set of numbers.
        let mut seen = self.seen.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        let is_new = if seen.len() < MOST_REMEMBERED { seen.insert(mark) } else { !seen.contains(&mark) };
        if !is_new {
            self.found.fetch_add(1, Ordering::Relaxed);
        }
        is_new
    }

    /// How many copies there were.
    pub(super) fn count(&self) -> u64 {
        self.found.load(Ordering::Relaxed)
    }
}
