//! What a repository says about what building it needs, as values: the readers make them, drafting and proofreading stand on them.

mod brings;
mod coverage;
mod merged;

pub use brings::{Provided, canonical, package_provides};
pub use coverage::{Coverage, requirement_for};
pub use merged::{Merged, merge};

use crate::guide::Language;
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use core::fmt::{self, Display};

/// One thing that a repository says.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Statement {
    /// What it is about.
    pub topic: Topic,
    /// The versions that it asks for, as a guide writes ranges; nothing where any will do.
    pub range: Option<String>,
    /// How firm it is.
    pub firmness: Confidence,
    /// Where it stands.
    pub place: Place,
    /// What limits it.
    pub only: Option<Restriction>,
    /// The variable that moves a port.
    pub variable: Option<String>,
    /// The file in which such a variable is set.
    pub env_file: Option<String>,
    /// The name looks like one that holds a secret.
    pub secret: bool,
    /// `version_from` reads the same from this file.
    pub is_pin: bool,
    /// The package that it was told as.
    pub package: Option<(Manager, String)>,
}

/// What a statement is about, in the words of requirements.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Topic {
    /// A program.
    Tool(String),
    /// A library, by the name that pkg-config knows.
    Library(String),
    /// The headers of an interpreter.
    Headers(Language),
    /// A module of an interpreter.
    Module(Language, String),
    /// A package that nobody here knows.
    Package(Manager, String),
    /// A port that must be free.
    Port(u16),
    /// A variable.
    Variable(String),
    /// A service that must run, and the port where it is usually asked.
    Service(String, u16),
    /// Something that runs containers.
    ContainerEngine,
    /// Repositories inside the repository.
    Submodules,
    /// An operating system on which it is built.
    System(Os),
}

/// Where a statement stands.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Place {
    /// The file, from the root of the repository, with `/` between folders; or what was seen, where it is no file.
    pub file: Arc<str>,
    /// The line, from 1; 0 where it is no file.
    pub line: usize,
    /// What of the file, where it has a name: `engines.node`.
    pub item: String,
}

/// How firm a statement is, the firmest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Confidence {
    /// The build itself refuses without it.
    Pinned,
    /// The build or its servers use it just so.
    Used,
    /// A person wrote it somewhere.
    Mentioned,
}

/// What limits a statement.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Restriction {
    /// A condition that a guide can say: `windows`.
    When(String),
    /// Anything else, as words: `where WITH_SOUND`.
    Text(String),
}

impl Confidence {
    /// Its word.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Pinned => "pinned",
            Self::Used => "used",
            Self::Mentioned => "mentioned",
        }
    }
}

impl Statement {
    /// A statement without anything further.
    pub fn new(topic: Topic, firmness: Confidence, place: Place) -> Self {
        Self {
            topic,
            range: None,
            firmness,
            place,
            only: None,
            variable: None,
            env_file: None,
            secret: false,
            is_pin: false,
            package: None,
        }
    }
}

impl Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.line == 0 { f.write_str(&self.file) } else { write!(f, "{}:{}", self.file, self.line) }
    }
}

impl Display for Topic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Tool(name) => write!(f, "tool {name}"),
            Self::Library(name) => write!(f, "library {name}"),
            Self::Headers(language) => write!(f, "headers {}", language.word()),
            Self::Module(language, name) => write!(f, "module {} {name}", language.word()),
            Self::Package(manager, name) => write!(f, "package {} {name}", manager.word()),
            Self::Port(number) => write!(f, "port {number}"),
            Self::Variable(name) => write!(f, "variable {name}"),
            Self::Service(name, port) => write!(f, "service {name} {port}"),
            Self::ContainerEngine => f.write_str("container-engine"),
            Self::Submodules => f.write_str("submodules"),
            Self::System(os) => write!(f, "system {}", os.word()),
        }
    }
}

impl Display for Restriction {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::When(condition) => write!(f, "if {condition}"),
            Self::Text(words) => write!(f, "only {words}"),
        }
    }
}

impl Display for Statement {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}  {}  {}", self.place, self.firmness.word(), self.topic)?;
        if let Some(range) = &self.range {
            write!(f, " {range}")?;
        }
        if let Some(variable) = &self.variable {
            write!(f, " {variable}")?;
        }
        if self.secret {
            f.write_str(" secret")?;
        }
        match &self.only {
            Some(only) => write!(f, "  {only}"),
            None => Ok(()),
        }
    }
}
