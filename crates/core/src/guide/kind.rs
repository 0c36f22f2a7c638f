//! The kinds of requirements: their words, and the keys that go with each.

use super::vocabulary::Shape::{Duration, Either, Flag, Named, Number, Ports, Size, Table, Text, Texts, Word};
use crate::cause::{About, Cause};

use super::vocabulary::{Key, LIMITS, MANAGERS, MANAGERS_AND_INSTALLERS, SYSTEMS, Shape, may, needed};

/// The kinds of requirements: the subject keys of a guide.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Kind {
    /// `tool`
    Tool,
    /// `port`
    Port,
    /// `disk`
    Disk,
    /// `memory`
    Memory,
    /// `swap`
    Swap,
    /// `cores`
    Cores,
    /// `virtualization`
    Virtualization,
    /// `system`
    System,
    /// `file`
    File,
    /// `folder`
    Folder,
    /// `variable`
    Variable,
    /// `group`
    Group,
    /// `rights`
    Rights,
    /// `socket`
    Socket,
    /// `device`
    Device,
    /// `service`
    Service,
    /// `reach`
    Reach,
    /// `clock`
    Clock,
    /// `hostname`
    Hostname,
    /// `subnet`
    Subnet,
    /// `limit`
    Limit,
    /// `library`
    Library,
    /// `module`
    Module,
    /// `headers`
    Headers,
    /// `system_package`
    SystemPackage,
    /// `kernel_module`
    KernelModule,
    /// `locale`
    Locale,
    /// `setting`
    Setting,
    /// `checkout`
    Checkout,
    /// `command`
    Command,
    /// `any_of`
    AnyOf,
}

impl Kind {
    /// The groups of the causes that a requirement of this kind can have, besides those of every kind.
    pub const fn about(self) -> &'static [About] {
        match self {
            Self::Tool => &[About::Tool, About::Command],
            Self::Port => &[About::Port],
            Self::Disk => &[About::Disk],
            Self::Memory | Self::Swap | Self::Cores => &[About::Memory],
            Self::Virtualization => &[About::Virtualization],
            Self::System => &[About::System],
            Self::File | Self::Folder => &[About::Path],
            Self::Variable => &[About::Variable],
            Self::Group | Self::Rights => &[About::Group],
            Self::Socket | Self::Device => &[About::Socket],
            Self::Service => &[About::Service, About::Name],
            Self::Reach => &[About::Reach],
            Self::Hostname | Self::Subnet => &[About::Name],
            Self::Clock
            | Self::Limit
            | Self::Library
            | Self::Module
            | Self::Headers
            | Self::SystemPackage
            | Self::KernelModule
            | Self::Locale => &[About::Limit],
            Self::Setting | Self::Checkout => &[About::Checkout],
            Self::Command => &[About::Command],
            Self::AnyOf => &[About::Alternatives],
        }
    }

    /// Whether a requirement of this kind can have that cause.
    pub fn can_have(self, cause: Cause) -> bool {
        cause.about() == About::Any || self.about().contains(&cause.about())
    }

    /// Every kind, in the order of the reference.
    pub const ALL: [Self; 31] = [
        Self::Tool,
        Self::Port,
        Self::Disk,
        Self::Memory,
        Self::Swap,
        Self::Cores,
        Self::Virtualization,
        Self::System,
        Self::File,
        Self::Folder,
        Self::Variable,
        Self::Group,
        Self::Rights,
        Self::Socket,
        Self::Device,
        Self::Service,
        Self::Reach,
        Self::Clock,
        Self::Hostname,
        Self::Subnet,
        Self::Limit,
        Self::Library,
        Self::Module,
        Self::Headers,
        Self::SystemPackage,
        Self::KernelModule,
        Self::Locale,
        Self::Setting,
        Self::Checkout,
        Self::Command,
        Self::AnyOf,
    ];

    /// The key that names several at once, each a requirement of its own with its name for an id.
    pub const fn several(self) -> Option<&'static str> {
        if matches!(self, Self::Tool) {
            Some("tools")
        } else if matches!(self, Self::Library) {
            Some("libraries")
        } else {
            None
        }
    }

    /// The subject key in the guide.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Tool => "tool",
            Self::Port => "port",
            Self::Disk => "disk",
            Self::Memory => "memory",
            Self::Swap => "swap",
            Self::Cores => "cores",
            Self::Virtualization => "virtualization",
            Self::System => "system",
            Self::File => "file",
            Self::Folder => "folder",
            Self::Variable => "variable",
            Self::Group => "group",
            Self::Rights => "rights",
            Self::Socket => "socket",
            Self::Device => "device",
            Self::Service => "service",
            Self::Reach => "reach",
            Self::Clock => "clock",
            Self::Hostname => "hostname",
            Self::Subnet => "subnet",
            Self::Limit => "limit",
            Self::Library => "library",
            Self::Module => "module",
            Self::Headers => "headers",
            Self::SystemPackage => "system_package",
            Self::KernelModule => "kernel_module",
            Self::Locale => "locale",
            Self::Setting => "setting",
            Self::Checkout => "checkout",
            Self::Command => "command",
            Self::AnyOf => "any_of",
        }
    }
}

