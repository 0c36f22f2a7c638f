//! Files that results are written to: no two into one, and none over what it is made of.

use crate::arguments::{Command, Typed};
use crate::exit::Failure;
use build_setup_ready::{GUIDE_FILE, GuideFile};
use std::path::{Path, PathBuf};

/// What a command reads besides the guide, and what it writes besides `--output`.
#[derive(Default)]
struct Named<'t> {
    read: Vec<&'t Path>,
    written: Vec<&'t Path>,
}

fn named(command: &Command) -> Named<'_> {
    let how = match command {
        Command::Preflight(typed) => Some(&typed.check.how),
        Command::Walk(typed) => Some(&typed.how),
        Command::Plan(typed) => Some(&typed.check.how),
        Command::Record(typed) => Some(&typed.check.how),
        Command::Compare(typed) => Some(&typed.check.how),
        Command::Explain(_)
        | Command::Draft(_)
        | Command::Proofread(_)
        | Command::Rehearse(_)
        | Command::Render(_)
        | Command::Witness(_)
        | Command::Survey(_)
        | Command::Schema { .. }
        | Command::Demo(_)
        | Command::Completions { .. }
        | Command::Manual { .. } => None,
    };
    let with = how.iter().flat_map(|how| &how.with).filter_map(|word| word.split_once('=')).map(|(_, file)| Path::new(file));
    let mut named =
        Named { read: how.iter().filter_map(|how| how.machine.as_deref()).chain(with).collect(), written: Vec::new() };
    match command {
        Command::Preflight(typed) => named.written.extend(typed.also.iter().map(|also| also.file.as_path())),
        Command::Explain(typed) => named.read.extend(typed.machine.as_deref()),
        Command::Rehearse(typed) => named.read.extend(typed.machine.iter().map(PathBuf::as_path)),
        Command::Compare(typed) => named.read.extend(typed.machines.iter().map(PathBuf::as_path)),
        Command::Survey(typed) => named.read.extend(typed.files.iter().map(PathBuf::as_path)),
        Command::Walk(_)
        | Command::Plan(_)
        | Command::Record(_)
        | Command::Draft(_)
        | Command::Proofread(_)
        | Command::Render(_)
        | Command::Witness(_)
        | Command::Schema { .. }
        | Command::Demo(_)
        | Command::Completions { .. }
        | Command::Manual { .. } => {}
    }
    named
}

/// Refuses, before anything is looked at, to write over the guide or whatever else is read, and to write two results into one file.
pub(crate) fn apart(typed: &Typed) -> Result<(), Failure> {
    let mut named = named(&typed.command);
    named.written.extend(typed.shown.output.as_deref());
    named.written.retain(|path| path.as_os_str() != "-");
    if named.written.is_empty() {
        return Ok(());
    }
    let guide = the_guide(typed);
    let read: Vec<(&Path, PathBuf)> = named.read.into_iter().chain(guide.as_deref()).map(|path| (path, place(path))).collect();
    let mut taken: Vec<PathBuf> = Vec::new();
    for path in named.written {
        let written = place(path);
        // What is no file takes more than one result, and is read by nobody again.
        if path.exists() && !path.is_file() {
            continue;
        }
        if taken.contains(&written) {
            let message = format!("two results would go into {}, and the first would be lost", path.display());
            return Err(Failure::Word { message, note: "Give each a file of its own.".to_owned() });
        }
        if let Some((read, _)) = read.iter().find(|(_, read)| *read == written || is_surveyed(read, &written)) {
            let within = if read.is_dir() { format!(" It lies in {}, which is read.", read.display()) } else { String::new() };
            return Err(over_its_source(path, &within));
        }
        taken.push(written);
    }
    Ok(())
}

fn over_its_source(path: &Path, within: &str) -> Failure {
    let message = format!("the result would replace {}, which it is made from", path.display());
    Failure::Word { message, note: format!("Give --output another name.{within}") }
}

/// The same for a file that is named by the guide's project, which is only known when that was read.
pub(crate) fn apart_from(path: &Path, read: Option<&Path>) -> Result<(), Failure> {
    if read.is_some_and(|read| place(read) == place(path)) { Err(over_its_source(path, "")) } else { Ok(()) }
}

/// The guide that will be read. A draft makes one, and says itself where it would replace it.
fn the_guide(typed: &Typed) -> Option<PathBuf> {
    if let Command::Draft(_) = typed.command {
        return None;
    }
    if let Some(path) = &typed.shown.guide {
        return Some(if path.is_dir() { path.join(GUIDE_FILE) } else { path.clone() });
    }
    GuideFile::find(&std::env::current_dir().ok()?).ok()
}

/// Whether a file that is there lies in a folder whose reports are read.
fn is_surveyed(folder: &Path, file: &Path) -> bool {
    setup_ready_fleet::is_surveyed_file(file) && folder.is_dir() && file.is_file() && file.starts_with(folder)
}

/// Where a file is, or would be: links are followed, but for its own name where it is not there yet.
fn place(path: &Path) -> PathBuf {
    if let Ok(real) = path.canonicalize() {
        return real;
    }
    let folder = path.parent().filter(|parent| !parent.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let folder = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    path.file_name().map_or_else(|| folder.clone(), |name| folder.join(name))
}

/// A path as it is from here, where it lies below: so a repository's own root is told, and not where it lies.
pub(crate) fn from_here(path: &Path) -> String {
    let here = std::env::current_dir().unwrap_or_default();
    path.strip_prefix(&here).unwrap_or(path).display().to_string()
}
