//! Languages and their installers.

/// The languages whose interpreters' modules are found.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Language {
    /// Python.
    Python,
    /// Node.js.
    Node,
    /// Ruby.
    Ruby,
    /// Perl.
    Perl,
    /// PHP.
    Php,
}

impl Language {
    /// The language of a tool's interpreter, by the tool's name.
    pub fn of_tool(name: &str) -> Option<Self> {
        let stem = name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.');
        Some(match stem {
            "python" => Self::Python,
            "node" | "nodejs" => Self::Node,
            "ruby" => Self::Ruby,
            "perl" => Self::Perl,
            "php" => Self::Php,
            _ => return None,
        })
    }

    /// Its word.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Python => "python",
            Self::Node => "node",
            Self::Ruby => "ruby",
            Self::Perl => "perl",
            Self::Php => "php",
        }
    }

    /// What people call it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Python => "Python",
            Self::Node => "Node.js",
            Self::Ruby => "Ruby",
            Self::Perl => "Perl",
            Self::Php => "PHP",
        }
    }
}

/// The installers of languages, which put things into a place of the person's own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Installer {
    /// pip
    Pip,
    /// npm
    Npm,
    /// cargo
    Cargo,
    /// gem
    Gem,
    /// go
    Go,
}

impl Installer {
    /// Every one.
    pub const ALL: [Self; 5] = [Self::Pip, Self::Npm, Self::Cargo, Self::Gem, Self::Go];

    /// The word in the guide, which is also its command.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Pip => "pip",
            Self::Npm => "npm",
            Self::Cargo => "cargo",
            Self::Gem => "gem",
            Self::Go => "go",
        }
    }

    /// The one with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|one| one.word() == word)
    }

    /// Whether a name is one of its packages and nothing else: no option, no file, no address.
    pub fn takes(self, name: &str) -> bool {
        let right =
            |c: char| c.is_ascii_alphanumeric() || "-_.".contains(c) || (c == '/' && matches!(self, Self::Npm | Self::Go));
        let plain = name.strip_prefix('@').filter(|_| self == Self::Npm).unwrap_or(name);
        let begins = plain.starts_with(|c: char| c.is_ascii_alphanumeric());
        begins && plain.chars().all(right) && !plain.contains("..") && !plain.ends_with('/') && name.len() <= 200
    }
}
