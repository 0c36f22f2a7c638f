//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use serde::Serialize;

/// Why a limit will not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum LimitReason {
    /// It is too low.
    Low {
        /// The limit in force.
        number: u64,
        /// What is needed.
        needed: u64,
        /// This user may raise it.
        own: bool,
    },
    /// The ability is not there.
    Lacks,
}

impl HasCause for LimitReason {
    fn cause(&self) -> Cause {
        match self {
            Self::Low { .. } => Cause::LimitLow,
            Self::Lacks => Cause::LimitLacks,
        }
    }
}
