//! Consents that the person gave, remembered outside the project by the contents of the guide.

use crate::state::{state_folder, write_whole};
use std::fs;
use std::io;
use std::path::{Path, PathBuf};

/// Where consents are remembered: a file with a line for each guide, its SHA-256. Deleting the file takes all of them back.
#[derive(Debug, Clone)]
pub struct Consents {
    file: PathBuf,
}

impl Consents {
    /// Those of this user; `None` where the user has no home folder.
    pub fn of_user() -> Option<Self> {
        Some(Self { file: state_folder()?.join("consents") })
    }

    /// Those in a file.
    pub fn in_file(file: impl Into<PathBuf>) -> Self {
        Self { file: file.into() }
    }

    /// The file.
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// Whether the person agreed to a guide with this SHA-256. A file that cannot be read holds no consent.
    pub fn has(&self, sha256: &str) -> bool {
        fs::read_to_string(&self.file).is_ok_and(|text| text.lines().any(|line| line.trim() == sha256))
    }

    /// Remembers a consent.
    ///
    /// # Errors
    /// When the file cannot be written; then nothing of it was.
    pub fn remember(&self, sha256: &str) -> io::Result<()> {
        if self.has(sha256) {
            return Ok(());
        }
        let before = match fs::read_to_string(&self.file) {
            Ok(text) => text,
            Err(error) if error.kind() == io::ErrorKind::NotFound => String::new(),
            Err(error) => return Err(error),
        };
        write_whole(&self.file, &format!("{before}{sha256}\n"))
    }
}

#[cfg(test)]
mod tests {
    use super::Consents;

    #[test]
    fn a_consent_is_for_one_guide_and_is_gone_with_the_file() {
        let folder = tempfile::tempdir().unwrap();
        let consents = Consents::in_file(folder.path().join("state/consents"));
        assert!(!consents.has("aa"));
        consents.remember("aa").unwrap();
        consents.remember("bb").unwrap();
        assert!(consents.has("aa") && consents.has("bb") && !consents.has("a"));
        std::fs::remove_file(consents.file()).unwrap();
        assert!(!consents.has("aa"));
    }
}
