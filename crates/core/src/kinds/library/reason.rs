//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use crate::version::{Mismatch, RangeMatch, Version};
use serde::Serialize;

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
        miss: Box<Mismatch>,
    },
    /// Its version cannot be compared with the range.
    Incomparable {
        /// What it calls its version.
        found: String,
    },
}

impl HasCause for LibraryReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            LibraryTrouble::Missing => Cause::LibraryMissing,
            LibraryTrouble::NoHeaders { .. } | LibraryTrouble::Lacks { .. } => Cause::LibraryNoHeaders,
            LibraryTrouble::OutOfRange { miss, .. } if miss.fit == RangeMatch::TooOld => Cause::LibraryTooOld,
            LibraryTrouble::OutOfRange { .. } => Cause::LibraryTooNew,
            LibraryTrouble::Incomparable { .. } => Cause::CouldNotLook,
        }
    }
}
