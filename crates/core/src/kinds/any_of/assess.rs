//! `any_of`: at least one of several requirements is met.

use crate::assess::kind::Assess;
use crate::finding::{AnyOfReason, Conclusion, LeftOut, Met, Verdict};
use crate::guide::AnyOf;
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &AnyOf) -> Result<Conclusion, Stop> {
    let mut findings = Vec::new();
    let mut complete = true;
    for index in &wanted.alternatives {
        match inquiry.finding(*index) {
            Ok(finding) => findings.push((*index, finding)),
            Err(_) => complete = false,
        }
    }
    // One is enough, whatever comes of the others; the first in the guide is named, so all must be known.
    if !complete {
        return Err(Stop::Pending);
    }
    if let Some((which, _)) = findings.iter().find(|(_, finding)| finding.verdict() == Verdict::Met) {
        return Ok(Met::AnyOf { which: *which }.into());
    }
    // What was left out for the network might do.
    let offline = findings.iter().any(|(_, finding)| finding.left_out() == Some(LeftOut::Offline));
    findings.retain(|(_, finding)| finding.verdict() != Verdict::Skipped);
    if findings.is_empty() {
        return Ok(Conclusion::LeftOut(if offline { LeftOut::Offline } else { LeftOut::NoAlternative }));
    }
    let none_met = !offline && findings.iter().all(|(_, finding)| crate::assess::is_unmet(finding));
    let open = findings.into_iter().map(|(index, _)| index).collect();
    Ok(if none_met { AnyOfReason::NoneMet { open } } else { AnyOfReason::Unsure { open } }.into())
}

impl Assess for AnyOf {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
