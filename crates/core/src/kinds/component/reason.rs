//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::guide::ComponentSort;
use crate::prelude::*;
use crate::version::{Mismatch, RangeMatch, Version};
use serde::Serialize;

/// Why such a thing will not do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ComponentReason {
    /// Which sort of thing.
    #[serde(skip)]
    pub sort: ComponentSort,
    /// The interpreter that it must belong to.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub program: Option<String>,
    /// Where it is, where it is somewhere.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<String>,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: ComponentTrouble,
}

/// What is the matter.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum ComponentTrouble {
    /// It is not installed.
    Missing {
        /// What it is made of that is there without it.
        #[serde(skip_serializing_if = "Option::is_none")]
        lacks: Option<String>,
    },
    /// Another version is wanted.
    OutOfRange {
        /// This one is here.
        found: Version,
        /// What it breaks.
        #[serde(flatten)]
        miss: Box<Mismatch>,
    },
    /// Its version is not known.
    NoVersion,
    /// Its version and the range cannot be compared.
    Incomparable {
        /// The version.
        found: String,
    },
    /// No manager of this machine is one whose packages the guide names.
    NoManager,
}

impl HasCause for ComponentReason {
    fn cause(&self) -> Cause {
        match (&self.trouble, self.sort) {
            (ComponentTrouble::Missing { .. }, ComponentSort::Module(_)) => Cause::ModuleMissing,
            (ComponentTrouble::Missing { .. }, ComponentSort::Headers(_)) => Cause::HeadersMissing,
            (ComponentTrouble::Missing { .. }, ComponentSort::SystemPackage) => Cause::PackageMissing,
            (ComponentTrouble::Missing { .. }, ComponentSort::KernelModule) => Cause::KernelModuleMissing,
            (ComponentTrouble::OutOfRange { miss, .. }, _) if miss.fit == RangeMatch::TooOld => Cause::ModuleTooOld,
            (ComponentTrouble::OutOfRange { .. }, _) => Cause::ModuleTooNew,
            (ComponentTrouble::NoVersion | ComponentTrouble::Incomparable { .. }, _) => Cause::CouldNotLook,
            (ComponentTrouble::NoManager, _) => Cause::NotSupportedHere,
        }
    }
}
