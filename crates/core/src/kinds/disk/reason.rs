//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::DiskLimit;
use crate::prelude::*;
use crate::text::Size;
use serde::Serialize;

/// Why a disk will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct DiskReason {
    /// The place that was asked for, as the system knows it.
    pub path: String,
    /// Its nearest existing folder.
    pub existing: String,
    /// By which place the disk is called in fixes: one for all that land on it.
    #[serde(skip)]
    pub disk: String,
    /// What is free there, in bytes.
    pub available_bytes: u64,
    /// What leaves less than the disk has.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub limited_by: Option<DiskLimit>,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: DiskTrouble,
}

/// What is the matter with a disk.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum DiskTrouble {
    /// It is mounted read-only.
    ReadOnly,
    /// This user may not write there.
    NoPermission,
    /// There is too little room for this alone.
    Short {
        /// So much.
        short_by: Size,
        /// What is short with all others on that disk, where there are any.
        #[serde(skip_serializing_if = "Option::is_none")]
        together: Option<Together>,
    },
    /// It fits alone, and not with the others.
    ShortTogether(Together),
    /// There is room for too few files.
    InodesShort {
        /// For so many.
        left: u64,
        /// So many are needed.
        needed: u64,
    },
    /// It fits alone; whether others land on the same disk is not known.
    OthersUnknown {
        /// The others.
        #[serde(skip)]
        others: Named,
    },
}

/// What several requirements need of one disk.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct Together {
    /// All of it, in bytes.
    pub needed: Size,
    /// So much is missing.
    pub short_by: Size,
    /// The others.
    #[serde(skip)]
    pub others: Named,
}

/// A few requirements that a sentence names, and how many more there are.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Named {
    /// Their indexes.
    pub first: Vec<usize>,
    /// How many more.
    pub more: usize,
}

impl DiskReason {
    /// How much must be freed, for all that land there.
    pub fn short_by(&self) -> Option<Size> {
        match &self.trouble {
            DiskTrouble::Short { together: Some(together), .. } | DiskTrouble::ShortTogether(together) => Some(together.short_by),
            DiskTrouble::Short { short_by, together: None } => Some(*short_by),
            DiskTrouble::ReadOnly
            | DiskTrouble::NoPermission
            | DiskTrouble::InodesShort { .. }
            | DiskTrouble::OthersUnknown { .. } => None,
        }
    }

    /// Room that is made in a Linux inside Windows gives Windows none back: where its disk is seen from here.
    pub fn outside(&self) -> Option<&str> {
        match &self.limited_by {
            Some(DiskLimit::Outside(place)) => Some(place),
            Some(DiskLimit::Quota) | None => None,
        }
    }
}

impl HasCause for DiskReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            DiskTrouble::ReadOnly => Cause::DiskReadOnly,
            DiskTrouble::NoPermission => Cause::DiskNoPermission,
            DiskTrouble::Short { .. } => Cause::DiskShort,
            DiskTrouble::ShortTogether(_) => Cause::DiskShortTogether,
            DiskTrouble::InodesShort { .. } => Cause::DiskInodesShort,
            DiskTrouble::OthersUnknown { .. } => Cause::CouldNotLook,
        }
    }
}
