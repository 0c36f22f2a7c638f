//! A requirement's verdict on one machine, with its cause and evidence.

use crate::cause::Cause;
use crate::known::Answer;
use crate::observation::SystemService;
use crate::prelude::*;
use crate::text::Size;
use serde::Serialize;

/// The verdict about a requirement.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
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

    /// Nothing has to be done about it.
    pub fn is_fine(self) -> bool {
        matches!(self, Self::Met | Self::Skipped)
    }
}

/// What is found about one requirement.
#[derive(Debug, Clone)]
pub struct Finding {
    /// The verdict.
    pub verdict: Verdict,
    /// Why; none where it is met or skipped.
    pub cause: Option<Cause>,
    /// What was found, in a few words.
    pub found: Option<String>,
    /// What was wanted, in a few words.
    pub wanted: Option<String>,
    /// One sentence or two that a beginner understands.
    pub message: String,
    /// What fixes may refer to.
    pub particulars: Particulars,
    /// What it waits for, where it is blocked.
    pub blocked_by: Vec<usize>,
    /// The requirements of which one would do, where none does.
    pub alternatives: Vec<usize>,
    /// The answers that it rests on, in the order in which they were used.
    pub evidence: Vec<Answer>,
}

/// The particulars of a finding: what fills the placeholders of fixes.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Particulars {
    /// The path it is about.
    pub path: Option<String>,
    /// The port it is about.
    pub port: Option<u16>,
    /// A port that is free.
    pub free_port: Option<u16>,
    /// Who holds it.
    pub holder: Option<String>,
    /// The holder's process id.
    pub pid: Option<u32>,
    /// The group it is about.
    pub group: Option<String>,
    /// It ends by itself: waiting may be enough.
    pub passing: bool,
    /// Whose it is.
    pub whose: Whose,
    /// It is switched on and was not started.
    pub not_started: bool,
    /// How much is missing.
    pub short_by: Option<Size>,
    /// The name of something in the place where it should be, which differs only in upper and lower case.
    pub alike: Option<String>,
    /// The service of the system that is here and does not run.
    pub service: Option<StoppedService>,
}

/// Whose something is: who may change it.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum Whose {
    /// It is not known, or does not matter.
    #[default]
    Unknown,
    /// This person's own, or theirs to change without admin rights.
    Own,
    /// Somebody else's, so that changing it takes admin rights, or is done outside.
    Foreign,
}

/// A service of the system that is here and does not run.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct StoppedService {
    /// Its name.
    pub name: String,
    /// How it stands.
    pub state: SystemService,
}

impl Finding {
    /// It is met.
    pub fn met(found: impl Into<String>, message: impl Into<String>) -> Self {
        Self::new(Verdict::Met, None, message.into()).found(found)
    }

    /// It is not met, for this cause.
    pub fn unmet(cause: Cause, message: impl Into<String>) -> Self {
        Self::new(Verdict::Unmet, Some(cause), message.into())
    }

    /// It could not be found out, for this cause.
    pub fn unknown(cause: Cause, message: impl Into<String>) -> Self {
        Self::new(Verdict::Unknown, Some(cause), message.into())
    }

    /// It does not apply.
    pub fn skipped(message: impl Into<String>) -> Self {
        Self::new(Verdict::Skipped, None, message.into())
    }

    /// It waits for others.
    pub fn blocked(by: Vec<usize>, message: impl Into<String>) -> Self {
        Self { blocked_by: by, ..Self::new(Verdict::Blocked, Some(Cause::WaitsFor), message.into()) }
    }

    fn new(verdict: Verdict, cause: Option<Cause>, message: String) -> Self {
        let particulars = Particulars::default();
        Self {
            verdict,
            cause,
            found: None,
            wanted: None,
            message,
            particulars,
            blocked_by: Vec::new(),
            alternatives: Vec::new(),
            evidence: Vec::new(),
        }
    }

    /// With what was found.
    #[must_use]
    pub fn found(mut self, found: impl Into<String>) -> Self {
        self.found = Some(found.into());
        self
    }

    /// With what was wanted.
    #[must_use]
    pub fn wanted(mut self, wanted: impl Into<String>) -> Self {
        self.wanted = Some(wanted.into());
        self
    }

    /// With particulars for fixes.
    #[must_use]
    pub fn with(mut self, particulars: Particulars) -> Self {
        self.particulars = particulars;
        self
    }
}
