//! The raw answers of a machine. An observation judges nothing: it is the text a program printed, not the version in it.

use crate::prelude::*;
use crate::text::Size;
use core::fmt::{self, Display};
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
    Managers(Vec<String>),
    /// To `Program`: the copies in PATH order.
    Program(Vec<ProgramCopy>),
    /// To `ProgramElsewhere`: copies in usual folders that PATH does not name.
    ProgramElsewhere(Vec<ProgramCopy>),
    /// To `Run`.
    Run(Run),
    /// To `PortBinding`.
    PortBinding(Binding),
    /// To `PortHolder`: none where the system does not tell.
    PortHolder(Option<Holder>),
    /// To `FreePort`.
    FreePort(Option<u16>),
    /// To `SettingNumber`.
    SettingNumber(SettingNumber),
    /// To `DiskRoom`.
    DiskRoom(DiskRoom),
    /// To `Memory`.
    Memory(Memory),
    /// To `Cores`.
    Cores(Cores),
    /// To `Processor`.
    Processor(Processor),
    /// To `Device`.
    Device(Device),
    /// To `Module`: whether it is loaded or built in.
    Module(bool),
    /// The machine failed or refused to answer, for this reason.
    CouldNotLook(String),
    /// Nobody knows how to look on this system, for this reason.
    NotSupported(String),
}

/// The operating systems.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Os {
    /// Linux.
    Linux,
    /// macOS.
    Macos,
    /// Windows.
    Windows,
}

impl Os {
    /// The word in guides and reports.
    pub fn word(self) -> &'static str {
        match self {
            Self::Linux => "linux",
            Self::Macos => "macos",
            Self::Windows => "windows",
        }
    }

    /// The name for people.
    pub fn name(self) -> &'static str {
        match self {
            Self::Linux => "Linux",
            Self::Macos => "macOS",
            Self::Windows => "Windows",
        }
    }
}

/// An operating system.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct System {
    /// Which one.
    pub os: Os,
    /// Its (kernel's) version.
    pub version: Option<String>,
    /// Its edition.
    pub edition: Option<String>,
    /// The distribution's id.
    pub distro: Option<String>,
    /// The ids of the families that it says it is like.
    pub distro_like: Vec<String>,
    /// The distribution's version.
    pub distro_version: Option<String>,
    /// Its name for people.
    pub pretty: Option<String>,
    /// The architecture, `x86_64` or `aarch64`.
    pub arch: String,
}

/// Where the system runs. `None` is: could not be found out.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Surroundings {
    /// A Linux guest inside Windows.
    pub wsl: Option<bool>,
    /// Inside a container.
    pub container: Option<bool>,
    /// Inside a virtual machine.
    pub virtual_machine: Option<bool>,
    /// On a build server.
    pub ci: Option<bool>,
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
    /// `sudo` or its like is here, to act as administrator with.
    pub elevate: Option<String>,
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
    /// It lies in the project's own folder.
    pub in_project: bool,
    /// What the file is, by its first bytes.
    pub kind: FileKind,
    /// Pieces that it cannot start without and that are not there, where the file tells.
    pub lacks: Vec<Piece>,
}

/// Something that a program needs to be started.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
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
    /// The file is there, but its loader or interpreter is not.
    PieceMissing,
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
    /// It is this user's quota that leaves no more, not the disk.
    pub by_quota: bool,
    /// The filesystem is mounted read-only.
    pub read_only: bool,
    /// This user may write in the existing folder.
    pub writable: bool,
}

/// Something that allows less than there is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Cap {
    /// Who sets it, for a sentence: "the control group /user.slice".
    pub by: String,
    /// Bytes, or hundredths of a core.
    pub amount: u64,
}

/// Memory in bytes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Memory {
    /// What the machine has.
    pub total: u64,
    /// What can be had now without swapping.
    pub available: Option<u64>,
    /// Limits on it.
    pub caps: Vec<Cap>,
}

