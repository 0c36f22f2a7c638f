//! What requirements of several kinds say.

use crate::manager::Manager;
use crate::prelude::*;

/// Whether a thing must be there or must not.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Existence {
    /// It must be there.
    Present,
    /// `expect = "absent"`: it must not be there.
    Absent,
}

/// How something is to be opened.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Access {
    /// To read.
    Read,
    /// To write (and read).
    Write,
}

/// What is told of a thing that must run: who brings it, and how it is started.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Supply {
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
    /// The unit of the system's service manager that it is.
    pub unit: Option<String>,
    /// The command that starts it.
    pub start: Option<String>,
}
