//! What another range or another minimum would cost: who meets it now and would not any more, and who would then.
#![allow(clippy::wildcard_enum_match_arm, reason = "most requirements ask for neither a version nor an amount")]

use super::Row;
use crate::guide::{Guide, Requirement, Subject};
use crate::prelude::*;
use crate::text::Size;
use crate::verdict::Verdict;
use crate::version::{Range, RangeMatch, Version};

/// What a requirement might ask for instead. What its words mean depends on what it is about: a range of versions, an amount, a number.
#[derive(Debug, Clone, PartialEq)]
pub struct WhatIf {
    /// The requirement's id, or the tool's name.
    pub of: String,
    /// What it would have to be, in the words that were given.
    pub wanted: String,
    range: Result<Range, String>,
    bytes: Option<Size>,
    number: Option<u64>,
}

/// Why a text says no such thing.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum WhatIfError {
    /// It names nothing.
    #[error("it names no requirement: write one and its range, such as 'cmake >= 3.28'")]
    Nothing,
    /// It has no range that can be read.
    #[error("{0}: write the requirement and its range, such as 'cmake >= 3.28' or 'memory >= 16 GB'")]
    NoRange(String),
    /// The guide has no such requirement, or one that has neither a range nor a minimum.
    #[error("this guide asks for no version or amount of {0}")]
    NotInGuide(String),
    /// It is a version that the requirement asks for.
    #[error("{of} asks for a version ({reason}): write for example '{of} >= 3.28'")]
    Version {
        /// The requirement's id.
        of: String,
        /// Why that is none.
        reason: String,
    },
    /// It is an amount or a number that the requirement asks for.
    #[error("{of} asks for {what}: write for example '{of} >= {example}'")]
    Amount {
        /// The requirement's id.
        of: String,
        /// An amount, or a number.
        what: &'static str,
        /// One.
        example: &'static str,
    },
}

/// What a kind of requirement has that could be another one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Measure {
    Version,
    Bytes,
    Number,
}

impl Measure {
    fn of(requirement: &Requirement) -> Option<Self> {
        match &requirement.subject {
            // An ability is there or not.
            Subject::Limit(limit) if limit.at_least.is_none() => None,
            subject => Self::of_kind(subject.kind().word()),
        }
    }

    fn of_kind(kind: &str) -> Option<Self> {
        match kind {
            "tool" | "library" | "module" | "system_package" => Some(Self::Version),
            "memory" | "swap" | "disk" => Some(Self::Bytes),
            "cores" | "limit" => Some(Self::Number),
            _ => None,
        }
    }
}

/// Causes that another range or minimum takes away, where it fits what was found.
const OF_THE_RANGE: [&str; 15] = [
    "tool-too-old",
    "tool-too-new",
    "tool-excluded",
    "library-too-old",
    "library-too-new",
    "module-too-old",
    "module-too-new",
    "memory-short",
    "memory-capped",
    "memory-busy",
    "cores-short",
    "cores-capped",
    "disk-short",
    "swap-short",
    "limit-low",
];

impl WhatIf {
    /// Reads a text such as `cmake >= 3.28`, `memory >= 16 GB` or `cores >= 8`.
    ///
    /// # Errors
    /// When it names nothing, or says neither a range of versions nor a minimum.
    pub fn parse(text: &str) -> Result<Self, WhatIfError> {
        let text = text.trim();
        let end = text.find(|c: char| c.is_whitespace() || "<>=^~".contains(c)).ok_or(WhatIfError::Nothing)?;
        let (of, wanted) = text.split_at_checked(end).filter(|(of, _)| !of.is_empty()).ok_or(WhatIfError::Nothing)?;
        let wanted = wanted.trim();
        let least = wanted.strip_prefix(">=").map(str::trim);
        let bytes = least.and_then(|least| Size::parse(least).ok());
        let number = least.and_then(|least| least.parse().ok());
        match Range::parse(wanted).map_err(|error| error.to_string()) {
            Err(error) if bytes.is_none() && number.is_none() => Err(WhatIfError::NoRange(error)),
            range => Ok(Self { of: of.to_owned(), wanted: wanted.to_owned(), range, bytes, number }),
        }
    }

    /// The requirement of a guide that it is about: by its id, or by the name of the tool, the library, the module or the limit.
    pub fn find(&self, guide: &Guide) -> Option<usize> {
        let named = |requirement: &Requirement| match &requirement.subject {
            Subject::Tool(tool) => tool.names.contains(&self.of),
            Subject::Library(library) => library.name == self.of,
            Subject::Component(component) => component.name == self.of,
            Subject::Limit(limit) => limit.kind.word() == self.of,
            _ => false,
        };
        guide.find(&self.of).or_else(|| guide.requirements.iter().position(named))
    }

    /// The ids of all requirements of a guide that could ask for another version, amount or number.
    pub fn candidates(guide: &Guide) -> Vec<&str> {
        guide.requirements.iter().filter(|one| Measure::of(one).is_some()).map(|one| one.id.as_str()).collect()
    }

