//! The words of a guide: every table, its keys, and what stands behind each. The parser asks it what a key belongs to, the schema is made
//! from it, and a test holds it against what the parser really reads.

use super::Installer;
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
#[non_exhaustive]
pub struct Key {
    /// The key.
    pub name: &'static str,
    /// What stands behind it.
    pub shape: Shape,
    /// Whether it must be there.
    pub needed: bool,
}

/// The limits that are known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LimitKind {
    /// Files that are open at once.
    OpenFiles,
    /// Files that are watched for changes.
    FileWatches,
    /// Processes at once.
    Processes,
    /// The length of a path.
    PathLength,
    /// Whether symbolic links can be made.
    SymbolicLinks,
}

impl LimitKind {
    /// Every limit.
    pub const ALL: [Self; 5] = [Self::OpenFiles, Self::FileWatches, Self::Processes, Self::PathLength, Self::SymbolicLinks];

    /// The word in guides.
    pub const fn word(self) -> &'static str {
        match self {
            Self::OpenFiles => "open-files",
            Self::FileWatches => "file-watches",
            Self::Processes => "processes",
            Self::PathLength => "path-length",
            Self::SymbolicLinks => "symbolic-links",
        }
    }

    /// The limit with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|limit| limit.word() == word)
    }
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
/// The same, and the installers of languages.
#[allow(clippy::indexing_slicing, reason = "done while it is compiled")]
pub const MANAGERS_AND_INSTALLERS: [&str; MANAGERS.len() + Installer::ALL.len()] = {
    let mut words = [""; MANAGERS.len() + Installer::ALL.len()];
    let mut at = 0;
    while at < words.len() {
        words[at] = if at < MANAGERS.len() { MANAGERS[at] } else { Installer::ALL[at - MANAGERS.len()].word() };
        at += 1;
    }
    words
};

use Shape::{Duration, Either, Flag, Named, Number, Size, Table, Tables, Text, Texts, Word};

/// A key that must be there.
pub const fn needed(name: &'static str, shape: Shape) -> Key {
    Key { name, shape, needed: true }
}

/// A key that may be left out.
pub const fn may(name: &'static str, shape: Shape) -> Key {
    Key { name, shape, needed: false }
}

/// References that people write for a key.
pub(super) const OTHER_WORDS: [(&str, &str); 48] = [
    ("lib", "library"),
    ("libs", "libraries"),
    ("env", "variable"),
    ("environment", "variable"),
    ("env_var", "variable"),
    ("python_module", "module"),
    ("python_package", "module"),
    ("node_module", "module"),
    ("gem", "module"),
    ("min_version", "version"),
    ("minimum_version", "version"),
    ("max_version", "version"),
    ("versions", "version"),
    ("program", "tool"),
    ("binary", "tool"),
    ("programs", "tools"),
    ("cmd", "command"),
    ("check", "command"),
    ("dir", "folder"),
    ("directory", "folder"),
    ("path", "file"),
    ("ram", "memory"),
    ("cpu", "cores"),
    ("cpus", "cores"),
    ("os", "system"),
    ("platform", "system"),
    ("url", "reach"),
    ("host", "hostname"),
    ("network", "subnet"),
    ("package", "system_package"),
    ("depends_on", "after"),
    ("depends", "after"),
    ("needs", "after"),
    ("requires", "after"),
    ("if", "when"),
    ("condition", "when"),
    ("role", "roles"),
    ("reason", "why"),
    ("because", "why"),
    ("description", "why"),
    ("name", "title"),
    ("severity", "level"),
    ("optional", "level"),
    ("required", "level"),
    ("link", "docs"),
    ("regex", "matches"),
    ("time", "clock"),
    ("usb_id", "usb"),
];

