//! What is seen of the person's variables, settings and working copy. Values are never kept: only whether they are there and fit.

use crate::prelude::*;
use crate::text::{Pattern, join_words};
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// What a value is, without the value.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Value {
    /// There is none.
    Unset,
    /// It is there and empty.
    Empty,
    /// It is there; whether it has the shape that was asked for.
    Set(bool),
}

/// Where a variable is set.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct VariableState {
    /// In this process's environment.
    pub environment: Value,
    /// In the file that was named, with the place.
    pub file: Option<(String, Value)>,
    /// The number of the line of the file that sets it, where it has one alone; none where its value goes on over several.
    #[serde(default)]
    pub line: Option<usize>,
    /// The file that sets it has line ends of Windows, or a mark before its text, which not all that read it pass over.
    #[serde(default)]
    pub of_another_system: bool,
    /// What the value in the environment names is not there: a folder, for what is called a home or a root; a locale, for what chooses one.
    #[serde(default)]
    pub leads_nowhere: bool,
    /// A file that new terminals read sets it: that file.
    pub startup: Option<String>,
    /// The line of that file.
    #[serde(default)]
    pub startup_line: Option<usize>,
    /// Why this process does not have what is set there.
    #[serde(default)]
    pub fate: StartupOutcome,
    /// The file and line that keep it from having it, where such are known.
    #[serde(default)]
    pub kept_by: Option<(String, usize)>,
}

/// Why a process does not have a variable that a start-up file sets.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum StartupOutcome {
    /// A new terminal would have it: this one was opened before.
    #[default]
    NewTerminal,
    /// Only a new sign-in would have it.
    SignIn,
    /// It is set for the shell alone, and not exported.
    NotExported,
    /// This shell does not read that file.
    NotRead,
    /// The file is left before that line.
    Left,
    /// Another line takes it away again.
    Removed,
}

/// What is known of a library.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct LibraryState {
    /// Its description for builds: the file, and the version in it.
    pub description: Option<(String, String)>,
    /// Another description that this one asks for and that is not there.
    #[serde(default)]
    pub lacks: Option<String>,
    /// Further descriptions of it, behind that one or in folders where builds do not look: the file, and the version in it.
    #[serde(default)]
    pub others: Vec<(String, String)>,
    /// The library itself, as programs load it.
    pub loaded_from: Option<String>,
}

/// Something in a working copy that was begun and is not done.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Unfinished {
    /// A merge.
    Merge,
    /// A rebase.
    Rebase,
    /// A git is running here, or has left its lock behind, at this place.
    Locked(String),
}

impl Unfinished {
    /// The word of git's for it.
    pub fn verb(&self) -> &'static str {
        match self {
            Self::Merge => "merge",
            Self::Rebase => "rebase",
            Self::Locked(_) => "lock",
        }
    }
}

/// The state of a working copy; what was not asked for is empty.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct CheckoutState {
    /// The place is a working copy at all.
    pub present: bool,
    /// The current branch; none where no branch is current.
    pub branch: Option<String>,
    /// What was begun in it and is not done.
    #[serde(default)]
    pub unfinished: Option<Unfinished>,
    /// Its folder, where it belongs to another user, and that user, where they have a name.
    #[serde(default)]
    pub foreign: Option<(String, Option<String>)>,
    /// Submodules that were not fetched.
    pub submodules: Vec<String>,
    /// Submodules that stand at another commit than is recorded.
    #[serde(default)]
    pub moved: Vec<String>,
    /// Submodules that were fetched, and of which only that is left.
    #[serde(default)]
    pub emptied: Vec<String>,
    /// Large files of which only the pointer is there.
    pub large_files: Vec<String>,
    /// How many files have changes that are not committed; `None` where it was not asked or could not be found out.
    pub changed: Option<usize>,
    /// How many of these are new files, which git does not track.
    #[serde(default)]
    pub untracked: usize,
    /// Only a part of its history was fetched.
    #[serde(default)]
    pub shallow: bool,
    /// It has no tags.
    #[serde(default)]
    pub no_tags: bool,
    /// How many texts have line ends of Windows; `None` where it was not asked or could not be found out.
    #[serde(default)]
    pub windows_ends: Option<usize>,
}

