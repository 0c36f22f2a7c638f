//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use serde::Serialize;

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

impl HasCause for VirtualizationReason {
    fn cause(&self) -> Cause {
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
