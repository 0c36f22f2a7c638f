//! Noticing that something changed which may settle what is open, without asking anything slow.

use crate::finding::Verdict;
use crate::host::Host;
use crate::known::Answer;
use crate::manager::Manager;
use crate::observation::Observation;
use crate::probe::Probe;
use crate::report::{MachineSource, Report};
use crate::settled::Settled;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::time::SystemTime;

/// What the open requirements of a report rest on, as it was then.
#[derive(Debug)]
pub struct Watch {
    answers: Vec<Answer>,
    files: BTreeMap<PathBuf, Option<(SystemTime, u64)>>,
}

impl Watch {
    /// Remembers what a report's open requirements rest on: the answers that are had at once (files, ports, programs on PATH, sockets), the
    /// folders of PATH, the programs that were asked, and these `files`.
    pub fn new(report: &Report, files: &[&Path]) -> Self {
        let mut watch = Self { answers: Vec::new(), files: BTreeMap::new() };
        for file in files {
            watch.remember(file);
        }
        if report.frame.source != MachineSource::Live {
            return watch;
        }
        let path = std::env::var_os("PATH").unwrap_or_default();
        for folder in std::env::split_paths(&path).filter(|folder| folder.is_absolute()) {
            watch.remember(&folder);
        }
        let open = |one: &&Settled| matches!(one.finding.verdict(), Verdict::Unmet | Verdict::Unknown);
        for answer in report.settled.iter().filter(open).flat_map(|one| &one.finding.evidence) {
            if let Probe::Run { path, .. } = &*answer.probe {
                watch.remember(Path::new(path));
            }
            if is_cheap(&answer.probe) && !watch.answers.iter().any(|known| known.probe == answer.probe) {
                watch.answers.push(answer.clone());
            }
        }
        watch
    }

    fn remember(&mut self, file: &Path) {
        self.files.insert(file.to_owned(), stamp(file));
    }

    /// What is not as it was, in words; `None` where nothing is known to have changed.
    pub fn changed(&self, host: &dyn Host) -> Option<String> {
        let file = self.files.iter().find(|(file, before)| stamp(file) != **before);
        if let Some((file, _)) = file {
            return Some(file.display().to_string());
        }
        let differs = |answer: &&Answer| {
            let now = host.observe(&answer.probe);
            now != *answer.observation && !matches!(now, Observation::CouldNotLook(_))
        };
        let answer = self.answers.iter().find(differs)?;
        Some(if let Probe::PortBinding(place) = &*answer.probe { place.to_string() } else { answer.probe.to_string() })
    }
}

fn stamp(file: &Path) -> Option<(SystemTime, u64)> {
    let metadata = std::fs::metadata(file).ok()?;
    Some((metadata.modified().ok()?, metadata.len()))
}

/// Whether a question is answered at once, and answered the same as long as nothing happens.
fn is_cheap(probe: &Probe) -> bool {
    match probe {
        Probe::Program { .. }
        | Probe::PortBinding(_)
        | Probe::SettingNumber { .. }
        | Probe::Device { .. }
        | Probe::Path { .. }
        | Probe::StartupLine { .. }
        | Probe::Variable { .. }
        | Probe::Socket { .. }
        | Probe::Library { .. }
        | Probe::Module { .. }
        | Probe::Group { .. }
        | Probe::DatabaseGroups
        | Probe::Limit { .. }
        | Probe::Locales
        | Probe::Pinned { .. } => true,
        Probe::Connection { host, .. } => matches!(host.as_str(), "localhost" | "127.0.0.1" | "::1"),
        // Those have no list of a package's files that could be read.
        Probe::ProgramElsewhere { packages, .. } => {
            !packages.iter().any(|(manager, _)| matches!(manager, Manager::Dnf | Manager::Zypper))
        }
        // Slow, asked of others, or never twice the same.
        Probe::System
        | Probe::Within { .. }
        | Probe::Surroundings
        | Probe::Account
        | Probe::Managers
        | Probe::Run { .. }
        | Probe::PortHolder(_)
        | Probe::FreePort(_)
        | Probe::DiskRoom { .. }
        | Probe::Memory
        | Probe::Cores
        | Probe::Processor
        | Probe::Hypervisor
        | Probe::FileVersion { .. }
        | Probe::RecordedVersion { .. }
        | Probe::SystemProxy
        | Probe::SystemService { .. }
        | Probe::Fetch { .. }
        | Probe::Online
        | Probe::Addresses { .. }
        | Probe::Networks
        | Probe::Setting { .. }
        | Probe::Checkout { .. }
        | Probe::Command { .. }
        | Probe::ManagerState { .. }
        | Probe::PackageOf { .. }
        | Probe::Provider { .. }
        | Probe::Candidate { .. } => false,
    }
}
