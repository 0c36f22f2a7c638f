//! The kinds of requirements, a folder each.

pub(crate) mod any_of;
pub(crate) mod capacity;
pub(crate) mod checkout;
pub(crate) mod clock;
pub(crate) mod command;
pub(crate) mod component;
pub(crate) mod device;
pub(crate) mod disk;
pub(crate) mod entry;
pub(crate) mod group;
pub(crate) mod kind;
pub(crate) mod library;
pub(crate) mod limit;
pub(crate) mod locale;
pub(crate) mod name;
pub(crate) mod path;
pub(crate) mod port;
pub(crate) mod reach;
pub(crate) mod rights;
pub(crate) mod service;
pub(crate) mod setting;
pub(crate) mod socket;
pub(crate) mod system;
pub(crate) mod tool;
pub(crate) mod variable;
pub(crate) mod virtualization;

pub use kind::Kind;

use crate::cause::{About, Cause, HasCause};
use crate::document::Fields;
pub(crate) use crate::finding::general::General;
use crate::guide::kind_keys::KindKeys;
use crate::guide::reading::References;
use crate::guide::vocabulary::needed;
use crate::prelude::*;
use entry::SubjectEntry;
use serde::Serialize;

macro_rules! entries {
    ($($kind:ident => $subject:ident $entry:path,)+) => {
        impl Kind {
            /// The groups of the causes that a requirement of this kind can have, besides those of every kind.
            pub const fn about(self) -> &'static [About] {
                match self { $(Self::$kind => $entry.about),+ }
            }

            /// The key that names several at once, each a requirement of its own with its name for an id.
            pub const fn several(self) -> Option<&'static str> {
                match self { $(Self::$kind => $entry.several),+ }
            }

            /// Whether looking at it starts nothing of the guide's and asks nobody else.
            pub(crate) const fn looks_ahead(self) -> bool {
                match self { $(Self::$kind => $entry.looks_ahead),+ }
            }

            /// Reads what is checked; mistakes are reported.
            pub(crate) fn read(self, fields: &Fields<'_>, references: &References<'_>) -> Option<Subject> {
                match self { $(Self::$kind => ($entry.read)(fields, references).map(Subject::$subject)),+ }
            }

            const fn keys(self) -> KindKeys {
                match self {
                    $(Self::$kind => KindKeys {
                        kind: self,
                        subject: needed(self.word(), $entry.shape),
                        further: $entry.further,
                        several: $entry.several,
                    }),+
                }
            }
        }

        /// Every kind of requirement, with its keys.
        pub const KINDS: [KindKeys; Kind::ALL.len()] = [$(Kind::$kind.keys()),+];
    };
}

