use super::os;
use crate::read::{pkg_config_requires, pkg_config_version};
use setup_ready_core::observation::{LibraryState, Observation};
use std::collections::HashSet;
use std::path::{Path, PathBuf};

/// A library's description for builds, where pkg-config would look, and the library itself.
pub(super) fn state(name: &str, home: Option<&Path>) -> Observation {
    if name.contains(['/', '\\', '\0']) {
        return Observation::CouldNotLook(format!("{name} cannot be the name of a library"));
    }
    let folders = folders();
    let found = described(&folders, name);
    let lacks = found.as_ref().and_then(|(_, _, text)| lacking(&folders, text));
    let description = found.map(|(path, version, _)| (path, version));
    let at_home =
        home.into_iter().flat_map(|home| [".local/lib/pkgconfig", ".local/share/pkgconfig"].map(|folder| home.join(folder)));
    let unusual: Vec<PathBuf> = at_home.chain(under("/opt", "lib/pkgconfig")).collect();
    let others = folders.iter().chain(&unusual).filter_map(|folder| described(std::slice::from_ref(folder), name));
    let first = description.as_ref().map(|(path, _)| path.clone());
    let others = others.map(|(path, version, _)| (path, version)).filter(|(path, _)| Some(path) != first.as_ref()).collect();
    Observation::Library(LibraryState { description, lacks, others, loaded_from: os::loads(name) })
}

/// Where a library's description may be, and what the loader knows.
pub(super) fn places(name: &str) -> Vec<PathBuf> {
    let descriptions = folders().into_iter().map(|folder| folder.join(format!("{name}.pc")));
    descriptions.chain([PathBuf::from("/etc/ld.so.cache")]).collect()
}

/// A folder of each package that brings a folder of its own.
fn under(place: &str, folder: &str) -> Vec<PathBuf> {
    std::fs::read_dir(place).into_iter().flatten().flatten().take(MOST_PACKAGES).map(|entry| entry.path().join(folder)).collect()
}

/// More folders than these are not looked into.
const MOST_PACKAGES: usize = 200;

/// Where a library's description is, its version, and its text.
fn described(folders: &[PathBuf], name: &str) -> Option<(String, String, String)> {
    let file = format!("{name}.pc");
    folders.iter().find_map(|folder| {
        let path = folder.join(&file);
        let text = super::place::text(&path).ok()?;
        Some((path.display().to_string(), pkg_config_version(&text)?, text))
    })
}

/// More descriptions than these are not followed.
const MOST_DESCRIPTIONS: usize = 500;

/// The first description that is asked for, directly or by another, and is not there.
fn lacking(folders: &[PathBuf], text: &str) -> Option<String> {
    let mut seen = HashSet::new();
    let mut waiting = pkg_config_requires(text);
    while let Some(name) = waiting.pop().filter(|_| seen.len() < MOST_DESCRIPTIONS) {
        if name.contains(['/', '<', '>', '=']) || !seen.insert(name.clone()) {
            continue;
        }
        match described(folders, &name) {
            Some((.., text)) => waiting.extend(pkg_config_requires(&text)),
            None => return Some(name),
        }
    }
    None
}

/// What the person has set comes first, and may replace the system's folders (pkg-config(1)).
fn folders() -> Vec<PathBuf> {
    let listed = |name: &str| std::env::var_os(name).filter(|value| !value.is_empty());
    let own = listed("PKG_CONFIG_PATH").map(|value| std::env::split_paths(&value).collect::<Vec<_>>()).unwrap_or_default();
    let system = match listed("PKG_CONFIG_LIBDIR") {
        Some(value) => std::env::split_paths(&value).collect(),
        None => os::description_folders(),
    };
    own.into_iter().chain(system).collect()
}
