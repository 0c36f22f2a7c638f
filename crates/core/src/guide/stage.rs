//! Roles and stages: who a requirement is for, and when its turn comes.

use crate::condition::Condition;
use crate::prelude::*;

/// `[role.NAME]`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Role {
    /// Its id.
    pub id: String,
    /// Who that is.
    pub about: Option<String>,
}

/// `[[stage]]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Stage {
    /// Its id.
    pub id: String,
    /// Its heading.
    pub title: String,
    /// A text to read before.
    pub intro: Option<String>,
    /// Checked only when asked for: the project must be running.
    pub after_start: bool,
    /// How the project is started, where it is checked after that.
    pub start: Vec<String>,
    /// Where it applies.
    pub when: Option<Condition>,
}
