//! How each kind is looked at.

use crate::finding::Conclusion;
use crate::inquiry::{Inquiry, Stop};

/// How it is looked at: in `assess.rs` of each kind.
pub(crate) trait Assess {
    /// What it comes to, by what is known.
    ///
    /// # Errors
    /// When answers are still to come, or there is none.
    fn assess(&self, inquiry: &mut Inquiry<'_>, index: usize) -> Result<Conclusion, Stop>;
}
