//! What a finding of any kind may come to.

use super::SetAt;
use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use serde::{Deserialize, Serialize};

/// What it waits for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct Waiting {
    /// The indexes of the requirements that come first.
    #[serde(skip)]
    pub on: Vec<usize>,
    /// It waits for this machine to be online.
    pub online: bool,
}

/// Why a requirement was left out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum LeftOut {
    /// It is for other roles.
    OtherRole,
    /// The project must be running for it.
    UntilStarted,
    /// The guide asks for it on other machines.
    OtherMachine,
    /// It belongs into another place, and is checked there.
    OtherPlace,
    /// It needs the network, and the person said to leave that out.
    Offline,
    /// None of the alternatives is for this machine.
    NoAlternative,
}

impl LeftOut {
    /// Whether nothing was looked at because of what was chosen to be checked; else it is the machine that it does not apply to.
    pub fn is_chosen(self) -> bool {
        match self {
            Self::OtherRole | Self::UntilStarted | Self::OtherPlace | Self::Offline => true,
            Self::OtherMachine | Self::NoAlternative => false,
        }
    }
}

/// What may keep a finding of any kind from being known.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum General {
    /// The machine failed or refused to answer.
    CouldNotLook {
        /// In its words.
        reason: String,
    },
    /// Nobody knows how to look on this system.
    NotSupported {
        /// Why.
        reason: String,
    },
    /// A condition rests on something that could not be found out.
    ConditionUnknown,
    /// A value that it speaks of is set to something that it cannot be.
    ValueUnfit {
        /// What sets it, and where.
        set_at: SetAt,
        /// What it must be.
        must_be: String,
    },
    /// The person interrupted before it was known.
    Interrupted,
}

impl HasCause for General {
    fn cause(&self) -> Cause {
        match self {
            Self::CouldNotLook { .. } | Self::Interrupted => Cause::CouldNotLook,
            Self::NotSupported { .. } => Cause::NotSupportedHere,
            Self::ConditionUnknown => Cause::ConditionUnknown,
            Self::ValueUnfit { .. } => Cause::ValueUnfit,
        }
    }
}
