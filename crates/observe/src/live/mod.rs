//! This machine: a file per kind of probe; what differs between systems lies side by side in `os`.

mod asked;
mod checkout;
mod component;
mod library;
mod network;
mod os;
mod package;
mod place;
mod plain_proxy;
mod port;
mod port_unit;
mod program;
mod record;
mod run_cache;
mod secrets;
mod setting;
mod shim;
mod spelled_out;
mod variable;
mod watch_paths;
mod working_copy;

pub use asked::Ask;
pub use os::is_build_server;

use crate::guide_file::GuideFile;
use crate::host::{Host, Interrupt};
use crate::run::{ExecEnv, Isolated, Limits, run, system_root};
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::{Observation, Pinned, Run, StartFailure};
use setup_ready_core::probe::{Opens, Probe};
use setup_ready_core::report::MachineSource;
use setup_ready_core::text::Pattern;
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock};
use std::time::Duration;
use working_copy::WorkingCopy;

/// This machine, as this user in this session has it.
#[derive(Debug)]
pub struct Live {
    folder: PathBuf,
    time_limit: Duration,
    interrupt: Interrupt,
    path: OsString,
    home: Option<PathBuf>,
    project: WorkingCopy,
    spelled_out: spelled_out::SpelledOut,
    apart: OnceLock<Isolated>,
    secrets: secrets::Secrets,
    kept: run_cache::RunCache,
    /// A package manager is asked by one at a time.
    asking_managers: Mutex<()>,
}

impl Live {
    /// How long a program may run unless [`Live::time_limit`] says otherwise.
    pub const TIME_LIMIT: Duration = Duration::from_secs(10);

    /// This machine, for a project in `folder`: relative paths start there, and programs inside it are not trusted. Values of the variables
    /// that the guide speaks of, and of the files that may set them, are taken out of all that programs print.
    pub fn new(folder: impl Into<PathBuf>, guide: &Guide) -> Self {
        let folder = folder.into();
        let folder = place::real(&folder).unwrap_or(folder);
        let home = std::env::var_os(if cfg!(windows) { "USERPROFILE" } else { "HOME" });
        let home = home.filter(|home| !home.is_empty()).map(PathBuf::from);
        let project = WorkingCopy::of(&folder, home.as_deref(), &os::usual_folders(home.as_deref()));
        let mut live = Self {
            time_limit: Self::TIME_LIMIT,
            interrupt: Interrupt::default(),
            path: std::env::var_os("PATH").unwrap_or_default(),
            home,
            project,
            apart: OnceLock::new(),
            kept: run_cache::RunCache::default(),
            asking_managers: Mutex::new(()),
            secrets: secrets::Secrets::of(guide, &folder),
            spelled_out: spelled_out::SpelledOut::default(),
            folder,
        };
        live.spelled_out = spelled_out::SpelledOut::of(&live, guide);
        live
    }

    /// This machine, for the project of a guide's file.
    pub fn for_guide(file: &GuideFile) -> Self {
        Self::new(file.folder(), &file.guide)
    }

    /// How long each program may run.
    #[must_use]
    pub fn time_limit(mut self, limit: Duration) -> Self {
        self.time_limit = limit;
        self
    }

    /// A switch that ends the programs which are running, and the preflight that asks.
    #[must_use]
    pub fn interrupt(mut self, interrupt: &Interrupt) -> Self {
        self.interrupt = interrupt.clone();
        self
    }

    /// Another PATH than this process has.
    #[must_use]
    pub fn path(mut self, path: impl Into<OsString>) -> Self {
        self.path = path.into();
        self.apart = OnceLock::new();
        self
    }

    /// A guide's path on this machine.
    fn place(&self, path: &str) -> PathBuf {
        place::expand(path, &self.folder, self.home.as_deref())
    }

    /// Runs a program to ask it something, apart from the project.
    fn run(&self, path: &Path, arguments: &[String]) -> Run {
        self.run_apart(path, arguments, &[])
    }

    /// The same with something more in its environment.
    fn run_apart(&self, path: &Path, arguments: &[String], environment: &'static [(&'static str, &'static str)]) -> Run {
        self.run_around(path, arguments, &ExecEnv::Isolated(self.apart().clone()), (None, environment))
    }

    /// Runs what the person agreed to, as they would in the project's folder; under a time limit of its own, if it has one.
    fn run_in_project(&self, path: &Path, arguments: &[String], limit: Option<Duration>) -> Run {
        self.run_around(path, arguments, &ExecEnv::Project(self.folder.clone()), (limit, &[]))
    }

