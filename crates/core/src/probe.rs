//! The questions that can be put to a machine. Each is small, and plain data.

use crate::catalogue::{self, Start};
use crate::guide::{Access, Language, LimitKind, Protocol, SetBy, ValueShape};
use crate::manager::Manager;
use crate::observation::Way;
use crate::prelude::*;
use crate::text::without_credentials;
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// By what permission a program is started.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Permission {
    /// It needs none: it is asked for what it is, in the way that is known to be harmless, and apart from the project.
    #[default]
    Question,
    /// The person agreed to whatever the guide asks for.
    Given,
    /// The person agreed to exactly this, with the mark of what it was then.
    Marked(String),
}

impl Permission {
    /// Whether it needs none.
    pub fn is_question(&self) -> bool {
        *self == Self::Question
    }
}

/// One small question to a machine.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Probe {
    /// Which operating system, version, distribution and architecture is this?
    System,
    /// Is it a container, a virtual machine, a guest inside another system, a build server?
    Surroundings,
    /// Who is this, and which groups does this session have?
    Account,
    /// Which groups does the account database give this user?
    DatabaseGroups,
    /// Which package managers are here?
    Managers,
    /// Every copy of a program on PATH, in order.
    Program {
        /// Its name.
        name: String,
    },
    /// Copies of a program in the usual folders of this system and its languages that PATH does not name.
    ProgramElsewhere {
        /// Its name.
        name: String,
        /// Packages that may have brought one: into folders of their own.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        packages: Vec<(Manager, String)>,
    },
    /// What does this program print, with these arguments?
    Run {
        /// The file.
        path: String,
        /// The arguments.
        arguments: Vec<String>,
        /// By what permission; with one it runs in the project's folder.
        #[serde(default, skip_serializing_if = "Permission::is_question")]
        permission: Permission,
    },
    /// Which version does a program's own file state? It is not started for that.
    FileVersion {
        /// The file.
        path: String,
    },
    /// Which version does the installation of a tool state, where the catalogue knows a place that is certain? It is not started for that.
    RecordedVersion {
        /// The tool's name.
        tool: String,
        /// The file that would be started.
        path: String,
    },
    /// Can this user bind this port now?
    PortBinding(PortPlace),
    /// Who holds this port?
    PortHolder(PortPlace),
    /// The first port above this one that can be bound.
    FreePort(PortPlace),
    /// Which number is set there?
    SettingNumber(SetBy),
    /// Which text of this shape is set there?
    SettingText {
        /// Where.
        by: SetBy,
        /// What kind of thing it must be: nothing else is told.
        shape: ValueShape,
    },
    /// How much may this user still write at a place?
    DiskRoom {
        /// The place; `~` and relative paths as the guide has them.
        path: String,
    },
    /// How much memory is there, and who caps it?
    Memory,
    /// How many cores are there, and who caps them?
    Cores,
    /// What does the processor say about virtualization?
    Processor,
    /// Does the system give hypervisors to programs, where that is not by a device?
    Hypervisor,
    /// May this user open a device?
    Device {
        /// Its path.
        path: String,
        /// To read, or to write too.
        access: Access,
    },
    /// What is at a path, and may this user use it?
    Path {
        /// The path; `~` and relative paths as the guide has them.
        path: String,
        /// What its text is searched for.
        pattern: Option<String>,
    },
    /// Does a start-up file have a line, whatever stands around it?
    StartupLine {
        /// The file; `~` as the guide has it.
        file: String,
        /// The line.
        line: String,
    },
    /// Is all that is in a folder this user's to change?
    Within {
        /// The folder; `~` and relative paths as the guide has them.
        path: String,
    },
    /// Where is a variable set, and does it have a shape? The value itself is never an answer.
    Variable {
        /// Its name.
        name: String,
        /// A `.env`-style file that may set it.
        env_file: Option<String>,
        /// The shape.
        pattern: Option<String>,
    },
    /// Does the account database have a group?
    Group {
        /// Its name.
        name: String,
    },
    /// Does somebody answer at a local socket?
    Socket {
        /// Its path.
        path: String,
    },
    /// Does somebody take a connection there?
    Connection {
        /// A name or an address.
        host: String,
        /// The port.
        port: u16,
    },
    /// What does an address answer by HTTP?
    Fetch {
        /// The address.
        url: String,
        /// What the answer's text is searched for.
        pattern: Option<String>,
        /// Straight, or as this machine is configured.
        way: Way,
    },
    /// Is there a way out of this machine at all?
    Online,
    /// Which proxy do the system's own settings name, beside the variables?
    SystemProxy,
    /// Is there a service of this name that the system looks after, and does it run?
    SystemService {
        /// Its name.
        name: String,
    },
    /// Where does a host name lead?
    Addresses {
        /// The name.
        name: String,
    },
    /// Which networks is this machine on?
    Networks,
    /// How high is a limit of the system?
    Limit {
        /// Which one.
        name: LimitKind,
    },
    /// Which locales are made here?
    Locales,
    /// Is a library here, to build against or only to load?
    Library {
        /// Its pkg-config name.
        name: String,
    },
    /// Is a setting of the version control there, and does it have a shape?
    Setting {
        /// Whose setting it is.
        of: String,
        /// Its key.
        key: String,
        /// The shape.
        pattern: Option<String>,
    },
    /// In which state is a working copy?
    Checkout {
        /// Where it is.
        path: String,
        /// Whether submodules are fetched.
        submodules: bool,
        /// Whether large files are fetched.
        large_files: bool,
        /// Whether anything is uncommitted.
        clean: bool,
        /// Whether all of its history is here.
        #[serde(default)]
        history: bool,
        /// Whether its tags are here.
        #[serde(default)]
        tags: bool,
        /// Whether texts have line ends of Windows.
        #[serde(default)]
        line_ends: bool,
    },
    /// What does a command of the guide print? It runs in the guide's folder.
    Command {
        /// The program, by name or by its place in the project, and its arguments.
        words: Vec<String>,
        /// Its own time limit in milliseconds.
        timeout_ms: Option<u64>,
        /// By what permission.
        #[serde(default, skip_serializing_if = "Permission::is_question")]
        permission: Permission,
    },
    /// Which version of a package would a package manager install now?
    Candidate {
        /// The manager.
        manager: Manager,
        /// The package's name there.
        package: String,
    },
    /// Which package that is not installed would bring a program of this name to where the system's programs are?
    Provider {
        /// The manager.
        manager: Manager,
        /// The program's name.
        program: String,
    },
    /// Which installed package brought a file of this name, which may be gone by now?
    PackageOf {
        /// The file's name without its folder.
        file: String,
    },
    /// Can a package manager be used now, and how old are its lists?
    ManagerState {
        /// The manager.
        manager: Manager,
    },
    /// Which version of a tool does a file of the project ask for?
    Pinned {
        /// The file.
        file: String,
        /// The tool's names in the guide.
        tools: Vec<String>,
        /// What finds the version in it, where the guide says so.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pattern: Option<String>,
    },
    /// Is a module there that this interpreter would load?
    LanguageModule {
        /// Whose.
        language: Language,
        /// The interpreter.
        program: String,
        /// The module, or the distribution that brings it.
        name: String,
    },
    /// Are the headers of this interpreter there?
    LanguageHeaders {
        /// Whose.
        language: Language,
        /// The interpreter.
        program: String,
    },
    /// Is a package installed?
    Installed {
        /// The manager.
        manager: Manager,
        /// The package.
        package: String,
    },
    /// Does a variable lead to the kit that a program belongs to?
    LeadsTo {
        /// The variable.
        variable: String,
        /// The program.
        program: String,
    },
    /// Is a device with this vendor and product connected by USB?
    Usb {
        /// In hexadecimal digits, with a colon between.
        id: String,
    },
    /// How far is this machine's clock from the time that an address answers with?
    ClockBeside {
        /// The address.
        url: String,
    },
    /// Is a kernel module loaded?
    Module {
        /// Its name.
        name: String,
    },
}

