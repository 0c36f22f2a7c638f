//! Programs that only stand in for those of a version manager: which one they would start in the project's folder is read from the manager's
//! own files and the project's pins, since starting them would be asking the project.

mod by_pin;
mod node;
mod rust;
mod tool_versions;

use super::{Live, os, place};
use setup_ready_core::observation::Choice;
use std::path::{Path, PathBuf};

/// A name that a pin may give: no path, no option, nothing that leads out of the manager's folder.
pub(super) fn is_version(text: &str) -> bool {
    let plain = |c: char| c.is_ascii_alphanumeric() || "._-+@".contains(c);
    !text.is_empty() && text.len() <= 100 && text.chars().all(plain) && !text.starts_with(['-', '.']) && !text.contains("..")
}

/// What a stand-in would start.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum ShimTarget {
    /// This file.
    For(PathBuf),
    /// Whatever PATH has behind it.
    NextOnPath,
    /// A version that the manager does not have, and where it is asked for.
    Absent(String, String),
    /// The same, if PATH has nothing behind it.
    NextElse(String, String),
    /// It cannot be read.
    Unclear,
}

/// The file of a program that PATH finds, whether it stands in for others, and what it would start.
pub(super) fn choice(live: &Live, path: &Path, real: &Path, name: &str) -> Choice {
    let stand = by_pin::stand(live, path, name)
        .or_else(|| rust::stand(live, path, real, name))
        .or_else(|| tool_versions::stand(live, path, real, name))
        .or_else(|| node::stand(live, path, real, name))
        .or_else(|| decided_by_folder(live, real, name));
    match stand {
        None => Choice::Itself,
        Some(ShimTarget::For(file)) if os::is_executable(&file) => Choice::Other(file.display().to_string()),
        Some(ShimTarget::For(file)) => Choice::Absent { what: file.display().to_string(), said_in: String::new() },
        Some(ShimTarget::NextOnPath) => {
            next_on_path(live, path, name).map_or(Choice::Unclear, |file| Choice::Other(file.display().to_string()))
        }
        Some(ShimTarget::NextElse(what, said_in)) => {
            let next = next_on_path(live, path, name).map(|file| Choice::Other(file.display().to_string()));
            next.unwrap_or(Choice::Absent { what, said_in })
        }
        Some(ShimTarget::Absent(what, said_in)) => Choice::Absent { what, said_in },
        Some(ShimTarget::Unclear) => Choice::Unclear,
    }
}

/// The first program of that name on PATH that lies in another folder, outside the project, and stands in for nothing.
fn next_on_path(live: &Live, path: &Path, name: &str) -> Option<PathBuf> {
    let folders =
        std::env::split_paths(&live.path).filter(|folder| folder.is_absolute() && Some(folder.as_path()) != path.parent());
    super::program::files(folders, name).find(|file| {
        let real = place::real(file).unwrap_or_else(|_| file.clone());
        os::is_executable(file) && !live.project.holds(&real) && by_pin::stand(live, file, name).is_none() && !is_shim(&real)
    })
}

fn is_shim(real: &Path) -> bool {
    real.parent().and_then(Path::file_name).is_some_and(|name| name == "shims")
}

/// Programs that may do so.
pub(super) const DECIDED_BY_FOLDER: [&str; 5] = ["bazel", "bazelisk", "dotnet", "pnpm", "yarn"];

/// Programs that are themselves, and read in the project's folder which version of themselves to be.
fn decided_by_folder(live: &Live, real: &Path, name: &str) -> Option<ShimTarget> {
    let says = |file: &str, word: &str| nearest(live, file).is_some_and(|(text, _)| text.contains(word));
    let there = |file: &str| live.folder.ancestors().any(|folder| folder.join(file).exists());
    let by_corepack = real.components().any(|part| part.as_os_str() == "corepack");
    let decided = match name {
        "dotnet" => says("global.json", "\"version\""),
        "yarn" | "pnpm" if by_corepack => says("package.json", "\"packageManager\""),
        "yarn" => says(".yarnrc.yml", "yarnPath") || says(".yarnrc", "yarn-path"),
        "bazel" | "bazelisk" => there(".bazelversion") || there("tools/bazel"),
        _ => false,
    };
    decided.then_some(ShimTarget::Unclear)
}

/// The text of a file in the project's folder or the nearest one above it, with its place.
pub(super) fn nearest(live: &Live, file: &str) -> Option<(String, PathBuf)> {
    live.folder.ancestors().find_map(|folder| Some((place::text(&folder.join(file)).ok()?, folder.join(file))))
}

/// A variable of this session that is set to something.
pub(super) fn variable(name: &str) -> Option<String> {
    std::env::var(name).ok().filter(|value| !value.trim().is_empty())
}

/// A manager's folder: where a variable says, else below the home folder.
pub(super) fn root(live: &Live, variable_name: &str, at_home: &str) -> Option<PathBuf> {
    let root = variable(variable_name).map(PathBuf::from).or_else(|| Some(live.home.as_ref()?.join(at_home)))?;
    (root.is_absolute() && !live.project.holds(&root)).then_some(root)
}