/// Processor cores.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Cores {
    /// Cores that are online.
    pub online: u64,
    /// Limits on them, in hundredths of a core.
    pub caps: Vec<Cap>,
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

/// What opening a device gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Device {
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

/// What was seen, as evidence shows it, on one line or a few.
impl Display for Observation {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::System(system) => write!(f, "{system}"),
            Self::Surroundings(where_) => write!(f, "{where_}"),
            Self::Account(account) => {
                let groups = if account.groups.is_empty() { "none".to_owned() } else { account.groups.join(", ") };
                write!(f, "groups: {groups}")
            }
            Self::DatabaseGroups(groups) | Self::Managers(groups) if groups.is_empty() => f.write_str("none"),
            Self::DatabaseGroups(words) | Self::Managers(words) => f.write_str(&words.join(", ")),
            Self::Program(copies) | Self::ProgramElsewhere(copies) if copies.is_empty() => f.write_str("none"),
            Self::Program(copies) | Self::ProgramElsewhere(copies) => {
                let paths: Vec<&str> = copies.iter().map(|copy| copy.path.as_str()).collect();
                f.write_str(&paths.join(", "))
            }
            Self::Run(run) => write!(f, "{run}"),
            Self::PortBinding(binding) => f.write_str(match binding {
                Binding::Free => "free",
                Binding::Held => "in use",
                Binding::Denied(_) => "permission denied",
                Binding::Reserved => "reserved by the system",
                Binding::NoAddress => "no such address on this machine",
            }),
            Self::PortHolder(None) => f.write_str("the system does not tell"),
            Self::PortHolder(Some(holder)) => write!(f, "{holder}"),
            Self::FreePort(None) => f.write_str("none found"),
            Self::FreePort(Some(port)) => write!(f, "{port}"),
            Self::SettingNumber(SettingNumber::Unset) => f.write_str("not set"),
            Self::SettingNumber(SettingNumber::Number(number, place)) => write!(f, "{number}, set in {place}"),
            Self::SettingNumber(SettingNumber::NotANumber(place)) => write!(f, "not a number, set in {place}"),
            Self::DiskRoom(room) => write!(f, "{room}"),
            Self::Memory(memory) => {
                write_caps(f, &Size(memory.total).to_string(), &memory.caps, |amount| Size(amount).to_string())
            }
            Self::Cores(cores) => write_caps(f, &format!("{} online", cores.online), &cores.caps, cores_text),
            Self::Processor(processor) => write!(f, "{processor}"),
            Self::Device(device) => write!(f, "{device}"),
            Self::Module(true) => f.write_str("loaded"),
            Self::Module(false) => f.write_str("not loaded"),
            Self::CouldNotLook(reason) => write!(f, "could not look: {reason}"),
            Self::NotSupported(reason) => write!(f, "cannot be looked at here: {reason}"),
        }
    }
}

/// Hundredths of a core, for a sentence: `1.5`.
pub fn cores_text(hundredths: u64) -> String {
    match (hundredths / 100, hundredths % 100) {
        (whole, 0) => whole.to_string(),
        (whole, part) if part % 10 == 0 => format!("{whole}.{}", part / 10),
        (whole, part) => format!("{whole}.{part:02}"),
    }
}

fn write_caps(f: &mut fmt::Formatter<'_>, total: &str, caps: &[Cap], text: fn(u64) -> String) -> fmt::Result {
    f.write_str(total)?;
    caps.iter().try_for_each(|cap| write!(f, "; {} allows {}", cap.by, text(cap.amount)))
}

impl Display for System {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = self.os.name();
        match (&self.pretty, &self.version) {
            // The version of such a system is its own, not a kernel's.
            (Some(pretty), Some(version)) if pretty.contains(version.as_str()) => f.write_str(pretty)?,
            (Some(pretty), Some(version)) if self.os != Os::Linux => write!(f, "{pretty} ({version})")?,
            (Some(pretty), Some(version)) => write!(f, "{pretty}, {name} {version}")?,
            (Some(pretty), None) => f.write_str(pretty)?,
            (None, Some(version)) => write!(f, "{name} {version}")?,
            (None, None) => f.write_str(name)?,
        }
        write!(f, ", {}", self.arch)
    }
}

