//! Following a build: what it uses of this machine, down to its last child. On Linux by ptrace(2); elsewhere nobody can look.

#[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
mod linux;
mod packages;

use setup_ready_core::witnessed::{Owners, Seen};
use std::ffi::OsString;
use std::path::Path;

/// What came of following a build.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Witnessed {
    /// What it was seen to use.
    pub seen: Seen,
    /// What the package manager's notes say of that.
    pub owners: Owners,
    /// How the command ended: its exit status, or 128 and the number of the signal.
    pub status: i32,
}

/// Why a build could not be followed.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum WitnessError {
    /// The program is not there, or may not be started.
    #[error("{program} could not be started: it is not on PATH, or not marked as a program")]
    NotStarted {
        /// What was to be started.
        program: String,
    },
    /// The system does not let one process follow another.
    #[error("this system does not let a process be followed here: {0}")]
    NotAllowed(std::io::Error),
    /// There is no way to look on this system.
    #[error("a build can be followed on Linux only (with processors of the kinds x86_64 and aarch64)")]
    NotHere,
}

/// Runs a command in a folder, with all its input and output as they are, and notes what it and its children use of the machine outside of the
/// folder. Nothing of the environment is kept.
///
/// # Errors
/// When the command cannot be started, or nobody can follow it here.
#[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
pub fn witness(words: &[OsString], folder: &Path) -> Result<Witnessed, WitnessError> {
    let (seen, status) = linux::follow(words, folder)?;
    let owners = packages::owners(&seen);
    Ok(Witnessed { seen, owners, status })
}

/// Runs a command in a folder, and notes what it uses: not on this system.
///
/// # Errors
/// Always.
#[cfg(not(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64"))))]
pub fn witness(words: &[OsString], folder: &Path) -> Result<Witnessed, WitnessError> {
    let _ = (words, folder, packages::owners as fn(&Seen) -> Owners);
    Err(WitnessError::NotHere)
}
