//! What is installed and is neither a program nor a library: looked for in the interpreter's own folders and the package manager's own notes. Nothing
//! is started for it, but for those managers that have no notes to be read.

mod node;
mod package;
mod perl;
mod php;
mod python;
mod ruby;

pub(super) use package::installed;

use super::{Live, place};
use setup_ready_core::guide::Language;
use setup_ready_core::observation::{InstalledState, Leads, Observation};
use std::path::{Path, PathBuf};

/// More names in a folder than these are not looked through.
const MOST_NAMES: usize = 50_000;

/// What was found of a module, or why nobody can tell without starting the interpreter.
type Looked = Result<InstalledState, String>;

const fn absent() -> InstalledState {
    InstalledState::Absent { lacks: None }
}

fn here(version: Option<String>, at: &Path) -> InstalledState {
    InstalledState::Here { version, at: at.display().to_string() }
}

fn told(looked: Looked) -> Observation {
    looked.map_or_else(Observation::CouldNotLook, Observation::Installed)
}

/// A module that an interpreter would load.
pub(super) fn module(live: &Live, language: Language, program: &Path, name: &str) -> Observation {
    told(match language {
        Language::Python => python::module(live, program, name),
        Language::Node => node::module(live, name),
        Language::Ruby => ruby::module(live, program, name),
        Language::Perl => perl::module(live, program, name),
        Language::Php => php::module(program, name),
    })
}

/// The headers of an interpreter.
pub(super) fn headers(live: &Live, language: Language, program: &Path) -> Observation {
    let base = match language {
        Language::Python => python::base(program),
        Language::Node | Language::Ruby | Language::Perl | Language::Php => above(program),
    };
    let Some(base) = base else { return Observation::CouldNotLook(unclear(program)) };
    let file = match language {
        Language::Python => python::release(program).map(|release| PathBuf::from(format!("include/python{release}/Python.h"))),
        Language::Node => Some(PathBuf::from("include/node/node.h")),
        Language::Ruby => ruby::release(program).map(|release| PathBuf::from(format!("include/ruby-{release}/ruby.h"))),
        Language::Perl | Language::Php => None,
    };
    let found = match file {
        Some(file) => Some(base.join(file)).filter(|file| file.is_file()),
        None if language == Language::Perl => {
            perl::folders(live, &base).into_iter().map(|folder| folder.join("CORE/perl.h")).find(|file| file.is_file())
        }
        None if language == Language::Php => entries(&base.join("include/php"))
            .into_iter()
            .chain([base.join("include/php")])
            .map(|folder| folder.join("main/php.h"))
            .find(|file| file.is_file()),
        None => return Observation::CouldNotLook(unclear(program)),
    };
    Observation::Installed(found.map_or_else(absent, |file| here(None, &file)))
}

/// Whether a variable's value is the folder of the kit that a program belongs to.
pub(super) fn leads_to(variable: &str, program: &Path) -> Observation {
    let Some(value) = std::env::var_os(variable).filter(|value| !value.is_empty()) else {
        return Observation::Leads(Leads::Unset);
    };
    let Some(kit) = above(program) else { return Observation::CouldNotLook(unclear(program)) };
    // Some kits keep the programs of a part in a folder of their own.
    let kits = [Some(kit.clone()), kit.parent().map(Path::to_owned)];
    let named = place::real(Path::new(&value)).ok();
    let leads = named
        .is_some_and(|named| kits.into_iter().flatten().take(if kit.ends_with("jre") { 2 } else { 1 }).any(|kit| kit == named));
    Observation::Leads(if leads { Leads::There } else { Leads::Elsewhere(kit.display().to_string()) })
}

fn unclear(program: &Path) -> String {
    format!("{} may stand for another program, and is not started for this", program.display())
}

/// The folder that a program is installed in, behind all links: the one above that of programs.
fn above(program: &Path) -> Option<PathBuf> {
    Some(place::real(program).ok()?.parent()?.parent()?.to_owned())
}

/// What is in a folder, in order.
fn entries(folder: &Path) -> Vec<PathBuf> {
    let all = std::fs::read_dir(folder).into_iter().flatten().take(MOST_NAMES).flatten();
    let mut all: Vec<PathBuf> = all.map(|entry| entry.path()).collect();
    all.sort();
    all
}

fn file_name(path: &Path) -> &str {
    path.file_name().and_then(|name| name.to_str()).unwrap_or_default()
}

/// A name without parts that lead elsewhere.
fn is_plain(name: &str) -> bool {
    let part = |part: &str| !part.is_empty() && !part.starts_with('.') && !part.contains(['\\', ':']);
    name.split('/').all(part)
}
