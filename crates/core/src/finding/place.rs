//! What is found about ports and disks.

use crate::cause::Cause;
use crate::observation::{DiskLimit, Holder};
use crate::prelude::*;
use crate::probe::PortPlace;
use crate::text::Size;
use serde::Serialize;

/// How ports are met.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum PortMet {
    /// They are free.
    Free {
        /// The first of them.
        place: Option<PortPlace>,
        /// How many there are.
        count: usize,
        /// What sets the number, where something does.
        #[serde(skip_serializing_if = "Option::is_none")]
        set_at: Option<SetAt>,
    },
    /// The project itself runs: its own service answers there, as the guide says.
    Own {
        /// Which.
        place: PortPlace,
        /// Where it answers.
        url: String,
    },
    /// One is held by whom it should be.
    Accepted {
        /// Which.
        place: PortPlace,
        /// By whom.
        holder: Holder,
    },
}

/// What sets a number, and where.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct SetAt {
    /// The variable, or the key of the file.
    pub variable: String,
    /// Where it is set.
    pub place: String,
}

/// Why a port will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum PortReason {
    /// It cannot be used.
    At {
        /// Which.
        place: PortPlace,
        /// What is the matter.
        #[serde(flatten)]
        trouble: PortTrouble,
        /// The next one above that is free, where one was found.
        free_port: Option<u16>,
    },
    /// What sets the number holds none.
    NotAPort {
        /// What sets it.
        set_at: SetAt,
        /// The number that stands there, where it is one.
        found: Option<u64>,
    },
}

/// What is the matter with a port.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum PortTrouble {
    /// A program holds it.
    Held {
        /// Which, where the system tells anything.
        holder: Option<Holder>,
        /// Further ports of the requirement that are held too.
        also: Vec<u16>,
    },
    /// A program holds it whose name only the administrator can see: it may be the right one.
    HolderHidden {
        /// Whose it is, where the system tells.
        user: Option<String>,
        /// The programs that may hold it.
        accepted: Vec<String>,
    },
    /// Only the administrator may open it.
    Privileged {
        /// Everyone may from this number on.
        from: u16,
    },
    /// The system does not let this user open it.
    Denied,
    /// The system keeps it for itself.
    Reserved,
    /// The machine does not have the address.
    NoAddress,
}

impl PortReason {
    pub(super) fn cause(&self) -> Cause {
        let trouble = match self {
            Self::NotAPort { .. } => return Cause::PortNotAPort,
            Self::At { trouble, .. } => trouble,
        };
        match trouble {
            PortTrouble::Held { .. } => Cause::PortHeld,
            PortTrouble::HolderHidden { .. } => Cause::CouldNotLook,
            PortTrouble::Privileged { .. } => Cause::PortPrivileged,
            PortTrouble::Denied | PortTrouble::Reserved => Cause::PortReserved,
            PortTrouble::NoAddress => Cause::PortNoAddress,
        }
    }
}

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
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            DiskTrouble::ReadOnly => Cause::DiskReadOnly,
            DiskTrouble::NoPermission => Cause::DiskNoPermission,
            DiskTrouble::Short { .. } => Cause::DiskShort,
            DiskTrouble::ShortTogether(_) => Cause::DiskShortTogether,
            DiskTrouble::InodesShort { .. } => Cause::DiskInodesShort,
            DiskTrouble::OthersUnknown { .. } => Cause::CouldNotLook,
        }
    }

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
