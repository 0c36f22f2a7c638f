use crate::cause::Cause;
use crate::condition::Condition;
use crate::prelude::*;
use crate::text::{Pattern, Size};

/// A fix that the guide suggests.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct GuideFix {
    /// The step in words.
    pub say: String,
    /// Commands, shown and never run.
    pub run: Vec<String>,
    /// A line to add to a file, shown as an edit.
    pub edit: Option<Edit>,
    /// Only for this cause.
    pub cause: Option<Cause>,
    /// Only on such a machine.
    pub when: Option<Condition>,
    /// Only while the requirement with this index is not met; with a cause, only while that is why.
    pub only_while: Option<(usize, Option<Cause>)>,
    /// Only where what the command said fits this; its first group fills `{captured}`.
    pub prints: Option<Pattern>,
    /// It needs admin rights.
    pub admin: bool,
    /// What must follow before it takes effect.
    pub then: Option<Then>,
    /// How much is downloaded.
    pub download: Option<Size>,
    /// How long it takes, in milliseconds.
    pub takes_ms: Option<u64>,
    /// What one should know before.
    pub caution: Option<String>,
}

/// A change to a file: lines at its end, or in the place of others; or a copy of another file.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Edit {
    /// The file.
    pub file: String,
    /// The lines; none where it is only a copy.
    pub append: String,
    /// The number of the line in whose place they stand; at the end of the file where there is none.
    pub line: Option<usize>,
    /// The pattern of what they stand in the place of.
    pub replaces: Option<String>,
    /// The file that it is begun with, where it is not there.
    pub from: Option<String>,
}

/// What must follow a fix before it takes effect; the later, the more it interrupts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Then {
    /// A new terminal.
    NewShell,
    /// Signing out and in again.
    SignIn,
    /// A restart.
    Restart,
}

impl Then {
    /// The word in the guide.
    pub fn word(self) -> &'static str {
        match self {
            Self::NewShell => "new-shell",
            Self::SignIn => "sign-in",
            Self::Restart => "restart",
        }
    }
}

impl Edit {
    /// Lines at the end of a file.
    pub fn append(file: impl Into<String>, append: impl Into<String>) -> Self {
        Self { file: file.into(), append: append.into(), line: None, replaces: None, from: None }
    }

    /// What to do with its lines, as a heading of them.
    pub fn task(&self) -> String {
        let file = &self.file;
        match (&self.from, &self.replaces, self.line) {
            (Some(from), ..) if self.append.is_empty() => format!("Copy {from} to {file}."),
            (_, Some(pattern), _) => format!("In {file}, put this in the place of what fits {pattern}:"),
            (_, None, Some(number)) => format!("Put this in the place of line {number} of {file}:"),
            (_, None, None) if self.append.lines().nth(1).is_some() => format!("Add these lines to {file}:"),
            (_, None, None) => format!("Add this line to {file}:"),
        }
    }
}
