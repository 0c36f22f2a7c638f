//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::Piece;
use crate::prelude::*;
use crate::version::{Mismatch, Range, RangeMatch, Version};
use serde::Serialize;

/// How a tool is met.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum ToolMet {
    /// It runs, or is there.
    Here {
        /// The name that it was found under.
        name: String,
        /// The copy that is used.
        program: String,
        /// Its version, where it said one.
        found: Option<Version>,
        /// It was started: what opens a window is not, nor what states its version itself.
        started: bool,
        /// The versions that would do, where the requirement states any.
        #[serde(skip_serializing_if = "Option::is_none")]
        wanted: Option<WantedVersion>,
        /// What is worth knowing all the same.
        #[serde(skip_serializing_if = "Option::is_none")]
        remark: Option<ToolRemark>,
    },
    /// It is not there, as wanted.
    Absent,
    /// A file of that name is there and cannot run, so it is not in the way.
    CannotRun {
        /// The name.
        name: String,
    },
    /// It is there, and not one of the unwanted versions.
    NotUnwanted {
        /// The name.
        name: String,
        /// Its version.
        found: Version,
    },
}

/// What is worth knowing of a tool that does.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum ToolRemark {
    /// It is newer than these, which the project is tried with.
    Untried(Range),
    /// Which version is wanted cannot be read from the project's file: that is for the guide's maintainers.
    PinUnread(PinTrouble),
}

impl ToolMet {
    pub(crate) fn version(&self) -> Option<&Version> {
        match self {
            Self::Here { found, .. } => found.as_ref(),
            Self::NotUnwanted { found, .. } => Some(found),
            Self::Absent | Self::CannotRun { .. } => None,
        }
    }
}

/// Why a tool will not do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ToolReason {
    /// The name that was looked for, or found.
    pub name: String,
    /// The copy that it is about, the first on PATH; none where PATH has none.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub program: Option<String>,
    /// What is the matter with it.
    #[serde(flatten)]
    pub trouble: ToolTrouble,
    /// The versions that would do, where the requirement states any.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wanted: Option<WantedVersion>,
    /// Another copy that matters.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub other: Option<OtherCopy>,
}

/// The versions that would do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct WantedVersion {
    /// The range.
    pub range: Range,
    /// The file of the project that states it, where it is not the guide.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub said_in: Option<String>,
}

/// A copy that is not the first on PATH.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct OtherCopy {
    /// Where it is.
    pub at: String,
    /// Its version, where it is known.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub version: Option<Version>,
    /// Which folder that is.
    pub place: OtherPlace,
}

/// Where another copy lies, and whether it would do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum OtherPlace {
    /// It would do, and is later on PATH.
    LaterOnPath,
    /// It would do, and PATH does not name its folder.
    OffPath,
    /// PATH does not name its folder, and nobody agreed to start it; the version is what its file states.
    NotStarted,
}

