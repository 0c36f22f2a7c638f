//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::{Holder, SystemService};
use crate::prelude::*;
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

impl HasCause for ServiceReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            ServiceTrouble::Refused | ServiceTrouble::OtherAddress { .. } => Cause::ServiceRefused,
            ServiceTrouble::NoAnswer | ServiceTrouble::NoWay { .. } => Cause::ServiceNoAnswer,
            ServiceTrouble::NoName => Cause::NameUnknown,
            ServiceTrouble::OtherStatus { .. } | ServiceTrouble::OtherText { .. } => Cause::ServiceOtherAnswer,
            ServiceTrouble::OtherProgram { .. } => Cause::ServiceOtherHolder,
        }
    }
}
