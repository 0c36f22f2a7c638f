//! What all disk requirements need together, as one computation for the whole guide.

use crate::finding::Named;
use crate::known::Answer;
use crate::observation::DiskRoom;
use crate::prelude::*;
use alloc::collections::BTreeMap;

/// More than these are only counted in a sentence.
const MOST_NAMED: usize = 5;

/// What all disk requirements that apply here need, and where it lands.
#[derive(Debug, Clone, Default)]
pub(crate) struct DiskLedger {
    /// All of it, in bytes, wherever it lands.
    pub total: u64,
    /// By filesystem.
    pub sums: BTreeMap<String, Sum>,
    /// The same without what does not fit by itself: by that the others are judged.
    pub fitting: BTreeMap<String, Sum>,
    /// What may land anywhere, because its place or its condition could not be found out.
    pub uncertain: Sum,
    /// The answers that it rests on.
    pub evidence: Arc<[Answer]>,
}

/// What several requirements need.
#[derive(Debug, Clone, Default)]
pub(crate) struct Sum {
    /// In bytes.
    pub bytes: u64,
    /// The indexes of the requirements, in ascending order.
    pub parts: Vec<usize>,
    /// By which place the disk is called in fixes: the first one's.
    pub called: Option<DiskRoom>,
}

impl Sum {
    /// The requirements but one, as a sentence names them.
    pub(crate) fn others(&self, than: usize) -> Named {
        let mut others = self.parts.iter().copied().filter(|index| *index != than);
        let first: Vec<usize> = others.by_ref().take(MOST_NAMED).collect();
        let taken = first.len() + usize::from(self.parts.binary_search(&than).is_ok());
        Named { more: self.parts.len().saturating_sub(taken), first }
    }
}
