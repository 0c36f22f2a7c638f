//! The operating system, and in what it runs.

use crate::prelude::*;
use serde::{Deserialize, Serialize};

/// The operating systems.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Os {
    /// Linux.
    Linux,
    /// macOS.
    Macos,
    /// Windows.
    Windows,
}

impl Os {
    /// Every system that is known.
    pub const ALL: [Self; 3] = [Self::Linux, Self::Macos, Self::Windows];

    /// The system with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|os| os.word() == word)
    }

    /// The word in guides and reports.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Linux => "linux",
            Self::Macos => "macos",
            Self::Windows => "windows",
        }
    }

    /// The name for people.
    pub fn name(self) -> &'static str {
        match self {
            Self::Linux => "Linux",
            Self::Macos => "macOS",
            Self::Windows => "Windows",
        }
    }
}

/// An operating system.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct System {
    /// Which one.
    pub os: Os,
    /// Its (kernel's) version.
    pub version: Option<String>,
    /// Its edition.
    pub edition: Option<String>,
    /// The distribution's id.
    pub distro: Option<String>,
    /// The ids of the families that it says it is like.
    pub distro_like: Vec<String>,
    /// The distribution's version.
    pub distro_version: Option<String>,
    /// Its name for people.
    pub pretty: Option<String>,
    /// The architecture, `x86_64` or `aarch64`.
    pub arch: String,
}

/// Where the system runs. `None` is: could not be found out.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Surroundings {
    /// A Linux guest inside Windows.
    pub wsl: Option<bool>,
    /// The project's folder lies on the disk of the system outside.
    pub outside: Option<bool>,
    /// Inside a container.
    pub container: Option<bool>,
    /// Inside a virtual machine.
    pub virtual_machine: Option<bool>,
    /// On a build server.
    pub ci: Option<bool>,
}
