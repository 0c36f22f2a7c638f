//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use serde::Serialize;

/// Why this user's rights do not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum RightsReason {
    /// They cannot act as administrator.
    NotAdmin,
    /// They are not the administrator now, and can become it.
    NotRoot,
    /// It is not known.
    Unknown,
}

/// The same, as facts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct RightsFacts {
    /// Why.
    pub rights: RightsReason,
}

impl From<RightsReason> for RightsFacts {
    fn from(rights: RightsReason) -> Self {
        Self { rights }
    }
}

impl RightsReason {
    pub(crate) fn cause(self) -> Cause {
        match self {
            Self::NotAdmin | Self::NotRoot => Cause::RightsMissing,
            Self::Unknown => Cause::CouldNotLook,
        }
    }
}

impl HasCause for RightsFacts {
    fn cause(&self) -> Cause {
        self.rights.cause()
    }
}
