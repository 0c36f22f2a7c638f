//! What a requirement checks: one variant per kind.

use super::component::{Component, Installer};
use super::value::SetBy;
use super::vocabulary::LimitKind;
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use crate::text::{Pattern, Size, join_words};
use crate::version;
use core::fmt::{self, Display};

/// What is checked; one variant per subject key of the guide.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub enum Subject {
    /// A program.
    Tool(Tool),
    /// A port that must be free.
    Port(Port),
    /// Room on a disk.
    Disk(Disk),
    /// Memory.
    Memory(Memory),
    /// Room that memory may be put into.
    Swap(Size),
    /// Processor cores.
    Cores(u64),
    /// Hardware virtualization.
    Virtualization(Virtualization),
    /// The operating system.
    System(Systems),
    /// A file or a folder.
    Path(Path),
    /// An environment variable.
    Variable(EnvironmentVariable),
    /// Membership of a group.
    Group(Group),
    /// The rights of this user.
    Rights(Rights),
    /// A local socket.
    Socket(Socket),
    /// A device.
    Device(Device),
    /// A service that must answer.
    Service(Service),
    /// An outside address that must be reachable.
    Reach(Reach),
    /// The clock.
    Clock(Clock),
    /// A host name.
    Hostname(Hostname),
    /// A private network that must be free.
    Subnet(Subnet),
    /// A limit of the system.
    Limit(Limit),
    /// A library to build against.
    Library(Library),
    /// A module, headers, or a package.
    Component(Component),
    /// A locale that is made here.
    Locale(Locale),
    /// A version-control setting.
    Setting(Setting),
    /// The working copy.
    Checkout(Checkout),
    /// A command of the guide's own.
    Command(Command),
    /// Alternatives.
    AnyOf(AnyOf),
}

/// Whether a thing must be there or must not.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Existence {
    /// It must be there.
    Present,
    /// `expect = "absent"`: it must not be there.
    Absent,
}

/// `tool = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Tool {
    /// Its names; the first that is found counts.
    pub names: Vec<String>,
    /// The versions that do.
    pub version: Option<version::Range>,
    /// A file of the repository that pins the version.
    pub version_from: Option<VersionFrom>,
    /// The versions that the project is tried with: a newer one is remarked on.
    pub tested: Option<version::Range>,
    /// The arguments that make it say its version; the usual ones where empty.
    pub args: Vec<String>,
    /// How to find the version in what it prints.
    pub pattern: Option<Pattern>,
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
    /// Its name for each language's own installer.
    pub installers: Vec<(Installer, String)>,
    /// The architecture that it must be built for.
    pub arch: Option<String>,
    /// Whether it must be there.
    pub expect: Existence,
}

/// `version_from = ...`: a file of the project that says a version.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct VersionFrom {
    /// The file.
    pub file: String,
    /// What finds the version in it: the first group, or the whole match; where there is none, the file's own way is known.
    pub pattern: Option<Pattern>,
    /// A newer one does too.
    pub at_least: bool,
}

/// TCP or UDP.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Protocol {
    /// TCP.
    Tcp,
    /// UDP.
    Udp,
}

impl Protocol {
    /// `TCP` or `UDP`.
    pub fn name(self) -> &'static str {
        match self {
            Self::Tcp => "TCP",
            Self::Udp => "UDP",
        }
    }
}

/// Which ports.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum PortNumbers {
    /// These.
    List(Vec<u16>),
    /// From the first to the last, both included.
    Span(u16, u16),
}

impl PortNumbers {
    /// Each number, in order.
    pub fn each(&self) -> Vec<u16> {
        match self {
            Self::List(list) => list.clone(),
            Self::Span(first, last) => (*first..=*last).collect(),
        }
    }
}

/// `port = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Port {
    /// The numbers, unless something sets another.
    pub numbers: PortNumbers,
    /// TCP or UDP.
    pub protocol: Protocol,
    /// The address to bind; every address where none is given.
    pub address: Option<String>,
    /// Where the project lets one change the number.
    pub set_by: Option<SetBy>,
    /// Programs that may hold it: it is they who serve it.
    pub held_ok: Vec<String>,
}

/// `disk = "12 GB"`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Disk {
    /// How much must be free.
    pub size: Size,
    /// Where; the guide's folder where none is given.
    pub at: String,
    /// How many files must still fit.
    pub inodes: Option<u64>,
}

/// `memory = "8 GB"`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Memory {
    /// How much.
    pub size: Size,
    /// It must be free now.
    pub free: bool,
}

/// `virtualization = ...`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Virtualization {
    /// This user can use it now.
    Usable,
    /// The processor has it.
    Present,
}

/// `system = { ... }`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Systems {
    /// The systems with the versions that do.
    pub versions: Vec<(Os, Option<version::Range>)>,
    /// Editions that do; all where empty.
    pub editions: Vec<String>,
    /// Distributions that do; all where empty.
    pub distros: Vec<String>,
    /// Architectures that do; all where empty.
    pub arches: Vec<String>,
}

impl Display for Systems {
    /// What would do, in a few words: `linux >= 5.10 or macos; debian or fedora`.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = |(os, range): &(Os, Option<version::Range>)| match range {
            Some(range) => format!("{} {range}", os.name()),
            None => os.name().to_owned(),
        };
        let systems: Vec<String> = self.versions.iter().map(name).collect();
        let lists = [&systems, &self.distros, &self.editions, &self.arches];
        let parts: Vec<String> = lists.into_iter().filter(|list| !list.is_empty()).map(|list| join_words(list, "or")).collect();
        f.write_str(&parts.join("; "))
    }
}

