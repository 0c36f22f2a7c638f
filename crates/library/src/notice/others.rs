//! Systems on which nothing tells of changes yet.

use std::path::PathBuf;

/// What tells of changes in folders: here nothing does yet, and they are looked at.
#[derive(Debug)]
pub(crate) struct Notice;

impl Notice {
    /// None.
    pub(crate) fn of(_: &[PathBuf]) -> Option<Self> {
        None
    }

    /// Nothing.
    #[allow(clippy::unused_self, reason = "side by side with the system that tells")]
    pub(crate) fn heard(&self) -> Vec<PathBuf> {
        Vec::new()
    }
}
