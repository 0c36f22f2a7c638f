//! The raw answers of a machine. An observation judges nothing: it is the text a program printed, not the version in it.

mod display;
mod network;
mod package;
mod place;
mod project;
pub(crate) mod system;
mod whole;

pub use display::cores_text;
pub use network::{Connection, Fetched, Network, SocketState, SystemProxy, SystemService, Way};
pub use package::{Bar, Candidate, ManagerState, Offered, Trial};
pub use place::{AccessDenied, FileType, MountBar, PathState, ScriptTrouble};
pub use project::{
    CheckoutState, InstalledState, Leads, LibraryState, LimitState, Pinned, StartupOutcome, Unfinished, Value, VariableState,
};
pub use system::{Os, Surroundings, System};

use crate::manager::Manager;
use crate::prelude::*;
use serde::{Deserialize, Serialize};

/// The answer to a [`crate::probe::Probe`]; one variant per question, and two for no answer.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Observation {
    /// To `System`.
    System(System),
    /// To `Surroundings`.
    Surroundings(Surroundings),
    /// To `Account`.
    Account(Account),
    /// To `DatabaseGroups`.
    DatabaseGroups(Vec<String>),
    /// To `Managers`.
    Managers(Vec<Manager>),
    /// To `Program`: the copies in PATH order.
    Program(Vec<ProgramCopy>),
    /// To `ProgramElsewhere`: copies in usual folders that PATH does not name.
    ProgramElsewhere(Vec<ProgramCopy>),
    /// To `Run`.
    Run(Run),
    /// To `StartupLine`.
    StartupLine(bool),
    /// To `RecordedVersion`; none where no place states it for certain.
    RecordedVersion(Option<Recorded>),
    /// To `FileVersion`; none where the file states none.
    FileVersion(Option<String>),
    /// To `PortBinding`.
    PortBinding(Binding),
    /// To `PortHolder`: none where the system does not tell.
    PortHolder(Option<Holder>),
    /// To `FreePort`.
    FreePort(Option<u16>),
    /// To `SettingNumber`.
    SettingNumber(SettingNumber),
    /// To `SettingText`.
    SettingText(SettingText),
    /// To `DiskRoom`.
    DiskRoom(DiskRoom),
    /// To `Memory`.
    Memory(MemoryState),
    /// To `Cores`.
    Cores(CoreState),
    /// To `Processor`.
    Processor(Processor),
    /// To `Hypervisor`.
    Hypervisor(Hypervisor),
    /// To `Path`.
    Path(PathState),
    /// To `Within`: the first thing found that is not this user's to change.
    Within(Option<AccessDenied>),
    /// To `Variable`.
    Variable(VariableState),
    /// To `Group`: the account database has it.
    Group(bool),
    /// To `Socket`.
    Socket(SocketState),
    /// To `Connection`.
    Connection(Connection),
    /// To `Fetch`.
    Fetched(Fetched),
    /// To `SystemProxy`.
    SystemProxy(SystemProxy),
    /// To `SystemService`.
    SystemService(SystemService),
    /// To `Online`.
    Online(bool),
    /// To `Addresses`; none where the name leads nowhere.
    Addresses(Vec<core::net::IpAddr>),
    /// To `Networks`.
    Networks(Vec<Network>),
    /// To `Limit`.
    Limit(LimitState),
    /// To `Locales`: their names, as the system lists them.
    Locales(Vec<String>),
    /// To `Library`.
    Library(LibraryState),
    /// To `Setting`.
    Setting(Value),
    /// To `Checkout`.
    Checkout(CheckoutState),
    /// To `Candidate`.
    Candidate(Candidate),
    /// To `Provider`: its name, where its lists know one.
    Provider(Option<String>),
    /// To `PackageOf`: its manager and its name; `None` where no installed package names such a file.
    PackageOf(Option<(Manager, String)>),
    /// To `ManagerState`.
    ManagerState(ManagerState),
    /// To `Pinned`.
    Pinned(Pinned),
    /// To `Device`.
    Device(DeviceState),
    /// To `LanguageModule`, `LanguageHeaders` and `Installed`.
    Installed(InstalledState),
    /// To `LeadsTo`.
    Leads(Leads),
    /// To `ClockBeside`: how many milliseconds this clock is ahead; none where the answer says no time.
    ClockBeside(Option<i64>),
    /// To `Usb`: whether such a device is connected.
    Usb(bool),
    /// To `Module`: whether it is loaded or built in.
    Module(bool),
    /// The machine failed or refused to answer, for this reason.
    CouldNotLook(String),
    /// Nobody knows how to look on this system, for this reason.
    NotSupported(String),
}

/// A program that runs a command as administrator. The list is closed: its word is put before commands, so nobody may make one up.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Elevator {
    /// sudo(8).
    Sudo,
    /// doas(1).
    Doas,
}

impl Elevator {
    /// Every one, the usual one first.
    pub const ALL: [Self; 2] = [Self::Sudo, Self::Doas];

