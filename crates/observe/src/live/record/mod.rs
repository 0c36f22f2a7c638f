//! Where the installation of a tool states its version for certain, a file for each sort of installation. Whatever may make it another than the tool would say,
//! or keep the tool from saying anything, is a reason to read nothing: then the tool is started.

mod debian;
mod java;
mod node;
mod python;

use super::{Live, os, place};
use crate::read::file_kind;
use setup_ready_core::catalogue::{Record, Source, records};
use setup_ready_core::observation::{FileKind, Recorded};
use std::ffi::OsStr;
use std::path::{Path, PathBuf};

/// The version that is stated for the program at `path`, which is a `tool`.
pub(super) fn debian_package(live: &Live, name: &str) -> Option<String> {
    debian::version_of(live, name)
}

pub(super) fn recorded(live: &Live, tool: &str, path: &Path) -> Option<Recorded> {
    let records = records(tool);
    if records.is_empty() || os::is_short_of_memory_by_limit() {
        return None;
    }
    let real = place::real(path).ok()?;
    records.iter().filter(|record| !is_undone(live, record)).find_map(|record| match record.source {
        Source::JavaKit => java::of_kit(&real),
        Source::JavaLibrary(library) => java::of_library(live, &real, library),
        Source::NodePackage(package) => node::of_package(live, &real, (tool, package)),
        Source::PythonDistribution(distribution) => python::of_distribution(live, &real, distribution),
        Source::Package { name, on_java } => debian::of_package(live, &real, (name, on_java)),
    })
}

/// Whether a variable or a file is there that may make it wrong.
fn is_undone(live: &Live, record: &Record) -> bool {
    let apart = live.apart();
    let matters = |name: &OsStr| {
        let text = name.to_string_lossy();
        record
            .variables
            .iter()
            .any(|wanted| wanted.strip_suffix('*').map_or(*wanted == text, |beginning| text.starts_with(beginning)))
    };
    if std::env::vars_os().any(|(name, _)| matters(&name) && apart.keeps(&name)) {
        return true;
    }
    let is_there = |path: PathBuf| path.symlink_metadata().is_ok();
    record.files.iter().any(|file| match (file.strip_prefix("~/"), &live.home) {
        (Some(below), Some(home)) => is_there(home.join(below)),
        (Some(_), None) => false,
        (None, _) if file.starts_with('/') => is_there(PathBuf::from(file)),
        (None, _) => apart.folder().ancestors().any(|folder| is_there(folder.join(file))),
    })
}

/// A variable that programs which are asked have too.
fn variable(live: &Live, name: &str) -> Option<String> {
    super::shim::variable(name).filter(|_| live.apart().keeps(OsStr::new(name)))
}

fn is_there_and_not_empty(path: &Path) -> bool {
    path.metadata().is_ok_and(|known| known.is_file() && known.len() > 0)
}

fn kind(path: &Path) -> Option<FileKind> {
    Some(file_kind(&super::program::head(path).ok()?))
}

fn name(path: &Path) -> Option<&str> {
    path.file_name()?.to_str()
}