// Each is given a dollar sign, for the macro that it makes.
macro_rules! subjects {
    ($d:tt $($(#[$doc:meta])* $variant:ident($type:ty),)+) => {
        /// What is checked.
        #[derive(Debug, Clone, PartialEq)]
        #[non_exhaustive]
        pub enum Subject {
            $($(#[$doc])* $variant($type)),+
        }

        /// `with_subject!(subject, one => ...)`: what is done with a subject, whatever its kind.
        macro_rules! with_subject {
            ($d subject:expr, $d one:ident => $d result:expr) => {
                match $d subject { $($crate::kinds::Subject::$variant($d one) => $d result),+ }
            };
        }
        pub(crate) use with_subject;
    };
}

macro_rules! reasons {
    ($d:tt $($(#[$doc:meta])* $variant:ident($held:ty) from $($path:ident)::+,)+) => {
        /// Why a requirement is not met, or unknown: its cause with the facts, by family.
        #[derive(Debug, Clone, PartialEq, Serialize)]
        #[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
        #[serde(untagged)]
        #[non_exhaustive]
        pub enum Reason {
            $($(#[$doc])* $variant($held)),+
        }

        /// `with_reason!(reason, one => ...)`: what is done with a reason, whatever its kind.
        macro_rules! with_reason {
            ($d reason:expr, $d one:ident => $d result:expr) => {
                match $d reason {
                    $($crate::kinds::Reason::$variant(facts) => { let $d one: &$crate::kinds::$($path)::+ = facts; $d result }),+
                }
            };
        }
        pub(crate) use with_reason;

        $(impl From<$($path)::+> for Reason {
            fn from(facts: $($path)::+) -> Self {
                Self::$variant(facts.into())
            }
        })+
    };
}

entries! {
    Tool => Tool tool::TOOL,
    Port => Port port::PORT,
    Disk => Disk disk::DISK,
    Memory => Memory capacity::MEMORY,
    Swap => Swap capacity::SWAP,
    Cores => Cores capacity::CORES,
    Virtualization => Virtualization virtualization::VIRTUALIZATION,
    System => System system::SYSTEM,
    File => Path path::FILE,
    Folder => Path path::FOLDER,
    Variable => Variable variable::VARIABLE,
    Group => Group group::GROUP,
    Rights => Rights rights::RIGHTS,
    Socket => Socket socket::SOCKET,
    Device => Device device::DEVICE,
    Service => Service service::SERVICE,
    Reach => Reach reach::REACH,
    Clock => Clock clock::CLOCK,
    Hostname => Hostname name::HOSTNAME,
    Subnet => Subnet name::SUBNET,
    Limit => Limit limit::LIMIT,
    Library => Library library::LIBRARY,
    Module => Component component::MODULE,
    Headers => Component component::HEADERS,
    SystemPackage => Component component::SYSTEM_PACKAGE,
    KernelModule => Component component::KERNEL_MODULE,
    Locale => Locale locale::LOCALE,
    Setting => Setting setting::SETTING,
    Checkout => Checkout checkout::CHECKOUT,
    Command => Command command::COMMAND,
    AnyOf => AnyOf any_of::ANY_OF,
}

subjects! {
    $
    /// A program.
    Tool(tool::Tool),
    /// A port that must be free.
    Port(port::Port),
    /// Room on a disk.
    Disk(disk::Disk),
    /// Memory.
    Memory(capacity::Memory),
    /// Room that memory may be put into.
    Swap(capacity::Swap),
    /// Processor cores.
    Cores(capacity::Cores),
    /// Hardware virtualization.
    Virtualization(virtualization::Virtualization),
    /// The operating system.
    System(system::Systems),
    /// A file or a folder.
    Path(path::Path),
    /// An environment variable.
    Variable(variable::EnvironmentVariable),
    /// Membership of a group.
    Group(group::Group),
    /// The rights of this user.
    Rights(rights::Rights),
    /// A local socket.
    Socket(socket::Socket),
    /// A device.
    Device(device::Device),
    /// A service that must answer.
    Service(service::Service),
    /// An outside address that must be reachable.
    Reach(reach::Reach),
    /// The clock.
    Clock(clock::Clock),
    /// A host name.
    Hostname(name::Hostname),
    /// A private network that must be free.
    Subnet(name::Subnet),
    /// A limit of the system.
    Limit(limit::Limit),
    /// A library to build against.
    Library(library::Library),
    /// A module, headers, or a package.
    Component(component::Component),
    /// A locale that is made here.
    Locale(locale::Locale),
    /// A version-control setting.
    Setting(setting::Setting),
    /// The working copy.
    Checkout(checkout::Checkout),
    /// A command of the guide's own.
    Command(command::Command),
    /// Alternatives.
    AnyOf(any_of::AnyOf),
}

reasons! {
    $
    /// A tool.
    Tool(Box<tool::reason::ToolReason>) from tool::reason::ToolReason,
    /// A port.
    Port(Box<port::reason::PortReason>) from port::reason::PortReason,
    /// Disk space.
    Disk(Box<disk::reason::DiskReason>) from disk::reason::DiskReason,
    /// Memory or cores.
    Capacity(capacity::reason::CapacityReason) from capacity::reason::CapacityReason,
    /// Hardware virtualization.
    Virtualization(virtualization::reason::VirtualizationReason) from virtualization::reason::VirtualizationReason,
    /// The operating system.
    System(Box<system::reason::SystemReason>) from system::reason::SystemReason,
    /// A file or a folder.
    Path(Box<path::reason::PathReason>) from path::reason::PathReason,
    /// A variable.
    Variable(variable::reason::VariableReason) from variable::reason::VariableReason,
    /// A group.
    Group(group::reason::GroupReason) from group::reason::GroupReason,
    /// Rights.
    Rights(rights::reason::RightsFacts) from rights::reason::RightsFacts,
    /// A local socket.
    Socket(Box<socket::reason::SocketReason>) from socket::reason::SocketReason,
    /// A device.
    Device(device::reason::DeviceReason) from device::reason::DeviceReason,
    /// A service.
    Service(Box<service::reason::ServiceReason>) from service::reason::ServiceReason,
    /// An address outside.
    Reach(Box<reach::reason::ReachReason>) from reach::reason::ReachReason,
    /// The clock.
    Clock(clock::reason::ClockReason) from clock::reason::ClockReason,
    /// A host name or a network.
    Name(name::reason::NameReason) from name::reason::NameReason,
    /// A limit.
    Limit(limit::reason::LimitReason) from limit::reason::LimitReason,
    /// A library.
    Library(Box<library::reason::LibraryReason>) from library::reason::LibraryReason,
    /// A module, headers, or a package.
    Component(Box<component::reason::ComponentReason>) from component::reason::ComponentReason,
    /// A locale.
    Locale(locale::reason::LocaleReason) from locale::reason::LocaleReason,
    /// A version-control setting.
    Setting(setting::reason::SettingReason) from setting::reason::SettingReason,
    /// The working copy.
    Checkout(checkout::reason::CheckoutReason) from checkout::reason::CheckoutReason,
    /// A command of the guide.
    Command(command::reason::CommandReason) from command::reason::CommandReason,
    /// Alternatives.
    AnyOf(any_of::reason::AnyOfReason) from any_of::reason::AnyOfReason,
    /// What any kind may have.
    General(General) from General,
}

impl Kind {
    /// Whether a requirement of this kind can have that cause.
    pub fn can_have(self, cause: Cause) -> bool {
        cause.about() == About::Any || self.about().contains(&cause.about())
    }
}

impl Subject {
    /// What the kind gives by itself.
    pub(crate) fn facts(&self) -> &dyn SubjectEntry {
        with_subject!(self, one => one)
    }
}

impl Reason {
    /// The cause.
    pub fn cause(&self) -> Cause {
        let facts: &dyn HasCause = with_reason!(self, one => one);
        facts.cause()
    }
}