    /// Their words, in the same order.
    pub const WORDS: [&'static str; 2] = [Self::Sudo.word(), Self::Doas.word()];

    /// The word that is put before a command.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Sudo => "sudo",
            Self::Doas => "doas",
        }
    }
}

/// The person's account, as this session has it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Account {
    /// The name; none where the account database has none.
    pub name: Option<String>,
    /// This is the administrator itself.
    pub root: bool,
    /// Whether the person can act as administrator; `None` where it cannot be found out.
    pub admin: Option<bool>,
    /// The program to act as administrator with, where one is here.
    pub elevate: Option<Elevator>,
    /// The groups in force in this session.
    pub groups: Vec<String>,
    /// The shell's name.
    pub shell: Option<String>,
    /// The file that the shell reads when it starts.
    pub startup_file: Option<String>,
}

/// One copy of a program.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct ProgramCopy {
    /// Where PATH finds it.
    pub path: String,
    /// The file behind all links.
    pub real_path: String,
    /// This user may execute it.
    pub executable: bool,
    /// The project brings it: by its own place, by what it leads to, or by what starts it.
    pub in_project: bool,
    /// The entry of PATH that it was found by means another folder wherever one happens to be.
    #[serde(default, skip_serializing_if = "core::ops::Not::not")]
    pub by_relative_entry: bool,
    /// What the file is, by its first bytes.
    pub kind: FileKind,
    /// Pieces that it cannot start without and that are not there, where the file tells.
    pub lacks: Vec<Piece>,
    /// What starting it would do to the person.
    pub start: StartEffect,
    /// What it starts in turn, where it only stands in for the programs of a version manager.
    #[serde(default, skip_serializing_if = "Choice::is_itself")]
    pub choice: Choice,
}

/// The version that the installation of a tool states.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Recorded {
    /// The version, as it stands there.
    pub version: String,
    /// The file that states it.
    pub file: String,
    /// What the tool runs on, without which it would not start.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub runs_on: Option<RunsOn>,
}

/// An interpreter that a tool runs on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct RunsOn {
    /// Its name, for a program on PATH.
    pub name: String,
    /// The file, where the tool names that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub path: Option<String>,
    /// The versions that do, as a guide's range.
    pub range: String,
}

/// What a program that PATH finds comes down to in the project's folder.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Choice {
    /// It is the program.
    #[default]
    Itself,
    /// It stands in for this file, which is what is asked and what `kind`, `lacks` and `real_path` speak of.
    Other(String),
    /// It stands in for something that is not installed.
    Absent {
        /// What that is.
        what: String,
        /// Where it is asked for.
        said_in: String,
    },
    /// It chooses by the folder, in a way that cannot be read without starting it there.
    Unclear,
}

impl Choice {
    /// Whether it is the program itself.
    pub fn is_itself(&self) -> bool {
        *self == Self::Itself
    }
}

impl ProgramCopy {
    /// Whether it is the person's own: neither the project's, nor found by chance.
    pub fn is_the_persons(&self) -> bool {
        !self.in_project && !self.by_relative_entry
    }

    /// The file that is started to ask it something.
    pub fn asked(&self) -> &str {
        if let Choice::Other(path) = &self.choice { path } else { &self.path }
    }
}

/// What starting a program would do to the person at the screen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum StartEffect {
    /// Nothing that they would notice.
    #[default]
    Quiet,
    /// It opens a window: it is no program for a terminal.
    Window,
    /// The system stops it and asks, since it is marked as downloaded and nobody has allowed it yet.
    Question,
}

/// Something that a program needs to be started.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Piece {
    /// The interpreter that a script names in its first line.
    Interpreter(String),
    /// The system's loader that the file asks for.
    Loader(String),
    /// A shared library.
    Library(String),
}

impl Piece {
    /// Its name or path.
    pub fn name(&self) -> &str {
        match self {
            Self::Interpreter(name) | Self::Loader(name) | Self::Library(name) => name,
        }
    }
}

/// What a program's file is, by its first bytes; it is not started for that.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum FileKind {
    /// Built for these architectures.
    Built(Vec<String>),
    /// A script for this interpreter.
    Script(String),
    /// It only stands in for the program: starting it would open an installer.
    Placeholder,
    /// Nothing that is known, or it cannot be read.
    #[default]
    Unknown,
}

/// What running a program gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Run {
    /// How it ended.
    pub end: RunEnd,
    /// The first 64 KiB of its standard output.
    pub stdout: String,
    /// The first 64 KiB of its standard error.
    pub stderr: String,
    /// There was more than was kept.
    pub cut: bool,
}

impl Run {
    /// A program that could not be started, for this reason.
    pub fn not_started(failure: StartFailure, reason: impl Into<String>) -> Self {
        let end = RunEnd::NotStarted(failure, reason.into());
        Self { end, stdout: String::new(), stderr: String::new(), cut: false }
    }
}

/// How a program ended.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum RunEnd {
    /// By itself, with this status.
    Exit(i32),
    /// By this signal.
    Signal(i32),
    /// It was stopped after so many milliseconds.
    TimeUp(u64),
    /// It was stopped because the person interrupted.
    Interrupted,
    /// It could not be started.
    NotStarted(StartFailure, String),
}

