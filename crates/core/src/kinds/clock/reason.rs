//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use serde::Serialize;

/// How far the clock is off.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct ClockReason {
    /// It is so many milliseconds ahead; behind where that is negative.
    pub ahead_ms: i64,
}

impl ClockReason {
    /// A clock that is so far ahead.
    pub(crate) fn new(ahead_ms: i64) -> Self {
        Self { ahead_ms }
    }
}

impl HasCause for ClockReason {
    fn cause(&self) -> Cause {
        Cause::ClockWrong
    }
}
