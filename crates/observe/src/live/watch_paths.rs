//! Which files and folders an answer rests on: whoever waits for it to change need only look there.

use super::{Live, checkout, library, os, program};
use setup_ready_core::probe::{Opens, Probe, WatchPaths};
use std::path::PathBuf;

/// The files and folders; none where the answer may change by itself, or it is not known with what.
pub(super) fn places(live: &Live, probe: &Probe) -> Vec<PathBuf> {
    match probe.watch_paths() {
        WatchPaths::Opened => match probe.opens() {
            Opens::Nothing => Vec::new(),
            Opens::Files(paths) => paths.into_iter().map(|path| live.place(path)).collect(),
            Opens::Device(path) => vec![live.place(path)],
        },
        WatchPaths::OnLinux(files) if cfg!(target_os = "linux") => files.iter().map(PathBuf::from).collect(),
        WatchPaths::Unknown | WatchPaths::OnLinux(_) => Vec::new(),
        WatchPaths::OfHost => known_here(live, probe),
    }
}

/// Those of the questions whose row says that the host knows them.
#[allow(clippy::wildcard_enum_match_arm, reason = "the row of a question says whether it belongs here")]
fn known_here(live: &Live, probe: &Probe) -> Vec<PathBuf> {
    match probe {
        Probe::FileVersion { path } => vec![live.place(path)],
        Probe::Program { name } => program::on_path(live).iter().map(|folder| folder.join(name)).collect(),
        Probe::ProgramElsewhere { .. } => program::all_folders(live),
        Probe::Library { name } => library::places(name),
        Probe::Variable { name, env_file, .. } => {
            let files = env_file.iter().map(|file| live.place(file));
            // What a value names may come to be there.
            let named = std::env::var_os(name).map(PathBuf::from).filter(|path| path.is_absolute());
            files.chain(named).chain(os::startup_files(live)).collect()
        }
        Probe::Setting { .. } => checkout::files_of_settings(live),
        Probe::Checkout { path, .. } => checkout::files_of_state(&live.place(path)),
        _ => Vec::new(),
    }
}
