//! What is found about sockets, devices, services, addresses, host names and networks.

use crate::cause::Cause;
use crate::guide::Access;
use crate::observation::{Holder, Network, SystemProxy, SystemService};
use crate::prelude::*;
use core::net::IpAddr;
use serde::Serialize;

/// A service of the system that is here and does not run.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct StoppedService {
    /// Its name.
    pub name: String,
    /// How it stands.
    pub state: SystemService,
}

/// Why a local socket will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct SocketReason {
    /// Where.
    pub path: String,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: SocketTrouble,
    /// The service behind it, where one of the system is here and does not run.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub stopped: Option<StoppedService>,
}

/// What is the matter with a local socket.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum SocketTrouble {
    /// It is not there.
    Missing,
    /// What is there is no socket.
    NotASocket,
    /// Nobody answers behind it any more.
    Dead,
    /// This user may not use it.
    Denied {
        /// The group that may, where the system tells.
        group: Option<String>,
    },
    /// The user was added to the group that may, and this session began before.
    DeniedUntilSignIn {
        /// The group.
        group: Option<String>,
    },
}

impl SocketReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            SocketTrouble::Missing => Cause::SocketMissing,
            SocketTrouble::NotASocket | SocketTrouble::Dead => Cause::SocketDead,
            SocketTrouble::Denied { .. } => Cause::SocketDenied,
            SocketTrouble::DeniedUntilSignIn { .. } => Cause::SocketDeniedUntilSignIn,
        }
    }
}

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

impl DeviceReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            DeviceTrouble::Missing | DeviceTrouble::NotConnected { .. } | DeviceTrouble::Dead => Cause::DeviceMissing,
            DeviceTrouble::Denied { .. } => Cause::DeviceDenied,
        }
    }
}

/// Why a service will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ServiceReason {
    /// Its host and port.
    pub place: String,
    /// Its port.
    pub port: u16,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: ServiceTrouble,
    /// The service behind it, where one of the system is here and does not run.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub stopped: Option<StoppedService>,
}

/// What is the matter with a service.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum ServiceTrouble {
    /// Nothing listens there.
    Refused,
    /// Nobody listens there, and somebody does on that port at another address of this machine.
    OtherAddress {
        /// Who, where this machine can tell.
        holder: Holder,
    },
    /// It does not answer in time.
    NoAnswer,
    /// There is no way there.
    NoWay {
        /// In the system's words.
        reason: String,
    },
    /// Its host's name leads nowhere.
    NoName,
    /// It answers with another status.
    OtherStatus {
        /// What was asked.
        url: String,
        /// This one.
        status: u16,
    },
    /// It answers with another text.
    OtherText {
        /// What was asked.
        url: String,
    },
    /// Something else answers there.
    OtherProgram {
        /// What, where the system tells.
        holder: Option<Holder>,
    },
}

impl ServiceReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            ServiceTrouble::Refused | ServiceTrouble::OtherAddress { .. } => Cause::ServiceRefused,
            ServiceTrouble::NoAnswer | ServiceTrouble::NoWay { .. } => Cause::ServiceNoAnswer,
            ServiceTrouble::NoName => Cause::NameUnknown,
            ServiceTrouble::OtherStatus { .. } | ServiceTrouble::OtherText { .. } => Cause::ServiceOtherAnswer,
            ServiceTrouble::OtherProgram { .. } => Cause::ServiceOtherHolder,
        }
    }
}

/// How far the clock is off.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ClockReason {
    /// It is so many milliseconds ahead; behind where that is negative.
    pub ahead_ms: i64,
}

impl ClockReason {
    /// A clock that is so far ahead.
    pub(crate) fn new(ahead_ms: i64) -> Self {
        Self { ahead_ms }
    }
}

/// Why an address cannot be reached.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ReachReason {
    /// The address, without what is secret in it.
    pub address: String,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: ReachTrouble,
    /// The proxy that the system's own settings name, which programs in a terminal do not know.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub system_proxy: Option<SystemProxy>,
}

/// What is the matter with an address.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum ReachTrouble {
    /// Nothing outside can be reached.
    Offline,
    /// No name at all can be looked up, while there is a way out of this machine.
    NoNames,
    /// Its name cannot be looked up.
    NoName,
    /// It refuses the connection.
    Refused,
    /// It does not answer in time.
    NoAnswer,
    /// There is no way there.
    NoWay {
        /// In the system's words.
        reason: String,
    },
    /// The connection cannot be made secure.
    Insecure {
        /// In the words of who found out.
        reason: String,
    },
    /// The proxy is in the way.
    Proxy {
        /// In its words.
        reason: String,
    },
    /// It answers with another status.
    Status {
        /// This one.
        status: u16,
    },
    /// What answers does not speak HTTP.
    NotHttp,
}

impl ReachReason {
    pub(super) fn cause(&self) -> Cause {
        if self.system_proxy.is_some() {
            return Cause::ReachProxy;
        }
        match &self.trouble {
            ReachTrouble::Offline => Cause::ReachOffline,
            ReachTrouble::NoNames => Cause::ReachNoNames,
            ReachTrouble::NoName => Cause::ReachNoName,
            ReachTrouble::Refused => Cause::ReachRefused,
            ReachTrouble::NoAnswer | ReachTrouble::NoWay { .. } => Cause::ReachNoAnswer,
            ReachTrouble::Insecure { .. } => Cause::ReachTls,
            ReachTrouble::Proxy { .. } => Cause::ReachProxy,
            ReachTrouble::Status { .. } | ReachTrouble::NotHttp => Cause::ReachStatus,
        }
    }
}

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

impl NameReason {
    pub(super) fn cause(&self) -> Cause {
        match self {
            Self::Unknown => Cause::NameUnknown,
            Self::Elsewhere { .. } => Cause::NameElsewhere,
            Self::SubnetTaken { .. } => Cause::SubnetTaken,
        }
    }
}
