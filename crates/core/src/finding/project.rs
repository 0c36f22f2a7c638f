//! What is found about variables, groups, limits, libraries, locales, settings, the working copy and commands.

use crate::cause::Cause;
use crate::finding::Place;
use crate::observation::Fate;
use crate::observation::Unfinished;
use crate::prelude::*;
use crate::version::{Fit, Miss, Version};
use serde::Serialize;

/// Why a variable will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct VariableReason {
    /// Its name.
    pub name: String,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: VariableTrouble,
}

/// What is the matter with a variable.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum VariableTrouble {
    /// Nothing sets it.
    Unset,
    /// It is set to nothing.
    Empty {
        /// Where.
        place: Place,
    },
    /// Its value has another form.
    Shape {
        /// Where it is set.
        place: Place,
    },
    /// A startup file sets it, and this terminal has not got it.
    OnlyInFile {
        /// The line of that file, where it is known.
        #[serde(skip_serializing_if = "Option::is_none")]
        line: Option<usize>,
        /// Why this terminal does not have it.
        fate: Fate,
        /// The file and line that keep it from having it.
        #[serde(skip_serializing_if = "Option::is_none")]
        kept_by: Option<(String, usize)>,
        /// Which file.
        file: String,
    },
    /// The file that sets it has line ends of Windows, or a mark before its text.
    OtherLineEnds {
        /// Where it is set.
        place: Place,
    },
    /// Its value names a folder or a locale that is not there.
    LeadsNowhere {
        /// Where it is set.
        place: Place,
    },
    /// It leads to another kit than the one that is meant.
    OtherKit {
        /// Where it is set.
        place: Place,
        /// The program that belongs to the kit which is meant.
        program: String,
        /// The folder of that kit.
        kit: String,
    },
    /// It is set and should not be.
    Unwanted {
        /// Where.
        place: Place,
    },
}

impl VariableReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            VariableTrouble::Unset => Cause::VariableUnset,
            VariableTrouble::Empty { .. } => Cause::VariableEmpty,
            VariableTrouble::Shape { .. } => Cause::VariableShape,
            VariableTrouble::OnlyInFile { .. } => Cause::VariableOnlyInFile,
            VariableTrouble::OtherLineEnds { .. } => Cause::VariableLineEnds,
            VariableTrouble::LeadsNowhere { .. } => Cause::VariableLeadsNowhere,
            VariableTrouble::OtherKit { .. } => Cause::VariableOtherKit,
            VariableTrouble::Unwanted { .. } => Cause::VariableUnwanted,
        }
    }
}

/// Why this user's rights do not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum RightsReason {
    /// They cannot act as administrator.
    NotAdmin,
    /// They are not the administrator now, and can become it.
    NotRoot,
    /// It is not known.
    Unknown,
}

/// The same, as facts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct RightsFacts {
    /// Why.
    pub rights: RightsReason,
}

impl From<RightsReason> for RightsFacts {
    fn from(rights: RightsReason) -> Self {
        Self { rights }
    }
}

impl RightsReason {
    pub(super) fn cause(self) -> Cause {
        match self {
            Self::NotAdmin | Self::NotRoot => Cause::RightsMissing,
            Self::Unknown => Cause::CouldNotLook,
        }
    }
}

/// Why a group is not in force.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum GroupReason {
    /// There is no such group.
    Absent,
    /// This user is not a member.
    NotMember,
    /// This user is a member from the next sign-in on.
    UntilSignIn,
}

impl GroupReason {
    pub(super) fn cause(self) -> Cause {
        match self {
            Self::Absent => Cause::GroupAbsent,
            Self::NotMember => Cause::GroupNotMember,
            Self::UntilSignIn => Cause::GroupUntilSignIn,
        }
    }
}

/// Why a limit will not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum LimitReason {
    /// It is too low.
    Low {
        /// The limit in force.
        number: u64,
        /// What is needed.
        needed: u64,
        /// This user may raise it.
        own: bool,
    },
    /// The ability is not there.
    Lacks,
}

impl LimitReason {
    pub(super) fn cause(self) -> Cause {
        match self {
            Self::Low { .. } => Cause::LimitLow,
            Self::Lacks => Cause::LimitLacks,
        }
    }
}

/// Why a library will not do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct LibraryReason {
    /// The description that was found, where one was.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub description: Option<String>,
    /// Another description that would do, where builds do not look, or not first.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub other: Option<OtherDescription>,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: LibraryTrouble,
}

/// A library's description that is not the one that builds find.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct OtherDescription {
    /// Its file.
    pub at: String,
    /// The version in it.
    pub version: String,
}

/// What is the matter with a library.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum LibraryTrouble {
    /// It is not installed.
    Missing,
    /// It needs another library to build against, and that is not here.
    Lacks {
        /// That one's name.
        other: String,
    },
    /// It is here to run with, and not to build against.
    NoHeaders {
        /// The library itself.
        loaded_from: String,
    },
    /// Its version is not in the range.
    OutOfRange {
        /// Its version.
        found: Version,
        /// What it breaks.
        #[serde(flatten)]
        miss: Box<Miss>,
    },
    /// Its version cannot be compared with the range.
    Incomparable {
        /// What it calls its version.
        found: String,
    },
}

