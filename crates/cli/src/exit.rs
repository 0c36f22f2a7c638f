//! Exit statuses, and the failures that lead to some of them.

use build_setup_ready::{ForeignOwner, LoadError};
use setup_ready_core::report::Outcome;
use std::path::PathBuf;
use std::process::ExitCode;

/// How the program ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Status {
    /// Every `must` is met; for other commands: all went well.
    Ready,
    /// Something needed is not met.
    NotReady,
    /// The command line, the guide or a described machine is wrong.
    WrongUse,
    /// Nothing needed is unmet, but something is unknown, or remains to be checked in another place.
    Undecided,
    /// The software failed.
    Failed,
    /// The person interrupted.
    Interrupted,
    /// A build that was followed failed, with this status.
    OfTheBuild(i32),
}

impl Status {
    /// The number that the program ends with.
    pub(crate) fn number(self) -> i32 {
        match self {
            Self::Ready => 0,
            Self::NotReady => 1,
            Self::WrongUse => 2,
            Self::Undecided => 3,
            Self::Failed => 4,
            // 128 and the number of the signal SIGINT, as shells have it.
            Self::Interrupted => 130,
            Self::OfTheBuild(status) => status,
        }
    }
}

impl From<Status> for ExitCode {
    fn from(status: Status) -> Self {
        Self::from(u8::try_from(status.number()).unwrap_or(u8::MAX))
    }
}

impl From<Outcome> for Status {
    fn from(outcome: Outcome) -> Self {
        match outcome.exit_status() {
            0 => Self::Ready,
            1 => Self::NotReady,
            _ => Self::Undecided,
        }
    }
}

/// Why a command could not do its work.
#[derive(Debug, thiserror::Error)]
pub(crate) enum Failure {
    /// A guide or a described machine cannot be used.
    #[error(transparent)]
    Load(#[from] LoadError),
    /// A recording cannot be used.
    #[error("{} cannot be used: {reason}", .path.display())]
    Recording {
        /// Which file.
        path: PathBuf,
        /// Why.
        reason: setup_ready_fleet::RecordingError,
    },
    /// The guide is somebody else's, and nobody agreed to use it.
    #[error("{} belongs to another user: {owner}", .path.display())]
    OtherOwner {
        /// Which guide.
        path: PathBuf,
        /// Whose it is.
        owner: ForeignOwner,
    },
    /// The guide that was found is a link to somewhere else.
    #[error("{} is a link that leads out of the project", .0.display())]
    LeadsOut(PathBuf),
    /// A word on the command line is not one of the guide's.
    #[error("{message}")]
    Word {
        /// What is wrong.
        message: String,
        /// What would be right.
        note: String,
    },
    /// A file could not be written.
    #[error("{path} cannot be written: {reason}")]
    Write {
        /// Which file.
        path: PathBuf,
        /// Why, in the system's words.
        reason: std::io::Error,
    },
    /// Standard output could not be written.
    #[error("the result cannot be written: {0}")]
    Output(std::io::Error),
    /// What should not happen.
    #[error("{0}")]
    Software(String),
}

impl Failure {
    /// The exit status that it leads to.
    pub(crate) fn status(&self) -> Status {
        match self {
            Self::Recording { .. } | Self::Load(_) | Self::OtherOwner { .. } | Self::LeadsOut(_) | Self::Word { .. } => {
                Status::WrongUse
            }
            Self::Write { .. } | Self::Output(_) | Self::Software(_) => Status::Failed,
        }
    }
}
