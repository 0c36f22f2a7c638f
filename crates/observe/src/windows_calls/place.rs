//! Disks.

use super::{narrow, wide};
use std::io::{Error, Result};
use std::path::Path;
use std::ptr::null_mut;
use windows_sys::Win32::Storage::FileSystem::{GetDiskFreeSpaceExW, GetVolumeInformationW, GetVolumePathNameW};

/// The volume takes no writing (winnt.h, `FILE_READ_ONLY_VOLUME`).
const READ_ONLY: u32 = 0x0008_0000;

/// The bytes that this user may still write in a folder that exists, and those that are free in all: a quota is the difference.
///
/// # Errors
/// The system's.
pub(crate) fn room(folder: &Path) -> Result<(u64, u64)> {
    let (name, mut own, mut all) = (wide(folder.as_os_str()), 0, 0);
    // SAFETY: the name ends with a zero, and the two numbers that are asked for are there; the third may be null.
    let done = unsafe { GetDiskFreeSpaceExW(name.as_ptr(), &raw mut own, null_mut(), &raw mut all) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok((own, all)) }
}

/// The volume that a path lies on, such as `C:\`.
///
/// # Errors
/// The system's.
pub(crate) fn volume(path: &Path) -> Result<String> {
    let (name, mut volume) = (wide(path.as_os_str()), [0_u16; 1024]);
    // SAFETY: the name ends with a zero, and the length that is told is that of the array.
    let done = unsafe { GetVolumePathNameW(name.as_ptr(), volume.as_mut_ptr(), 1024) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(narrow(&volume)) }
}

/// Whether a volume, as [`volume`] names it, takes no writing.
///
/// # Errors
/// The system's.
pub(crate) fn is_read_only(volume: &str) -> Result<bool> {
    let (name, mut flags) = (wide(volume.as_ref()), 0);
    // SAFETY: the name ends with a zero, and the one number that is asked for is there; all the others may be null.
    let done =
        unsafe { GetVolumeInformationW(name.as_ptr(), null_mut(), 0, null_mut(), null_mut(), &raw mut flags, null_mut(), 0) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(flags & READ_ONLY != 0) }
}
