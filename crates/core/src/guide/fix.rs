use crate::cause::Cause;
use crate::condition::Condition;
use crate::prelude::*;
use crate::text::Size;

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

/// A line to append to a file.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Edit {
    /// The file.
    pub file: String,
    /// The line.
    pub append: String,
    /// The number of the line in whose place it stands; at the end of the file where there is none.
    pub line: Option<usize>,
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
    /// What to do with its line, as a heading of it.
    pub fn task(&self) -> String {
        match self.line {
            Some(number) => format!("Put this in the place of line {number} of {}:", self.file),
            None => format!("Add this line to {}:", self.file),
        }
    }
}
