//! The questions that can be put to a machine. Each is small, and plain data: a row of `probe/rows.rs`.

mod rows;

use crate::guide::Protocol;
use crate::prelude::*;
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

pub use rows::Probe;

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

/// What a question opens by a path that a guide names: a stranger's word, which the host looks at before it opens anything.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Opens<'p> {
    /// Nothing.
    Nothing,
    /// Files and folders.
    Files(Vec<&'p str>),
    /// What may be a device or a pipe.
    Device(&'p str),
}

impl<'p> Opens<'p> {
    /// One file or folder.
    fn file(path: &'p str) -> Self {
        Self::Files(vec![path])
    }

    /// The program of a command, where it is named by its place and not looked for on PATH.
    fn program(words: &'p [String]) -> Self {
        let program = words.first().map(String::as_str).filter(|word| word.contains(['/', '\\']));
        Self::Files(program.into_iter().collect())
    }
}

/// On which files an answer rests: whoever waits for it to change need only look there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WatchPaths {
    /// It may change by itself, or nobody knows with what.
    Unknown,
    /// On what it opens.
    Opened,
    /// On these, where the system is Linux; elsewhere nobody knows.
    OnLinux(&'static [&'static str]),
    /// On files that only the host knows.
    OfHost,
}
