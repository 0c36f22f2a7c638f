use std::path::{Path, PathBuf};

/// A guide's path on this machine: `~` is the home folder, and what is relative starts at the project's folder.
pub(super) fn expand(path: &str, folder: &Path, home: Option<&Path>) -> PathBuf {
    let rest = path.strip_prefix('~').and_then(|rest| if rest.is_empty() { Some("") } else { rest.strip_prefix(['/', '\\']) });
    match (rest, home) {
        (Some(""), Some(home)) => home.to_owned(),
        (Some(rest), Some(home)) => home.join(rest),
        // `.` as a part of a path says nothing and only looks odd in a message.
        _ => folder.join(path).components().collect(),
    }
}