/// What a file of the project says about a tool's version.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Pinned {
    /// This range of versions, said there.
    Range(String, String),
    /// This version, found there by a pattern.
    Version(String, String),
    /// Every version does, said there.
    Any(String),
    /// The file is not there.
    NoFile,
    /// The file says nothing about it.
    Silent,
    /// It says something that is no version, there.
    Unreadable(String),
}

/// Whether something is installed that is neither a program nor a library.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum InstalledState {
    /// It is.
    Here {
        /// Its version, where it says one.
        version: Option<String>,
        /// Where.
        at: String,
    },
    /// It is not.
    Absent {
        /// A part without which it does nothing, where the rest of it is there.
        lacks: Option<String>,
    },
}

/// Where a variable leads.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Leads {
    /// To the kit that is meant.
    There,
    /// Somewhere else; this is the folder of the kit that is meant.
    Elsewhere(String),
    /// It is not set.
    Unset,
}

/// A limit of the system.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LimitState {
    /// The number in force; the one up to which this user may raise it, where there is one.
    Number(u64, Option<u64>),
    /// There is no limit.
    Unlimited,
    /// An ability that is there, or not.
    Able(bool),
}

impl Value {
    /// What is told of a value: whether it is empty, and else whether it has the shape that is asked for.
    pub fn of(value: &str, shape: Option<&Pattern>) -> Self {
        if value.is_empty() { Self::Empty } else { Self::Set(shape.is_none_or(|shape| shape.matches(value))) }
    }

    /// In words, without the value.
    pub fn words(self) -> &'static str {
        match self {
            Self::Unset => "not set",
            Self::Empty => "set to nothing",
            Self::Set(true) => "set",
            Self::Set(false) => "set, in another form",
        }
    }
}

impl Display for VariableState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} in the environment", self.environment.words())?;
        if let Some((place, value)) = &self.file {
            write!(f, "; {} in {place}", value.words())?;
        }
        match &self.startup {
            Some(file) => write!(f, "; set in {file}"),
            None => Ok(()),
        }
    }
}

impl Display for LibraryState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (&self.description, &self.loaded_from) {
            (Some((file, version)), _) => write!(f, "version {version}, by {file}"),
            (None, Some(library)) => write!(f, "no description for builds; the library itself is {library}"),
            (None, None) => f.write_str("neither a description for builds nor the library"),
        }
    }
}

impl Display for CheckoutState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if !self.present {
            return f.write_str("no working copy");
        }
        match &self.branch {
            Some(branch) => write!(f, "on branch {branch}")?,
            None => f.write_str("on no branch")?,
        }
        if !self.submodules.is_empty() {
            write!(f, "; not fetched: {}", join_words(&self.submodules, "and"))?;
        }
        for (what, names) in [("at another commit", &self.moved), ("without files", &self.emptied)] {
            if !names.is_empty() {
                write!(f, "; {what}: {}", join_words(names, "and"))?;
            }
        }
        if let Some((folder, owner)) = &self.foreign {
            write!(f, "; {folder} belongs to {}", owner.as_deref().unwrap_or("another user"))?;
        }
        if !self.large_files.is_empty() {
            write!(f, "; only pointers: {}", join_words(&self.large_files, "and"))?;
        }
        match self.changed {
            Some(count) => write!(f, "; {count} changed"),
            None => Ok(()),
        }
    }
}

impl Display for Pinned {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Range(range, place) => write!(f, "{range}, said in {place}"),
            Self::Version(version, place) => write!(f, "{version}, in {place}"),
            Self::Any(place) => write!(f, "any version, said in {place}"),
            Self::NoFile => f.write_str("the file is not there"),
            Self::Silent => f.write_str("nothing about it"),
            Self::Unreadable(place) => write!(f, "no version that can be read, in {place}"),
        }
    }
}

impl Display for LimitState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Number(number, Some(most)) if most != number => write!(f, "{number}, which you may raise to {most}"),
            Self::Number(number, _) => write!(f, "{number}"),
            Self::Unlimited => f.write_str("no limit"),
            Self::Able(true) => f.write_str("allowed"),
            Self::Able(false) => f.write_str("not allowed"),
        }
    }
}
