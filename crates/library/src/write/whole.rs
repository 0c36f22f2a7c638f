//! Files that are written whole or not at all.

use std::fs;
use std::io::{self, Write};
use std::path::Path;
use std::sync::{Mutex, MutexGuard, PoisonError, TryLockError};
use std::time::{Duration, Instant};

/// Who may read a file that is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Readers {
    /// Whoever the person's mask lets.
    AsUsual,
    /// The person alone.
    Owner,
}

/// Writes a file: first under a new name beside it that nobody can foresee, which then takes the place of what was there. Where that is a
/// link, the link is replaced and not followed. A pipe or a device is written to, never replaced.
///
/// # Errors
/// When it cannot be written; then what was there is still there, and nothing is beside it.
pub fn write_whole(path: &Path, bytes: &[u8], readers: Readers) -> io::Result<()> {
    put(path, readers, |file| file.write_all(bytes))
}

/// The same, with what is written as it is made: it may be larger than memory.
///
/// # Errors
/// When it cannot be written or made.
pub fn write_whole_as_made(path: &Path, make: impl FnOnce(&mut dyn Write) -> io::Result<()>) -> io::Result<()> {
    put(path, Readers::AsUsual, |file| {
        let mut buffered = io::BufWriter::with_capacity(1 << 16, file);
        make(&mut buffered)?;
        buffered.flush()
    })
}

/// Whether a path means what is open already, such as `/dev/stdout`: links of the system that must never be replaced, least of all by the administrator.
fn is_of_the_system(path: &Path) -> bool {
    ["/dev", "/proc"].iter().any(|folder| path.starts_with(folder))
}

fn put(path: &Path, readers: Readers, make: impl FnOnce(&mut dyn Write) -> io::Result<()>) -> io::Result<()> {
    if let Ok(known) = path.symlink_metadata()
        && !known.is_file()
        && (!known.is_symlink() || is_of_the_system(path))
    {
        if known.is_dir() {
            return Err(io::Error::new(io::ErrorKind::IsADirectory, "it is a folder"));
        }
        let mut open = fs::OpenOptions::new().write(true).open(path)?;
        return make(&mut open).and_then(|()| open.flush());
    }
    let _one_at_a_time = BEING_WRITTEN.lock().unwrap_or_else(PoisonError::into_inner);
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let mut builder = tempfile::Builder::new();
    builder.prefix(".setup-ready-").suffix(".part").rand_bytes(16);
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        builder.permissions(fs::Permissions::from_mode(if readers == Readers::Owner { 0o600 } else { 0o666 }));
    }
    #[cfg(not(unix))]
    let _ = readers;
    // Dropped before it has its name, it is removed.
    let mut file = builder.tempfile_in(folder)?;
    make(file.as_file_mut())?;
    file.as_file_mut().flush()?;
    file.persist(path).map(drop).map_err(|error| error.error)
}

/// Held while a file is being written.
static BEING_WRITTEN: Mutex<()> = Mutex::new(());

/// Waits until no file is being written, at most so long, and lets none be begun as long as what it gives is kept: whoever ends the process
/// at another moment leaves half of one under its first name.
pub fn no_more_files(most: Duration) -> Option<MutexGuard<'static, ()>> {
    let until = Instant::now() + most;
    loop {
        match BEING_WRITTEN.try_lock() {
            Ok(guard) => return Some(guard),
            Err(TryLockError::Poisoned(guard)) => return Some(guard.into_inner()),
            Err(TryLockError::WouldBlock) if Instant::now() < until => std::thread::sleep(Duration::from_millis(1)),
            Err(TryLockError::WouldBlock) => return None,
        }
    }
}