/// What is the matter with a tool.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum ToolTrouble {
    /// It is nowhere.
    Missing {
        /// A Linux inside Windows finds the one of Windows, which does not stand for its own.
        #[serde(skip_serializing_if = "Option::is_none")]
        windows_side: Option<String>,
    },
    /// This machine calls it otherwise, and the project does not know that.
    OtherName {
        /// What it is called here.
        called: String,
        /// Where.
        at: String,
        /// Its version, where it said one.
        #[serde(skip_serializing_if = "Option::is_none")]
        version: Option<Version>,
    },
    /// It is installed in a folder that PATH does not name.
    OffPath {
        /// Where.
        at: String,
    },
    /// The file may not be executed.
    NotExecutable {
        /// Who says so.
        by: Refusal,
        /// Which place it is that keeps it from being started, where it is another.
        #[serde(skip_serializing_if = "Option::is_none")]
        place: Option<String>,
    },
    /// It is built for another processor.
    WrongArch {
        /// What it is built for, where its file says so.
        built_for: Vec<String>,
        /// What would do.
        needed: NeededArch,
    },
    /// A piece that it needs is missing.
    Broken {
        /// What is known of that.
        breakage: Breakage,
    },
    /// It only stands in for the program.
    Placeholder,
    /// It is marked as downloaded, and nobody has allowed it.
    Quarantined,
    /// A version manager is in charge, and nothing is chosen.
    Unselected {
        /// In its words.
        said: String,
    },
    /// It stands in for a version that its manager does not have.
    VersionAbsent {
        /// What that is.
        what: String,
        /// Where it is asked for.
        said_in: String,
    },
    /// It did not say its version.
    Silent {
        /// How.
        silence: Silence,
    },
    /// It did not end in time.
    Stuck {
        /// After so many milliseconds it was stopped.
        after_ms: u64,
    },
    /// It ended with an error.
    Failed {
        /// How.
        failure: Failure,
    },
    /// Its version is not in the range.
    OutOfRange {
        /// Its version.
        found: Version,
        /// What it breaks.
        #[serde(flatten)]
        miss: Box<Mismatch>,
    },
    /// Its version cannot be compared with the range.
    Incomparable {
        /// Its version.
        found: Version,
    },
    /// It is there and should not be.
    Unwanted {
        /// Its version, where that matters.
        #[serde(skip_serializing_if = "Option::is_none")]
        found: Option<Version>,
    },
    /// It is there, and nobody knows whether it is an unwanted version.
    PerhapsUnwanted,
    /// It was not started, because that needs consent.
    NoConsent {
        /// Why it does.
        need: ConsentNeed,
        /// The version that its file states, where it does.
        #[serde(skip_serializing_if = "Option::is_none")]
        states: Option<Version>,
    },
    /// It could not be asked: nothing can be started here, in the system's words, or the person interrupted.
    NotAsked {
        /// In the system's words; none where the person interrupted.
        reason: Option<String>,
    },
    /// It is here, and the file that says which version is wanted does not say it.
    PinUnread {
        /// Its version, where it said one.
        #[serde(skip_serializing_if = "Option::is_none")]
        found: Option<Version>,
        /// What is the matter with the file.
        pin: PinTrouble,
    },
}

/// Who says that a file may not be executed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Refusal {
    /// Its permissions: shells pass it by.
    Permissions,
    /// The system, when it was to be started.
    System,
    /// It is a script, and one may not read it: its interpreter reads it for whoever starts it.
    Unreadable,
    /// A folder on the way to it, which one may not enter: the place.
    Barred,
    /// It is a link to the place, where nothing is.
    LeadsNowhere,
}

/// The processor that a program should be built for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum NeededArch {
    /// This machine's.
    Machine(String),
    /// The one that the guide asks for.
    Guide(String),
    /// This machine's, and the system refuses the file's format.
    Refused,
}

/// What is known of a missing piece.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Breakage {
    /// These pieces, at least one.
    Lacks(Vec<Piece>),
    /// Its loader, or the interpreter that its first line names.
    LoaderOrInterpreter,
    /// A library, in the system's words.
    Library(String),
    /// In its own words.
    Said(String),
}

/// How a program did not say its version.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Silence {
    /// The guide's pattern finds nothing in what it printed.
    PatternMissed,
    /// Nothing that it printed looks like a version; its first words, where it had any.
    NothingLikeAVersion(Option<String>),
    /// It opens a window, so it was not started, and its file states none.
    OpensWindow,
    /// Programs of its name may do harm when they are started, so it was not, and its file states none.
    MightAct,
    /// It does not know how to say it; its own words, where it had any.
    DoesNotKnow(Option<String>),
}

/// How a program failed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Failure {
    /// By this signal.
    Signal(i32),
    /// With this status; its own words, where it had any.
    Status(i32, Option<String>),
    /// It could not be started, in the system's words.
    NotStarted(String),
}

/// Why starting a program needs consent.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum ConsentNeed {
    /// It lies in the project's own folder.
    InProject,
    /// PATH finds it by an entry that means another folder wherever one is.
    RelativeEntry,
    /// It chooses what to be by the folder that it is started in.
    ChoosesByFolder,
    /// The guide passes it this argument, which is more than asking for a version.
    Argument(String),
}