/// A kind of requirement: its subject, and the further keys that go with it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct KindKeys {
    /// Which kind.
    pub kind: Kind,
    /// The key that says what is checked.
    pub subject: Key,
    /// The keys that go with it.
    pub further: &'static [Key],
    /// The key that names several at once, each a requirement of its own.
    pub several: Option<&'static str>,
}

const fn keys(kind: Kind, shape: Shape, further: &'static [Key]) -> KindKeys {
    KindKeys { kind, subject: needed(kind.word(), shape), further, several: kind.several() }
}

const EXPECT: Key = may("expect", Word(&["present", "absent"]));
const PACKAGES: Key = may("packages", Named(MANAGERS));
/// Also by the installers of languages.
const ALL_PACKAGES: Key = may("packages", Named(&MANAGERS_AND_INSTALLERS));
const ACCESS: Key = may("access", Word(&["read", "write"]));
const UNIT: Key = may("unit", Text);
const START: Key = may("start", Text);
/// A file of the project that says a version in its own way.
const PIN: [Key; 3] = [needed("file", Text), may("pattern", Text), may("at_least", Flag)];
const OF_PATHS: &[Key] = &[
    may("mode", Text),
    may("owner", Word(&["me"])),
    may("writable", Flag),
    may("executable", Flag),
    may("runs_programs", Flag),
    may("contains", Texts),
    MEANS,
    EXAMPLE,
    EXPECT,
];
/// What a pattern means, for people.
const MEANS: Key = may("means", Text);
/// Something that fits it.
const EXAMPLE: Key = may("example", Text);

/// Every kind of requirement.
pub const KINDS: [KindKeys; Kind::ALL.len()] = [
    keys(
        Kind::Tool,
        Texts,
        &[
            may("version", Text),
            may("version_from", Either(&[Text, Table(&PIN)])),
            may("tested", Text),
            may("args", Texts),
            may("pattern", Text),
            ALL_PACKAGES,
            may("arch", Text),
            EXPECT,
        ],
    ),
    keys(
        Kind::Port,
        Ports,
        &[
            may("protocol", Word(&["tcp", "udp"])),
            may("address", Text),
            may("set_by", Table(&[needed("variable", Text), may("env_file", Text)])),
            may("held_ok", Texts),
        ],
    ),
    keys(Kind::Disk, Size, &[may("at", Text), may("inodes", Number)]),
    keys(Kind::Memory, Size, &[may("free", Flag)]),
    keys(Kind::Swap, Size, &[]),
    keys(Kind::Cores, Number, &[]),
    keys(Kind::Virtualization, Word(&["usable", "present"]), &[]),
    keys(Kind::System, Named(&SYSTEMS), &[may("edition", Texts), may("distro", Texts), may("arch", Texts)]),
    keys(Kind::File, Texts, OF_PATHS),
    keys(Kind::Folder, Texts, OF_PATHS),
    keys(
        Kind::Variable,
        Text,
        &[may("env_file", Text), may("of", Text), may("matches", Text), MEANS, EXAMPLE, may("secret", Flag), EXPECT],
    ),
    keys(Kind::Group, Text, &[]),
    keys(Kind::Rights, Word(&["admin", "root"]), &[]),
    keys(Kind::Socket, Text, &[ACCESS, PACKAGES, UNIT, START]),
    keys(Kind::Device, Texts, &[ACCESS, may("usb", Text)]),
    keys(Kind::Service, Text, &[may("http", Text), may("status", Number), may("contains", Text), MEANS, PACKAGES, UNIT, START]),
    keys(Kind::Reach, Text, &[may("status", Number)]),
    keys(Kind::Clock, Duration, &[needed("by", Text)]),
    keys(Kind::Hostname, Text, &[may("points_to", Text)]),
    keys(Kind::Subnet, Text, &[]),
    keys(Kind::Limit, Word(&LIMITS), &[may("at_least", Number)]),
    keys(Kind::Library, Text, &[may("version", Text), PACKAGES]),
    keys(Kind::Module, Text, &[needed("of", Text), may("version", Text), ALL_PACKAGES]),
    keys(Kind::Headers, Text, &[PACKAGES]),
    keys(Kind::SystemPackage, Named(MANAGERS), &[may("version", Text)]),
    keys(Kind::KernelModule, Text, &[]),
    keys(Kind::Locale, Text, &[may("utf8", Flag)]),
    keys(Kind::Setting, Text, &[may("of", Word(&["git"])), may("matches", Text), MEANS, EXAMPLE]),
    keys(
        Kind::Checkout,
        Text,
        &[
            may("branch", Text),
            may("submodules", Flag),
            may("large_files", Flag),
            may("clean", Flag),
            may("history", Word(&["full"])),
            may("tags", Flag),
            may("line_ends", Word(&["lf"])),
        ],
    ),
    keys(Kind::Command, Texts, &[may("exit", Number), may("matches", Text), MEANS, may("timeout", Duration), PACKAGES]),
    keys(Kind::AnyOf, Texts, &[]),
];
