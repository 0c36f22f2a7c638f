//! Which files and folders an answer rests on: whoever waits for it to change need only look there.

use super::{Live, checkout, library, os, program};
use setup_ready_core::probe::Probe;
use std::path::PathBuf;

/// The files and folders; none where the answer may change by itself, or it is not known with what.
pub(super) fn places(live: &Live, probe: &Probe) -> Vec<PathBuf> {
    let of_system =
        |files: &[&str]| if cfg!(target_os = "linux") { files.iter().map(PathBuf::from).collect() } else { Vec::new() };
    match probe {
        Probe::Path { path, .. } | Probe::StartupLine { file: path, .. } | Probe::Pinned { file: path, .. } => {
            vec![live.place(path)]
        }
        Probe::Device { path, .. } | Probe::FileVersion { path } => vec![live.place(path)],
        Probe::Program { name } => program::on_path(live).iter().map(|folder| folder.join(name)).collect(),
        Probe::ProgramElsewhere { .. } => program::all_folders(live),
        Probe::Library { name } => library::places(name),
        Probe::SettingNumber(by) | Probe::SettingText { by, .. } => by.files().map(|file| live.place(file)).collect(),
        Probe::Variable { name, env_file, .. } => {
            let files = env_file.iter().map(|file| live.place(file));
            // What a value names may come to be there.
            let named = std::env::var_os(name).map(PathBuf::from).filter(|path| path.is_absolute());
            files.chain(named).chain(os::startup_files(live)).collect()
        }
        Probe::Group { .. } | Probe::DatabaseGroups => of_system(&["/etc/group"]),
        Probe::Setting { .. } => checkout::files_of_settings(live),
        Probe::Checkout { path, .. } => checkout::files_of_state(&live.place(path)),
        Probe::Locales => of_system(&["/usr/lib/locale/locale-archive"]),
        Probe::System
        | Probe::Surroundings
        | Probe::Account
        | Probe::Managers
        | Probe::Run { .. }
        | Probe::RecordedVersion { .. }
        | Probe::PortBinding(_)
        | Probe::PortHolder(_)
        | Probe::FreePort(_)
        | Probe::DiskRoom { .. }
        | Probe::Memory
        | Probe::Cores
        | Probe::Processor
        | Probe::Hypervisor
        | Probe::Within { .. }
        | Probe::Socket { .. }
        | Probe::Connection { .. }
        | Probe::Fetch { .. }
        | Probe::Online
        | Probe::SystemProxy
        | Probe::SystemService { .. }
        | Probe::Addresses { .. }
        | Probe::Networks
        | Probe::Limit { .. }
        | Probe::Command { .. }
        | Probe::Candidate { .. }
        | Probe::Provider { .. }
        | Probe::PackageOf { .. }
        | Probe::ManagerState { .. }
        | Probe::Module { .. }
        | Probe::Usb { .. }
        | Probe::ClockBeside { .. }
        | Probe::LanguageModule { .. }
        | Probe::LanguageHeaders { .. }
        | Probe::Installed { .. }
        | Probe::LeadsTo { .. } => Vec::new(),
    }
}
