//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::observation::{AccessDenied, FileType, ScriptTrouble};
use crate::prelude::*;
use serde::Serialize;

/// Whose something is: who may change it.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Whose {
    /// It is not known, or does not matter.
    #[default]
    Unknown,
    /// This person's own, or theirs to change without admin rights.
    Own,
    /// Somebody else's, so that changing it takes admin rights, or is done outside.
    Foreign,
}

/// Why a file or a folder will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct PathReason {
    /// Where, as the system knows it.
    pub path: String,
    /// The same as the guide writes it.
    #[serde(skip)]
    pub asked: String,
    /// Who may change what is there.
    pub whose: Whose,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: PathTrouble,
}

/// What is the matter with a file or a folder.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum PathTrouble {
    /// Nothing is there.
    Missing {
        /// The name of something beside it that differs only in upper and lower case.
        #[serde(skip_serializing_if = "Option::is_none")]
        alike: Option<String>,
        /// The name of an example of it beside it.
        #[serde(skip_serializing_if = "Option::is_none")]
        example: Option<String>,
    },
    /// A folder above it may not be entered.
    Barred {
        /// That folder.
        barrier: AccessDenied,
    },
    /// This user may not read it.
    NotReadable {
        /// To whom it belongs, where the system tells.
        owner: Option<String>,
    },
    /// Nothing can be changed on its filesystem.
    ReadOnly {
        /// Where that is mounted.
        mounted_at: String,
    },
    /// Nothing can be executed on its filesystem.
    NoExecution {
        /// Where that is mounted.
        mounted_at: String,
    },
    /// It is a script that would not start.
    CannotStart {
        /// Why.
        script: ScriptTrouble,
    },
    /// Something in the folder is not this user's to change.
    Within {
        /// The first that was found.
        barrier: AccessDenied,
        /// All in it must belong to this user; else it must be writable.
        must_be_mine: bool,
    },
    /// It is there and should not be.
    Unwanted,
    /// It is a link that leads nowhere.
    Dangling {
        /// Where it should lead.
        target: String,
    },
    /// It is a file in place of a folder, or the like.
    OtherKind {
        /// What it is.
        nature: FileType,
    },
    /// It belongs to somebody else.
    NotMine {
        /// To whom, where the system tells.
        owner: Option<String>,
    },
    /// To whom it belongs is not known.
    OwnerUnknown,
    /// It has other permissions.
    Mode {
        /// These, by POSIX.
        mode: u32,
        /// These are wanted.
        needed: u32,
    },
    /// Others may use it, on a system without such permissions.
    OpenToOthers {
        /// Who.
        others: Vec<String>,
        /// The permissions that the guide names.
        needed: u32,
    },
    /// This system has no such permissions.
    NoPermissionBits,
    /// This user may not write to it.
    NotWritable {
        /// To whom it belongs, where the system tells.
        owner: Option<String>,
        /// The group whose members may.
        #[serde(skip_serializing_if = "Option::is_none")]
        writers: Option<String>,
    },
    /// This user may not execute it.
    NotExecutable,
    /// Its text, or the names in it, do not fit.
    Content {
        /// The patterns that nothing fits.
        missing: Vec<String>,
    },
    /// What is in it could not be read.
    ContentUnread,
}

impl HasCause for PathReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            PathTrouble::Missing { .. } => Cause::PathMissing,
            PathTrouble::Unwanted => Cause::PathUnwanted,
            PathTrouble::Dangling { .. } => Cause::PathDangling,
            PathTrouble::OtherKind { .. } => Cause::PathOtherKind,
            PathTrouble::NotMine { .. } | PathTrouble::Within { must_be_mine: true, .. } => Cause::PathNotMine,
            PathTrouble::Mode { .. } | PathTrouble::OpenToOthers { .. } => Cause::PathMode,
            PathTrouble::NotWritable { .. } | PathTrouble::Within { must_be_mine: false, .. } => Cause::PathNotWritable,
            PathTrouble::Barred { .. } => Cause::PathBarred,
            PathTrouble::NotReadable { .. } => Cause::PathNotReadable,
            PathTrouble::ReadOnly { .. } => Cause::PathReadOnly,
            PathTrouble::NoExecution { .. } => Cause::PathNoExecution,
            PathTrouble::CannotStart { .. } => Cause::PathCannotStart,
            PathTrouble::NotExecutable => Cause::PathNotExecutable,
            PathTrouble::Content { .. } => Cause::PathContent,
            PathTrouble::OwnerUnknown | PathTrouble::ContentUnread => Cause::CouldNotLook,
            PathTrouble::NoPermissionBits => Cause::NotSupportedHere,
        }
    }
}
