//! What is remembered for the person between two runs: in their own state folder, never in the project.

use crate::advice::Advice;
use crate::report::Report;
use crate::write::{Readers, write_whole};
use serde::Serialize;
use serde::de::DeserializeOwned;
use sha2::{Digest, Sha256};
use std::collections::BTreeSet;
use std::fs;
use std::io;
use std::marker::PhantomData;
use std::path::{Path, PathBuf};

/// The name of that folder.
const STATE_FOLDER: &str = "setup-ready";

/// This software's folder for what it remembers of this user, for a guide in `project`; `None` where the user has no home folder, or where
/// that folder lies in the project's working copy, which may bring what it likes.
pub fn state_folder(project: &Path) -> Option<PathBuf> {
    let home = std::env::var_os(if cfg!(windows) { "USERPROFILE" } else { "HOME" }).map(PathBuf::from);
    outside(&crate::live::working_copy(project, home.as_deref()))
}

/// The state folder, where it does not lie below another.
fn outside(root: &Path) -> Option<PathBuf> {
    let folder = |name: &str| std::env::var_os(name).map(PathBuf::from).filter(|folder| folder.is_absolute());
    let state = if cfg!(windows) {
        folder("LOCALAPPDATA")
    } else if cfg!(target_os = "macos") {
        folder("HOME").map(|home| home.join("Library/Application Support"))
    } else {
        // The XDG Base Directory Specification.
        folder("XDG_STATE_HOME").or_else(|| folder("HOME").map(|home| home.join(".local/state")))
    };
    let state = state?.join(STATE_FOLDER);
    let real = state.ancestors().find(|above| above.exists()).map(crate::live::real_path);
    // A root that holds everything says nothing.
    let inside = real.is_some_and(|real| root.parent().is_some() && real.starts_with(root));
    (!inside).then_some(state)
}

/// Why what is remembered is not believed, and nothing is remembered: somebody else could have written it.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum NotOwn {
    /// It is no plain folder or file: a link, a pipe, a device.
    #[error("{} is a link or no plain file or folder; remove it, and it is made anew", .0.display())]
    OtherKind(PathBuf),
    /// It belongs to somebody else.
    #[error("{} belongs to another user; remove it, or have it removed, and it is made anew", .0.display())]
    OtherOwner(PathBuf),
    /// Others may write it.
    #[error("{} may be changed by others; take that right from them with chmod go-w, or remove it", .0.display())]
    OthersMayWrite(PathBuf),
}

/// Whether a file or folder of the state, links not followed, is this user's alone; what is not there is.
///
/// # Errors
/// Why it is not.
pub(crate) fn is_own(path: &Path, folder: bool) -> Result<(), NotOwn> {
    let Ok(known) = path.symlink_metadata() else { return Ok(()) };
    if known.is_dir() != folder || known.is_file() == folder {
        return Err(NotOwn::OtherKind(path.to_owned()));
    }
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        if known.uid() != rustix::process::geteuid().as_raw() {
            return Err(NotOwn::OtherOwner(path.to_owned()));
        }
        if known.mode() & 0o022 != 0 {
            return Err(NotOwn::OthersMayWrite(path.to_owned()));
        }
    }
    Ok(())
}

/// Makes a folder for this user alone, with those above it, whatever the mask says.
///
/// # Errors
/// The system's, or that what is there is not theirs alone.
pub(crate) fn make_own_folder(folder: &Path) -> io::Result<()> {
    if let Some(above) = folder.parent() {
        fs::create_dir_all(above)?;
    }
    #[cfg(unix)]
    let made = std::os::unix::fs::DirBuilderExt::mode(&mut fs::DirBuilder::new(), 0o700).create(folder);
    #[cfg(not(unix))]
    let made = fs::create_dir(folder);
    match made {
        Err(error) if error.kind() != io::ErrorKind::AlreadyExists => Err(error),
        _ => is_own(folder, true).map_err(io::Error::other),
    }
}

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
    crate::read_text(path).ok()
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
/// [`state_folder`]); made where there is none.
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

/// A folder without anything in it, for programs to be started in; `None` where there can be none outside the project.
pub(crate) fn empty_folder(project: &Path) -> Option<PathBuf> {
    let state = outside(project)?;
    make_own_folder(&state).ok()?;
    let folder = state.join("empty");
    make_own_folder(&folder).ok()?;
    // What a program left there the next one would find.
    for entry in fs::read_dir(&folder).ok()?.flatten() {
        let plain = entry.file_type().is_ok_and(|kind| kind.is_dir());
        let _ = if plain { fs::remove_dir_all(entry.path()) } else { fs::remove_file(entry.path()) };
    }
    Some(folder)
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
        let name = crate::guide_file::hex(&Sha256::digest(key));
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
