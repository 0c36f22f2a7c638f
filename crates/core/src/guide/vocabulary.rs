//! The words of a guide: every table, its keys, and what stands behind each. The parser asks it what a key belongs to, the schema is made
//! from it, and a test holds it against what the parser really reads.

use super::kind::{Kind, LimitKind};
use crate::manager::Manager;
use crate::observation::Os;

/// What stands behind a key.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shape {
    /// A text.
    Text,
    /// A text, or a list of texts.
    Texts,
    /// A number that is not negative.
    Number,
    /// `true` or `false`.
    Flag,
    /// An amount of bytes, such as `12 GB`.
    Size,
    /// A time, such as `5 min`.
    Duration,
    /// A port, a list of ports, or a span of them in a text.
    Ports,
    /// One of these words.
    Word(&'static [&'static str]),
    /// A table with these keys.
    Table(&'static [Key]),
    /// A list of tables with these keys.
    Tables(&'static [Key]),
    /// A table with any keys, and this behind each.
    Map(&'static Shape),
    /// A list of numbers.
    Numbers,
    /// Any of these.
    Either(&'static [Shape]),
    /// A table whose keys are some of these words, with a text behind each.
    Named(&'static [&'static str]),
}

/// A key of a table.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Key {
    /// The key.
    pub name: &'static str,
    /// What stands behind it.
    pub shape: Shape,
    /// Whether it must be there.
    pub needed: bool,
}

/// A kind of requirement: its subject, and the further keys that go with it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct KindKeys {
    /// Which kind.
    pub kind: Kind,
    /// The key that says what is checked.
    pub subject: Key,
    /// The keys that go with it.
    pub further: &'static [Key],
}

/// The systems that a guide can speak of.
pub const SYSTEMS: [&str; 3] = [Os::Linux.word(), Os::Macos.word(), Os::Windows.word()];
/// The limits that are known.
#[allow(clippy::indexing_slicing, reason = "done while it is compiled")]
pub const LIMITS: [&str; LimitKind::ALL.len()] = {
    let mut words = [""; LimitKind::ALL.len()];
    let mut at = 0;
    while at < words.len() {
        words[at] = LimitKind::ALL[at].word();
        at += 1;
    }
    words
};
/// The package managers that are known.
pub const MANAGERS: &[&str] = Manager::WORDS;

use Shape::{Duration, Flag, Named, Number, Ports, Size, Table, Tables, Text, Texts, Word};

/// A key that must be there.
pub const fn needed(name: &'static str, shape: Shape) -> Key {
    Key { name, shape, needed: true }
}

/// A key that may be left out.
pub const fn may(name: &'static str, shape: Shape) -> Key {
    Key { name, shape, needed: false }
}

const fn keys(kind: Kind, shape: Shape, further: &'static [Key]) -> KindKeys {
    KindKeys { kind, subject: needed(kind.word(), shape), further }
}

const EXPECT: Key = may("expect", Word(&["present", "absent"]));
const PACKAGES: Key = may("packages", Named(MANAGERS));
const ACCESS: &[Key] = &[may("access", Word(&["read", "write"]))];
const OF_PATHS: &[Key] = &[
    may("mode", Text),
    may("owner", Word(&["me"])),
    may("writable", Flag),
    may("executable", Flag),
    may("contains", Text),
    EXPECT,
];

/// Every kind of requirement.
pub const KINDS: [KindKeys; Kind::ALL.len()] = [
    keys(
        Kind::Tool,
        Texts,
        &[
            may("version", Text),
            may("version_from", Text),
            may("args", Texts),
            may("pattern", Text),
            PACKAGES,
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
    keys(Kind::Cores, Number, &[]),
    keys(Kind::Virtualization, Word(&["usable", "present"]), &[]),
    keys(Kind::System, Named(&SYSTEMS), &[may("edition", Texts), may("distro", Texts), may("arch", Texts)]),
    keys(Kind::File, Text, OF_PATHS),
    keys(Kind::Folder, Text, OF_PATHS),
    keys(Kind::Variable, Text, &[may("env_file", Text), may("matches", Text), may("secret", Flag), EXPECT]),
    keys(Kind::Group, Text, &[]),
    keys(Kind::Socket, Text, ACCESS),
    keys(Kind::Device, Text, ACCESS),
    keys(Kind::Service, Text, &[may("http", Text), may("status", Number), may("contains", Text)]),
    keys(Kind::Reach, Text, &[may("status", Number)]),
    keys(Kind::Hostname, Text, &[may("points_to", Text)]),
    keys(Kind::Subnet, Text, &[]),
    keys(Kind::Limit, Word(&LIMITS), &[may("at_least", Number)]),
    keys(Kind::Library, Text, &[may("version", Text), PACKAGES]),
    keys(Kind::Locale, Text, &[may("utf8", Flag)]),
    keys(Kind::Setting, Text, &[may("of", Word(&["git"])), may("matches", Text)]),
    keys(Kind::Checkout, Text, &[may("branch", Text), may("submodules", Flag), may("large_files", Flag), may("clean", Flag)]),
    keys(Kind::Command, Texts, &[may("exit", Number), may("matches", Text), may("timeout", Duration)]),
    keys(Kind::AnyOf, Texts, &[]),
];

/// The keys of a fix; `cause` is one of the causes.
pub const FIX: [Key; 10] = [
    needed("say", Text),
    may("run", Texts),
    may("edit", Table(&[needed("file", Text), needed("append", Text)])),
    may("cause", Text),
    may("when", Text),
    may("admin", Flag),
    may("then", Word(&["new-shell", "sign-in", "restart"])),
    may("download", Size),
    may("takes", Duration),
    may("caution", Text),
];

/// The keys that every requirement may have.
pub const REQUIREMENT: [Key; 9] = [
    may("stage", Text),
    may("title", Text),
    may("why", Text),
    may("level", Word(&["must", "should", "may"])),
    may("roles", Texts),
    may("when", Text),
    may("after", Texts),
    may("docs", Text),
    may("fix", Tables(&FIX)),
];

/// The keys of `[project]`.
pub const PROJECT: [Key; 5] =
    [needed("name", Text), may("about", Text), may("home", Text), may("help", Text), may("systems", Texts)];

/// The keys of a `[[stage]]`.
pub const STAGE: [Key; 5] =
    [needed("id", Text), may("title", Text), may("intro", Text), may("after_start", Flag), may("when", Text)];

/// The keys of a `[role.ID]`.
pub const ROLE: [Key; 1] = [may("about", Text)];
