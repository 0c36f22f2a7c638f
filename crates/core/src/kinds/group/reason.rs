//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use serde::Serialize;

/// Why a group is not in force.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum GroupReason {
    /// There is no such group.
    Absent,
    /// This user is not a member.
    NotMember,
    /// This user is a member from the next sign-in on.
    UntilSignIn,
}

impl HasCause for GroupReason {
    fn cause(&self) -> Cause {
        match self {
            Self::Absent => Cause::GroupAbsent,
            Self::NotMember => Cause::GroupNotMember,
            Self::UntilSignIn => Cause::GroupUntilSignIn,
        }
    }
}