    /// The guide with that in it, and the index of the requirement.
    ///
    /// # Errors
    /// When the guide has no such requirement, or it asks for something of another sort.
    pub fn changed(&self, guide: &Guide) -> Result<(Guide, usize), WhatIfError> {
        let not_here = || WhatIfError::NotInGuide(self.of.clone());
        let index = self.find(guide).ok_or_else(not_here)?;
        let mut changed = guide.clone();
        let requirement = changed.requirements.get_mut(index).ok_or_else(not_here)?;
        Measure::of(requirement).ok_or_else(not_here)?;
        let of = requirement.id.clone();
        let range = || self.range.clone().map_err(|reason| WhatIfError::Version { of: of.clone(), reason });
        let amount = |what, example| WhatIfError::Amount { of: of.clone(), what, example };
        let bytes = || self.bytes.ok_or_else(|| amount("an amount", "16 GB"));
        let number = |example| self.number.ok_or_else(|| amount("a number", example));
        match &mut requirement.subject {
            Subject::Tool(tool) => {
                tool.version = Some(range()?);
                tool.version_from = None;
            }
            Subject::Library(library) => library.version = Some(range()?),
            Subject::Component(component) => component.version = Some(range()?),
            Subject::Memory(memory) => memory.size = bytes()?,
            Subject::Disk(disk) => disk.size = bytes()?,
            Subject::Swap(swap) => swap.size = bytes()?,
            Subject::Cores(cores) => cores.count = number("8")?,
            Subject::Limit(limit) => limit.at_least = Some(number("8192")?),
            _ => return Err(not_here()),
        }
        Ok((changed, index))
    }

    /// What would come of a report's rows, by what was found; `None` where none is about that, or it was left out.
    pub fn judge(&self, id: &str, rows: &[Row<'_>]) -> Option<Changed> {
        let row = rows.iter().find(|row| row.id == id && row.verdict != Verdict::Skipped)?;
        // Several needs may lie on one disk, which a report does not say well enough: it may fit by itself, and not with the others.
        let alone =
            row.kind != "disk" || rows.iter().filter(|row| row.kind == "disk" && row.verdict != Verdict::Skipped).count() < 2;
        let fits = self.fits(row).filter(|fits| alone || !fits);
        let by_range = || row.cause.as_deref().is_some_and(|cause| OF_THE_RANGE.contains(&cause));
        Some(match (row.verdict, fits) {
            (Verdict::Met, Some(true)) => Changed::Stays,
            (Verdict::Met, Some(false)) => Changed::Lost,
            (Verdict::Met, None) => Changed::Unknown,
            (Verdict::Unmet, Some(true)) if by_range() => Changed::Gained,
            _ => Changed::Already,
        })
    }

    /// Whether what was found would do; `None` where that cannot be told from it.
    fn fits(&self, row: &Row<'_>) -> Option<bool> {
        let found = row.found.as_deref();
        match Measure::of_kind(&row.kind)? {
            Measure::Version => match self.range.as_ref().ok()?.fit(&Version::parse(row.version()?).ok()?) {
                RangeMatch::Inside => Some(true),
                RangeMatch::Incomparable => None,
                RangeMatch::TooOld | RangeMatch::TooNew | RangeMatch::Excluded => Some(false),
            },
            Measure::Bytes => {
                let least = self.bytes?;
                let mut words = found?.split_whitespace();
                let told = format!("{} {}", words.next()?, words.next()?);
                // It is told rounded down.
                match Size::parse(&told).ok()? {
                    there if there >= least => Some(true),
                    _ if least.to_string() == told => None,
                    _ => Some(false),
                }
            }
            Measure::Number => {
                let found = found?;
                let whole = found.split([' ', '.']).next()?.parse::<u64>().ok();
                if found == "no limit" { Some(true) } else { Some(whole? >= self.number?) }
            }
        }
    }
}

/// What another range would change for one machine.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Changed {
    /// It is met, and would be.
    Stays,
    /// It is met, and would not be any more.
    Lost,
    /// It is met, and nobody knows what would be.
    Unknown,
    /// It is not met, and would not be.
    Already,
    /// It is not met, and would be.
    Gained,
}

impl Changed {
    /// How many there are.
    pub const COUNT: usize = 5;

    /// What another range changes, by the verdicts with both; `None` where the requirement is not for that machine.
    pub fn between(now: Verdict, then: Verdict) -> Option<Self> {
        Some(match (now, then) {
            (Verdict::Skipped, _) => return None,
            (Verdict::Met, Verdict::Met) => Self::Stays,
            (Verdict::Met, Verdict::Unmet) => Self::Lost,
            (Verdict::Met, _) => Self::Unknown,
            (_, Verdict::Met) => Self::Gained,
            _ => Self::Already,
        })
    }
}

/// How many machines of a survey another range would change, and how.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cost {
    /// The requirement's id.
    pub requirement: String,
    /// What it would have to be.
    pub wanted: String,
    /// How many meet it now, and would.
    pub stays: u64,
    /// How many meet it now, and would not any more.
    pub lost: u64,
    /// How many meet it now, and nobody knows what would be.
    pub unknown: u64,
    /// How many do not meet it, and would not.
    pub already: u64,
    /// How many do not meet it, and would.
    pub gained: u64,
}

impl Cost {
    /// From how often each [`Changed`] was counted.
    pub(super) fn new(requirement: &str, wanted: &str, [stays, lost, unknown, already, gained]: [u64; Changed::COUNT]) -> Self {
        Self { requirement: requirement.to_owned(), wanted: wanted.to_owned(), stays, lost, unknown, already, gained }
    }

    /// How many meet it now.
    pub fn met(&self) -> u64 {
        self.stays + self.lost + self.unknown
    }

    /// What it comes to, in a sentence or two.
    pub fn summary(&self) -> String {
        let then = match self.gained {
            0 => String::new(),
            gained => format!(", and {gained} of them would then"),
        };
        format!(
            "{} of the {} that meet it now would not any more; {} do not meet it as it is{then}.",
            self.lost,
            self.met(),
            self.already + self.gained
        )
    }
}
