//! What an assessment sees: the table of what is known, through a window that takes note of what was looked at and what is missing.

use crate::condition::{Fact, Facts, Flag};
use crate::finding::{Finding, General};
use crate::guide::{Access, Checkout, Command, Guide, Language, LimitKind, SetBy, ValueShape, VersionFrom};
use crate::guide_ports::GuidePorts;
use crate::known::{Answer, Known};
use crate::ledger::DiskLedger;
use crate::manager::Manager;
use crate::observation::{
    AccessDenied, Account, Binding, Candidate, CheckoutState, Connection, CoreState, DeviceState, DiskRoom, Fetched, Holder,
    Hypervisor, InstalledState, Leads, LibraryState, LimitState, ManagerState, MemoryState, Network, Observation, Os, PathState,
    Pinned, Processor, ProgramCopy, Recorded, Run, SettingNumber, SettingText, SocketState, Surroundings, System, SystemProxy,
    SystemService, Value, VariableState, Way,
};
use crate::prelude::*;
use crate::probe::{Permission, PortPlace, Probe};
use crate::selection::Selection;
use crate::settled::RequirementResult;
use crate::text::Pattern;
use crate::version::Version;
use core::cell::RefCell;
use core::net::IpAddr;
use hashbrown::{HashMap, HashSet};

/// Why an assessment cannot go on.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Stop {
    /// Answers are missing that can still come.
    Pending,
    /// An answer came, and it is that there is none.
    NoAnswer(General),
}

/// All that an assessment may look at.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Context<'a> {
    /// The guide.
    pub guide: &'a Guide,
    /// What was chosen to be checked.
    pub selection: &'a Selection,
    /// What is known about the machine.
    pub known: &'a Known,
    /// What would be known after something that is not done yet: it stands before what is known.
    pub predicted: Option<&'a Known>,
    /// What it waits for counts as done.
    pub ahead: bool,
    /// Where the guide speaks of ports.
    pub ports: &'a GuidePorts,
    /// The versions that were found in what programs print.
    pub versions: &'a FoundVersions,
    /// What came of each requirement so far.
    pub settled: &'a [Option<RequirementResult>],
    /// What all disk requirements need together, once it is known.
    pub disk_ledger: Option<&'a DiskLedger>,
}

/// Versions that were found in what programs print: by the place of the answer, which is kept as long as this is, and the name that was asked for.
#[derive(Debug, Default)]
pub(crate) struct FoundVersions(RefCell<HashMap<usize, Vec<FoundVersion>>>);

/// The name that a program was asked by, and the version that was found for it.
type FoundVersion = (String, Option<Version>);

/// Stands for the values of a guide where requirements are waited for.
pub(crate) const VALUES: usize = usize::MAX - 1;
/// Stands for the disk ledger where requirements are waited for.
pub(crate) const DISK_LEDGER: usize = usize::MAX;

/// One assessment's window on what is known.
#[derive(Debug)]
pub(crate) struct Inquiry<'a> {
    /// All that may be looked at.
    pub context: Context<'a>,
    missing: Vec<Probe>,
    waits_for: Vec<usize>,
    cited: Vec<Answer>,
    cited_probes: HashSet<*const Probe>,
    /// A finding is made: what is looked at for its fixes is no evidence of it.
    cites: bool,
    /// Answers that this one rests on together with others.
    pub(crate) shared: Option<Arc<[Answer]>>,
}

impl<'a> Inquiry<'a> {
    /// A window on this context.
    pub(crate) fn new(context: Context<'a>) -> Self {
        Self {
            context,
            missing: Vec::new(),
            waits_for: Vec::new(),
            cited: Vec::new(),
            cited_probes: HashSet::new(),
            cites: true,
            shared: None,
        }
    }

