//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::prelude::*;
use serde::Serialize;

/// Why a command of the guide will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum CommandReason {
    /// It was not run, because that needs consent.
    NoConsent,
    /// Its program was not found.
    NotFound,
    /// It could not be started.
    NotStarted {
        /// In the system's words.
        reason: String,
    },
    /// No program can be started here.
    NothingStarts {
        /// In the system's words.
        reason: String,
    },
    /// It did not end in time.
    TimeUp {
        /// After so many milliseconds it was stopped.
        after_ms: u64,
    },
    /// The person interrupted.
    Interrupted,
    /// It ended by a signal.
    Crashed {
        /// Which.
        signal: i32,
        /// Its own words, where it had any.
        said: Option<String>,
    },
    /// It ended with another status.
    Status {
        /// This one.
        status: i32,
        /// Its own words, where it had any.
        said: Option<String>,
    },
    /// It printed something else.
    Output {
        /// The first lines of what it printed.
        printed: String,
    },
}

impl HasCause for CommandReason {
    fn cause(&self) -> Cause {
        match self {
            Self::NoConsent => Cause::CommandNoConsent,
            Self::NotFound => Cause::CommandNotFound,
            Self::NotStarted { .. } | Self::Crashed { .. } | Self::Status { .. } => Cause::CommandFailed,
            Self::NothingStarts { .. } | Self::Interrupted => Cause::CouldNotLook,
            Self::TimeUp { .. } => Cause::CommandStuck,
            Self::Output { .. } => Cause::CommandOutput,
        }
    }
}
