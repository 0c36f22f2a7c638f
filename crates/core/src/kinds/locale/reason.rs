//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use serde::Serialize;

/// Why a locale will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum LocaleReason {
    /// Nobody has made it here.
    Missing {
        /// UTF-8 locales that are here, a few of them.
        others: Vec<String>,
    },
    /// It is here, and its characters are not UTF-8.
    OtherEncoding {
        /// What they are.
        encoding: String,
    },
}

impl HasCause for LocaleReason {
    fn cause(&self) -> Cause {
        match self {
            Self::Missing { .. } => Cause::LocaleMissing,
            Self::OtherEncoding { .. } => Cause::LocaleEncoding,
        }
    }
}
