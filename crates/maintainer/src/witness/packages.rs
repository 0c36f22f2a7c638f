//! Whose files were used, by the notes of dpkg: `/var/lib/dpkg/info/*.list`, and `/var/lib/dpkg/status` (deb-control(5)). Other managers keep
//! theirs in databases that are not read here.

use setup_ready_core::manager::Manager;
use setup_ready_core::witnessed::{Owners, Seen};
use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::io::{BufRead, BufReader};
use std::path::Path;

const NOTES: &str = "/var/lib/dpkg";

/// Whose the programs and files are, and what each of those packages brings along.
pub(super) fn owners(seen: &Seen) -> Owners {
    let mut owners = Owners::default();
    let Ok(status) = fs::read_to_string(Path::new(NOTES).join("status")) else { return owners };
    owners.manager = Some(Manager::Apt);
    status_of(&status, &mut owners);
    let wanted: BTreeSet<&str> = seen.programs.keys().chain(&seen.files).map(String::as_str).collect();
    for entry in fs::read_dir(Path::new(NOTES).join("info")).into_iter().flatten().flatten() {
        let path = entry.path();
        let Some(stem) = path.file_name().and_then(|name| name.to_str()).and_then(|name| name.strip_suffix(".list")) else {
            continue;
        };
        let package = stem.split(':').next().unwrap_or(stem);
        let Ok(file) = fs::File::open(&path) else { continue };
        for line in BufReader::new(file).lines().map_while(Result::ok) {
            if let Some(name) = description_of(&line) {
                owners.descriptions.entry(package.to_owned()).or_default().push(name.to_owned());
            }
            if let Some(known) = known_as(&line, &wanted) {
                owners.of_file.insert(known.to_owned(), package.to_owned());
            }
        }
    }
    owners
}

/// The name by which pkg-config knows what a file describes.
fn description_of(path: &str) -> Option<&str> {
    let (folder, file) = path.rsplit_once('/')?;
    file.strip_suffix(".pc").filter(|_| folder.ends_with("/pkgconfig"))
}

/// A path as it was seen: `/bin` and its like are links into `/usr` in most systems, and lists may have either.
fn known_as<'w>(path: &str, wanted: &BTreeSet<&'w str>) -> Option<&'w str> {
    if let Some(one) = wanted.get(path) {
        return Some(one);
    }
    let other = match path.strip_prefix("/usr") {
        Some(rest) => rest.to_owned(),
        None => format!("/usr{path}"),
    };
    wanted.get(other.as_str()).copied()
}

/// What packages depend on, and which of them every system has.
fn status_of(status: &str, owners: &mut Owners) {
    let mut provided: BTreeMap<String, Vec<String>> = BTreeMap::new();
    let mut wants: Vec<(String, Vec<String>)> = Vec::new();
    let mut base: Vec<String> = Vec::new();
    for block in status.split("\n\n") {
        let field = |name: &str| {
            let begins = format!("{name}: ");
            block.lines().find_map(|line| line.strip_prefix(begins.as_str()).map(ToOwned::to_owned))
        };
        let Some(package) = field("Package") else { continue };
        if !field("Status").is_some_and(|status| status.ends_with(" installed")) {
            continue;
        }
        if field("Essential").as_deref() == Some("yes") || field("Priority").as_deref() == Some("required") {
            base.push(package.clone());
        }
        for one in names(&field("Provides").unwrap_or_default()).into_iter().flatten() {
            provided.entry(one).or_default().push(package.clone());
        }
        let of = |fields: &[&str]| fields.iter().filter_map(|name| field(name)).flat_map(|text| names(&text)).flatten().collect();
        wants.push((package, of(&["Pre-Depends", "Depends"])));
    }
    let installed: BTreeSet<String> = wants.iter().map(|(package, ..)| package.clone()).collect();
    let here = |wanted: Vec<String>| -> BTreeSet<String> {
        let own = wanted.iter().filter(|one| installed.contains(*one)).cloned();
        own.chain(wanted.iter().filter_map(|one| provided.get(one)).flatten().cloned()).collect()
    };
    for (package, wanted) in wants {
        owners.brings.insert(package, here(wanted));
    }
    // What came for another's sake is marked (apt-mark(8)).
    let marks = fs::read_to_string("/var/lib/apt/extended_states").unwrap_or_default();
    let came: BTreeSet<&str> = marks
        .split("\n\n")
        .filter(|block| block.lines().any(|line| line == "Auto-Installed: 1"))
        .filter_map(|block| block.lines().find_map(|line| line.strip_prefix("Package: ")))
        .collect();
    owners.asked_for = installed.iter().filter(|one| !came.contains(one.as_str())).cloned().collect();
    // What a basic system has comes with what it needs, but not with what it only recommends.
    let mut open = base;
    while let Some(package) = open.pop() {
        if owners.everywhere.insert(package.clone()) {
            let of = |block: &str| block.lines().any(|line| line.strip_prefix("Package: ") == Some(package.as_str()));
            let Some(block) = status.split("\n\n").find(|block| of(block)) else { continue };
            for name in ["Pre-Depends: ", "Depends: "] {
                let text = block.lines().find_map(|line| line.strip_prefix(name)).unwrap_or_default();
                open.extend(names(text).into_iter().flatten().filter(|one| installed.contains(one)));
            }
        }
    }
}

/// The names in a field of relations, alternatives together.
fn names(text: &str) -> Vec<Vec<String>> {
    let name = |one: &str| one.split(['(', ':', '[']).next().unwrap_or(one).trim().to_owned();
    text.split(',').filter(|part| !part.trim().is_empty()).map(|part| part.split('|').map(name).collect()).collect()
}
