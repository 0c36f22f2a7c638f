//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::Unfinished;
use crate::prelude::*;
use serde::Serialize;

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

impl HasCause for CheckoutReason {
    fn cause(&self) -> Cause {
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