    fn known(&self, probe: &Probe) -> Option<&'a Answer> {
        self.context.predicted.and_then(|predicted| predicted.get(probe)).or_else(|| self.context.known.get(probe))
    }

    /// Notes that this answer will be needed, so that it can be asked for together with others.
    pub(crate) fn want(&mut self, probe: Probe) {
        if self.known(&probe).is_none() {
            self.missing.push(probe);
        }
    }

    /// The version in what a program printed when it was asked by this name: found once for all that look at the same answer.
    pub(crate) fn version_in(&self, name: &str, run: &Run, find: impl FnOnce() -> Option<Version>) -> Option<Version> {
        // What is only predicted is not kept.
        if self.context.predicted.is_some() {
            return find();
        }
        let place = core::ptr::from_ref(run).addr();
        let known = |found: &Vec<FoundVersion>| found.iter().find(|(of, _)| of == name).map(|(_, version)| version.clone());
        if let Some(version) = self.context.versions.0.borrow().get(&place).and_then(known) {
            return version;
        }
        let version = find();
        self.context.versions.0.borrow_mut().entry(place).or_default().push((name.to_owned(), version.clone()));
        version
    }

    /// What another requirement's finding is.
    ///
    /// # Errors
    /// When it is still to come.
    pub(crate) fn finding(&mut self, index: usize) -> Result<&'a Finding, Stop> {
        self.settled(index).map(|settled| &*settled.finding)
    }

    /// Notes that another requirement's finding is needed.
    pub(crate) fn wait_for(&mut self, index: usize) {
        self.waits_for.push(index);
    }

    /// What came of another requirement, with its fixes.
    ///
    /// # Errors
    /// When it is still to come.
    pub(crate) fn settled(&mut self, index: usize) -> Result<&'a RequirementResult, Stop> {
        if let Some(Some(settled)) = self.context.settled.get(index) {
            return Ok(settled);
        }
        self.waits_for.push(index);
        Err(Stop::Pending)
    }

    /// The machine's architecture, where it is known; it is evidence only where [`Inquiry::system`] is asked too.
    ///
    /// # Errors
    /// When the answer is still to come: what depends on it must not depend on when it comes.
    pub(crate) fn arch(&mut self) -> Result<Option<&'a str>, Stop> {
        Ok(self.uncited_system()?.map(|system| system.arch.as_str()))
    }

    /// Which system this is, where it is known; evidence as with [`Inquiry::arch`].
    ///
    /// # Errors
    /// When the answer is still to come.
    pub(crate) fn os(&mut self) -> Result<Option<Os>, Stop> {
        Ok(self.uncited_system()?.map(|system| system.os))
    }

    fn uncited_system(&mut self) -> Result<Option<&'a System>, Stop> {
        let Some(answer) = self.known(&Probe::System) else {
            self.want(Probe::System);
            return Err(Stop::Pending);
        };
        Ok(if let Observation::System(system) = &*answer.observation { Some(system) } else { None })
    }

    /// The version that the installation of a tool states, where one does for certain; evidence only where [`Inquiry::recorded_version`] is asked too.
    ///
    /// # Errors
    /// When the answer is still to come.
    pub(crate) fn uncited_record(&mut self, tool: &str, path: &str) -> Result<Option<&'a Recorded>, Stop> {
        let probe = Probe::RecordedVersion { tool: tool.to_owned(), path: path.to_owned() };
        let Some(answer) = self.known(&probe) else {
            self.want(probe);
            return Err(Stop::Pending);
        };
        Ok(if let Observation::RecordedVersion(recorded) = &*answer.observation { recorded.as_ref() } else { None })
    }

    /// What all disk requirements need together.
    ///
    /// # Errors
    /// When it is still to come.
    pub(crate) fn disk_ledger(&mut self) -> Result<&'a DiskLedger, Stop> {
        self.context.disk_ledger.ok_or_else(|| {
            self.waits_for.push(DISK_LEDGER);
            Stop::Pending
        })
    }

    /// The questions that are still to be answered, and the requirements whose findings are still to come.
    pub(crate) fn into_open(self) -> (Vec<Probe>, Vec<usize>) {
        (self.missing, self.waits_for)
    }

    /// The answers that were looked at so far, in order; what is looked at from now on is no evidence.
    pub(crate) fn take_cited(&mut self) -> Vec<Answer> {
        self.cites = false;
        core::mem::take(&mut self.cited)
    }

    fn answer<T>(&mut self, probe: Probe, read: impl FnOnce(&'a Observation) -> Option<T>) -> Result<T, Stop> {
        let Some(answer) = self.known(&probe) else {
            self.want(probe);
            return Err(Stop::Pending);
        };
        if self.cites && self.cited_probes.insert(Arc::as_ptr(&answer.probe)) {
            self.cited.push(answer.clone());
        }
        let observation = &*answer.observation;
        if let Observation::CouldNotLook(reason) = observation {
            return Err(Stop::NoAnswer(General::CouldNotLook { reason: reason.clone() }));
        }
        if let Observation::NotSupported(reason) = observation {
            return Err(Stop::NoAnswer(General::NotSupported { reason: reason.clone() }));
        }
        read(observation).ok_or_else(|| {
            Stop::NoAnswer(General::CouldNotLook { reason: format!("the machine answered something else to: {probe}") })
        })
    }
}

