//! What is remembered for the person between two runs: in their own state folder, never in the project.

use serde::Serialize;
use serde::de::DeserializeOwned;
use sha2::{Digest, Sha256};
use std::fs;
use std::io;
use std::marker::PhantomData;
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

/// What is remembered of a guide from one run to the next.
pub trait Stored: Serialize + DeserializeOwned {
    /// The part of the state folder that such memories are in.
    const FOLDER: &'static str;
}

/// What a preflight of a guide found last time, as far as the next one asks.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, serde::Deserialize)]
pub struct LastResult {
    /// The id of the role that was checked for.
    pub role: Option<String>,
    /// The ids of what was not met, unknown or waiting.
    pub open: Vec<String>,
}

impl Stored for LastResult {
    const FOLDER: &'static str = "last";
}

/// How far a person has come with a guide, stage by stage.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, serde::Deserialize)]
pub struct WalkPlace {
    /// The id of the role that they walk for.
    pub role: Option<String>,
    /// The id of the stage at which they were.
    pub stage: String,
}

impl Stored for WalkPlace {
    const FOLDER: &'static str = "walk";
}

/// Where something is remembered of a guide. It belongs to the guide's place, so that a guide may change in between, and to the described
/// machine, where one was checked.
#[derive(Debug, Clone)]
pub struct Remembered<T> {
    file: PathBuf,
    what: PhantomData<T>,
}

impl<T: Stored> Remembered<T> {
    /// What is remembered in a state folder, of a guide and perhaps a described machine.
    pub fn in_folder(folder: &Path, guide: &Path, machine: Option<&Path>) -> Self {
        let place = |path: &Path| path.canonicalize().unwrap_or_else(|_| path.to_owned()).display().to_string();
        let key = format!("{}\n{}", place(guide), machine.map(place).unwrap_or_default());
        let name = crate::guide_file::hex(&Sha256::digest(key));
        Self { file: folder.join(T::FOLDER).join(name.get(..32).unwrap_or(&name)), what: PhantomData }
    }

    /// What is remembered; `None` where there is nothing that can be read.
    pub fn read(&self) -> Option<T> {
        serde_json::from_str(&crate::read_text(&self.file).ok()?).ok()
    }

    /// Remembers it.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn write(&self, what: &T) -> io::Result<()> {
        write_whole(&self.file, &serde_json::to_string(what)?)
    }

    /// Forgets it.
    ///
    /// # Errors
    /// When it is there and cannot be removed.
    pub fn forget(&self) -> io::Result<()> {
        match fs::remove_file(&self.file) {
            Err(error) if error.kind() != io::ErrorKind::NotFound => Err(error),
            _ => Ok(()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{LastResult, Remembered, WalkPlace};
    use std::path::Path;

    #[test]
    fn results_are_remembered_for_a_guide_and_a_machine() {
        let folder = tempfile::tempdir().unwrap();
        let of = |machine: Option<&str>| {
            Remembered::in_folder(folder.path(), Path::new("/nowhere/setup-guide.toml"), machine.map(Path::new))
        };
        let result = LastResult { role: Some("shore".into()), open: vec!["cmake".into()] };
        assert_eq!(of(None).read(), None);
        of(None).write(&result).unwrap();
        of(None).write(&result).unwrap();
        assert_eq!((of(None).read(), of(Some("old.toml")).read()), (Some(result), None));
        // Another thing that is remembered of the same guide.
        assert_eq!(Remembered::<WalkPlace>::in_folder(folder.path(), Path::new("/nowhere/setup-guide.toml"), None).read(), None);
        std::fs::write(&of(None).file, "{ torn").unwrap();
        assert_eq!(of(None).read(), None);
        of(None).forget().unwrap();
        of(None).forget().unwrap();
    }
}
