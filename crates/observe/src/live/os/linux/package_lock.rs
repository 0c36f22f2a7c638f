//! Who is changing packages.

use std::os::unix::fs::MetadataExt;
use std::path::Path;

/// The process that holds a lock on a file, where one does.
pub(in crate::live) fn holder_of_lock(path: &Path) -> Option<u32> {
    let locks = std::fs::read_to_string("/proc/locks").ok()?;
    let metadata = path.metadata().ok()?;
    // In a container whose root is laid over another, the lock is told with the device of the whole, which only folders have.
    let folder = path.parent()?.metadata().ok()?;
    [metadata.dev(), folder.dev()].into_iter().find_map(|device| {
        let device = (rustix::fs::major(device), rustix::fs::minor(device));
        crate::read::holder_of_lock(&locks, device, metadata.ino())
    })
}

/// A process whose name has one of these words in it.
pub(in crate::live) fn process_called(words: &[&str]) -> Option<u32> {
    let entries = std::fs::read_dir("/proc").ok()?.flatten();
    let numbers = entries.filter_map(|entry| entry.file_name().to_str()?.parse().ok());
    numbers.into_iter().find(|process| process_is_called(*process, words))
}

/// Whether a process is there and its name has one of these words in it.
pub(in crate::live) fn process_is_called(process: u32, words: &[&str]) -> bool {
    let name = std::fs::read_to_string(format!("/proc/{process}/comm")).unwrap_or_default().to_ascii_lowercase();
    words.iter().any(|word| name.contains(word))
}
