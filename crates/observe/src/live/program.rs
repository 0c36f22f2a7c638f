use super::{Live, os, package, place, shim};
use crate::read::{HEAD_BYTES, file_kind};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Choice, FileKind, Piece, ProgramCopy, Run, StartEffect};
use setup_ready_core::version::{Version, number_behind};
use std::fs::File;
use std::io::Read;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Every copy of a program on PATH, in order; a folder that is listed twice counts once, under whichever names.
pub(super) fn copies(live: &Live, name: &str) -> Vec<ProgramCopy> {
    copies_in(live, on_path(live).iter().cloned(), name)
}

/// The folders of PATH; of several names of one folder the first.
pub(super) fn on_path(live: &Live) -> Arc<[PathBuf]> {
    live.kept.on_path(|| {
        let mut folders: Vec<PathBuf> = Vec::new();
        let mut real: Vec<PathBuf> = Vec::new();
        for folder in std::env::split_paths(&live.path) {
            // What is relative, or is not there by now, is itself alone.
            let known =
                if folder.is_absolute() { place::real(&folder).unwrap_or_else(|_| folder.clone()) } else { folder.clone() };
            if !real.contains(&known) {
                real.push(known);
                folders.push(folder);
            }
        }
        folders
    })
}

/// The usual folders of this system and its languages that PATH does not name.
fn usual(live: &Live) -> Arc<[PathBuf]> {
    live.kept.elsewhere(|| {
        let on_path: Vec<PathBuf> = std::env::split_paths(&live.path).collect();
        // A space that was typed behind a folder makes another name of it.
        let mistyped = on_path.iter().filter_map(|folder| trimmed(folder));
        mistyped
            .chain(os::usual_folders(live.home.as_deref()))
            .chain(os::folders_of_packages(live.home.as_deref()))
            .filter(|folder| !on_path.contains(folder))
            .collect()
    })
}

/// All folders in which programs are looked for.
pub(super) fn all_folders(live: &Live) -> Vec<PathBuf> {
    on_path(live).iter().chain(usual(live).iter()).cloned().collect()
}

/// Copies in the usual folders of this system and its languages that PATH does not name, and those that these packages brought.
pub(super) fn elsewhere(live: &Live, name: &str, packages: &[(Manager, String)]) -> Vec<ProgramCopy> {
    let on_path = on_path(live);
    let folders = usual(live);
    let mut copies = copies_in(live, folders.iter().cloned(), name);
    let brought = packages.iter().flat_map(|(manager, package)| package::files(live, *manager, package, name));
    let brought = brought
        .filter(|path| !path.parent().is_some_and(|folder| std::env::split_paths(&live.path).any(|other| other == folder)));
    let others =
        os::alternatives(name).into_iter().chain(brought).chain(numbered(live, on_path.iter().chain(folders.iter()), name));
    for path in others {
        let (Some(folder), Some(file)) = (path.parent(), path.file_name()) else { continue };
        for copy in copies_in(live, std::iter::once(folder.to_owned()), &file.to_string_lossy()) {
            if !copies.iter().any(|other| other.path == copy.path) {
                copies.push(copy);
            }
        }
    }
    copies
}

fn trimmed(folder: &Path) -> Option<PathBuf> {
    let text = folder.to_str()?;
    (text.trim() != text).then(|| PathBuf::from(text.trim()))
}

/// Files that are called like a program with a version behind it: `python3.12`, `gcc-13`. The highest first.
fn numbered<'f>(live: &Live, folders: impl Iterator<Item = &'f PathBuf>, name: &str) -> Vec<PathBuf> {
    let mut found: Vec<(Version, PathBuf)> = Vec::new();
    for folder in folders.filter(|folder| folder.is_absolute()) {
        let names = live.kept.names(folder);
        let numbers = names.beginning(name).filter_map(|file| Some((number_behind(file, name)?, folder.join(file))));
        found.extend(numbers);
    }
    found.sort_by(|(a, _), (b, _)| b.partial_cmp(a).unwrap_or(std::cmp::Ordering::Equal));
    found.into_iter().map(|(_, path)| path).collect()
}