/// Why a program could not be started.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum StartFailure {
    /// There is no such program.
    NotFound,
    /// The file is there, but its loader or interpreter is not.
    PieceMissing,
    /// The file is there, but one of its libraries is not, or does not fit.
    LibraryMissing,
    /// The system refuses the file's format.
    Format,
    /// This user may not execute it.
    Denied,
    /// The machine cannot start any program: too many files or processes, no null device.
    NothingStarts,
    /// Something else.
    Other,
}

/// What binding a port gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Binding {
    /// It worked.
    Free,
    /// The address is in use.
    Held,
    /// It is refused; ordinary users may bind from this number on, where the system tells.
    Denied(Option<u16>),
    /// The system has reserved it.
    Reserved,
    /// The machine does not have the address.
    NoAddress,
}

/// Who holds a port.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct Holder {
    /// The process id, where the system tells.
    pub pid: Option<u32>,
    /// The program's name, where the system tells.
    pub name: Option<String>,
    /// The program as it was started, with at most the script that it runs; further arguments may hold secrets.
    pub command: Option<String>,
    /// The user, where it is another one.
    pub user: Option<String>,
    /// It is this end of an outgoing connection: the system took the number from this range, first and last.
    pub outgoing: Option<(u16, u16)>,
    /// The unit of the system's service manager that has it, where one does: a service, or a socket that starts one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
}

impl Holder {
    /// Whether the system tells which program it is.
    pub fn is_told(&self) -> bool {
        self.pid.is_some() || self.name.is_some() || self.unit.is_some()
    }
}

/// What a setting for a number holds. The value itself is kept only where it is a number.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum SettingNumber {
    /// Nothing sets it.
    Unset,
    /// This number, set there.
    Number(u64, String),
    /// Something that is no number, set there.
    NotANumber(String),
}

/// What a setting for a thing of some kind holds. The value itself is kept only where it is of that kind.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum SettingText {
    /// Nothing sets it.
    Unset,
    /// This, set there.
    Text(String, String),
    /// Something of another kind, set there.
    Other(String),
}

/// Room on a filesystem.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct DiskRoom {
    /// The path as the system knows it.
    pub path: String,
    /// The nearest parent that exists (the path itself, if it does).
    pub existing: String,
    /// What is the same for two places on one filesystem.
    pub filesystem: String,
    /// What this user may still write, in bytes.
    pub available_bytes: u64,
    /// How many files may still be made; none where the filesystem does not count them.
    pub available_inodes: Option<u64>,
    /// What leaves less than the filesystem has, where something does.
    pub limited_by: Option<DiskLimit>,
    /// The filesystem is mounted read-only.
    pub read_only: bool,
    /// This user may write in the existing folder.
    pub writable: bool,
}

/// What leaves less room than a filesystem has.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum DiskLimit {
    /// This user's quota.
    Quota,
    /// The disk of the system outside, on which this filesystem is a file: where it is seen from here.
    Outside(String),
}

/// Something that lets one use less memory than there is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct MemoryCap {
    /// Who sets it, for a sentence: "the control group /user.slice".
    pub by: String,
    /// How much is left, in bytes.
    pub bytes: u64,
}

/// Something that lets one use fewer cores than there are.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct CoreCap {
    /// Who sets it, for a sentence.
    pub by: String,
    /// How much is left, in hundredths of a core.
    pub hundredths: u64,
}

/// Memory in bytes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct MemoryState {
    /// What the machine has.
    pub total: u64,
    /// What can be had now without swapping.
    pub available: Option<u64>,
    /// Limits on it.
    pub caps: Vec<MemoryCap>,
    /// The room that it may be put into, where the system has a fixed one.
    #[serde(default)]
    pub swap: Option<u64>,
}

/// Processor cores.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct CoreState {
    /// Cores that are online.
    pub online: u64,
    /// Limits on them.
    pub caps: Vec<CoreCap>,
}

/// What the processor says about virtualization. `None` is: could not be found out.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Processor {
    /// The processor itself, asked directly, names the ability.
    pub able: Option<bool>,
    /// The system offers it.
    pub offered: Option<bool>,
    /// The processor says that a hypervisor is in charge.
    pub hypervisor: Option<bool>,
}

/// The part of a system that gives hypervisors to programs, where that is not a device. `None` is: could not be found out.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Hypervisor {
    /// The optional feature of the system is switched on.
    pub enabled: Option<bool>,
    /// The system has started its hypervisor.
    pub started: Option<bool>,
    /// Another program holds the processor's virtualization.
    pub held_by: Option<String>,
}

/// What opening a device gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum DeviceState {
    /// It opens.
    Opens,
    /// It is not there.
    Missing,
    /// It is refused; the owning group and the permission bits, where the system tells.
    Denied(Option<String>, Option<u32>),
    /// It is there, and nothing answers behind it.
    Dead,
    /// Somebody else has it.
    Busy,
}
