//! What another range would cost: who is met now, and would not be any more.

use super::Row;
use crate::guide::{Guide, Subject};
use crate::prelude::*;
use crate::verdict::Verdict;
use crate::version::{Fit, Range, Version};

/// A range that a tool might have.
#[derive(Debug, Clone, PartialEq)]
pub struct WhatIf {
    /// The requirement's id, or the tool's name.
    pub of: String,
    /// The range.
    pub range: Range,
}

/// Why a text says no such thing.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum WhatIfError {
    /// It names nothing.
    #[error("it names no requirement: write one and its range, such as 'cmake >= 3.28'")]
    Nothing,
    /// It has no range that can be read.
    #[error("{0}: write the requirement and its range, such as 'cmake >= 3.28'")]
    NoRange(String),
}

impl WhatIf {
    /// Reads a text such as `cmake >= 3.28`.
    ///
    /// # Errors
    /// When it names nothing, or has no range.
    pub fn parse(text: &str) -> Result<Self, WhatIfError> {
        let text = text.trim();
        let end = text.find(|c: char| c.is_whitespace() || "<>=^~".contains(c)).ok_or(WhatIfError::Nothing)?;
        let (of, range) = text.split_at_checked(end).filter(|(of, _)| !of.is_empty()).ok_or(WhatIfError::Nothing)?;
        let range = Range::parse(range.trim()).map_err(|error| WhatIfError::NoRange(error.to_string()))?;
        Ok(Self { of: of.to_owned(), range })
    }

    /// The requirement of a guide that it is about: by its id, or by the tool's name.
    pub fn find(&self, guide: &Guide) -> Option<usize> {
        let named = |requirement: &crate::guide::Requirement| matches!(&requirement.subject, Subject::Tool(tool) if tool.names.contains(&self.of));
        guide.find(&self.of).or_else(|| guide.requirements.iter().position(named))
    }

    /// The ids of all requirements of a guide that could have another range.
    pub fn candidates(guide: &Guide) -> Vec<&str> {
        let has = |one: &&crate::guide::Requirement| matches!(one.subject, Subject::Tool(_) | Subject::Library(_));
        guide.requirements.iter().filter(has).map(|one| one.id.as_str()).collect()
    }

    /// The guide with that range in it, and the index of the requirement; `None` where it has no such tool.
    pub fn changed(&self, guide: &Guide) -> Option<(Guide, usize)> {
        let index = self.find(guide)?;
        let mut changed = guide.clone();
        let subject = &mut changed.requirements.get_mut(index)?.subject;
        if let Subject::Tool(tool) = subject {
            tool.version = Some(self.range.clone());
            tool.version_from = None;
        } else if let Subject::Library(library) = subject {
            library.version = Some(self.range.clone());
        } else {
            return None;
        }
        Some((changed, index))
    }

    /// What would come of a row, by the version that was found; `None` where it is not about that, or was left out.
    pub fn judge(&self, id: &str, row: &Row<'_>) -> Option<Changed> {
        if row.id != id || row.verdict == Verdict::Skipped {
            return None;
        }
        let version = row.version().and_then(|version| Version::parse(version).ok());
        let fit = version.map(|version| self.range.fit(&version));
        Some(match (row.verdict, fit) {
            (Verdict::Met, Some(Fit::Inside)) => Changed::Stays,
            (Verdict::Met, Some(Fit::Incomparable) | None) => Changed::Unknown,
            (Verdict::Met, Some(_)) => Changed::Lost,
            _ => Changed::Already,
        })
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
    /// It is not met as it is.
    Already,
}