/// A port on an address.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct PortPlace {
    /// TCP or UDP.
    pub protocol: Protocol,
    /// The address; every address of the machine where none is given.
    pub address: Option<String>,
    /// The number.
    pub port: u16,
}

impl Display for PortPlace {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} port {}", self.protocol.name(), self.port)?;
        match &self.address {
            Some(address) => write!(f, " at {address}"),
            None => Ok(()),
        }
    }
}

impl Probe {
    /// How early it is worth asking, the highest first: 3 what is answered at once (the copies on PATH lead to the slow questions), 2 a
    /// program that is known to start slowly, 1 another program, 0 what only explains a failure.
    pub fn urgency(&self) -> u8 {
        match self {
            Self::Run { path, .. } => {
                let name = path.rsplit(['/', '\\']).next().unwrap_or(path);
                if catalogue::find(name).is_some_and(|row| row.start == Start::Slow) { 2 } else { 1 }
            }
            Self::PortHolder(_)
            | Self::DatabaseGroups
            | Self::Group { .. }
            | Self::ProgramElsewhere { .. }
            | Self::FreePort(_)
            | Self::FileVersion { .. }
            | Self::SystemProxy
            | Self::SystemService { .. }
            | Self::ManagerState { .. }
            | Self::PackageOf { .. }
            | Self::Provider { .. }
            | Self::Candidate { .. } => 0,
            Self::System
            | Self::Surroundings
            | Self::Account
            | Self::Managers
            | Self::Program { .. }
            | Self::RecordedVersion { .. }
            | Self::PortBinding(_)
            | Self::SettingNumber(_)
            | Self::SettingText { .. }
            | Self::DiskRoom { .. }
            | Self::Memory
            | Self::Cores
            | Self::Processor
            | Self::Hypervisor
            | Self::Device { .. }
            | Self::Module { .. }
            | Self::Usb { .. }
            | Self::LanguageModule { .. }
            | Self::LanguageHeaders { .. }
            | Self::Installed { .. }
            | Self::LeadsTo { .. }
            | Self::Path { .. }
            | Self::StartupLine { .. }
            | Self::Variable { .. }
            | Self::Socket { .. }
            | Self::Online
            | Self::Networks
            | Self::Limit { .. }
            | Self::Locales
            | Self::Library { .. }
            | Self::Pinned { .. } => 3,
            // Others may be slow to answer.
            Self::Within { .. }
            | Self::ClockBeside { .. }
            | Self::Connection { .. }
            | Self::Fetch { .. }
            | Self::Addresses { .. }
            | Self::Command { .. } => 2,
            Self::Setting { .. } | Self::Checkout { .. } => 1,
        }
    }
}

