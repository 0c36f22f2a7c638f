//! The questions, a row each: what one is called and carries, and all that is to be known of it before it is asked.

use super::{Opens, Permission, PortPlace, WatchPaths};
use crate::catalogue::{self, Start};
use crate::guide::{Access, Language, LimitKind, SetBy, ValueShape};
use crate::manager::Manager;
use crate::observation::Way;
use crate::prelude::*;
use crate::text::without_credentials;
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// Makes the questions of their rows. In each: `shown`, what was asked, as evidence shows it; `urgency`, see [`Probe::urgency`]; `at_once`, see
/// [`Probe::is_answered_at_once`]; `opens` and `watch`, see [`Opens`] and [`WatchPaths`].
macro_rules! probes {
    ($(
        $(#[$about:meta])*
        $name:ident $(($inner:ident: $type:ty))? $({ $($(#[$of_field:meta])* $field:ident: $field_type:ty),* $(,)? })?
        => shown ($($shown:tt)*), urgency $urgency:expr, at_once $at_once:expr, opens $opens:expr, watch $watch:expr;
    )*) => {
        /// One small question to a machine.
        #[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[serde(rename_all = "kebab-case")]
        pub enum Probe {
            $($(#[$about])* $name $(($type))? $({ $($(#[$of_field])* $field: $field_type),* })?,)*
        }

        #[allow(unused_variables, reason = "each row uses what it needs of its question")]
        impl Probe {
            /// How early it is worth asking, the highest first: 3 what is answered at once (the copies on PATH lead to the slow questions), 2 a
            /// program that is known to start slowly and what others may be slow to answer, 1 another program, 0 what only explains a failure.
            pub fn urgency(&self) -> u8 {
                match self {
                    $(Self::$name $(($inner))? $({ $($field),* })? => $urgency,)*
                }
            }

            /// Whether it is answered at once, and answered the same as long as nothing happens.
            pub fn is_answered_at_once(&self) -> bool {
                match self {
                    $(Self::$name $(($inner))? $({ $($field),* })? => $at_once,)*
                }
            }

            /// What it opens by a path that a guide names.
            pub fn opens(&self) -> Opens<'_> {
                match self {
                    $(Self::$name $(($inner))? $({ $($field),* })? => $opens,)*
                }
            }

            /// On which files its answer rests.
            pub fn watch_paths(&self) -> WatchPaths {
                match self {
                    $(Self::$name $(($inner))? $({ $($field),* })? => $watch,)*
                }
            }
        }

        #[allow(unused_variables, reason = "each row uses what it needs of its question")]
        impl Display for Probe {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                match self {
                    $(Self::$name $(($inner))? $({ $($field),* })? => write!(f, $($shown)*),)*
                }
            }
        }
    };
}

probes! {
    /// Which operating system, version, distribution and architecture is this?
    System
        => shown ("operating system"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is it a container, a virtual machine, a guest inside another system, a build server?
    Surroundings
        => shown ("container, virtual machine, guest"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Who is this, and which groups does this session have?
    Account
        => shown ("this session's user and groups"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which groups does the account database give this user?
    DatabaseGroups
        => shown ("the account database's groups for this user"), urgency 0, at_once true,
           opens Opens::Nothing, watch WatchPaths::OnLinux(&["/etc/group"]);
    /// Which package managers are here?
    Managers
        => shown ("package managers"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Every copy of a program on PATH, in order.
    Program {
        /// Its name.
        name: String,
    }
        => shown ("copies of {name} on PATH"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::OfHost;
    /// Copies of a program in the usual folders of this system and its languages that PATH does not name.
    ProgramElsewhere {
        /// Its name.
        name: String,
        /// Packages that may have brought one: into folders of their own.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        packages: Vec<(Manager, String)>,
    }
        => shown ("copies of {name} in usual folders that are not on PATH"), urgency 0, at_once have_lists_of_files(packages),
           opens Opens::Nothing, watch WatchPaths::OfHost;
    /// What does this program print, with these arguments?
    Run {
        /// The file.
        path: String,
        /// The arguments.
        arguments: Vec<String>,
        /// By what permission; with one it runs in the project's folder.
        #[serde(default, skip_serializing_if = "Permission::is_question")]
        permission: Permission,
    }
        => shown ("{}", line(path, arguments)), urgency urgency_of(path), at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which version does a program's own file state? It is not started for that.
    FileVersion {
        /// The file.
        path: String,
    }
        => shown ("version that {path} states"), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::OfHost;
    /// Which version does the installation of a tool state, where the catalogue knows a place that is certain? It is not started for that.
    RecordedVersion {
        /// The tool's name.
        tool: String,
        /// The file that would be started.
        path: String,
    }
        => shown ("version that the installation of {path} states"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Can this user bind this port now?
    PortBinding(place: PortPlace)
        => shown ("bind {place}"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Who holds this port?
    PortHolder(place: PortPlace)
        => shown ("holder of {place}"), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// The first port above this one that can be bound.
    FreePort(place: PortPlace)
        => shown ("a free port above {}", place.port), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which number is set there?
    SettingNumber(by: SetBy)
        => shown ("{}", set_at(by)), urgency 3, at_once true,
           opens Opens::Files(by.files().collect()), watch WatchPaths::Opened;
    /// Which text of this shape is set there?
    SettingText {
        /// Where.
        by: SetBy,
        /// What kind of thing it must be: nothing else is told.
        shape: ValueShape,
    }
        => shown ("{}", set_at(by)), urgency 3, at_once true,
           opens Opens::Files(by.files().collect()), watch WatchPaths::Opened;
    /// How much may this user still write at a place?
    DiskRoom {
        /// The place; `~` and relative paths as the guide has them.
        path: String,
    }
        => shown ("room at {path}"), urgency 3, at_once false,
           opens Opens::file(path), watch WatchPaths::Unknown;
    /// How much memory is there, and who caps it?
    Memory
        => shown ("memory and its limits"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// How many cores are there, and who caps them?
    Cores
        => shown ("cores and their limits"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// What does the processor say about virtualization?
    Processor
        => shown ("the processor's virtualization"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Does the system give hypervisors to programs, where that is not by a device?
    Hypervisor
        => shown ("the system's feature for virtual machines"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// May this user open a device?
    Device {
        /// Its path.
        path: String,
        /// To read, or to write too.
        access: Access,
    }
        => shown ("open {path}{}", if *access == Access::Read { " to read" } else { "" }), urgency 3, at_once true,
           opens Opens::Device(path), watch WatchPaths::Opened;
    /// What is at a path, and may this user use it?
    Path {
        /// The path; `~` and relative paths as the guide has them.
        path: String,
        /// What its text is searched for.
        pattern: Option<String>,
    }
        => shown ("{path}{}", pattern.as_ref().map(|pattern| format!(", for {pattern}")).unwrap_or_default()), urgency 3, at_once true,
           opens Opens::file(path), watch WatchPaths::Opened;
    /// Does a start-up file have a line, whatever stands around it?
    StartupLine {
        /// The file; `~` as the guide has it.
        file: String,
        /// The line.
        line: String,
    }
        => shown ("{file}, for the line {line}"), urgency 3, at_once true,
           opens Opens::file(file), watch WatchPaths::Opened;
    /// Is all that is in a folder this user's to change?
    Within {
        /// The folder; `~` and relative paths as the guide has them.
        path: String,
    }
        => shown ("what is in {path}"), urgency 2, at_once false,
           opens Opens::file(path), watch WatchPaths::Unknown;
    /// Where is a variable set, and does it have a shape? The value itself is never an answer.
    Variable {
        /// Its name.
        name: String,
        /// A `.env`-style file that may set it.
        env_file: Option<String>,
        /// The shape.
        pattern: Option<String>,
    }
        => shown ("variable {name}{}", env_file.as_ref().map(|file| format!(", or its line in {file}")).unwrap_or_default()), urgency 3, at_once true,
           opens Opens::Files(env_file.as_deref().into_iter().collect()), watch WatchPaths::OfHost;
    /// Does the account database have a group?
    Group {
        /// Its name.
        name: String,
    }
        => shown ("group {name} in the account database"), urgency 0, at_once true,
           opens Opens::Nothing, watch WatchPaths::OnLinux(&["/etc/group"]);
    /// Does somebody answer at a local socket?
    Socket {
        /// Its path.
        path: String,
    }
        => shown ("connect to {path}"), urgency 3, at_once true,
           opens Opens::Device(path), watch WatchPaths::Unknown;
    /// Does somebody take a connection there?
    Connection {
        /// A name or an address.
        host: String,
        /// The port.
        port: u16,
    }
        => shown ("connect to {host} port {port}"), urgency 2, at_once is_this_machine(host),
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// What does an address answer by HTTP?
    Fetch {
        /// The address.
        url: String,
        /// What the answer's text is searched for.
        pattern: Option<String>,
        /// Straight, or as this machine is configured.
        way: Way,
    }
        => shown ("GET {}", without_credentials(url)), urgency 2, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is there a way out of this machine at all?
    Online
        => shown ("a way out of this machine"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which proxy do the system's own settings name, beside the variables?
    SystemProxy
        => shown ("proxy in the system's settings"), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is there a service of this name that the system looks after, and does it run?
    SystemService {
        /// Its name.
        name: String,
    }
        => shown ("service {name} of the system"), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Where does a host name lead?
    Addresses {
        /// The name.
        name: String,
    }
        => shown ("addresses of {name}"), urgency 2, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which networks is this machine on?
    Networks
        => shown ("networks of this machine"), urgency 3, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// How high is a limit of the system?
    Limit {
        /// Which one.
        name: LimitKind,
    }
        => shown ("limit {}", name.word()), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which locales are made here?
    Locales
        => shown ("locales that are made here"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::OnLinux(&["/usr/lib/locale/locale-archive"]);
    /// Is a library here, to build against or only to load?
    Library {
        /// Its pkg-config name.
        name: String,
    }
        => shown ("library {name}"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::OfHost;
    /// Is a setting of the version control there, and does it have a shape?
    Setting {
        /// Whose setting it is.
        of: String,
        /// Its key.
        key: String,
        /// The shape.
        pattern: Option<String>,
    }
        => shown ("{of} setting {key}"), urgency 1, at_once false,
           opens Opens::Nothing, watch WatchPaths::OfHost;
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
    }
        => shown ("working copy at {path}"), urgency 1, at_once false,
           opens Opens::file(path), watch WatchPaths::OfHost;
    /// What does a command of the guide print? It runs in the guide's folder.
    Command {
        /// The program, by name or by its place in the project, and its arguments.
        words: Vec<String>,
        /// Its own time limit in milliseconds.
        timeout_ms: Option<u64>,
        /// By what permission.
        #[serde(default, skip_serializing_if = "Permission::is_question")]
        permission: Permission,
    }
        => shown ("{}", &words.join(" ")), urgency 2, at_once false,
           opens Opens::program(words), watch WatchPaths::Unknown;
    /// Which version of a package would a package manager install now?
    Candidate {
        /// The manager.
        manager: Manager,
        /// The package's name there.
        package: String,
    }
        => shown ("what {} would install for {package}", manager.word()), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which package that is not installed would bring a program of this name to where the system's programs are?
    Provider {
        /// The manager.
        manager: Manager,
        /// The program's name.
        program: String,
    }
        => shown ("the package of {} that has {program}", manager.word()), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which installed package brought a file of this name, which may be gone by now?
    PackageOf {
        /// The file's name without its folder.
        file: String,
    }
        => shown ("the installed package that has {file}"), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Can a package manager be used now, and how old are its lists?
    ManagerState {
        /// The manager.
        manager: Manager,
    }
        => shown ("whether {} can be used, and how old its lists are", manager.word()), urgency 0, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Which version of a tool does a file of the project ask for?
    Pinned {
        /// The file.
        file: String,
        /// The tool's names in the guide.
        tools: Vec<String>,
        /// What finds the version in it, where the guide says so.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pattern: Option<String>,
    }
        => shown ("version in {file}"), urgency 3, at_once true,
           opens Opens::file(file), watch WatchPaths::Opened;
    /// Is a module there that this interpreter would load?
    LanguageModule {
        /// Whose.
        language: Language,
        /// The interpreter.
        program: String,
        /// The module, or the distribution that brings it.
        name: String,
    }
        => shown ("the module {name} of {}, for {program}", language.name()), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Are the headers of this interpreter there?
    LanguageHeaders {
        /// Whose.
        language: Language,
        /// The interpreter.
        program: String,
    }
        => shown ("the headers of {}, for {program}", language.name()), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is a package installed?
    Installed {
        /// The manager.
        manager: Manager,
        /// The package.
        package: String,
    }
        => shown ("whether {} has installed {package}", manager.word()), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Does a variable lead to the kit that a program belongs to?
    LeadsTo {
        /// The variable.
        variable: String,
        /// The program.
        program: String,
    }
        => shown ("whether {variable} leads to the kit of {program}"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is a device with this vendor and product connected by USB?
    Usb {
        /// In hexadecimal digits, with a colon between.
        id: String,
    }
        => shown ("devices on USB that are {id}"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// How far is this machine's clock from the time that an address answers with?
    ClockBeside {
        /// The address.
        url: String,
    }
        => shown ("this clock beside the one of {}", without_credentials(url)), urgency 2, at_once false,
           opens Opens::Nothing, watch WatchPaths::Unknown;
    /// Is a kernel module loaded?
    Module {
        /// Its name.
        name: String,
    }
        => shown ("kernel module {name}"), urgency 3, at_once true,
           opens Opens::Nothing, watch WatchPaths::Unknown;
}

/// The urgency of a program that is started.
fn urgency_of(path: &str) -> u8 {
    let name = path.rsplit(['/', '\\']).next().unwrap_or(path);
    if catalogue::find(name).is_some_and(|row| row.start == Start::Slow) { 2 } else { 1 }
}

/// A program and its arguments, as one line to read.
fn line(path: &str, arguments: &[String]) -> String {
    arguments.iter().fold(path.to_owned(), |line, argument| line + " " + argument)
}

/// Where a setting is looked for.
fn set_at(by: &SetBy) -> String {
    match (&by.variable, &by.env_file, &by.entry) {
        (Some(variable), None, None) => format!("variable {variable}"),
        (Some(variable), Some(file), None) => format!("variable {variable}, or its line in {file}"),
        (Some(variable), _, Some((file, key))) => format!("variable {variable}, or {key} in {file}"),
        (None, _, Some((file, key))) => format!("{key} in {file}"),
        (None, _, None) => "nothing".to_owned(),
    }
}

/// Whether a host is this machine by its name or address.
fn is_this_machine(host: &str) -> bool {
    matches!(host, "localhost" | "127.0.0.1" | "::1")
}

/// Whether the managers of packages have lists of their files that can be read; some do not.
fn have_lists_of_files(packages: &[(Manager, String)]) -> bool {
    !packages.iter().any(|(manager, _)| matches!(manager, Manager::Dnf | Manager::Zypper))
}