fn copies_in(live: &Live, folders: impl Iterator<Item = PathBuf>, name: &str) -> Vec<ProgramCopy> {
    let mut copies: Vec<ProgramCopy> = Vec::new();
    // An entry that names a folder relative to here, or none at all, means the folder that one happens to be in.
    let placed = folders.flat_map(|folder| {
        let relative = !folder.is_absolute();
        files(std::iter::once(folder), name).map(move |path| (path, relative)).collect::<Vec<_>>()
    });
    for (path, relative) in placed {
        let shown = path.display().to_string();
        if copies.iter().any(|copy| copy.path == shown) {
            continue;
        }
        let real = place::real(&path).unwrap_or_else(|_| path.clone());
        let choice = shim::choice(live, &path, &real, name);
        let real = if let Choice::Other(chosen) = &choice {
            place::real(Path::new(chosen)).unwrap_or_else(|_| chosen.into())
        } else {
            real
        };
        let (kind, start) = look_at(&real);
        copies.push(ProgramCopy {
            path: shown,
            executable: os::is_executable(&path),
            in_project: is_in_project(live, &path, &real) || interpreted_by_project(live, &kind),
            by_relative_entry: relative,
            lacks: lacks(live, &real, &kind),
            real_path: real.display().to_string(),
            kind,
            start,
            choice,
        });
    }
    copies
}

/// Runs a program on PATH outside the project.
pub(super) fn asked<'a>(live: &Live, name: &str, words: impl Iterator<Item = &'a str>) -> Result<Run, String> {
    Ok(live.run(Path::new(own(live, name)?.asked()), &words.map(ToOwned::to_owned).collect::<Vec<_>>()))
}

/// The first copy on PATH that is not the project's.
pub(super) fn own(live: &Live, name: &str) -> Result<ProgramCopy, String> {
    let found = copies(live, name).into_iter().find(|copy| copy.executable && copy.is_the_persons());
    found.ok_or_else(|| format!("{name} was not found on PATH"))
}

/// A folder that PATH names relative to here is made absolute: programs are started in another folder.
pub(super) fn files(folders: impl Iterator<Item = PathBuf>, name: &str) -> impl Iterator<Item = PathBuf> {
    folders
        .map(|folder| std::path::absolute(&folder).unwrap_or(folder))
        // With a colon it would be a place of its own, on a drive or behind a file.
        .filter(move |_| !(cfg!(windows) && name.contains(':')))
        .flat_map(move |folder| os::file_names(name).into_iter().map(move |file| folder.join(file)))
        // A link that leads nowhere, or where one may not go, is there all the same.
        .filter(|path| path.is_file() || (path.is_symlink() && path.metadata().is_err()))
}

/// What a program needs to start and does not have. The interpreter of a script is a path, or behind `env` a name that PATH must have.
fn lacks(live: &Live, path: &Path, kind: &FileKind) -> Vec<Piece> {
    match kind {
        FileKind::Script(interpreter) => {
            let there = if interpreter.contains('/') {
                cfg!(windows) || Path::new(interpreter).exists()
            } else {
                files(on_path(live).iter().cloned(), interpreter).any(|path| os::is_executable(&path))
            };
            if there { Vec::new() } else { vec![Piece::Interpreter(interpreter.clone())] }
        }
        FileKind::Built(_) => os::lacks(path),
        FileKind::Placeholder | FileKind::Unknown => Vec::new(),
    }
}

/// What a file is, and what starting it would do, by its first bytes.
fn look_at(path: &Path) -> (FileKind, StartEffect) {
    if os::is_placeholder(path) {
        return (FileKind::Placeholder, StartEffect::Quiet);
    }
    match head(path) {
        Ok(head) => (file_kind(&head), os::start_effect(path, &head)),
        // Some programs may be started and not read.
        Err(_) => (FileKind::Unknown, StartEffect::Quiet),
    }
}

/// The first bytes of a file.
///
/// # Errors
/// The system's.
pub(super) fn head(path: &Path) -> std::io::Result<Vec<u8>> {
    let mut head = Vec::with_capacity(HEAD_BYTES);
    let most = u64::try_from(HEAD_BYTES).unwrap_or(u64::MAX);
    File::open(path)?.take(most).read_to_end(&mut head)?;
    Ok(head)
}

/// Whether the project brings a file: by its own place, or by what it leads to.
fn is_in_project(live: &Live, path: &Path, real: &Path) -> bool {
    // Where PATH itself has a link in its name.
    let folder = path.parent().and_then(|folder| place::real(folder).ok());
    live.project.holds(path) || live.project.holds(real) || folder.is_some_and(|folder| live.project.holds(&folder))
}

/// Whether what starts a script is the project's.
fn interpreted_by_project(live: &Live, kind: &FileKind) -> bool {
    let FileKind::Script(interpreter) = kind else { return false };
    let path = Path::new(interpreter);
    let real = || place::real(path).unwrap_or_else(|_| path.to_owned());
    interpreter.contains('/') && (!path.is_absolute() || live.project.holds(path) || live.project.holds(&real()))
}
