//! What stands between a machine and its work, for whoever wants no more than that.

use super::Report;
use crate::finding::{LeftOut, Verdict};
use crate::fix::Fix;
use crate::guide::{Level, Requirement};
use crate::prelude::*;
use crate::settled::RequirementResult;

/// Something needed that is not met here, or not known to be.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct ReportProblem<'r> {
    /// What the guide asks for.
    pub requirement: &'r Requirement,
    /// What came of it: the verdict, the facts, and all fixes.
    pub result: &'r RequirementResult,
    /// A sentence or two that a beginner understands.
    pub message: String,
    /// What to do, where something is known to do: the best of the fixes.
    pub fix: Option<&'r Fix>,
}

impl Report {
    /// What is needed here and keeps [`Report::outcome`] from being ready, in the order of the guide: not met, not known, left out because it needs
    /// the network, or waiting for one of these. Empty where [`Outcome::is_ready`](super::Outcome::is_ready) holds.
    pub fn problems(&self) -> Vec<ReportProblem<'_>> {
        let stands_in_the_way = |result: &RequirementResult| match result.finding.verdict() {
            Verdict::Unmet | Verdict::Unknown | Verdict::Blocked => true,
            Verdict::Skipped => result.finding.left_out() == Some(LeftOut::Offline),
            Verdict::Met => false,
        };
        let problem = |result| {
            let requirement = self.requirement(result)?;
            let needed = requirement.level == Level::Must && requirement.concerns(self.role);
            (needed && stands_in_the_way(result)).then(|| ReportProblem {
                requirement,
                result,
                message: self.message(result),
                fix: result.fixes.first(),
            })
        };
        self.counting().filter_map(problem).collect()
    }
}
