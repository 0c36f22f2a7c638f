//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use serde::Serialize;

/// Why none of several is known to do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum AnyOfReason {
    /// None does.
    NoneMet {
        /// The indexes of those that would do, the cheapest to settle first.
        #[serde(skip)]
        open: Vec<usize>,
    },
    /// One may do.
    Unsure {
        /// The indexes of those that would do.
        #[serde(skip)]
        open: Vec<usize>,
    },
}

impl HasCause for AnyOfReason {
    fn cause(&self) -> Cause {
        match self {
            Self::NoneMet { .. } => Cause::NoneOf,
            Self::Unsure { .. } => Cause::CouldNotLook,
        }
    }
}
