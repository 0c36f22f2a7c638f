//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::SystemProxy;
use crate::prelude::*;
use serde::Serialize;

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

impl HasCause for ReachReason {
    fn cause(&self) -> Cause {
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
