//! What Linux and macOS have in common.

mod network;
mod path;
mod socket;
mod variable;

pub(in crate::live) use network::interfaces;
pub(in crate::live) use path::{foreign, path_state, within};
pub(in crate::live) use socket::{device, socket};
pub(in crate::live) use variable::{startup_files, startup_line_of};

use rustix::fs::{Access, AtFlags, CWD, StatVfsMountFlags, accessat, statvfs};
use setup_ready_core::observation::{Binding, DiskLimit, DiskRoom, Observation};
use setup_ready_core::probe::PortPlace;
use std::os::unix::fs::MetadataExt;
use std::path::{Path, PathBuf};

/// What a mount tells beside its numbers.
#[derive(Debug, Default)]
pub(in crate::live) struct Share {
    /// What is the same for all mounts that take their room from one pool.
    pub(in crate::live) pool: Option<String>,
    /// What this user's quota leaves: bytes, files.
    pub(in crate::live) quota: Option<(Option<u64>, Option<u64>)>,
    /// Where the disk outside is seen that holds this filesystem as a file.
    pub(in crate::live) outside: Option<String>,
}

/// The files that a program's name may mean.
pub(in crate::live) fn file_names(name: &str) -> Vec<String> {
    vec![name.to_owned()]
}

/// A port that the system refuses: below the number from which everybody may bind, or reserved otherwise.
pub(in crate::live) fn refused(_: &PortPlace) -> Binding {
    Binding::Denied(super::first_free_for_all())
}

/// Whether somebody else has a port that could be bound: here that cannot be.
pub(in crate::live) fn is_taken_beside(_: &PortPlace) -> bool {
    false
}

/// Whether this user may execute a file.
pub(in crate::live) fn is_executable(path: &Path) -> bool {
    accessat(CWD, path, Access::EXEC_OK, AtFlags::EACCESS).is_ok()
}

/// Why a path on another machine is not looked at: here such places are mounted, and looked at like others.
pub(in crate::live) fn elsewhere(_: &Path, _: &[&Path]) -> Option<String> {
    None
}

/// Why a path that means a device is not looked at as a file: here that is told when it is opened.
pub(in crate::live) fn no_file(_: &Path) -> Option<String> {
    None
}

/// Whether programs of this session may not ask for as much memory as they like: some do not start then.
pub(in crate::live) fn is_short_of_memory_by_limit() -> bool {
    use rustix::process::{Resource, getrlimit};
    [Resource::As, Resource::Data].into_iter().any(|resource| getrlimit(resource).current.is_some())
}

/// Which other program starts a file: here the system finds out by itself.
///
/// # Errors
/// Never here.
#[allow(clippy::unnecessary_wraps, reason = "elsewhere there are reasons against it")]
pub(in crate::live) fn started_by(_: &Path, _: &[String]) -> Result<Option<(PathBuf, Vec<String>)>, String> {
    Ok(None)
}

/// What this user may still write at a place, at its nearest existing parent.
pub(in crate::live) fn disk_room(path: &Path) -> Observation {
    let Some(existing) = nearest_existing(path) else {
        return Observation::CouldNotLook(format!("no folder above {} exists", path.display()));
    };
    let real = existing.canonicalize().unwrap_or_else(|_| existing.to_owned());
    let (numbers, metadata) = match (statvfs(&real), real.metadata()) {
        (Ok(numbers), Ok(metadata)) => (numbers, metadata),
        (Err(error), _) => return Observation::CouldNotLook(error.to_string()),
        (_, Err(error)) => return Observation::CouldNotLook(error.to_string()),
    };
    let share = super::share(&real);
    let (quota_bytes, quota_files) = share.quota.unwrap_or_default();
    // What ordinary users may write: the blocks that are reserved for the administrator are not in it.
    let bytes = numbers.f_bavail.saturating_mul(numbers.f_frsize);
    let left_by_quota = quota_bytes.filter(|quota| *quota < bytes).map(|quota| (quota, DiskLimit::Quota));
    let outside = share.outside.and_then(|place| {
        let numbers = statvfs(place.as_str()).ok()?;
        Some((numbers.f_bavail.saturating_mul(numbers.f_frsize), DiskLimit::Outside(place)))
    });
    let left_outside = outside.filter(|(left, _)| *left < bytes);
    let limit = left_by_quota.into_iter().chain(left_outside).min_by_key(|(left, _)| *left);
    let files = (numbers.f_files > 0).then_some(numbers.f_favail);
    Observation::DiskRoom(DiskRoom {
        path: path.display().to_string(),
        existing: if existing == path { path.display().to_string() } else { real.display().to_string() },
        filesystem: share.pool.unwrap_or_else(|| metadata.dev().to_string()),
        available_bytes: limit.as_ref().map_or(bytes, |(left, _)| *left),
        available_inodes: files.into_iter().chain(quota_files).min(),
        limited_by: limit.map(|(_, limit)| limit),
        read_only: numbers.f_flag.contains(StatVfsMountFlags::RDONLY),
        writable: accessat(CWD, &real, Access::WRITE_OK | Access::EXEC_OK, AtFlags::EACCESS).is_ok(),
    })
}

/// Opens a file for reading; what is no plain file after all answers at once.
///
/// # Errors
/// The system's.
pub(in crate::live) fn open_file(path: &Path) -> std::io::Result<std::fs::File> {
    use std::os::unix::fs::OpenOptionsExt;
    let flags = rustix::fs::OFlags::NONBLOCK | rustix::fs::OFlags::NOCTTY;
    std::fs::OpenOptions::new().read(true).custom_flags(i32::try_from(flags.bits()).unwrap_or(0)).open(path)
}

/// The nearest folder that exists at or above a path.
fn nearest_existing(path: &Path) -> Option<&Path> {
    path.ancestors().find(|path| path.is_dir())
}