/// Why a file does not say which version is wanted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum PinTrouble {
    /// There is no such file.
    NoFile(String),
    /// It says nothing about this tool.
    Silent(String),
    /// What stands there is no version.
    NotAVersion(String),
    /// What stands there cannot be read as a range.
    Unreadable(String),
}

impl ToolReason {
    /// The version that was found.
    pub fn version(&self) -> Option<&Version> {
        match &self.trouble {
            ToolTrouble::OutOfRange { found, .. } | ToolTrouble::Incomparable { found } => Some(found),
            ToolTrouble::Unwanted { found, .. } | ToolTrouble::PinUnread { found, .. } => found.as_ref(),
            ToolTrouble::Missing { .. }
            | ToolTrouble::OtherName { .. }
            | ToolTrouble::OffPath { .. }
            | ToolTrouble::NotExecutable { .. }
            | ToolTrouble::WrongArch { .. }
            | ToolTrouble::Broken { .. }
            | ToolTrouble::Placeholder
            | ToolTrouble::Quarantined
            | ToolTrouble::Unselected { .. }
            | ToolTrouble::VersionAbsent { .. }
            | ToolTrouble::Silent { .. }
            | ToolTrouble::Stuck { .. }
            | ToolTrouble::Failed { .. }
            | ToolTrouble::PerhapsUnwanted
            | ToolTrouble::NoConsent { .. }
            | ToolTrouble::NotAsked { .. } => None,
        }
    }

    /// The file that a fix must deal with: the copy that would do, else the one that will not.
    pub fn path(&self) -> Option<&str> {
        match (&self.other, &self.trouble) {
            (Some(OtherCopy { at, place: OtherPlace::LaterOnPath | OtherPlace::OffPath, .. }), _)
            | (_, ToolTrouble::OtherName { at, .. } | ToolTrouble::OffPath { at }) => Some(at),
            _ => self.program.as_deref(),
        }
    }

    /// The range that would do.
    pub fn range(&self) -> Option<&Range> {
        self.wanted.as_ref().map(|wanted| &wanted.range)
    }
}

impl ToolTrouble {
    pub(crate) fn cause(&self) -> Cause {
        match self {
            Self::Missing { .. } | Self::OtherName { .. } => Cause::ToolMissing,
            Self::OffPath { .. } => Cause::ToolOffPath,
            Self::NotExecutable { .. } => Cause::ToolNotExecutable,
            Self::WrongArch { .. } => Cause::ToolWrongArch,
            Self::Broken { .. } => Cause::ToolBroken,
            Self::Placeholder => Cause::ToolPlaceholder,
            Self::Quarantined => Cause::ToolQuarantined,
            Self::Unselected { .. } | Self::VersionAbsent { .. } => Cause::ToolUnselected,
            Self::Silent { .. } | Self::Incomparable { .. } | Self::PerhapsUnwanted => Cause::ToolSilent,
            Self::Stuck { .. } => Cause::ToolStuck,
            Self::Failed { .. } => Cause::ToolFailed,
            Self::OutOfRange { miss, .. } => match miss.fit {
                RangeMatch::TooOld => Cause::ToolTooOld,
                RangeMatch::TooNew => Cause::ToolTooNew,
                RangeMatch::Inside | RangeMatch::Excluded | RangeMatch::Incomparable => Cause::ToolExcluded,
            },
            Self::Unwanted { .. } => Cause::ToolUnwanted,
            Self::NoConsent { .. } => Cause::CommandNoConsent,
            Self::NotAsked { .. } | Self::PinUnread { .. } => Cause::CouldNotLook,
        }
    }
}

impl HasCause for ToolReason {
    fn cause(&self) -> Cause {
        match self.other.as_ref().map(|other| other.place) {
            Some(OtherPlace::LaterOnPath) => Cause::ToolShadowed,
            Some(OtherPlace::OffPath) => Cause::ToolOffPath,
            Some(OtherPlace::NotStarted) | None => self.trouble.cause(),
        }
    }
}