/// The keys of a fix; `cause` is one of the causes.
pub const FIX: [Key; 12] = [
    needed("say", Text),
    may("run", Texts),
    may(
        "edit",
        Table(&[
            needed("file", Text),
            may("append", Text),
            may("replace", Table(&[needed("pattern", Text), needed("with", Text)])),
            may("from", Text),
        ]),
    ),
    may("only_while", Text),
    may("prints", Text),
    may("cause", Text),
    may("when", Text),
    may("admin", Flag),
    may("then", Word(&["new-shell", "sign-in", "restart"])),
    may("download", Size),
    may("takes", Duration),
    may("caution", Text),
];

const LEVEL: Shape = Word(&["must", "should", "may"]);

/// The keys that every requirement may have.
pub const REQUIREMENT: [Key; 10] = [
    may("stage", Text),
    may("place", Text),
    may("title", Text),
    may("why", Text),
    may("level", LEVEL),
    may("roles", Texts),
    may("when", Text),
    may("after", Texts),
    may("docs", Text),
    may("fix", Tables(&FIX)),
];

/// The keys of `[project]`.
pub const PROJECT: [Key; 8] = [
    needed("name", Text),
    may("about", Text),
    may("home", Text),
    may("help", Text),
    may("systems", Texts),
    may("first_step", Texts),
    may("needs", Text),
    may("get", Either(&[Text, Table(&GET)])),
];

/// The keys of `get`: systems, their package managers, and installers of languages.
pub const GET: [Key; 16] = [
    may("linux", Text),
    may("macos", Text),
    may("windows", Text),
    may("apt", Text),
    may("dnf", Text),
    may("zypper", Text),
    may("pacman", Text),
    may("apk", Text),
    may("winget", Text),
    may("brew", Text),
    may("port", Text),
    may("scoop", Text),
    may("choco", Text),
    may("pip", Text),
    may("npm", Text),
    may("cargo", Text),
];

/// The keys of a `[[stage]]`.
pub const STAGE: [Key; 11] = [
    needed("id", Text),
    may("title", Text),
    may("intro", Text),
    may("after_start", Flag),
    may("start", Texts),
    may("when", Text),
    may("roles", Texts),
    may("level", LEVEL),
    may("after", Texts),
    may("why", Text),
    may("place", Text),
];

/// The keys of a `[role.ID]`.
pub const ROLE: [Key; 6] =
    [may("about", Text), may("when", Text), may("level", LEVEL), may("after", Texts), may("why", Text), may("place", Text)];

/// The keys of a `[place.ID]`.
pub const PLACE: [Key; 4] = [may("title", Text), may("when", Text), may("outside", Text), may("enter", Text)];

/// The keys of an entry of `accept` in `[proofread]`.
pub const ACCEPTANCE: [Key; 3] = [needed("rule", Text), may("of", Text), needed("because", Text)];

/// The keys of `[proofread]`.
pub const PROOFREAD: [Key; 1] = [may("accept", Tables(&ACCEPTANCE))];

/// The keys of a `[value.ID]`.
pub const VALUE: [Key; 5] =
    [needed("is", Either(&[Text, Number])), may("variable", Text), may("env_file", Text), may("file", Text), may("key", Text)];

/// Whether it must be there.
pub(crate) const EXPECT: Key = may("expect", Word(&["present", "absent"]));
/// Its package for each manager.
pub(crate) const PACKAGES: Key = may("packages", Named(MANAGERS));
/// The same, also by the installers of languages.
pub(crate) const ALL_PACKAGES: Key = may("packages", Named(&MANAGERS_AND_INSTALLERS));
/// How it is to be opened.
pub(crate) const ACCESS: Key = may("access", Word(&["read", "write"]));
/// The unit of the system's service manager that it is.
pub(crate) const UNIT: Key = may("unit", Text);
/// The command that starts it.
pub(crate) const START: Key = may("start", Text);
/// What a pattern means, for people.
pub(crate) const MEANS: Key = may("means", Text);
/// Something that fits it.
pub(crate) const EXAMPLE: Key = may("example", Text);