impl LibraryReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            LibraryTrouble::Missing => Cause::LibraryMissing,
            LibraryTrouble::NoHeaders { .. } | LibraryTrouble::Lacks { .. } => Cause::LibraryNoHeaders,
            LibraryTrouble::OutOfRange { miss, .. } if miss.fit == Fit::TooOld => Cause::LibraryTooOld,
            LibraryTrouble::OutOfRange { .. } => Cause::LibraryTooNew,
            LibraryTrouble::Incomparable { .. } => Cause::CouldNotLook,
        }
    }
}

/// Why a locale will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum LocaleReason {
    /// Nobody has made it here.
    Missing {
        /// UTF-8 locales that are here, a few of them.
        others: Vec<String>,
    },
    /// It is here, and its characters are not UTF-8.
    OtherEncoding {
        /// What they are.
        encoding: String,
    },
}

impl LocaleReason {
    pub(super) fn cause(&self) -> Cause {
        match self {
            Self::Missing { .. } => Cause::LocaleMissing,
            Self::OtherEncoding { .. } => Cause::LocaleEncoding,
        }
    }
}

/// Why a version-control setting will not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum SettingReason {
    /// It is not set.
    Unset,
    /// It has another form.
    Shape,
}

impl SettingReason {
    pub(super) fn cause(self) -> Cause {
        match self {
            Self::Unset => Cause::SettingUnset,
            Self::Shape => Cause::SettingShape,
        }
    }
}

/// Why the working copy will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum CheckoutReason {
    /// It is none.
    NoWorkingCopy,
    /// It is on another branch, or none.
    Branch {
        /// On this one.
        branch: Option<String>,
    },
    /// Something in it was begun and is not done, and stands in the way.
    Unfinished {
        /// What.
        what: Unfinished,
    },
    /// It belongs to another user, and git refuses it.
    Foreign {
        /// Its folder.
        folder: String,
        /// Whose it is, where that has a name.
        owner: Option<String>,
    },
    /// Parts from other repositories were not fetched.
    Submodules {
        /// Which.
        missing: Vec<String>,
    },
    /// Parts from other repositories stand at another commit than the project records.
    SubmodulesMoved {
        /// Which.
        moved: Vec<String>,
    },
    /// Parts from other repositories were fetched, and their files are gone.
    SubmodulesEmptied {
        /// Which.
        emptied: Vec<String>,
    },
    /// Of large files only the pointers are here.
    LargeFiles {
        /// Which.
        missing: Vec<String>,
    },
    /// Only a part of its history is here.
    Shallow,
    /// It has no tags.
    NoTags,
    /// Texts in it have line ends of Windows.
    WindowsEnds {
        /// So many.
        texts: usize,
    },
    /// Whether they have is not known.
    EndsUnknown,
    /// Something is not committed.
    Dirty {
        /// So many files.
        changed: usize,
        /// How many of these are new files, which git does not track.
        untracked: usize,
    },
    /// Whether anything is uncommitted is not known.
    ChangesUnknown,
}

impl CheckoutReason {
    pub(super) fn cause(&self) -> Cause {
        match self {
            Self::NoWorkingCopy => Cause::CheckoutNone,
            Self::Branch { .. } => Cause::CheckoutBranch,
            Self::Unfinished { .. } => Cause::CheckoutUnfinished,
            Self::Foreign { .. } => Cause::CheckoutNotMine,
            Self::Submodules { .. } | Self::SubmodulesMoved { .. } | Self::SubmodulesEmptied { .. } => Cause::CheckoutSubmodules,
            Self::LargeFiles { .. } => Cause::CheckoutLargeFiles,
            Self::Dirty { .. } => Cause::CheckoutDirty,
            Self::Shallow => Cause::CheckoutShallow,
            Self::NoTags => Cause::CheckoutNoTags,
            Self::WindowsEnds { .. } => Cause::CheckoutLineEnds,
            Self::ChangesUnknown | Self::EndsUnknown => Cause::CouldNotLook,
        }
    }
}

/// Why a command of the guide will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum CommandReason {
    /// It was not run, because that needs consent.
    NoConsent,
    /// Its program was not found.
    NotFound,
    /// It could not be started.
    NotStarted {
        /// In the system's words.
        reason: String,
    },
    /// No program can be started here.
    NothingStarts {
        /// In the system's words.
        reason: String,
    },
    /// It did not end in time.
    TimeUp {
        /// After so many milliseconds it was stopped.
        after_ms: u64,
    },
    /// The person interrupted.
    Interrupted,
    /// It ended by a signal.
    Crashed {
        /// Which.
        signal: i32,
        /// Its own words, where it had any.
        said: Option<String>,
    },
    /// It ended with another status.
    Status {
        /// This one.
        status: i32,
        /// Its own words, where it had any.
        said: Option<String>,
    },
    /// It printed something else.
    Output {
        /// The first lines of what it printed.
        printed: String,
    },
}

impl CommandReason {
    pub(super) fn cause(&self) -> Cause {
        match self {
            Self::NoConsent => Cause::CommandNoConsent,
            Self::NotFound => Cause::CommandNotFound,
            Self::NotStarted { .. } | Self::Crashed { .. } | Self::Status { .. } => Cause::CommandFailed,
            Self::NothingStarts { .. } | Self::Interrupted => Cause::CouldNotLook,
            Self::TimeUp { .. } => Cause::CommandStuck,
            Self::Output { .. } => Cause::CommandOutput,
        }
    }
}
