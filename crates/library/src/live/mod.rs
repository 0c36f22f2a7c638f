//! This machine: a file per kind of probe; what differs between systems lies side by side in `os`.

mod os;
mod place;
mod port;
mod program;
mod setting;

use crate::host::{Host, Interrupt};
use crate::observation::Observation;
use crate::probe::Probe;
use crate::report::MachineSource;
use crate::run::{Limits, run};
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::time::Duration;

/// This machine, as this user in this session has it.
#[derive(Debug)]
pub struct Live {
    folder: PathBuf,
    time_limit: Duration,
    interrupt: Interrupt,
    path: OsString,
    home: Option<PathBuf>,
}

impl Live {
    /// How long a program may run unless [`Live::time_limit`] says otherwise.
    pub const TIME_LIMIT: Duration = Duration::from_secs(10);

    /// This machine, for a project in `folder`: relative paths start there, and programs inside it are not trusted.
    pub fn new(folder: impl Into<PathBuf>) -> Self {
        let folder = folder.into();
        let home = std::env::var_os(if cfg!(windows) { "USERPROFILE" } else { "HOME" });
        Self {
            folder: folder.canonicalize().unwrap_or(folder),
            time_limit: Self::TIME_LIMIT,
            interrupt: Interrupt::default(),
            path: std::env::var_os("PATH").unwrap_or_default(),
            home: home.filter(|home| !home.is_empty()).map(PathBuf::from),
        }
    }

    /// How long each program may run.
    #[must_use]
    pub fn time_limit(mut self, limit: Duration) -> Self {
        self.time_limit = limit;
        self
    }

    /// A switch that ends the programs which are running. Give the same one to the preflight.
    #[must_use]
    pub fn interrupt(mut self, interrupt: &Interrupt) -> Self {
        self.interrupt = interrupt.clone();
        self
    }

    /// Another PATH than this process has.
    #[must_use]
    pub fn path(mut self, path: impl Into<OsString>) -> Self {
        self.path = path.into();
        self
    }

    fn run(&self, path: &Path, arguments: &[String]) -> crate::observation::Run {
        let limits = Limits { time: self.time_limit, interrupt: self.interrupt.clone() };
        run(path, arguments, Some(&self.folder), &limits)
    }
}

impl Host for Live {
    fn observe(&self, probe: &Probe) -> Observation {
        match probe {
            Probe::System => os::system(),
            Probe::Surroundings => os::surroundings(),
            Probe::Account => os::account(self),
            Probe::DatabaseGroups => os::database_groups(self),
            Probe::Managers => program::managers(&self.path),
            Probe::Program { name } => Observation::Program(program::copies(self, name)),
            Probe::ProgramElsewhere { name } => Observation::ProgramElsewhere(program::elsewhere(self, name)),
            Probe::Run { path, arguments } => Observation::Run(self.run(Path::new(path), arguments)),
            Probe::PortBinding(place) => port::binding(place),
            Probe::PortHolder(place) => os::port_holder(place),
            Probe::FreePort(place) => port::free_above(place),
            Probe::SettingNumber { variable, env_file } => setting::number(&self.folder, variable, env_file.as_deref()),
            Probe::DiskRoom { path } => os::disk_room(&place::expand(path, &self.folder, self.home.as_deref())),
            Probe::Memory => os::memory(),
            Probe::Cores => os::cores(),
            Probe::Processor => os::processor(),
            Probe::Hypervisor => os::hypervisor(),
            Probe::Device { path } => os::device(Path::new(path)),
            Probe::Module { name } => os::module(name),
        }
    }

    fn source(&self) -> MachineSource {
        MachineSource::Live
    }

    /// Two for each core: programs wait for the disk now and then, and more at once only slow down the one that takes longest
    /// (`docs/performance.md` has the measurement). Those that hang do not count.
    fn jobs(&self) -> usize {
        std::thread::available_parallelism().map_or(4, |cores| cores.get().saturating_mul(2))
    }
}
