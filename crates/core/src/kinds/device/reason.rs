//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::guide::Access;
use crate::prelude::*;
use serde::Serialize;

/// Why a device will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct DeviceReason {
    /// Where.
    pub path: String,
    /// What it is needed for.
    pub access: Access,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: DeviceTrouble,
}

/// What is the matter with a device.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum DeviceTrouble {
    /// It is not there.
    Missing,
    /// No device of that kind is connected.
    NotConnected {
        /// The vendor and the product.
        usb: String,
    },
    /// Its name is there, and no device behind it.
    Dead,
    /// This user may not open it.
    Denied {
        /// The group that may, where the system tells.
        group: Option<String>,
        /// The user was added to that group, and this session began before.
        until_sign_in: bool,
    },
}

impl HasCause for DeviceReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            DeviceTrouble::Missing | DeviceTrouble::NotConnected { .. } | DeviceTrouble::Dead => Cause::DeviceMissing,
            DeviceTrouble::Denied { .. } => Cause::DeviceDenied,
        }
    }
}
