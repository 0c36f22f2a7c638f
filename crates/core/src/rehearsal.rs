//! A guide tried before newcomers meet it: how they can fail, what they then read and do, and what that comes to.

use crate::cause::Cause;
use crate::finding::Verdict;
use crate::fix::Fix;
use crate::guide::{Guide, Requirement};
use crate::observation::Os;
use crate::prelude::*;
use crate::settled::RequirementResult;

/// One way to fail: a machine on which everything is met but one requirement.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Way {
    /// The index of the requirement.
    pub requirement: usize,
    /// The system of the machine.
    pub system: Os,
    /// The cause that the machine has.
    pub cause: Cause,
    /// What the newcomer reads.
    pub message: String,
    /// What the newcomer is told to do first.
    pub fix: Option<Fix>,
    /// Where that leads.
    pub end: End,
}

/// Where following the advice leads; the worst first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum End {
    /// Nothing is said that could be done.
    Nothing,
    /// Words alone say what to do.
    Words,
    /// There is a command to run or a line to write, and what comes of it cannot be foretold.
    Command,
    /// What is to be done, done to the machine, meets the requirement: it was assessed again.
    Cure,
}

impl End {
    /// Every end, the worst first.
    pub const ALL: [Self; 4] = [Self::Nothing, Self::Words, Self::Command, Self::Cure];

    /// The word in reports.
    pub fn word(self) -> &'static str {
        match self {
            Self::Nothing => "nothing",
            Self::Words => "words",
            Self::Command => "command",
            Self::Cure => "cure",
        }
    }

    /// In what such a way ends, for a sentence.
    pub fn means(self) -> &'static str {
        match self {
            Self::Nothing => "in nothing to do",
            Self::Words => "in words only",
            Self::Command => "in a command whose result cannot be foretold",
            Self::Cure => "in a fix that cures",
        }
    }
}

/// All ways to fail that could be made.
#[derive(Debug, Clone, PartialEq, Default)]
#[non_exhaustive]
pub struct Ways {
    /// The ways, in the order of the guide, then of the systems, then of the causes.
    pub ways: Vec<Way>,
    /// What could not be tried: no machine could be made on which the requirement is met.
    pub untried: Vec<Untried>,
}

/// A requirement for which no machine could be made.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Untried {
    /// The index of the requirement.
    pub requirement: usize,
    /// The system.
    pub system: Os,
    /// What the best machine came to, in a sentence.
    pub reason: String,
}

impl Untried {
    /// A requirement that could not be tried.
    pub fn new(requirement: usize, system: Os, reason: String) -> Self {
        Self { requirement, system, reason }
    }
}

impl Ways {
    /// How many end so.
    pub fn count(&self, end: End) -> usize {
        self.ways.iter().filter(|way| way.end == end).count()
    }

    /// The number that the guide is judged by, as a sentence: how many ways to fail there are, and how they end.
    pub fn summary(&self) -> String {
        let parts: Vec<String> =
            End::ALL.iter().rev().map(|end| format!("{} {} {}", self.count(*end), ends(self.count(*end)), end.means())).collect();
        let ways = if self.ways.len() == 1 { "1 way to fail".to_owned() } else { format!("{} ways to fail", self.ways.len()) };
        format!("{ways}: {}.", parts.join(", "))
    }
}

fn ends(count: usize) -> &'static str {
    if count == 1 { "ends" } else { "end" }
}

impl Way {
    /// What came of a requirement on a machine that was made for this; `cured` says whether what it advises meets it, where that was tried.
    pub fn of(guide: &Guide, settled: &RequirementResult, system: Os, message: String, cured: bool) -> Option<Self> {
        let requirement = guide.requirements.get(settled.index)?;
        let cause = settled.finding.cause()?;
        let fix = settled.fixes.first().cloned();
        let end = if cured { End::Cure } else { end(requirement, cause, &settled.fixes) };
        Some(Self { requirement: settled.index, system, cause, message, fix, end })
    }
}

/// Where advice leads that was not tried.
fn end(requirement: &Requirement, cause: Cause, fixes: &[Fix]) -> End {
    let does = |fix: &Fix| fix.acts();
    match fixes.first() {
        None => End::Nothing,
        Some(fix) if does(fix) => End::Command,
        // "Install it" helps nobody who does not know from where.
        Some(_)
            if is_installed(cause) && requirement.fixes.is_empty() && requirement.docs.is_none() && !fixes.iter().any(does) =>
        {
            End::Nothing
        }
        Some(_) => End::Words,
    }
}

/// Whether what came of a requirement leaves the newcomer without anything to do.
pub fn is_left_alone(requirement: &Requirement, settled: &RequirementResult) -> bool {
    let cause = settled.finding.cause().filter(|_| settled.finding.verdict() == Verdict::Unmet);
    cause.is_some_and(|cause| end(requirement, cause, &settled.fixes) == End::Nothing)
}

/// What is cured by installing something.
fn is_installed(cause: Cause) -> bool {
    matches!(
        cause,
        Cause::ToolMissing
            | Cause::LibraryMissing
            | Cause::LibraryNoHeaders
            | Cause::ModuleMissing
            | Cause::HeadersMissing
            | Cause::PackageMissing
    )
}