    fn run_around(
        &self,
        path: &Path,
        arguments: &[String],
        around: &ExecEnv,
        (limit, environment): (Option<Duration>, &'static [(&'static str, &'static str)]),
    ) -> Run {
        let limits = Limits { time: limit.unwrap_or(self.time_limit), interrupt: self.interrupt.clone(), environment };
        let run = match os::started_by(path, arguments) {
            Ok(None) => run(path, arguments, around, &limits),
            Ok(Some((program, words))) => run(&program, &words, around, &limits),
            Err(reason) => Run::not_started(StartFailure::Other, reason),
        };
        self.secrets.hide(run)
    }

    /// Where programs are started that are only asked something.
    fn apart(&self) -> &Isolated {
        self.apart.get_or_init(|| {
            let inside = |path: &Path| self.project.holds(path);
            let folder = crate::state_folder::empty_folder(&self.project.root);
            Isolated::new(folder.unwrap_or_else(system_root), &self.path, &inside, self.project.unmentioned())
        })
    }

    /// What a file of the project says about a tool's version.
    fn pinned(&self, file: &str, tools: &[String], pattern: Option<&str>) -> Observation {
        if let Some(reason) = self.leads_out(file) {
            return Observation::CouldNotLook(reason);
        }
        match place::text(&self.place(file)) {
            Ok(text) => Observation::Pinned(crate::pinned::version_in(file, &text, tools, pattern)),
            Err(crate::LoadError::Unreadable { reason, .. }) if reason.kind() == std::io::ErrorKind::NotFound => {
                Observation::Pinned(Pinned::NoFile)
            }
            Err(error) => Observation::CouldNotLook(error.to_string()),
        }
    }
}

impl Live {
    /// Why a file that the project names as its own is not read: it lies outside, by its path or by a link, and lines of it would be told.
    fn leads_out(&self, file: &str) -> Option<String> {
        let real = place::real(&self.place(file)).ok()?;
        (!self.project.holds(&real)).then(|| format!("{file} leads out of the project, and nothing of other files is told"))
    }
}

/// The topmost folder of the working copy that a folder lies in.
pub(crate) fn working_copy(folder: &Path, home: Option<&Path>) -> PathBuf {
    WorkingCopy::of(&real_path(folder), home, &[]).root
}

/// The path behind all links, as people write it; the path itself where there is none.
pub(crate) fn real_path(path: &Path) -> PathBuf {
    place::real(path).unwrap_or_else(|_| path.to_owned())
}

/// A probe carries a pattern's text; the guide has proved that it can be read.
fn pattern(source: Option<&String>) -> Option<Pattern> {
    source.and_then(|source| Pattern::new(source).ok())
}

impl Live {
    /// Why what a stranger's guide names is not opened, where opening it would do more than looking.
    fn refused(&self, probe: &Probe) -> Option<String> {
        let (paths, may_be_device) = match probe.opens() {
            Opens::Nothing => return None,
            Opens::Files(paths) => (paths, false),
            Opens::Device(path) => (vec![path], true),
        };
        let own: Vec<&Path> = std::iter::once(self.folder.as_path()).chain(self.home.as_deref()).collect();
        paths.into_iter().find_map(|named| {
            let path = self.place(named);
            let reason = os::elsewhere(&path, &own).or_else(|| if may_be_device { None } else { os::no_file(&path) });
            reason.map(|reason| format!("{named} is not opened: {reason}"))
        })
    }
}

impl Host for Live {
    fn observe(&self, probe: &Probe) -> Observation {
        let unredact = self.secrets.unredact(probe);
        let probe = unredact.as_ref().unwrap_or(probe);
        let seen = match self.refused(probe) {
            Some(reason) => Observation::CouldNotLook(reason),
            None => self.seen(probe),
        };
        self.secrets.hide_in(seen)
    }

    fn observe_together(&self, probes: &[Arc<Probe>]) -> Vec<Observation> {
        let mut packages = Vec::new();
        let mut managers = Vec::new();
        for probe in probes {
            if let Probe::Candidate { manager, package } = &**probe
                && self.refused(probe).is_none()
            {
                managers.push(*manager);
                packages.push(package.as_str());
            }
        }
        match managers.first() {
            Some(manager) if managers.len() == probes.len() && managers.iter().all(|other| other == manager) => {
                let seen = package::would_install_all(self, *manager, &packages);
                seen.into_iter().map(|seen| self.secrets.hide_in(seen)).collect()
            }
            _ => probes.iter().map(|probe| self.observe(probe)).collect(),
        }
    }

    fn watch_paths(&self, probe: &Probe) -> Vec<PathBuf> {
        watch_paths::places(self, probe)
    }

    fn begin(&self) {
        self.kept.forget();
    }

    fn source(&self) -> MachineSource {
        MachineSource::Live
    }

    fn interrupt(&self) -> Option<&Interrupt> {
        Some(&self.interrupt)
    }

