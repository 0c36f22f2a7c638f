use super::{Live, os};
use crate::observation::{Observation, ProgramCopy};
use std::ffi::OsStr;
use std::path::{Path, PathBuf};

/// Package managers by the program that shows that they are here; the system's own before those that people add.
const MANAGERS: [(&str, &str); 10] = [
    ("apt", "apt-get"),
    ("dnf", "dnf"),
    ("zypper", "zypper"),
    ("pacman", "pacman"),
    ("apk", "apk"),
    ("winget", "winget"),
    ("brew", "brew"),
    ("port", "port"),
    ("scoop", "scoop"),
    ("choco", "choco"),
];

/// Every copy of a program on PATH, in order; a folder that is listed twice counts once.
pub(super) fn copies(live: &Live, name: &str) -> Vec<ProgramCopy> {
    let mut copies: Vec<ProgramCopy> = Vec::new();
    for path in candidates(&live.path, name) {
        let shown = path.display().to_string();
        if copies.iter().any(|copy| copy.path == shown) {
            continue;
        }
        let real = path.canonicalize().unwrap_or_else(|_| path.clone());
        copies.push(ProgramCopy {
            path: shown,
            executable: os::is_executable(&path),
            in_project: is_in_project(live, &path) || is_in_project(live, &real),
            real_path: real.display().to_string(),
        });
    }
    copies
}

fn candidates(path: &OsStr, name: &str) -> Vec<PathBuf> {
    let folders = std::env::split_paths(path).filter(|folder| !folder.as_os_str().is_empty());
    folders
        .flat_map(|folder| os::file_names(name).into_iter().map(move |file| folder.join(file)))
        .filter(|path| path.is_file())
        .collect()
}

/// A guide at the home folder or at the root says nothing about whose programs lie below it.
fn is_in_project(live: &Live, path: &Path) -> bool {
    let whole = live.folder.parent().is_none() || live.home.as_deref() == Some(&live.folder);
    !whole && path.starts_with(&live.folder)
}

/// Which package managers are here.
pub(super) fn managers(path: &OsStr) -> Observation {
    let here = |program: &str| candidates(path, program).iter().any(|path| os::is_executable(path));
    Observation::Managers(MANAGERS.into_iter().filter(|(_, program)| here(program)).map(|(name, _)| name.to_owned()).collect())
}
