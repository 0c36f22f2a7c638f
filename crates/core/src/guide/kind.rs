//! The closed lists of words that a guide chooses from: kinds and limits.

/// The kinds of requirements: the subject keys of a guide.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Kind {
    /// `tool`
    Tool,
    /// `port`
    Port,
    /// `disk`
    Disk,
    /// `memory`
    Memory,
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
    /// `socket`
    Socket,
    /// `device`
    Device,
    /// `service`
    Service,
    /// `reach`
    Reach,
    /// `hostname`
    Hostname,
    /// `subnet`
    Subnet,
    /// `limit`
    Limit,
    /// `library`
    Library,
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
    /// Every kind, in the order of the reference.
    pub const ALL: [Self; 24] = [
        Self::Tool,
        Self::Port,
        Self::Disk,
        Self::Memory,
        Self::Cores,
        Self::Virtualization,
        Self::System,
        Self::File,
        Self::Folder,
        Self::Variable,
        Self::Group,
        Self::Socket,
        Self::Device,
        Self::Service,
        Self::Reach,
        Self::Hostname,
        Self::Subnet,
        Self::Limit,
        Self::Library,
        Self::Locale,
        Self::Setting,
        Self::Checkout,
        Self::Command,
        Self::AnyOf,
    ];

    /// The subject key in the guide.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Tool => "tool",
            Self::Port => "port",
            Self::Disk => "disk",
            Self::Memory => "memory",
            Self::Cores => "cores",
            Self::Virtualization => "virtualization",
            Self::System => "system",
            Self::File => "file",
            Self::Folder => "folder",
            Self::Variable => "variable",
            Self::Group => "group",
            Self::Socket => "socket",
            Self::Device => "device",
            Self::Service => "service",
            Self::Reach => "reach",
            Self::Hostname => "hostname",
            Self::Subnet => "subnet",
            Self::Limit => "limit",
            Self::Library => "library",
            Self::Locale => "locale",
            Self::Setting => "setting",
            Self::Checkout => "checkout",
            Self::Command => "command",
            Self::AnyOf => "any_of",
        }
    }
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
