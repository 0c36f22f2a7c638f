//! What settles it.

use crate::finding::{SystemReason, SystemTrouble};
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Requirement, Subject, Systems};
use crate::prelude::*;
use crate::version::RangeMatch;

pub(crate) fn fix(case: &Case<'_>, reason: &SystemReason) -> Option<Fix> {
    let elsewhere = || {
        let Subject::System(systems) = &case.requirement.subject else { return None };
        Some(Fix::say(format!("Work on a system that fits ({systems}), for example in a virtual machine on this one.")))
    };
    match &reason.trouble {
        SystemTrouble::Other
        | SystemTrouble::OtherDistribution { .. }
        | SystemTrouble::Edition { .. }
        | SystemTrouble::Arch { .. } => elsewhere(),
        SystemTrouble::OutOfRange { miss, .. } => match miss.fit {
            RangeMatch::TooOld => Some(Fix::say("Upgrade the operating system, or work in a virtual machine with a newer one.")),
            RangeMatch::TooNew => Some(Fix::say(
                "Ask the project whether it works here by now; otherwise work in a virtual machine with an older system.",
            )),
            RangeMatch::Inside | RangeMatch::Excluded | RangeMatch::Incomparable => elsewhere(),
        },
        SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => None,
    }
}

impl ReasonFixes for SystemReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = match &self.trouble {
            SystemTrouble::OutOfRange { found, .. } => found.to_string(),
            SystemTrouble::OtherDistribution { found } | SystemTrouble::Edition { found } | SystemTrouble::Arch { found } => {
                found.clone()
            }
            SystemTrouble::Other | SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => self.system.clone(),
        };
        Fills { found: Some(found), ..Fills::default() }
    }
}

impl SubjectFixes for Systems {}
