//! What only systems whose programs come as packages have: elsewhere there is none of it.

use std::path::{Path, PathBuf};

/// No package manager that is asked here keeps such a lock.
pub(in crate::live) fn holder_of_lock(_: &Path) -> Option<u32> {
    None
}

/// None of their processes is looked for here.
pub(in crate::live) fn process_called(_: &[&str]) -> Option<u32> {
    None
}

/// The same.
pub(in crate::live) fn process_is_called(_: u32, _: &[&str]) -> bool {
    false
}

/// Packages keep no programs in folders of their own here that are not among the usual ones.
pub(in crate::live) fn folders_of_packages(_: Option<&Path>) -> Vec<PathBuf> {
    Vec::new()
}

/// No other files are listed for a name here.
pub(in crate::live) fn alternatives(_: &str) -> Vec<PathBuf> {
    Vec::new()
}

/// What a loader would miss is not looked for here.
pub(in crate::live) fn is_whole(_: &Path) -> bool {
    true
}
