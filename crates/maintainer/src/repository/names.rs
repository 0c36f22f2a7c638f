//! The names of the files of a repository.

use std::collections::BTreeSet;

/// The names of the files of a repository that mean something here.
#[derive(Debug, Default)]
pub(super) struct Names {
    pub(super) all: BTreeSet<String>,
}

impl Names {
    pub(super) fn has(&self, path: &str) -> bool {
        self.all.contains(path)
    }

    /// Whether a file of this name lies in a folder above that of this file.
    pub(super) fn has_above(&self, path: &str, name: &str) -> bool {
        let mut folder = path.rsplit_once('/').map_or("", |(folder, _)| folder);
        while !folder.is_empty() {
            folder = folder.rsplit_once('/').map_or("", |(above, _)| above);
            let beside = if folder.is_empty() { name.to_owned() } else { format!("{folder}/{name}") };
            if self.has(&beside) {
                return true;
            }
        }
        false
    }
}
