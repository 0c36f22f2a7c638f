//! What is remembered for the person between two runs: in their own state folder, never in the project.

use crate::write::{Readers, write_whole};
use serde::Serialize;
use serde::de::DeserializeOwned;
use setup_ready_core::advice::Advice;
use setup_ready_core::report::Report;
use setup_ready_observe::state_folder::{STATE_FOLDER, is_own, make_own_folder};
use sha2::{Digest, Sha256};
use std::collections::BTreeSet;
use std::fs;
use std::io;
use std::marker::PhantomData;
use std::path::{Path, PathBuf};

/// Writes a file of the state whole or not at all, for this user alone.
///
/// # Errors
/// When it cannot be written, or its folder is not theirs alone; then what was there is still there.
pub(crate) fn write_own(path: &Path, text: &str) -> io::Result<()> {
    let folder = path.parent().unwrap_or(Path::new("."));
    // The folder of all memories, and the one for this sort.
    if folder.file_name().is_some_and(|name| name != STATE_FOLDER)
        && let Some(above) = folder.parent().filter(|above| above.file_name().is_some_and(|name| name == STATE_FOLDER))
    {
        make_own_folder(above)?;
    }
    make_own_folder(folder)?;
    is_own(path, false).map_err(io::Error::other)?;
    write_whole(path, text.as_bytes(), Readers::Owner)
}

/// Reads a file of the state; `None` where there is none that is this user's alone.
pub(crate) fn read_own(path: &Path) -> Option<String> {
    let mut folders = path.ancestors().skip(1).take(2).filter(|folder| is_state(folder) || folder.parent().is_some_and(is_state));
    folders.try_for_each(|folder| is_own(folder, true)).ok()?;
    is_own(path, false).ok()?;
    setup_ready_observe::read_text(path).ok()
}

fn is_state(folder: &Path) -> bool {
    folder.file_name().is_some_and(|name| name == STATE_FOLDER)
}

/// A random word that says nothing about anybody: 32 hexadecimal digits.
pub fn random_id() -> String {
    use std::hash::{BuildHasher, Hasher};
    // The standard library seeds each from the system's source of chance.
    let half = || std::collections::hash_map::RandomState::new().build_hasher().finish();
    format!("{:016x}{:016x}", half(), half())
}

/// The random word by which this person's recordings and reports of this machine can be told to be of one, kept in a state folder (see
/// [`state_folder`](crate::state_folder)); made where there is none.
///
/// # Errors
/// When it cannot be kept, or the folder is not theirs alone.
pub fn remembered_id(folder: &Path) -> io::Result<String> {
    let path = folder.join("id");
    let is_id = |text: &str| text.len() == 32 && text.bytes().all(|byte| byte.is_ascii_hexdigit());
    if let Some(known) = read_own(&path).map(|text| text.trim().to_owned()).filter(|text| is_id(text)) {
        return Ok(known);
    }
    let new = random_id();
    write_own(&path, &format!("{new}\n"))?;
    Ok(new)
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
    /// What was advised, in this look and those before it, as far as it is still about what is open.
    #[serde(default)]
    pub advised: Vec<String>,
}

/// More pieces of advice than these are not remembered of one guide.
const MOST_ADVICE: usize = 1_000;

impl LastResult {
    /// What is to be remembered of a look, after another.
    pub fn of(report: &Report, before: Option<&Self>) -> Self {
        let open = report.settled.iter().filter(|one| !one.finding.verdict().is_fine());
        let open: Vec<_> = open.filter_map(|one| report.requirement(one).map(|requirement| (one, &requirement.id))).collect();
        let role = report.role.and_then(|role| report.guide.roles.get(role)).map(|role| role.id.clone());
        let new = open.iter().filter_map(|(one, id)| {
            let fix = one.fixes.first().filter(|fix| !fix.presumed)?;
            Some(Advice::of(id, fix).to_string())
        });
        let others = open.iter().filter_map(|(one, id)| {
            let otherwise = one.fixes.first()?.otherwise.as_ref()?;
            Some(Advice::of(id, otherwise).to_string())
        });
        // Where nothing is open any more, nothing that was advised matters.
        let kept = before.filter(|_| !open.is_empty()).into_iter().flat_map(|before| before.advised.iter().cloned());
        let mut advised: Vec<String> = new.chain(others).chain(kept).collect();
        let mut seen = std::collections::HashSet::new();
        advised.retain(|advice| seen.insert(advice.clone()));
        advised.truncate(MOST_ADVICE);
        Self { role, open: open.iter().map(|(_, id)| (*id).clone()).collect(), advised }
    }

    /// What was advised.
    pub fn advice(&self) -> BTreeSet<Advice> {
        self.advised.iter().filter_map(|advice| advice.parse().ok()).collect()
    }
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
        let name = setup_ready_observe::hex(&Sha256::digest(key));
        Self { file: folder.join(T::FOLDER).join(name.get(..32).unwrap_or(&name)), what: PhantomData }
    }

    /// What is remembered; `None` where there is nothing that can be read.
    pub fn read(&self) -> Option<T> {
        serde_json::from_str(&read_own(&self.file)?).ok()
    }

    /// Remembers it.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn write(&self, what: &T) -> io::Result<()> {
        write_own(&self.file, &serde_json::to_string(what)?)
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
        let result = LastResult { role: Some("shore".into()), open: vec!["cmake".into()], advised: vec!["0f".into()] };
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
