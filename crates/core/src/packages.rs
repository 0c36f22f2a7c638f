//! Which packages stand for a requirement.

#![allow(clippy::wildcard_enum_match_arm, reason = "all kinds but two have only the packages that the guide names")]

use crate::catalogue;
use crate::guide::{Subject, Tool};
use crate::manager::Manager;
use crate::prelude::*;

/// The packages for managers of this machine, in the machine's order: the guide's, or where the guide names none at all, the catalogue's.
pub fn packages_for(subject: &Subject, managers: &[Manager]) -> Vec<(Manager, String)> {
    match subject {
        Subject::Tool(tool) => packages_of_tool(tool, managers),
        Subject::Library(library) if library.packages.is_empty() => {
            let known: Vec<(Manager, String)> = catalogue::libraries::named(&library.name)
                .into_iter()
                .flat_map(catalogue::libraries::KnownLibrary::packages)
                .map(|(manager, name)| (manager, name.to_owned()))
                .collect();
            named(&known, managers)
        }
        other => named(other.packages(), managers),
    }
}

/// The same for a tool.
pub(crate) fn packages_of_tool(tool: &Tool, managers: &[Manager]) -> Vec<(Manager, String)> {
    if !tool.packages.is_empty() {
        return named(&tool.packages, managers);
    }
    let Some(row) = tool.names.iter().find_map(|name| catalogue::find(name)) else { return Vec::new() };
    let of = |manager: &Manager| {
        row.packages.iter().find(|(of, _)| *of == manager.word()).map(|(_, name)| (*manager, (*name).to_owned()))
    };
    managers.iter().filter_map(of).collect()
}

fn named(packages: &[(Manager, String)], managers: &[Manager]) -> Vec<(Manager, String)> {
    managers.iter().filter_map(|manager| packages.iter().find(|(of, _)| of == manager).cloned()).collect()
}
