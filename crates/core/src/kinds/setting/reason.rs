//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use serde::Serialize;

/// Why a version-control setting will not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum SettingReason {
    /// It is not set.
    Unset,
    /// It has another form.
    Shape,
}

impl HasCause for SettingReason {
    fn cause(&self) -> Cause {
        match self {
            Self::Unset => Cause::SettingUnset,
            Self::Shape => Cause::SettingShape,
        }
    }
}
