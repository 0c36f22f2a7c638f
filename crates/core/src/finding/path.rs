//! What is found about files and folders.

use crate::cause::Cause;
use crate::observation::Nature;
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
        nature: Nature,
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
    NotWritable,
    /// This user may not execute it.
    NotExecutable,
    /// Its text, or the names in it, do not fit.
    Content,
    /// What is in it could not be read.
    ContentUnread,
}

impl PathReason {
    pub(super) fn cause(&self) -> Cause {
        match &self.trouble {
            PathTrouble::Missing { .. } => Cause::PathMissing,
            PathTrouble::Unwanted => Cause::PathUnwanted,
            PathTrouble::Dangling { .. } => Cause::PathDangling,
            PathTrouble::OtherKind { .. } => Cause::PathOtherKind,
            PathTrouble::NotMine { .. } => Cause::PathNotMine,
            PathTrouble::Mode { .. } | PathTrouble::OpenToOthers { .. } => Cause::PathMode,
            PathTrouble::NotWritable => Cause::PathNotWritable,
            PathTrouble::NotExecutable => Cause::PathNotExecutable,
            PathTrouble::Content => Cause::PathContent,
            PathTrouble::OwnerUnknown | PathTrouble::ContentUnread => Cause::CouldNotLook,
            PathTrouble::NoPermissionBits => Cause::NotSupportedHere,
        }
    }
}
