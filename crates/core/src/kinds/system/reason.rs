//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use crate::version::{Mismatch, Range, RangeMatch, Version};
use serde::Serialize;

/// Why the system will not do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct SystemReason {
    /// This system, as it calls itself.
    pub system: String,
    /// Its name for a sentence: `Linux`.
    #[serde(skip)]
    pub name: &'static str,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: SystemTrouble,
}

/// What is the matter with a system.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum SystemTrouble {
    /// The project does not work on it.
    Other,
    /// It is another distribution.
    OtherDistribution {
        /// This one.
        found: String,
    },
    /// Its version is not in the range.
    OutOfRange {
        /// Its version.
        found: Version,
        /// What would do.
        range: Range,
        /// What it breaks.
        #[serde(flatten)]
        miss: Box<Mismatch>,
    },
    /// Its version cannot be compared.
    Incomparable {
        /// Its version.
        found: Version,
        /// What would do.
        range: Range,
    },
    /// It is another edition.
    Edition {
        /// This one.
        found: String,
    },
    /// It is for another processor.
    Arch {
        /// This one.
        found: String,
    },
    /// Something about it is not known.
    Unknown {
        /// What.
        what: SystemUnknown,
    },
}

/// What is not known about a system.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum SystemUnknown {
    /// Its version.
    Version,
    /// Its distribution.
    Distribution,
    /// Its edition.
    Edition,
}

impl HasCause for SystemReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            SystemTrouble::Other | SystemTrouble::OtherDistribution { .. } => Cause::SystemOther,
            SystemTrouble::OutOfRange { miss, .. } => match miss.fit {
                RangeMatch::TooOld => Cause::SystemTooOld,
                RangeMatch::TooNew => Cause::SystemTooNew,
                RangeMatch::Inside | RangeMatch::Excluded | RangeMatch::Incomparable => Cause::SystemOther,
            },
            SystemTrouble::Edition { .. } => Cause::SystemEdition,
            SystemTrouble::Arch { .. } => Cause::SystemArch,
            SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => Cause::CouldNotLook,
        }
    }
}
