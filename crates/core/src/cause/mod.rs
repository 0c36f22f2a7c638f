//! The closed list of why a requirement is not met, with a page for each.
//!
//! One registry drives all: findings, guide validation, `explain`, `docs/reference/causes.md` and the tests.

mod has_cause;
mod registry;

pub(crate) use has_cause::HasCause;
pub use registry::Cause;

use crate::verdict::Verdict;

/// What a cause is about; the groups of the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
#[non_exhaustive]
pub enum About {
    /// Programs.
    Tool,
    /// Ports.
    Port,
    /// Disk space.
    Disk,
    /// Memory and cores.
    Memory,
    /// Hardware virtualization.
    Virtualization,
    /// The operating system.
    System,
    /// Files and folders.
    Path,
    /// Environment variables.
    Variable,
    /// Group membership.
    Group,
    /// Local sockets and devices.
    Socket,
    /// Running services.
    Service,
    /// Addresses outside.
    Reach,
    /// Host names and networks.
    Name,
    /// Limits, libraries and locales.
    Limit,
    /// Version-control settings and the working copy.
    Checkout,
    /// Commands of the guide.
    Command,
    /// Alternatives.
    Alternatives,
    /// Every kind.
    Any,
}

impl About {
    /// A heading for the group.
    pub fn title(self) -> &'static str {
        match self {
            Self::Tool => "Tools",
            Self::Port => "Ports",
            Self::Disk => "Disk space",
            Self::Memory => "Memory and cores",
            Self::Virtualization => "Virtualization",
            Self::System => "The operating system",
            Self::Path => "Files and folders",
            Self::Variable => "Variables",
            Self::Group => "Groups",
            Self::Socket => "Sockets and devices",
            Self::Service => "Services",
            Self::Reach => "Reaching addresses",
            Self::Name => "Host names and networks",
            Self::Limit => "Limits, libraries and locales",
            Self::Checkout => "Settings and the working copy",
            Self::Command => "Commands",
            Self::Alternatives => "Alternatives",
            Self::Any => "Any kind",
        }
    }
}

/// A cause's page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct Page {
    /// What it means, in a sentence that a beginner understands.
    pub meaning: &'static str,
    /// How it is recognised.
    pub recognised: &'static str,
    /// What usually fixes it.
    pub cure: &'static str,
}

impl Cause {
    /// Whether a tool with this cause cannot be started at all from where the person works.
    pub fn keeps_from_starting(self) -> bool {
        matches!(
            self,
            Self::ToolMissing
                | Self::ToolOffPath
                | Self::ToolNotExecutable
                | Self::ToolWrongArch
                | Self::ToolBroken
                | Self::ToolPlaceholder
                | Self::ToolQuarantined
                | Self::ToolUnselected
                | Self::ToolStuck
                | Self::ToolFailed
                | Self::WaitsFor
        )
    }

    /// Whether what has this cause is not met, waits, or could not be found out.
    pub fn verdict(self) -> Verdict {
        let unknown = [
            Self::ToolStuck,
            Self::ToolSilent,
            Self::CommandNoConsent,
            Self::CouldNotLook,
            Self::NotSupportedHere,
            Self::ConditionUnknown,
        ];
        if unknown.contains(&self) {
            Verdict::Unknown
        } else if self == Self::WaitsFor {
            Verdict::Blocked
        } else {
            Verdict::Unmet
        }
    }

    /// The cause with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|cause| cause.word() == word)
    }
}

impl serde::Serialize for Cause {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.word())
    }
}

#[cfg(test)]
mod tests {
    use super::Cause;
    use crate::prelude::*;

    #[test]
    fn every_cause_has_a_word_of_its_own_and_a_whole_page() {
        let mut words: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).collect();
        words.sort_unstable();
        words.dedup();
        assert_eq!(words.len(), Cause::ALL.len());
        for cause in Cause::ALL {
            assert_eq!(Cause::from_word(cause.word()), Some(*cause));
            let page = cause.page();
            for text in [page.meaning, page.recognised, page.cure] {
                assert!(text.len() > 20 && text.ends_with('.'), "{}: {text}", cause.word());
            }
        }
    }
}
