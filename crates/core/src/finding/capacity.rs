//! What is found about memory, cores, virtualization and the system itself.

use crate::cause::Cause;
use crate::prelude::*;
use crate::text::Size;
use crate::version::{Fit, Miss, Range, Version};
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
    pub(super) fn cause(&self) -> Cause {
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

/// The first broken link of the chain hardware, firmware, kernel, device, permission.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum VirtualizationReason {
    /// The processor cannot.
    ProcessorLacks,
    /// This is a guest, and its host does not let it.
    NestingOff {
        /// A Linux inside Windows.
        inside_windows: bool,
    },
    /// The firmware has it switched off.
    FirmwareOff,
    /// The kernel's module is not loaded.
    ModuleMissing,
    /// The device is for a group in which this user is not.
    Denied {
        /// The device.
        device: String,
        /// The group, where the system tells.
        group: Option<String>,
    },
    /// The user was added to the group, and this session began before.
    DeniedUntilSignIn {
        /// The device.
        device: String,
        /// The group.
        group: Option<String>,
    },
    /// This container was not given the device.
    NotInContainer,
    /// Another program holds it.
    Held {
        /// Which, where the system tells.
        by: Option<String>,
    },
    /// The system's feature is switched off.
    FeatureOff,
    /// The system's feature is switched on, and its hypervisor was not started.
    NotStarted,
    /// What the processor can is not known.
    ProcessorUnknown,
    /// Whether the system's feature is on is not known.
    FeatureUnknown,
}

impl VirtualizationReason {
    pub(super) fn cause(&self) -> Cause {
        match self {
            Self::ProcessorLacks => Cause::VirtCpuLacks,
            Self::NestingOff { .. } => Cause::VirtNestingOff,
            Self::FirmwareOff => Cause::VirtFirmwareOff,
            Self::ModuleMissing => Cause::VirtModuleMissing,
            Self::Denied { .. } => Cause::VirtDenied,
            Self::DeniedUntilSignIn { .. } => Cause::VirtDeniedUntilSignIn,
            Self::NotInContainer => Cause::VirtInContainer,
            Self::Held { .. } => Cause::VirtHeld,
            Self::FeatureOff | Self::NotStarted => Cause::VirtFeatureOff,
            Self::ProcessorUnknown | Self::FeatureUnknown => Cause::CouldNotLook,
        }
    }
}

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
        miss: Box<Miss>,
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

impl SystemReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            SystemTrouble::Other | SystemTrouble::OtherDistribution { .. } => Cause::SystemOther,
            SystemTrouble::OutOfRange { miss, .. } => match miss.fit {
                Fit::TooOld => Cause::SystemTooOld,
                Fit::TooNew => Cause::SystemTooNew,
                Fit::Inside | Fit::Excluded | Fit::Incomparable => Cause::SystemOther,
            },
            SystemTrouble::Edition { .. } => Cause::SystemEdition,
            SystemTrouble::Arch { .. } => Cause::SystemArch,
            SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => Cause::CouldNotLook,
        }
    }
}
