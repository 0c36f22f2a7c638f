//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use crate::text::Size;
use serde::Serialize;

/// How memory or cores are met.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum CapacityMet {
    /// So much memory can be used.
    Memory {
        /// In bytes.
        usable: Size,
    },
    /// So much memory is free now.
    FreeMemory {
        /// In bytes.
        available: Size,
    },
    /// So many cores can be used.
    Cores {
        /// In hundredths of a core.
        usable_hundredths: u64,
    },
    /// Memory may be put into so much room.
    Swap {
        /// In bytes.
        swap: Size,
    },
}

/// Why memory or cores will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum CapacityReason {
    /// The machine has too little memory.
    MemoryShort {
        /// It has so much.
        total: Size,
        /// So much is missing.
        short_by: Size,
        /// A Linux inside Windows has what Windows gives it.
        inside_windows: bool,
    },
    /// Something lets one use less memory than there is.
    MemoryCapped {
        /// The machine has so much.
        total: Size,
        /// So much can be used.
        usable: Size,
        /// So much is missing.
        short_by: Size,
        /// Who sets the cap.
        by: String,
    },
    /// Too little is free now.
    MemoryBusy {
        /// So much is.
        available: Size,
        /// So much is missing.
        short_by: Size,
    },
    /// What is free is not known.
    FreeMemoryUnknown {
        /// The machine has so much.
        total: Size,
    },
    /// Memory may be put into too little room.
    SwapShort {
        /// There is so much.
        swap: Size,
        /// So much is missing.
        short_by: Size,
    },
    /// The system makes such room when it needs it, or does not tell.
    SwapUnknown,
    /// The machine has too few cores.
    CoresShort {
        /// It has so many.
        online: u64,
        /// A Linux inside Windows has what Windows gives it.
        inside_windows: bool,
    },
    /// Something lets one use fewer cores than there are.
    CoresCapped {
        /// The machine has so many.
        online: u64,
        /// So many can be used, in hundredths of a core.
        usable_hundredths: u64,
        /// Who sets the cap.
        by: String,
    },
}

impl CapacityReason {
    /// How much memory is missing.
    pub fn short_by(&self) -> Option<Size> {
        match self {
            Self::SwapShort { short_by, .. }
            | Self::MemoryShort { short_by, .. }
            | Self::MemoryCapped { short_by, .. }
            | Self::MemoryBusy { short_by, .. } => Some(*short_by),
            Self::FreeMemoryUnknown { .. } | Self::SwapUnknown | Self::CoresShort { .. } | Self::CoresCapped { .. } => None,
        }
    }
}

impl HasCause for CapacityReason {
    fn cause(&self) -> Cause {
        match self {
            Self::MemoryShort { .. } => Cause::MemoryShort,
            Self::MemoryCapped { .. } => Cause::MemoryCapped,
            Self::MemoryBusy { .. } => Cause::MemoryBusy,
            Self::SwapShort { .. } => Cause::SwapShort,
            Self::FreeMemoryUnknown { .. } | Self::SwapUnknown => Cause::CouldNotLook,
            Self::CoresShort { .. } => Cause::CoresShort,
            Self::CoresCapped { .. } => Cause::CoresCapped,
        }
    }
}