    /// Two for each core: programs wait for the disk now and then, and more at once only slow down the one that takes longest
    /// (`docs/performance.md` has the measurement). Those that hang do not count.
    fn jobs(&self) -> usize {
        std::thread::available_parallelism().map_or(4, |cores| cores.get().saturating_mul(2))
    }
}

impl Live {
    /// What is seen, with whatever is in it.
    fn seen(&self, probe: &Probe) -> Observation {
        match probe {
            Probe::System => os::system(),
            Probe::Surroundings => os::surroundings(&self.folder),
            Probe::Account => os::account(self),
            Probe::DatabaseGroups => os::database_groups(self),
            Probe::Managers => package::managers(self),
            Probe::Program { name } => Observation::Program(program::copies(self, name)),
            Probe::ProgramElsewhere { name, packages } => Observation::ProgramElsewhere(program::elsewhere(self, name, packages)),
            Probe::Run { path, arguments, permission } => {
                let words: Vec<String> = std::iter::once(path).chain(arguments).cloned().collect();
                self.run_permitted(Path::new(path), &words, None, permission)
            }
            Probe::FileVersion { path } => os::file_version(&self.place(path)),
            Probe::RecordedVersion { tool, path } => {
                Observation::RecordedVersion(record::recorded(self, tool, &self.place(path)))
            }
            Probe::PortBinding(place) => port::binding(place),
            Probe::PortHolder(place) => port_unit::with_unit(self, place, os::port_holder(self, place)),
            Probe::FreePort(place) => port::free_above(self, place),
            Probe::SettingNumber(by) => setting::number(self, by),
            Probe::SettingText { by, shape } => setting::text(self, by, shape),
            Probe::DiskRoom { path } => os::disk_room(&self.place(path)),
            Probe::Memory => os::memory(),
            Probe::Cores => os::cores(),
            Probe::Processor => os::processor(),
            Probe::Hypervisor => os::hypervisor(),
            Probe::Device { path, access } => os::device(&self.place(path), *access),
            Probe::Path { path, pattern: Some(asked) } if let Some(reason) = self.spelled_out.refusal(self, path, asked) => {
                Observation::CouldNotLook(reason.to_owned())
            }
            Probe::Path { path, pattern: wanted } => os::path_state(self, &self.place(path), pattern(wanted.as_ref()).as_ref()),
            Probe::StartupLine { file, line } => {
                let text = self.kept.text(&self.place(file));
                Observation::StartupLine(text.lines().any(|other| other.trim() == line))
            }
            Probe::Within { path } => os::within(&self.place(path)),
            Probe::Variable { name, env_file, pattern: wanted } => {
                variable::state(self, name, env_file.as_deref(), pattern(wanted.as_ref()).as_ref())
            }
            Probe::Group { name } => os::has_group(self, name),
            Probe::Socket { path } => os::socket(&self.place(path)),
            Probe::Connection { host, port } => network::connection(self, host, *port),
            Probe::Fetch { url, pattern: wanted, way } => network::fetch(self, url, pattern(wanted.as_ref()), *way),
            Probe::Online => network::online(),
            Probe::SystemProxy => os::system_proxy(),
            Probe::SystemService { name } => os::system_service(name),
            Probe::Addresses { name } => network::addresses(self, name),
            Probe::Networks => os::networks(),
            Probe::Limit { name } => os::limit(*name, &self.folder),
            Probe::Locales => os::locales(self),
            Probe::Library { name } => library::state(name, self.home.as_deref()),
            Probe::Setting { of, key, pattern: wanted } => checkout::setting(self, of, key, pattern(wanted.as_ref()).as_ref()),
            Probe::Checkout { path, submodules, large_files, clean, history, tags, line_ends } => {
                let (submodules, large_files, clean) = (*submodules, *large_files, *clean);
                let (history, tags, line_ends) = (*history, *tags, *line_ends);
                let asked = checkout::Asked { submodules, large_files, clean, history, tags, line_ends };
                checkout::checkout(self, &self.place(path), asked)
            }
            Probe::Command { words, timeout_ms, permission } => self.command(words, *timeout_ms, permission),
            Probe::Candidate { manager, package } => {
                let mut answers = package::would_install_all(self, *manager, &[package]);
                answers.pop().unwrap_or_else(|| Observation::CouldNotLook("the manager was not asked".to_owned()))
            }
            Probe::Provider { manager, program } => package::provider(self, *manager, program),
            Probe::PackageOf { file } => Observation::PackageOf(package::owner(self, file)),
            Probe::ManagerState { manager } => package::state(self, *manager),
            Probe::Pinned { file, tools, pattern } => self.pinned(file, tools, pattern.as_deref()),
            Probe::Module { name } => os::module(name),
            Probe::Usb { id } => os::usb(id),
            Probe::ClockBeside { url } => network::clock_beside(self, url),
            Probe::LanguageModule { language, program, name } => component::module(self, *language, Path::new(program), name),
            Probe::LanguageHeaders { language, program } => component::headers(self, *language, Path::new(program)),
            Probe::Installed { manager, package } => component::installed(self, *manager, package),
            Probe::LeadsTo { variable, program } => component::leads_to(variable, Path::new(program)),
        }
    }
}
