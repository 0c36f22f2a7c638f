//! What settles it.

use crate::finding::{RightsFacts, RightsReason};
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::Rights;
use crate::prelude::*;

pub(crate) fn fix(reason: RightsReason) -> Option<Fix> {
    match reason {
        RightsReason::NotAdmin => {
            Some(Fix::say("Ask whoever looks after this machine for admin rights, or to do for you what needs them."))
        }
        RightsReason::NotRoot => Some(Fix::say("Do what needs this in a terminal of the administrator: sudo -s, or su.")),
        RightsReason::Unknown => None,
    }
}

impl ReasonFixes for RightsFacts {
    fn fixes(&self, _: &Case<'_>) -> Vec<Fix> {
        fix(self.rights).into_iter().collect()
    }
}

impl SubjectFixes for Rights {}
