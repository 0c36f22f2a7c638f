//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::Holder;
use crate::prelude::*;
use crate::probe::PortPlace;
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

impl HasCause for PortReason {
    fn cause(&self) -> Cause {
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
