//! The folder in which this software keeps what is this user's alone: never in the project.

use std::fs;
use std::io;
use std::path::{Path, PathBuf};

/// The name of that folder.
pub const STATE_FOLDER: &str = "setup-ready";

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
pub enum UntrustedStateError {
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
pub fn is_own(path: &Path, folder: bool) -> Result<(), UntrustedStateError> {
    let Ok(known) = path.symlink_metadata() else { return Ok(()) };
    if known.is_dir() != folder || known.is_file() == folder {
        return Err(UntrustedStateError::OtherKind(path.to_owned()));
    }
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        if known.uid() != rustix::process::geteuid().as_raw() {
            return Err(UntrustedStateError::OtherOwner(path.to_owned()));
        }
        if known.mode() & 0o022 != 0 {
            return Err(UntrustedStateError::OthersMayWrite(path.to_owned()));
        }
    }
    Ok(())
}

/// Makes a folder for this user alone, with those above it, whatever the mask says.
///
/// # Errors
/// The system's, or that what is there is not theirs alone.
pub fn make_own_folder(folder: &Path) -> io::Result<()> {
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