fn source(pattern: Option<&Pattern>) -> Option<String> {
    pattern.map(|pattern| pattern.source().to_owned())
}

macro_rules! questions {
    ($($(#[$doc:meta])* $name:ident($($argument:ident: $type:ty),*) -> $answer:ty = $variant:ident, $probe:expr;)+) => {
        /// The questions. Each gives the machine's answer, or says why there is none yet.
        #[allow(clippy::missing_errors_doc, reason = "the one reason for an error is told once, above")]
        impl<'a> Inquiry<'a> {
            $(
                $(#[$doc])*
                pub(crate) fn $name(&mut self, $($argument: $type),*) -> Result<&'a $answer, Stop> {
                    self.answer($probe, |observation| if let Observation::$variant(answer) = observation { Some(answer) } else { None })
                }
            )+
        }
    };
}

questions! {
    /// The operating system.
    system() -> System = System, Probe::System;
    /// Container, virtual machine, guest.
    surroundings() -> Surroundings = Surroundings, Probe::Surroundings;
    /// The person's account.
    account() -> Account = Account, Probe::Account;
    /// The account database's groups for the person.
    database_groups() -> Vec<String> = DatabaseGroups, Probe::DatabaseGroups;
    /// Package managers.
    managers() -> Vec<Manager> = Managers, Probe::Managers;
    /// Copies of a program on PATH.
    program(name: &str) -> Vec<ProgramCopy> = Program, Probe::Program { name: name.to_owned() };
    /// Copies of a program in usual folders off PATH.
    program_elsewhere(name: &str, packages: &[(Manager, String)]) -> Vec<ProgramCopy> = ProgramElsewhere,
        Probe::ProgramElsewhere { name: name.to_owned(), packages: packages.to_vec() };
    /// What a program prints.
    run(path: &str, arguments: &[String], permission: Permission) -> Run = Run,
        Probe::Run { path: path.to_owned(), arguments: arguments.to_vec(), permission };
    /// The version that a program's file states.
    file_version(path: &str) -> Option<String> = FileVersion, Probe::FileVersion { path: path.to_owned() };
    /// The version that the installation of a tool states.
    recorded_version(tool: &str, path: &str) -> Option<Recorded> = RecordedVersion,
        Probe::RecordedVersion { tool: tool.to_owned(), path: path.to_owned() };
    /// Whether a port can be bound.
    port_binding(place: &PortPlace) -> Binding = PortBinding, Probe::PortBinding(place.clone());
    /// Who holds a port.
    port_holder(place: &PortPlace) -> Option<Holder> = PortHolder, Probe::PortHolder(place.clone());
    /// A free port above one.
    free_port(place: &PortPlace) -> Option<u16> = FreePort, Probe::FreePort(place.clone());
    /// The number that a setting holds.
    setting_number(by: &SetBy) -> SettingNumber = SettingNumber, Probe::SettingNumber(by.clone());
    /// The text that a setting holds.
    setting_text(by: &SetBy, shape: &ValueShape) -> SettingText = SettingText,
        Probe::SettingText { by: by.clone(), shape: shape.clone() };
    /// Room on a disk.
    disk_room(path: &str) -> DiskRoom = DiskRoom, Probe::DiskRoom { path: path.to_owned() };
    /// Memory.
    memory() -> MemoryState = Memory, Probe::Memory;
    /// Cores.
    cores() -> CoreState = Cores, Probe::Cores;
    /// The processor's virtualization.
    processor() -> Processor = Processor, Probe::Processor;
    /// The system's own hypervisor.
    hypervisor() -> Hypervisor = Hypervisor, Probe::Hypervisor;
    /// Whether a device opens.
    device(path: &str, access: Access) -> DeviceState = Device, Probe::Device { path: path.to_owned(), access };
    /// What is at a path.
    path(path: &str, pattern: Option<&Pattern>) -> PathState = Path, Probe::Path { path: path.to_owned(), pattern: source(pattern) };
    /// The same, searched for one of our own patterns, which is known to be one.
    path_searched(path: &str, pattern: &str) -> PathState = Path, Probe::Path { path: path.to_owned(), pattern: Some(pattern.to_owned()) };
    /// Whether a start-up file has a line.
    startup_line(file: &str, line: &str) -> bool = StartupLine,
        Probe::StartupLine { file: file.to_owned(), line: line.to_owned() };
    /// Whether all that is in a folder is this user's to change.
    within(path: &str) -> Option<AccessDenied> = Within, Probe::Within { path: path.to_owned() };
    /// Where a variable is set.
    variable(name: &str, env_file: Option<&str>, pattern: Option<&Pattern>) -> VariableState = Variable,
        Probe::Variable { name: name.to_owned(), env_file: env_file.map(ToOwned::to_owned), pattern: source(pattern) };
    /// Whether the account database has a group.
    group(name: &str) -> bool = Group, Probe::Group { name: name.to_owned() };
    /// Whether somebody answers at a socket.
    socket(path: &str) -> SocketState = Socket, Probe::Socket { path: path.to_owned() };
    /// Whether somebody takes a connection.
    connection(host: &str, port: u16) -> Connection = Connection, Probe::Connection { host: host.to_owned(), port };
    /// What an address answers by HTTP.
    fetch(url: &str, pattern: Option<&Pattern>, way: Way) -> Fetched = Fetched, Probe::Fetch { url: url.to_owned(), pattern: source(pattern), way };
    /// The proxy of the system's own settings.
    system_proxy() -> SystemProxy = SystemProxy, Probe::SystemProxy;
    /// Whether a service of the system runs.
    system_service(name: &str) -> SystemService = SystemService, Probe::SystemService { name: name.to_owned() };
    /// Whether there is a way out.
    online() -> bool = Online, Probe::Online;
    /// Where a host name leads.
    addresses(name: &str) -> Vec<IpAddr> = Addresses, Probe::Addresses { name: name.to_owned() };
    /// The networks that the machine is on.
    networks() -> Vec<Network> = Networks, Probe::Networks;
    /// A limit of the system.
    limit(kind: LimitKind) -> LimitState = Limit, Probe::Limit { name: kind };
    /// The locales that are made here.
    locales() -> Vec<String> = Locales, Probe::Locales;
    /// A library.
    library(name: &str) -> LibraryState = Library, Probe::Library { name: name.to_owned() };
    /// A module of an interpreter.
    language_module(language: Language, program: &str, name: &str) -> InstalledState = Installed,
        Probe::LanguageModule { language, program: program.to_owned(), name: name.to_owned() };
    /// The headers of an interpreter.
    language_headers(language: Language, program: &str) -> InstalledState = Installed,
        Probe::LanguageHeaders { language, program: program.to_owned() };
    /// Whether a package is installed.
    installed(manager: Manager, package: &str) -> InstalledState = Installed,
        Probe::Installed { manager, package: package.to_owned() };
    /// How far this clock is ahead of another.
    clock_beside(url: &str) -> Option<i64> = ClockBeside, Probe::ClockBeside { url: url.to_owned() };
    /// Whether a device is connected by USB.
    usb(id: &str) -> bool = Usb, Probe::Usb { id: id.to_owned() };
    /// Whether the kernel has a module.
    kernel_module(name: &str) -> bool = Module, Probe::Module { name: name.to_owned() };
    /// Whether a variable leads to the kit of a program.
    leads_to(variable: &str, program: &str) -> Leads = Leads,
        Probe::LeadsTo { variable: variable.to_owned(), program: program.to_owned() };
    /// A setting of the version control.
    setting(of: &str, key: &str, pattern: Option<&Pattern>) -> Value = Setting,
        Probe::Setting { of: of.to_owned(), key: key.to_owned(), pattern: source(pattern) };
    /// The state of a working copy.
    checkout(wanted: &Checkout) -> CheckoutState = Checkout, Probe::Checkout {
        path: wanted.path.clone(), submodules: wanted.submodules, large_files: wanted.large_files, clean: wanted.clean,
        history: wanted.history, tags: wanted.tags, line_ends: wanted.line_ends,
    };
    /// What a command of the guide does.
    command(wanted: &Command, permission: Permission) -> Run = Run,
        Probe::Command { words: wanted.words.clone(), timeout_ms: wanted.timeout_ms, permission };
    /// What a package manager would install.
    candidate(manager: Manager, package: &str) -> Candidate = Candidate,
        Probe::Candidate { manager, package: package.to_owned() };
    /// The package that has a program.
    provider(manager: Manager, program: &str) -> Option<String> = Provider, Probe::Provider { manager, program: program.to_owned() };
    /// The installed package that has a file.
    package_of(file: &str) -> Option<(Manager, String)> = PackageOf, Probe::PackageOf { file: file.to_owned() };
    /// How a package manager stands.
    manager_state(manager: Manager) -> ManagerState = ManagerState, Probe::ManagerState { manager };
    /// The version that a file of the project asks for.
    pinned(from: &VersionFrom, tools: &[String]) -> Pinned = Pinned,
        Probe::Pinned { file: from.file.clone(), tools: tools.to_vec(), pattern: source(from.pattern.as_ref()) };
}

/// An answer that there is none is an unknown fact here.
pub(crate) fn if_known<T>(answer: Result<T, Stop>) -> Result<Option<T>, Stop> {
    match answer {
        Ok(value) => Ok(Some(value)),
        Err(Stop::NoAnswer(_)) => Ok(None),
        Err(Stop::Pending) => Err(Stop::Pending),
    }
}

impl Facts<Stop> for Inquiry<'_> {
    fn flag(&mut self, flag: Flag) -> Result<Option<bool>, Stop> {
        let is = |inquiry: &mut Self, os: Os| Ok(if_known(inquiry.system())?.map(|system| system.os == os));
        let surroundings =
            |inquiry: &mut Self, read: fn(&Surroundings) -> Option<bool>| Ok(if_known(inquiry.surroundings())?.and_then(read));
        match flag {
            Flag::Linux => is(self, Os::Linux),
            Flag::Macos => is(self, Os::Macos),
            Flag::Windows => is(self, Os::Windows),
            Flag::Wsl => surroundings(self, |around| around.wsl),
            Flag::Container => surroundings(self, |around| around.container),
            Flag::VirtualMachine => surroundings(self, |around| around.virtual_machine),
            Flag::Ci => surroundings(self, |around| around.ci),
            Flag::Admin => Ok(if_known(self.account())?.and_then(|account| account.admin)),
        }
    }

    fn values(&mut self, fact: Fact) -> Result<Option<Vec<String>>, Stop> {
        let one = |value: &Option<String>| value.clone().map(|value| vec![value]);
        match fact {
            Fact::Shell => Ok(if_known(self.account())?.and_then(|account| one(&account.shell))),
            Fact::Manager => {
                let word = |manager: &Manager| manager.word().to_owned();
                Ok(if_known(self.managers())?.map(|managers| managers.iter().map(word).collect()))
            }
            Fact::Arch | Fact::Distro | Fact::DistroVersion | Fact::OsVersion | Fact::Edition => {
                Ok(if_known(self.system())?.and_then(|system| match fact {
                    Fact::Arch => Some(vec![system.arch.clone()]),
                    Fact::Distro => {
                        // A system without distributions has none, which is known.
                        let linux = system.os == Os::Linux && system.distro.is_none();
                        (!linux).then(|| system.distro.iter().chain(&system.distro_like).cloned().collect())
                    }
                    Fact::DistroVersion => one(&system.distro_version),
                    Fact::OsVersion => one(&system.version),
                    Fact::Edition => one(&system.edition),
                    Fact::Shell | Fact::Manager => None,
                }))
            }
        }
    }
}