impl Surroundings {
    /// What it is, in words; empty for an ordinary machine.
    pub fn words(&self) -> Vec<&'static str> {
        let all = [
            (self.wsl, "a Linux inside Windows"),
            (self.container, "a container"),
            (self.virtual_machine, "a virtual machine"),
            (self.ci, "a build server"),
        ];
        all.into_iter().filter(|(holds, _)| *holds == Some(true)).map(|(_, word)| word).collect()
    }
}

impl Display for Surroundings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.words().as_slice() {
            [] => f.write_str("none of them"),
            words => f.write_str(&words.join(", ")),
        }
    }
}

impl Display for Run {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let end = match &self.end {
            RunEnd::Exit(0) => None,
            RunEnd::Exit(status) => Some(format!("exit status {status}")),
            RunEnd::Signal(signal) => Some(format!("ended by signal {signal}")),
            RunEnd::TimeUp(ms) => Some(format!("stopped after {} s", crate::text::seconds(*ms))),
            RunEnd::Interrupted => Some("interrupted".to_owned()),
            RunEnd::NotStarted(_, reason) => Some(format!("could not be started: {reason}")),
        };
        let text = [self.stdout.trim(), self.stderr.trim()].into_iter().find(|text| !text.is_empty());
        let lines = text.map(|text| {
            text.lines()
                .filter(|line| !line.trim().is_empty())
                .take(3)
                .map(|line| line.chars().take(200).collect())
                .collect::<Vec<String>>()
        });
        let text = lines.map(|lines| lines.join("\n"));
        match (text, end) {
            (Some(text), None) => f.write_str(&text),
            (Some(text), Some(end)) => write!(f, "{text} ({end})"),
            (None, Some(end)) => f.write_str(&end),
            (None, None) => f.write_str("nothing printed"),
        }
    }
}

impl Display for Holder {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        // How it was started tells more where the name is that of an interpreter.
        let command = self.command.as_ref().filter(|command| command.contains(' '));
        match (&self.name, self.pid) {
            (Some(name), Some(pid)) => match command {
                Some(command) => write!(f, "{name} (process {pid}: {command})")?,
                None => write!(f, "{name} (process {pid})")?,
            },
            (Some(name), None) => f.write_str(name)?,
            (None, Some(pid)) => write!(f, "process {pid}")?,
            (None, None) => f.write_str("a program that is not named")?,
        }
        match &self.user {
            Some(user) => write!(f, " of user {user}"),
            None => Ok(()),
        }
    }
}

impl Display for DiskRoom {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let left = if self.by_quota { "left by this user's quota" } else { "free for this user" };
        write!(f, "{} {left} at {}", Size(self.available_bytes), self.existing)?;
        if self.read_only {
            f.write_str(", read-only")?;
        }
        if !self.writable {
            f.write_str(", not writable for this user")?;
        }
        Ok(())
    }
}

impl Display for Processor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let word = |holds: Option<bool>| match holds {
            Some(true) => "yes",
            Some(false) => "no",
            None => "not known",
        };
        let (able, offered, hypervisor) = (word(self.able), word(self.offered), word(self.hypervisor));
        write!(f, "the processor has it: {able}; the system offers it: {offered}; under a hypervisor: {hypervisor}")
    }
}

impl Display for Device {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Opens => f.write_str("opens"),
            Self::Missing => f.write_str("not there"),
            Self::Denied(Some(group), Some(mode)) => write!(f, "permission denied (group {group}, mode {mode:o})"),
            Self::Denied(..) => f.write_str("permission denied"),
            Self::Dead => f.write_str("there, but nothing answers behind it"),
            Self::Busy => f.write_str("in use by another program"),
        }
    }
}
