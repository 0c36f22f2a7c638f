//! `any_of`: at least one of several requirements is met.

use crate::cause::Cause;
use crate::finding::{Finding, Verdict};
use crate::guide::{AnyOf, Requirement};
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;
use crate::text::{capitalised, join_words};

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &AnyOf) -> Result<Finding, Stop> {
    let mut findings = Vec::new();
    let mut complete = true;
    for index in &wanted.alternatives {
        match inquiry.finding(*index) {
            Ok(finding) => findings.push((*index, finding)),
            Err(_) => complete = false,
        }
    }
    let titles = |inquiry: &Inquiry<'_>, chosen: &[usize]| {
        let all: Vec<String> =
            chosen.iter().filter_map(|index| inquiry.context.guide.requirements.get(*index)).map(Requirement::title).collect();
        join_words(&all, "or")
    };
    // One is enough, whatever comes of the others; the first in the guide is named, so all must be known.
    if !complete {
        return Err(Stop::Pending);
    }
    let with = |verdict: Verdict| {
        findings.iter().filter(move |(_, finding)| finding.verdict == verdict).map(|(index, _)| *index).collect::<Vec<_>>()
    };
    let (met, unmet) = (with(Verdict::Met), with(Verdict::Unmet));
    if let Some(first) = met.first() {
        let title = titles(inquiry, &[*first]);
        return Ok(Finding::met(title.clone(), format!("{} is here, which is enough.", capitalised(&title))));
    }
    let open: Vec<usize> =
        findings.iter().filter(|(_, finding)| finding.verdict != Verdict::Skipped).map(|(index, _)| *index).collect();
    if open.is_empty() {
        return Ok(Finding::skipped("None of the alternatives is for this machine."));
    }
    if unmet.len() < open.len() {
        let message = format!("Whether one of {} is here could not be found out.", titles(inquiry, &open));
        return Ok(Finding { alternatives: open, ..Finding::unknown(Cause::CouldNotLook, message).found("none that is known") });
    }
    let message = if open.len() == 1 {
        format!("{} is needed, and is not as it should be.", capitalised(&titles(inquiry, &open)))
    } else {
        format!("One of {} is needed, and none is as it should be.", titles(inquiry, &open))
    };
    Ok(Finding { alternatives: open, ..Finding::unmet(Cause::NoneOf, message).found("none of them") })
}