/// What was asked, as evidence shows it.
#[allow(clippy::too_many_lines, reason = "one row per question, so that none can be forgotten")]
impl Display for Probe {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::System => f.write_str("operating system"),
            Self::Surroundings => f.write_str("container, virtual machine, guest"),
            Self::Account => f.write_str("this session's user and groups"),
            Self::DatabaseGroups => f.write_str("the account database's groups for this user"),
            Self::Managers => f.write_str("package managers"),
            Self::Program { name } => write!(f, "copies of {name} on PATH"),
            Self::ProgramElsewhere { name, .. } => write!(f, "copies of {name} in usual folders that are not on PATH"),
            Self::Run { path, arguments, .. } => {
                f.write_str(path)?;
                arguments.iter().try_for_each(|argument| write!(f, " {argument}"))
            }
            Self::FileVersion { path } => write!(f, "version that {path} states"),
            Self::RecordedVersion { path, .. } => write!(f, "version that the installation of {path} states"),
            Self::SystemProxy => f.write_str("proxy in the system's settings"),
            Self::SystemService { name } => write!(f, "service {name} of the system"),
            Self::PortBinding(place) => write!(f, "bind {place}"),
            Self::PortHolder(place) => write!(f, "holder of {place}"),
            Self::FreePort(place) => write!(f, "a free port above {}", place.port),
            Self::SettingNumber(by) | Self::SettingText { by, .. } => match (&by.variable, &by.env_file, &by.entry) {
                (Some(variable), None, None) => write!(f, "variable {variable}"),
                (Some(variable), Some(file), None) => write!(f, "variable {variable}, or its line in {file}"),
                (Some(variable), _, Some((file, key))) => write!(f, "variable {variable}, or {key} in {file}"),
                (None, _, Some((file, key))) => write!(f, "{key} in {file}"),
                (None, _, None) => f.write_str("nothing"),
            },
            Self::DiskRoom { path } => write!(f, "room at {path}"),
            Self::Memory => f.write_str("memory and its limits"),
            Self::Cores => f.write_str("cores and their limits"),
            Self::Processor => f.write_str("the processor's virtualization"),
            Self::Hypervisor => f.write_str("the system's feature for virtual machines"),
            Self::Device { path, access: Access::Read } => write!(f, "open {path} to read"),
            Self::Device { path, access: Access::Write } => write!(f, "open {path}"),
            Self::Within { path } => write!(f, "what is in {path}"),
            Self::StartupLine { file, line } => write!(f, "{file}, for the line {line}"),
            Self::Path { path, pattern: None } => f.write_str(path),
            Self::Path { path, pattern: Some(pattern) } => write!(f, "{path}, for {pattern}"),
            Self::Variable { name, env_file: None, .. } => write!(f, "variable {name}"),
            Self::Variable { name, env_file: Some(file), .. } => write!(f, "variable {name}, or its line in {file}"),
            Self::Group { name } => write!(f, "group {name} in the account database"),
            Self::Socket { path } => write!(f, "connect to {path}"),
            Self::Connection { host, port } => write!(f, "connect to {host} port {port}"),
            Self::Fetch { url, .. } => write!(f, "GET {}", without_credentials(url)),
            Self::Online => f.write_str("a way out of this machine"),
            Self::Addresses { name } => write!(f, "addresses of {name}"),
            Self::Networks => f.write_str("networks of this machine"),
            Self::Limit { name } => write!(f, "limit {}", name.word()),
            Self::Locales => f.write_str("locales that are made here"),
            Self::Library { name } => write!(f, "library {name}"),
            Self::Setting { of, key, .. } => write!(f, "{of} setting {key}"),
            Self::Checkout { path, .. } => write!(f, "working copy at {path}"),
            Self::Command { words, .. } => f.write_str(&words.join(" ")),
            Self::Candidate { manager, package } => write!(f, "what {} would install for {package}", manager.word()),
            Self::Provider { manager, program } => write!(f, "the package of {} that has {program}", manager.word()),
            Self::PackageOf { file } => write!(f, "the installed package that has {file}"),
            Self::ManagerState { manager } => write!(f, "whether {} can be used, and how old its lists are", manager.word()),
            Self::Pinned { file, .. } => write!(f, "version in {file}"),
            Self::Module { name } => write!(f, "kernel module {name}"),
            Self::ClockBeside { url } => write!(f, "this clock beside the one of {}", without_credentials(url)),
            Self::Usb { id } => write!(f, "devices on USB that are {id}"),
            Self::LanguageModule { language, program, name } => {
                write!(f, "the module {name} of {}, for {program}", language.name())
            }
            Self::LanguageHeaders { language, program } => write!(f, "the headers of {}, for {program}", language.name()),
            Self::Installed { manager, package } => write!(f, "whether {} has installed {package}", manager.word()),
            Self::LeadsTo { variable, program } => write!(f, "whether {variable} leads to the kit of {program}"),
        }
    }
}
