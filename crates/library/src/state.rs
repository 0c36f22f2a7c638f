//! What is remembered for the person between two runs: in their own state folder, never in the project.

use sha2::{Digest, Sha256};
use std::fs;
use std::io;
use std::path::{Path, PathBuf};

/// This software's folder for what it remembers of this user; `None` where the user has no home folder.
pub fn state_folder() -> Option<PathBuf> {
    let folder = |name: &str| std::env::var_os(name).map(PathBuf::from).filter(|folder| folder.is_absolute());
    let state = if cfg!(windows) {
        folder("LOCALAPPDATA")
    } else if cfg!(target_os = "macos") {
        folder("HOME").map(|home| home.join("Library/Application Support"))
    } else {
        // The XDG Base Directory Specification.
        folder("XDG_STATE_HOME").or_else(|| folder("HOME").map(|home| home.join(".local/state")))
    };
    Some(state?.join("setup-ready"))
}

/// Writes a file whole or not at all, with its folder where that is not there.
///
/// # Errors
/// When it cannot be written; then what was there is still there.
pub(crate) fn write_whole(path: &Path, text: &str) -> io::Result<()> {
    let folder = path.parent().unwrap_or(Path::new("."));
    fs::create_dir_all(folder)?;
    let new = path.with_extension(format!("new-{}", std::process::id()));
    fs::write(&new, text)?;
    fs::rename(&new, path)
}

/// What a preflight of a guide found last time, as far as the next one asks.
#[derive(Debug, Clone, Default, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
pub struct LastResult {
    /// The id of the role that was checked for.
    pub role: Option<String>,
    /// The ids of what was not met, unknown or waiting.
    pub open: Vec<String>,
}

/// Where the last result for a guide is remembered. It belongs to the guide's place, so that a guide may change in between, and to the
/// described machine, where one was checked.
#[derive(Debug, Clone)]
pub struct LastResults {
    file: PathBuf,
}

impl LastResults {
    /// Those in a folder, for a guide and perhaps a described machine.
    pub fn in_folder(folder: &Path, guide: &Path, machine: Option<&Path>) -> Self {
        let place = |path: &Path| path.canonicalize().unwrap_or_else(|_| path.to_owned()).display().to_string();
        let key = format!("{}\n{}", place(guide), machine.map(place).unwrap_or_default());
        let name = crate::guide_file::hex(&Sha256::digest(key));
        Self { file: folder.join("last").join(name.get(..32).unwrap_or(&name)) }
    }

    /// The last result; `None` where there is none that can be read.
    pub fn read(&self) -> Option<LastResult> {
        serde_json::from_str(&crate::read_text(&self.file).ok()?).ok()
    }

    /// Remembers a result.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn write(&self, result: &LastResult) -> io::Result<()> {
        write_whole(&self.file, &serde_json::to_string(result)?)
    }
}

#[cfg(test)]
mod tests {
    use super::{LastResult, LastResults};
    use std::path::Path;

    #[test]
    fn results_are_remembered_for_a_guide_and_a_machine() {
        let folder = tempfile::tempdir().unwrap();
        let of = |machine: Option<&str>| {
            LastResults::in_folder(folder.path(), Path::new("/nowhere/setup-guide.toml"), machine.map(Path::new))
        };
        let result = LastResult { role: Some("shore".into()), open: vec!["cmake".into()] };
        assert_eq!(of(None).read(), None);
        of(None).write(&result).unwrap();
        of(None).write(&result).unwrap();
        assert_eq!((of(None).read(), of(Some("old.toml")).read()), (Some(result), None));
        std::fs::write(&of(None).file, "{ torn").unwrap();
        assert_eq!(of(None).read(), None);
    }
}
