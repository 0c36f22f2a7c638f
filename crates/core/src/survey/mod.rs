//! Many reports together: what stops most people, what nobody knows, which versions are out there, how it moves, which fixes help.
//!
//! Reports are added one by one to a [`Tally`], which takes no more room for many than for few; tallies that were made side by side are put together, and
//! what they come to is a [`Survey`].

mod compact_report;
mod intern;
mod machines;
mod summary;
mod tally;
mod week;
mod what_if;

pub use summary::{Advised, Grouped, Share, Stop, Survey, ToolSpread, WeekOf};
pub use tally::Tally;
pub use week::{Moment, date, week};
pub use what_if::{Changed, Cost, WhatIf, WhatIfError};

use crate::guide::Level;
use crate::prelude::*;
use crate::report::{Outcome, Report};
use crate::verdict::Verdict;
use alloc::borrow::Cow;

/// What reports are told apart by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Dimension {
    /// The operating system.
    System,
    /// The distribution and its version.
    Distro,
    /// The architecture.
    Arch,
    /// The role.
    Role,
    /// The week in which it was checked.
    Week,
}

/// One report, as far as a survey looks at it.
#[derive(Debug, Clone, PartialEq)]
pub struct Entry<'t> {
    /// The project.
    pub project: Cow<'t, str>,
    /// The digest of the guide.
    pub guide: Option<Cow<'t, str>>,
    /// A random word by which reports of one machine can be told to be that.
    pub id: Option<Cow<'t, str>>,
    /// When it was checked, by RFC 3339.
    pub started: Cow<'t, str>,
    /// The operating system's word.
    pub os: Option<Cow<'t, str>>,
    /// The distribution's id.
    pub distro: Option<Cow<'t, str>>,
    /// The distribution's version.
    pub distro_version: Option<Cow<'t, str>>,
    /// The architecture.
    pub arch: Option<Cow<'t, str>>,
    /// The role's id.
    pub role: Option<Cow<'t, str>>,
    /// What it came to.
    pub outcome: Outcome,
    /// It is about a part: needed things of the guide were not asked for.
    pub in_part: bool,
    /// Something needed was left out of it that must be looked at elsewhere: in another place, or where there is a network.
    pub elsewhere: bool,
    /// What came of each requirement that counts by itself.
    pub requirements: Vec<Row<'t>>,
}

/// What came of one requirement.
#[derive(Debug, Clone, PartialEq)]
pub struct Row<'t> {
    /// Its id.
    pub id: Cow<'t, str>,
    /// The word of its kind.
    pub kind: Cow<'t, str>,
    /// How much it matters.
    pub level: Level,
    /// The verdict.
    pub verdict: Verdict,
    /// The cause, where it has one.
    pub cause: Option<Cow<'t, str>>,
    /// What was found, in short.
    pub found: Option<Cow<'t, str>>,
    /// What the first fix says.
    pub fix: Option<Cow<'t, str>>,
}

impl Row<'_> {
    /// The version that was found, of what has versions.
    pub fn version(&self) -> Option<&str> {
        let has = matches!(&*self.kind, "tool" | "library" | "module" | "system_package");
        let found = self.found.as_deref().filter(|_| has)?;
        found.starts_with(|c: char| c.is_ascii_digit()).then(|| found.split_whitespace().next()).flatten()
    }
}

impl Entry<'_> {
    /// What this one is, of a dimension.
    pub fn group(&self, by: Dimension) -> String {
        let unknown = || "unknown".to_owned();
        let text = |text: &Option<Cow<'_, str>>| text.as_deref().map_or_else(unknown, ToOwned::to_owned);
        match by {
            Dimension::System => text(&self.os),
            Dimension::Arch => text(&self.arch),
            Dimension::Role => self.role.as_deref().map_or_else(|| "every role".to_owned(), ToOwned::to_owned),
            Dimension::Distro => match (&self.distro, &self.distro_version) {
                (Some(distro), Some(version)) => format!("{distro} {version}"),
                (Some(distro), None) => distro.to_string(),
                (None, _) => text(&self.os),
            },
            Dimension::Week => Moment::parse(&self.started).map_or_else(unknown, |moment| week(moment.day)),
        }
    }

    /// An entry that stands by itself.
    pub fn of(report: &Report) -> Entry<'static> {
        let own = |text: Option<&str>| text.map(|text| Cow::Owned(text.to_owned()));
        let system = report.system.as_ref();
        let row = |one: &crate::settled::RequirementResult| {
            let requirement = report.requirement(one)?;
            Some(Row {
                id: Cow::Owned(requirement.id.clone()),
                kind: Cow::Borrowed(requirement.subject.kind().word()),
                level: requirement.level,
                verdict: one.finding.verdict(),
                cause: one.finding.cause().map(|cause| Cow::Borrowed(cause.word())),
                found: report.words(one).and_then(|words| words.found()).map(Cow::Owned),
                fix: one.fixes.first().map(|fix| Cow::Owned(fix.say.clone())),
            })
        };
        Entry {
            project: Cow::Owned(report.guide.project.name.clone()),
            guide: own(report.frame.guide_sha256.as_deref()),
            id: own(report.frame.id.as_deref()),
            started: Cow::Owned(report.frame.started.clone()),
            os: system.map(|system| Cow::Borrowed(system.os.word())),
            distro: own(system.and_then(|system| system.distro.as_deref())),
            distro_version: own(system.and_then(|system| system.distro_version.as_deref())),
            arch: own(system.map(|system| system.arch.as_str())),
            role: own(report.role.and_then(|role| report.guide.roles.get(role)).map(|role| role.id.as_str())),
            outcome: report.outcome(),
            in_part: report.not_asked() > 0,
            elsewhere: report.left_for_the_network().next().is_some()
                || report.other_places().iter().any(|place| !place.remaining.is_empty()),
            requirements: report.counting().filter_map(row).collect(),
        }
    }
}

#[cfg(test)]
mod tests;
