//! A fix is a prediction: what would be known after it is assessed again, and only what leads to *met*, or cannot be told, is offered.

use super::Fix;
use super::effect::{Change, Effect};
use super::suggest::offered;
use crate::assess::finding_with_evidence;
use crate::finding::{Finding, Verdict};
use crate::guide::Requirement;
use crate::inquiry::{Context, Inquiry, Stop};
use crate::known::Known;
use crate::observation::Observation;
use crate::prelude::*;
use crate::probe::Probe;

/// How many faults of one requirement are followed, one behind the other.
const MOST_FAULTS: usize = 6;

/// The fix, with whatever must follow it until the requirement is met; `None` where it would not help.
///
/// # Errors
/// When answers are still to come.
pub(super) fn verify(
    inquiry: &mut Inquiry<'_>,
    index: usize,
    requirement: &Requirement,
    finding: &Finding,
    first: Fix,
) -> Result<Option<Fix>, Stop> {
    let mut fix = first;
    for _ in 0..MOST_FAULTS {
        let Effect::Changes(changes) = &fix.effect else { return Ok(Some(fix)) };
        let predicted = predicted(finding, changes);
        let mut then = Inquiry::new(Context { predicted: Some(&predicted), ..inquiry.context });
        let Some(after) = finding_with_evidence(&mut then, index, requirement) else {
            propagate_pending(inquiry, then);
            return Err(Stop::Pending);
        };
        match after.verdict() {
            Verdict::Met | Verdict::Skipped => return Ok(Some(fix)),
            Verdict::Unknown | Verdict::Blocked => return Ok(Some(fix.with_effect(Effect::Unknown))),
            Verdict::Unmet => {}
        }
        let next = match offered(&mut then, requirement, &after) {
            Ok(fixes) => fixes.into_iter().next(),
            Err(Stop::Pending) => {
                propagate_pending(inquiry, then);
                return Err(Stop::Pending);
            }
            Err(stop @ Stop::NoAnswer(_)) => return Err(stop),
        };
        // What is the same once more has not helped the first time.
        let Some(next) = next.filter(|next| next.run.is_empty() || !fix.run.ends_with(&next.run)) else { return Ok(None) };
        let Some(both) = fix.clone().and_then(next) else { return Ok(Some(fix.with_effect(Effect::Unknown))) };
        fix = both;
    }
    Ok(None)
}

/// What would be known: the answers that a finding rests on, differs, and those that the changes settle by themselves.
pub(super) fn predicted(finding: &Finding, changes: &[Change]) -> Known {
    let mut predicted = Known::default();
    for answer in &finding.evidence {
        let mut observation = (*answer.observation).clone();
        let mut differs = false;
        for change in changes {
            if let Some(after) = change.on(&answer.probe, &observation) {
                (observation, differs) = (after, true);
            }
        }
        if differs {
            predicted.learn(Arc::clone(&answer.probe), observation, 0);
        }
    }
    for change in changes {
        if let Change::Path { asked, .. } = change {
            let probe = Probe::Within { path: asked.clone() };
            if let Some(after) = change.on(&probe, &Observation::Within(None)) {
                predicted.learn(Arc::new(probe), after, 0);
            }
        }
    }
    predicted
}

/// What an assessment of the future lacks, the present must find out.
pub(super) fn propagate_pending(inquiry: &mut Inquiry<'_>, then: Inquiry<'_>) {
    let (probes, requirements) = then.into_open();
    for probe in probes {
        inquiry.want(probe);
    }
    for other in requirements {
        inquiry.wait_for(other);
    }
}