/// A file or a folder.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum PathKind {
    /// A file.
    File,
    /// A folder.
    Folder,
}

/// `file = ...` or `folder = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
#[allow(clippy::struct_excessive_bools, reason = "each is a key of its own")]
pub struct Path {
    /// Which of the two.
    pub kind: PathKind,
    /// The path as written.
    pub path: String,
    /// Other places that do as well, in order.
    pub or: Vec<String>,
    /// Permission bits.
    pub mode: Option<u32>,
    /// It must belong to this user.
    pub mine: bool,
    /// This user must be able to write it.
    pub writable: bool,
    /// This user must be able to execute it.
    pub executable: bool,
    /// Programs in it must be able to start: its disk may not forbid that.
    pub runs_programs: bool,
    /// What its text must hold, or which names a folder must have: all of them.
    pub contains: Vec<Pattern>,
    /// Whether it must be there.
    pub expect: Existence,
}

/// `variable = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct EnvironmentVariable {
    /// Its name.
    pub name: String,
    /// A `.env`-style file that may set it.
    pub env_file: Option<String>,
    /// The shape of its value.
    pub matches: Option<Pattern>,
    /// The index of the tool that it must lead to the kit of.
    pub of: Option<usize>,
    /// Nothing about its value may be told.
    pub secret: bool,
    /// Whether it must be set.
    pub expect: Existence,
}

/// `group = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Group {
    /// Its name.
    pub name: String,
}

/// `rights = ...`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Rights {
    /// The person can act as administrator.
    Admin,
    /// They are the administrator.
    Root,
}

/// How something is to be opened.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Access {
    /// To read.
    Read,
    /// To write (and read).
    Write,
}

/// `socket = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Socket {
    /// Its path.
    pub path: String,
    /// Who brings what answers there.
    pub supply: Supply,
    /// How it is to be opened.
    pub access: Access,
}

/// `device = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Device {
    /// Its path.
    pub path: String,
    /// Other paths that do as well, in order.
    pub or: Vec<String>,
    /// The vendor and the product that it says it is, where it hangs on a USB.
    pub usb: Option<String>,
    /// How it is to be opened.
    pub access: Access,
}

/// What is told of a thing that must run: who brings it, and how it is started.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Supply {
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
    /// The unit of the system's service manager that it is.
    pub unit: Option<String>,
    /// The command that starts it.
    pub start: Option<String>,
}

/// `service = "host:port"`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Service {
    /// Its host.
    pub host: String,
    /// Its port.
    pub port: u16,
    /// The path to ask by HTTP.
    pub http: Option<String>,
    /// The status expected.
    pub status: Option<u16>,
    /// What the answer must hold.
    pub contains: Option<Pattern>,
    /// Who brings it.
    pub supply: Supply,
}

/// `reach = "https://..."`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Reach {
    /// The address.
    pub url: String,
    /// The status expected.
    pub status: Option<u16>,
}

/// `clock = "1 min"`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Clock {
    /// How far it may be off, in milliseconds.
    pub within_ms: u64,
    /// The address whose answer says what time it is.
    pub by: String,
}

/// `hostname = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Hostname {
    /// The name.
    pub name: String,
    /// Where it must lead.
    pub points_to: Option<String>,
}

/// `subnet = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Subnet {
    /// The network's first address.
    pub address: core::net::IpAddr,
    /// The length of its prefix in bits.
    pub prefix: u8,
}

/// `limit = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limit {
    /// Which one.
    pub kind: LimitKind,
    /// How high it must be.
    pub at_least: Option<u64>,
}

/// `locale = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Locale {
    /// Its name, as `en_US.UTF-8`.
    pub name: String,
    /// Its characters must be UTF-8, whatever it is called.
    pub utf8: bool,
}

/// `library = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Library {
    /// Its pkg-config name.
    pub name: String,
    /// The versions that do.
    pub version: Option<version::Range>,
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
}

/// `setting = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Setting {
    /// Its key.
    pub key: String,
    /// Whose setting it is.
    pub of: String,
    /// The shape of its value.
    pub matches: Option<Pattern>,
}

/// `checkout = "."`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
#[allow(clippy::struct_excessive_bools, reason = "each is a key of its own")]
pub struct Checkout {
    /// Where it is.
    pub path: String,
    /// The branch that must be current.
    pub branch: Option<String>,
    /// Submodules must be fetched.
    pub submodules: bool,
    /// Large files must be fetched.
    pub large_files: bool,
    /// Nothing may be uncommitted.
    pub clean: bool,
    /// All of its history must be here.
    pub history: bool,
    /// Its tags must be here.
    pub tags: bool,
    /// Its texts must have the line ends of Unix.
    pub line_ends: bool,
}

/// `command = [...]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Command {
    /// The program and its arguments.
    pub words: Vec<String>,
    /// Who brings its program.
    pub supply: Supply,
    /// The exit status expected.
    pub exit: u8,
    /// What it must print.
    pub matches: Option<Pattern>,
    /// Its time limit in milliseconds.
    pub timeout_ms: Option<u64>,
}

/// `any_of = [...]`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct AnyOf {
    /// The indexes of the requirements of which one must be met.
    pub alternatives: Vec<usize>,
}
