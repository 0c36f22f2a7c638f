//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::finding::StoppedService;
use crate::prelude::*;
use serde::Serialize;

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

impl HasCause for SocketReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            SocketTrouble::Missing => Cause::SocketMissing,
            SocketTrouble::NotASocket | SocketTrouble::Dead => Cause::SocketDead,
            SocketTrouble::Denied { .. } => Cause::SocketDenied,
            SocketTrouble::DeniedUntilSignIn { .. } => Cause::SocketDeniedUntilSignIn,
        }
    }
}
