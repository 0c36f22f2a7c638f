//! The rules of proofreading, each with its page and two examples that a test reads.

mod examples;
mod registry;

pub use examples::Example;
pub use registry::Rule;

/// What rules are about; the groups of the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
#[non_exhaustive]
pub enum Family {
    /// What the parser refuses.
    GuideError,
    /// What the repository says otherwise.
    Agreement,
    /// What cannot be meant.
    Sense,
    /// What newcomers will miss.
    Gaps,
    /// What holds on one system only.
    Portability,
    /// What may harm.
    Safety,
    /// How it reads.
    Words,
}

impl Family {
    /// A heading for the group.
    pub fn title(self) -> &'static str {
        match self {
            Self::GuideError => "Mistakes: what cannot be read",
            Self::Agreement => "Agreement: what the repository says otherwise",
            Self::Sense => "Sense: what cannot be meant",
            Self::Gaps => "Gaps: what newcomers will miss",
            Self::Portability => "Portability: what holds on one system only",
            Self::Safety => "Safety: what may harm",
            Self::Words => "Words: how it reads",
        }
    }
}

/// How much a remark weighs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Weight {
    /// Somebody gets a wrong answer, or comes to harm.
    Heavy,
    /// Somebody is left alone, or led astray.
    Middling,
    /// It could be better.
    Light,
}

impl Weight {
    /// Its word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Heavy => "wrong",
            Self::Middling => "doubtful",
            Self::Light => "better",
        }
    }
}

/// A rule's page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct Page {
    /// What is wrong with a guide that breaks it.
    pub meaning: &'static str,
    /// What a newcomer suffers from that.
    pub suffers: &'static str,
    /// What to write instead.
    pub right: &'static str,
}
