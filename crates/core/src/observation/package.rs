//! What a package manager offers, and how it stands.

use crate::prelude::*;
use crate::text::{Size, join_words};
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// What a package manager would install.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Candidate {
    /// This version.
    Version(Offered),
    /// It knows no such package.
    Absent,
    /// It has not fetched a list of packages yet, and so knows none.
    Unlisted,
    /// It refuses to work at all as it is set up: its own words.
    Unusable(String),
}

/// What a package manager offers of a package.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Offered {
    /// The version, in the manager's own words.
    pub version: String,
    /// How much would be downloaded, with all that comes along; `None` where the manager does not tell.
    pub download_bytes: Option<u64>,
    /// How many other packages would come along; `None` where the manager does not tell.
    pub others: Option<usize>,
    /// Where it only stands for another: that one's name and version, if it is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub brings: Option<(String, String)>,
    /// What would come of installing it.
    #[serde(default)]
    pub trial: Trial,
}

/// What would come of an installation, by the manager's own word: it worked it out and changed nothing.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Trial {
    /// Nothing is known that speaks against it.
    #[default]
    Unhindered,
    /// It was not tried: why.
    NotTried(String),
    /// It cannot be installed here: the manager's own words.
    Refused(String),
    /// These packages would be removed for it.
    Removes(Vec<String>),
    /// It would be installed, and the manager is told to leave it as it is.
    Held,
    /// Something else is half installed, and must be repaired first.
    Unfinished,
}

impl From<&str> for Offered {
    /// A version by itself.
    fn from(version: &str) -> Self {
        Self { version: version.to_owned(), download_bytes: None, others: None, brings: None, trial: Trial::Unhindered }
    }
}

/// How a package manager stands.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct ManagerState {
    /// What keeps it from changing packages now.
    pub barred: Option<Bar>,
    /// How many days ago its lists of packages were fetched; `None` where that cannot be told.
    pub lists_days: Option<u64>,
}

/// What keeps a package manager from changing packages.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Bar {
    /// This process is at it.
    Process(u32),
    /// A lock file that was left behind by something that has ended.
    LeftLock(String),
    /// An installation that was broken off and must be brought to its end.
    BrokenOff,
}

impl Display for Candidate {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Version(offered) => {
                write!(f, "version {}", offered.version)?;
                if let Some(bytes) = offered.download_bytes {
                    write!(f, ", {} to download", Size(bytes))?;
                }
                match offered.others {
                    None => {}
                    Some(0) => f.write_str(", by itself")?,
                    Some(1) => f.write_str(", with 1 other package")?,
                    Some(count) => write!(f, ", with {count} other packages")?,
                }
                match &offered.trial {
                    Trial::Unhindered => Ok(()),
                    Trial::NotTried(reason) => write!(f, "; not tried: {reason}"),
                    Trial::Refused(words) => write!(f, "; it cannot be installed: {words}"),
                    Trial::Removes(names) => write!(f, "; it would remove {}", join_words(names, "and")),
                    Trial::Held => f.write_str("; it is held back"),
                    Trial::Unfinished => f.write_str("; something else is half installed"),
                }
            }
            Self::Absent => f.write_str("no such package"),
            Self::Unlisted => f.write_str("no list of packages was fetched yet"),
            Self::Unusable(words) => f.write_str(words),
        }
    }
}

impl Display for ManagerState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match &self.barred {
            None => f.write_str("it can be used")?,
            Some(Bar::Process(process)) => write!(f, "process {process} uses it")?,
            Some(Bar::LeftLock(file)) => write!(f, "the lock {file} was left behind")?,
            Some(Bar::BrokenOff) => f.write_str("an installation was broken off")?,
        }
        match self.lists_days {
            Some(1) => f.write_str("; its lists are 1 day old"),
            Some(days) => write!(f, "; its lists are {days} days old"),
            None => Ok(()),
        }
    }
}
