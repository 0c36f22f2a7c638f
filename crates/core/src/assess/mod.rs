//! Assessing a requirement: a pure function from what is known to a finding, or to the next questions.

pub(crate) mod kind;
pub(crate) mod system_service;
mod value;

use crate::assess::kind::Assess;
use crate::cause::Cause;
use crate::condition::Truth;
use crate::finding::{Conclusion, Finding, General, LeftOut, Verdict, Waiting};
use crate::guide::Requirement;
use crate::inquiry::{Context, Inquiry, Stop};
use crate::kinds::{disk, with_subject};
use crate::ledger::DiskLedger;
use crate::prelude::*;
use crate::probe::Probe;

/// Adds up what all disk requirements need, or says what must be known first.
///
/// # Errors
/// The probes that must be answered first.
pub(crate) fn sum_disks(context: Context<'_>) -> Result<DiskLedger, Vec<Probe>> {
    let mut inquiry = Inquiry::new(context);
    disk::assess::sum(&mut inquiry).map_err(|_| inquiry.into_open().0)
}

/// What the values of a guide are set to, in their order, where any is moved; or what must be known first.
///
/// # Errors
/// The probes that must be answered first.
pub(crate) fn values_set(context: Context<'_>) -> Result<Option<Vec<String>>, Vec<Probe>> {
    let mut inquiry = Inquiry::new(context);
    value::all(&mut inquiry).map_err(|_| inquiry.into_open().0)
}

/// The finding by itself, with its evidence; `None` where answers are still to come.
pub(crate) fn finding_with_evidence(inquiry: &mut Inquiry<'_>, index: usize, requirement: &Requirement) -> Option<Finding> {
    let conclusion = match conclude(inquiry, index, requirement) {
        Ok(conclusion) => conclusion,
        Err(Stop::Pending) => return None,
        Err(Stop::NoAnswer(general)) => general.into(),
    };
    let shared_evidence = inquiry.shared.take();
    Some(Finding { evidence: inquiry.take_cited(), shared_evidence, ..Finding::new(conclusion) })
}

fn conclude(inquiry: &mut Inquiry<'_>, index: usize, requirement: &Requirement) -> Result<Conclusion, Stop> {
    if let Some(conclusion) = inapplicable(inquiry, requirement)? {
        return Ok(conclusion);
    }
    if let Some(waiting) = blocked(inquiry, requirement)? {
        return Ok(Conclusion::Waits(waiting));
    }
    if let Some(unfit) = value::unfit(inquiry, requirement)? {
        return Ok(unfit.into());
    }
    with_subject!(&requirement.subject, one => one.assess(inquiry, index))
}

/// What becomes of a requirement that does not apply here, or whose condition cannot be decided.
pub(crate) fn inapplicable(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<Conclusion>, Stop> {
    let (guide, selection) = (inquiry.context.guide, inquiry.context.selection);
    if !requirement.concerns(selection.role) {
        return Ok(Some(Conclusion::LeftOut(LeftOut::OtherRole)));
    }
    let stage = guide.stages.get(requirement.stage);
    if stage.is_some_and(|stage| stage.after_start) && !selection.after_start {
        return Ok(Some(Conclusion::LeftOut(LeftOut::UntilStarted)));
    }
    for condition in stage.and_then(|stage| stage.when.as_ref()).into_iter().chain(&requirement.when) {
        match condition.evaluate(inquiry)? {
            Truth::True => {}
            Truth::False => return Ok(Some(Conclusion::LeftOut(LeftOut::OtherMachine))),
            Truth::Unknown => return Ok(Some(General::ConditionUnknown.into())),
        }
    }
    other_place(inquiry, requirement)
}

/// The index of the place where one is, of those that the guide names.
pub(crate) fn place(context: Context<'_>) -> Option<usize> {
    let mut inquiry = Inquiry::new(context);
    (0..context.guide.places.len()).find(|index| matches!(is_inside(&mut inquiry, *index), Ok(Truth::True)))
}

/// Whether one is in a place; unknown where that cannot be found out.
pub(crate) fn is_inside(inquiry: &mut Inquiry<'_>, index: usize) -> Result<Truth, Stop> {
    let (guide, selection) = (inquiry.context.guide, inquiry.context.selection);
    match (selection.place, guide.places.get(index)) {
        (Some(place), _) => Ok(if place == index { Truth::True } else { Truth::False }),
        (None, Some(place)) => place.when.evaluate(inquiry),
        (None, None) => Ok(Truth::Unknown),
    }
}

/// What belongs into a place is looked at there: where one is outside of it, it is left out here.
fn other_place(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<Conclusion>, Stop> {
    let Some(index) = requirement.place else { return Ok(None) };
    let Some(place) = inquiry.context.guide.places.get(index) else { return Ok(None) };
    match is_inside(inquiry, index)? {
        Truth::True => Ok(None),
        Truth::Unknown => Ok(Some(General::ConditionUnknown.into())),
        // Who says where they are says where they are not.
        Truth::False if inquiry.context.selection.place.is_some() => Ok(Some(Conclusion::LeftOut(LeftOut::OtherPlace))),
        Truth::False => Ok(match place.outside.evaluate(inquiry)? {
            Truth::True => Some(Conclusion::LeftOut(LeftOut::OtherPlace)),
            Truth::False => None,
            Truth::Unknown => Some(General::ConditionUnknown.into()),
        }),
    }
}

/// What a requirement waits for, where that is not met.
fn blocked(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<Waiting>, Stop> {
    let mut on = Vec::new();
    if inquiry.context.ahead {
        return Ok(None);
    }
    for index in &requirement.after {
        if !inquiry.finding(*index)?.verdict().is_fine() {
            on.push(*index);
        }
    }
    for index in &requirement.needs {
        // Whatever else is wrong with that program, it can be started and asked.
        if inquiry.finding(*index)?.cause().is_some_and(Cause::keeps_from_starting) {
            on.push(*index);
        }
    }
    Ok((!on.is_empty()).then_some(Waiting { on, online: false }))
}

/// Whether a finding is such that what needs nothing but its subject is fine.
pub(crate) fn is_met(conclusion: &Conclusion) -> bool {
    matches!(conclusion, Conclusion::Met(_))
}

/// Whether a finding is unmet, and not merely unknown.
pub(crate) fn is_unmet(finding: &Finding) -> bool {
    finding.verdict() == Verdict::Unmet
}

#[cfg(test)]
mod tests;
