//! Settling a requirement: its finding, and what would settle it, or the next questions.

use crate::assess::finding_with_evidence;
use crate::cause::Cause;
use crate::finding::{Conclusion, Finding, LeftOut};
use crate::fix::{presumed, suggest};
use crate::guide::Requirement;
use crate::inquiry::{Context, Inquiry, Stop};
use crate::kinds::any_of::fix::cheapest_first;
use crate::prelude::*;
use crate::probe::Probe;
use crate::settled::RequirementResult;

/// What came of an assessment.
#[derive(Debug)]
pub(crate) enum Assessment {
    /// A finding, with the fixes that fit this machine.
    RequirementResult(RequirementResult),
    /// These must be answered first.
    Ask {
        /// Questions to the machine.
        probes: Vec<Probe>,
        /// The indexes of requirements that must be settled.
        requirements: Vec<usize>,
        /// The finding, where it is there already and only its fixes are still to come.
        finding: Option<Arc<Finding>>,
    },
}

/// Assesses one requirement against what is known. What was found already, where only fixes were still to come, stays as it is.
pub(crate) fn assess(context: Context<'_>, index: usize, found: Option<&Arc<Finding>>) -> Assessment {
    let mut inquiry = Inquiry::new(context);
    let Some(requirement) = context.guide.requirements.get(index) else {
        return Assessment::RequirementResult(RequirementResult::new(
            index,
            Finding::new(Conclusion::LeftOut(LeftOut::OtherMachine)),
            Vec::new(),
        ));
    };
    let finding = match settle(&mut inquiry, (index, requirement), found) {
        Ok(settled) => return Assessment::RequirementResult(settled),
        Err(finding) => finding,
    };
    let (probes, requirements) = inquiry.into_open();
    Assessment::Ask { probes, requirements, finding }
}

/// What came of it; or the finding alone, where there is one and answers for its fixes are still to come.
fn settle(
    inquiry: &mut Inquiry<'_>,
    (index, requirement): (usize, &Requirement),
    found: Option<&Arc<Finding>>,
) -> Result<RequirementResult, Option<Arc<Finding>>> {
    let finding = if let Some(found) = found {
        Arc::clone(found)
    } else {
        let mut finding = finding_with_evidence(inquiry, index, requirement).ok_or(None)?;
        if finding.cause() == Some(Cause::NoneOf) {
            cheapest_first(inquiry, &mut finding).map_err(|_| None)?;
        }
        Arc::new(finding)
    };
    let fixes = match finding.reason() {
        None => presumed(inquiry, index, requirement, &finding),
        Some(_) => suggest(inquiry, index, requirement, &finding),
    };
    match fixes {
        Ok(fixes) => {
            let kind = requirement.subject.kind();
            debug_assert!(
                finding.cause().is_none_or(|cause| kind.can_have(cause)),
                "{:?} is none of {}",
                finding.cause(),
                kind.word()
            );
            Ok(RequirementResult::new(index, finding, fixes))
        }
        Err(Stop::Pending) => Err(Some(finding)),
        Err(Stop::NoAnswer(_)) => Ok(RequirementResult::new(index, finding, Vec::new())),
    }
}
