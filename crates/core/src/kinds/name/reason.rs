//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::Network;
use crate::prelude::*;
use core::net::IpAddr;
use serde::Serialize;

/// Why a host name or a network will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum NameReason {
    /// The name leads nowhere.
    Unknown,
    /// The name leads elsewhere.
    Elsewhere {
        /// There.
        #[cfg_attr(feature = "schema", schemars(with = "Vec<String>"))]
        addresses: Vec<IpAddr>,
    },
    /// This machine is on networks that overlap it.
    SubnetTaken {
        /// These.
        networks: Vec<Network>,
        /// One of that size that nothing here overlaps.
        #[serde(skip_serializing_if = "Option::is_none")]
        free: Option<String>,
    },
}

impl HasCause for NameReason {
    fn cause(&self) -> Cause {
        match self {
            Self::Unknown => Cause::NameUnknown,
            Self::Elsewhere { .. } => Cause::NameElsewhere,
            Self::SubnetTaken { .. } => Cause::SubnetTaken,
        }
    }
}
