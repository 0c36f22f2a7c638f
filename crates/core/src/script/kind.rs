//! How a script checks each kind.

use super::part::ScriptCheck;
use crate::guide::{Guide, Subject};
use crate::kinds::with_subject;

/// How a script checks it: in `script.rs` of each kind.
pub(crate) trait SubjectScript {
    /// How a script checks it; none where only the program can.
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        None
    }
}

/// How a script checks a subject.
pub(crate) fn of_subject(subject: &Subject) -> &dyn SubjectScript {
    with_subject!(subject, one => one)
}
