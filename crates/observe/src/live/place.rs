use crate::guide_file::{LoadError, read_from};
use setup_ready_core::text::Pattern;
use std::fs::File;
use std::io::{Error, Read};
use std::path::{Path, PathBuf};

/// A guide's path on this machine: `~` is the home folder, and what is relative starts at the project's folder.
pub(super) fn expand(path: &str, folder: &Path, home: Option<&Path>) -> PathBuf {
    let rest = path.strip_prefix('~').and_then(|rest| if rest.is_empty() { Some("") } else { rest.strip_prefix(['/', '\\']) });
    match (rest, home) {
        (Some(""), Some(home)) => home.to_owned(),
        (Some(rest), Some(home)) => home.join(rest).components().collect(),
        // `.` as a part of a path says nothing and only looks odd in a message.
        _ => folder.join(path).components().collect(),
    }
}

/// The path behind all links, as people write it: Windows puts a mark before it that many programs do not know.
///
/// # Errors
/// The system's.
pub(super) fn real(path: &Path) -> std::io::Result<PathBuf> {
    let real = path.canonicalize()?;
    let plain = real.to_str().and_then(|text| text.strip_prefix(r"\\?\")).filter(|rest| rest.as_bytes().get(1) == Some(&b':'));
    Ok(plain.map_or(real.clone(), PathBuf::from))
}

/// How much of a file is searched, in bytes.
const SEARCHED_BYTES: u64 = 1 << 20;
/// How many names of a folder are looked at; what would come after them is not known.
const MOST_NAMES: usize = 1_000_000;

/// Opens a file that a guide names: a plain one, and without ever waiting for somebody to write it.
pub(super) fn open(path: &Path) -> Result<File, Error> {
    if !path.metadata()?.is_file() {
        return Err(Error::other("it is not a plain file"));
    }
    super::os::open_file(path)
}

/// The text of a file that a guide names.
///
/// # Errors
/// When it is not there, is no plain file, cannot be read, is too large, or is not UTF-8.
pub(super) fn text(path: &Path) -> Result<String, LoadError> {
    let file = open(path).map_err(|reason| LoadError::Unreadable { path: path.to_owned(), reason })?;
    read_from(file, path)
}

/// Whether a file's text fits a pattern; `None` where it cannot be read, or that would take too long.
pub(super) fn holds(path: &Path, pattern: &Pattern) -> Option<bool> {
    let mut bytes = Vec::new();
    open(path).ok()?.take(SEARCHED_BYTES).read_to_end(&mut bytes).ok()?;
    pattern.search().finds(&String::from_utf8_lossy(&bytes))
}

/// Whether a name in a folder fits a pattern; `None` where it cannot be read whole, or that would take too long.
pub(super) fn lists(path: &Path, pattern: &Pattern) -> Option<bool> {
    let mut names = std::fs::read_dir(path).ok()?.flatten();
    let mut search = pattern.search();
    for entry in names.by_ref().take(MOST_NAMES) {
        if search.finds(&entry.file_name().to_string_lossy())? {
            return Some(true);
        }
    }
    names.next().is_none().then_some(false)
}
