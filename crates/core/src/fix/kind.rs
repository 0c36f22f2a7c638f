//! What settles each kind.

use super::Fix;
use super::case::{Case, Seen};
use super::fills::Fills;
use crate::guide::{Requirement, Subject};
use crate::inquiry::{Inquiry, Stop};
use crate::kinds::{Reason, with_reason, with_subject};
use crate::prelude::*;

/// What settles it: in `fix.rs` of each kind.
pub(crate) trait ReasonFixes {
    /// The fixes that the software knows itself, the best first; none where no general one exists.
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix>;

    /// What it fills the placeholders of a guide's own fix with.
    fn fills(&self, _: &Requirement) -> Fills {
        Fills::default()
    }
}

/// What its fixes need to know beside the reason: in `fix.rs` of each kind.
pub(crate) trait SubjectFixes {
    /// Looks at what matters for choosing a fix, beside the reason.
    ///
    /// # Errors
    /// When answers are still to come.
    fn see<'a>(&self, _: &mut Inquiry<'a>, _: (&Requirement, &Reason), _: &mut Seen<'a>) -> Result<(), Stop> {
        Ok(())
    }
}

/// What a kind's fixes need to know.
pub(crate) fn of_subject(subject: &Subject) -> &dyn SubjectFixes {
    with_subject!(subject, one => one)
}

/// What settles a reason.
pub(crate) fn of_reason(reason: &Reason) -> &dyn ReasonFixes {
    with_reason!(reason, one => one)
}
