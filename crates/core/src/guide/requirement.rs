use super::{GuideFix, Subject};
use crate::condition::Condition;
use crate::prelude::*;
use core::ops::Range;

/// One thing that a machine must, should or may have.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Requirement {
    /// Its id, unique in the guide.
    pub id: String,
    /// What is checked.
    pub subject: Subject,
    /// The index of its stage.
    pub stage: usize,
    /// The index of the place where it must be met; wherever one is for none.
    pub place: Option<usize>,
    /// What to call it, where the guide says so.
    pub title: Option<String>,
    /// Why the project needs it.
    pub why: Option<String>,
    /// How much it matters.
    pub level: Level,
    /// The indexes of the roles that need it; empty for everyone.
    pub roles: Vec<usize>,
    /// Where it applies; everywhere for none.
    pub when: Option<Condition>,
    /// The indexes of the requirements that must be met first.
    pub after: Vec<usize>,
    /// The indexes of requirements without whose program this one cannot be looked at, which the guide need not say.
    pub needs: Vec<usize>,
    /// It is one of the alternatives of an `any_of`, which speaks for it: by itself it makes no machine unready.
    pub alternative: bool,
    /// What the pattern of its subject means, in words.
    pub means: Option<String>,
    /// Something that fits that pattern.
    pub example: Option<String>,
    /// The indexes of the values that it speaks of.
    pub values: Vec<usize>,
    /// A link to read more.
    pub docs: Option<String>,
    /// The guide's own fixes, in order.
    pub fixes: Vec<GuideFix>,
    /// Where its name stands in the guide, in bytes.
    pub span: Range<usize>,
}

/// How much a requirement matters; the meanings of RFC 2119.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Level {
    /// Needed.
    Must,
    /// Recommended: going without has a price.
    Should,
    /// Optional.
    May,
}

impl Level {
    /// Every level, the weightiest first.
    pub const ALL: [Self; 3] = [Self::Must, Self::Should, Self::May];

    /// The level with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|level| level.word() == word)
    }

    /// What is said of it where one can go without; none where it is needed.
    pub fn label(self) -> Option<&'static str> {
        match self {
            Self::Must => None,
            Self::Should => Some("recommended"),
            Self::May => Some("optional"),
        }
    }

    /// The word in the guide.
    pub fn word(self) -> &'static str {
        match self {
            Self::Must => "must",
            Self::Should => "should",
            Self::May => "may",
        }
    }
}

impl Requirement {
    /// What to call it: the guide's title, or one made from the subject.
    pub fn title(&self) -> String {
        self.title.clone().unwrap_or_else(|| self.subject.title())
    }

    /// Whether it is for a contributor of this role (`None` is everyone).
    pub fn concerns(&self, role: Option<usize>) -> bool {
        self.roles.is_empty() || role.is_none_or(|role| self.roles.contains(&role))
    }
}
