//! The five verdicts.

use serde::Serialize;

/// The verdict about a requirement.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Verdict {
    /// It is met.
    Met,
    /// It is not met.
    Unmet,
    /// It could not be found out.
    Unknown,
    /// It waits for another requirement that is not met.
    Blocked,
    /// It does not apply here, or was not asked for.
    Skipped,
}

impl Verdict {
    /// The word in reports.
    pub fn word(self) -> &'static str {
        match self {
            Self::Met => "met",
            Self::Unmet => "unmet",
            Self::Unknown => "unknown",
            Self::Blocked => "blocked",
            Self::Skipped => "skipped",
        }
    }

    /// Every verdict, the best first.
    pub const ALL: [Self; 5] = [Self::Met, Self::Unmet, Self::Unknown, Self::Blocked, Self::Skipped];

    /// The verdict with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|verdict| verdict.word() == word)
    }

    /// Nothing has to be done about it.
    pub fn is_fine(self) -> bool {
        matches!(self, Self::Met | Self::Skipped)
    }
}
