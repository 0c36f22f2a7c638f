//! Problems in what a person wrote (a guide, a described machine): all are collected, none stops the reading.

use crate::prelude::*;
use core::cell::{Cell, RefCell};
use core::fmt::{self, Display};
use core::ops::Range;

/// One mistake, with its place and, where there is one, its correction.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Problem {
    /// What sort of mistake it is.
    pub kind: ProblemKind,
    /// Where, in bytes from the start of the text.
    pub span: Range<usize>,
    /// What is wrong, in one sentence.
    pub message: String,
    /// What would be right, or why, where it helps.
    pub note: Option<String>,
    /// What to write at `span` instead, where one word decides.
    pub replacement: Option<String>,
}

/// The sorts of mistakes. Their words are stable.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
#[non_exhaustive]
pub enum ProblemKind {
    /// The text is too large to be read.
    TooLarge,
    /// The text is not TOML.
    Syntax,
    /// The format number is missing or not one that is known.
    Format,
    /// A key that has no meaning there.
    UnknownKey,
    /// A key that is needed.
    MissingKey,
    /// A value of another type.
    WrongType,
    /// A value that cannot be read.
    BadValue,
    /// A word that is not in its list: a stage, a role, a cause, a fact.
    UnknownWord,
    /// Not exactly one subject.
    Subject,
    /// Two things of one name, or a list that names one twice.
    Duplicate,
    /// Requirements that wait for each other.
    Cycle,
    /// The guide is for another release of this software.
    Needs,
}

impl ProblemKind {
    /// The stable word for it.
    pub fn word(self) -> &'static str {
        match self {
            Self::TooLarge => "too-large",
            Self::Syntax => "syntax",
            Self::Format => "format",
            Self::UnknownKey => "unknown-key",
            Self::MissingKey => "missing-key",
            Self::WrongType => "wrong-type",
            Self::BadValue => "bad-value",
            Self::UnknownWord => "unknown-word",
            Self::Subject => "subject",
            Self::Duplicate => "duplicate",
            Self::Cycle => "cycle",
            Self::Needs => "needs",
        }
    }
}

impl Problem {
    /// The line and the column (both from 1, columns in characters) where this problem starts in `text`.
    pub fn position(&self, text: &str) -> (usize, usize) {
        position(text, self.span.start)
    }
}

/// The line and the column (both from 1, columns in characters) of a byte of a text.
pub fn position(text: &str, offset: usize) -> (usize, usize) {
    let before = text.get(..crate::text::floor_char_boundary(text, offset)).unwrap_or(text);
    let line_start = before.rfind('\n').map_or(0, |at| at + 1);
    (before.matches('\n').count() + 1, before.get(line_start..).unwrap_or("").chars().count() + 1)
}

/// All that is wrong with a text, in its order. As an error it prints itself, a line a mistake.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct GuideError {
    /// The mistakes that were kept.
    pub problems: Vec<Problem>,
    /// How many more there are.
    pub more: usize,
    /// Line and column of each, from 1.
    positions: Vec<(usize, usize)>,
}

impl GuideError {
    /// How many there are, kept or not.
    pub fn count(&self) -> usize {
        self.problems.len().saturating_add(self.more)
    }
}

impl core::ops::Deref for GuideError {
    type Target = [Problem];

    fn deref(&self) -> &[Problem] {
        &self.problems
    }
}

impl Display for GuideError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (at, (problem, (line, column))) in self.problems.iter().zip(&self.positions).enumerate() {
            let start = if at == 0 { "" } else { "\n" };
            write!(f, "{start}line {line}, column {column}: {}", crate::text::Sanitised::line(&problem.message))?;
            if let Some(note) = &problem.note {
                write!(f, " ({})", crate::text::Sanitised::line(note))?;
            }
        }
        if self.more > 0 { write!(f, "\nand {} more", self.more) } else { Ok(()) }
    }
}

impl core::error::Error for GuideError {}

/// Where problems are gathered. After [`Problems::MOST`] of them the rest is only counted.
#[derive(Debug, Default)]
pub struct Problems {
    list: RefCell<Vec<Problem>>,
    more: Cell<usize>,
}

impl Problems {
    /// More problems than this are not kept: nobody reads on.
    pub const MOST: usize = 100;

    /// Adds a problem without note or correction.
    pub fn report(&self, kind: ProblemKind, span: Range<usize>, message: impl Into<String>) {
        self.add(Problem { kind, span, message: message.into(), note: None, replacement: None });
    }

    /// Adds a problem about a word that is not in a list, with the nearest right one.
    pub fn unknown_word(&self, kind: ProblemKind, span: Range<usize>, message: String, (word, known): (&str, &[&str])) {
        let near = crate::text::nearest(word, known.iter().copied());
        let mut known = known.to_vec();
        known.sort_unstable();
        known.dedup();
        let note = match near {
            Some(near) => format!("did you mean `{near}`?"),
            None if known.is_empty() => "there is none to choose from".to_owned(),
            None => format!(
                "it may be {}",
                crate::text::join_words(&known.iter().map(|k| format!("`{k}`")).collect::<Vec<_>>(), "or")
            ),
        };
        self.add(Problem { kind, span, message, note: Some(note), replacement: near.map(ToOwned::to_owned) });
    }

    /// Takes back what another problem tells better.
    pub(crate) fn forget(&self, kind: ProblemKind, message: &str) {
        self.list.borrow_mut().retain(|problem| problem.kind != kind || problem.message != message);
    }

    /// Adds a problem.
    pub fn add(&self, problem: Problem) {
        let mut list = self.list.borrow_mut();
        // One word has one message: the first, which is the nearest to what was meant.
        if !problem.span.is_empty() && list.iter().any(|other| other.span == problem.span) {
            return;
        }
        if list.len() < Self::MOST {
            list.push(problem);
        } else {
            self.more.set(self.more.get().saturating_add(1));
        }
    }

    /// Whether there is none so far.
    pub fn is_empty(&self) -> bool {
        self.list.borrow().is_empty()
    }

    /// All of them, in the order of the text that they are about.
    pub fn into_mistakes(self, text: &str) -> GuideError {
        let mut problems = self.list.into_inner();
        problems.sort_by_key(|problem| (problem.span.start, problem.kind));
        GuideError { positions: problems.iter().map(|problem| problem.position(text)).collect(), problems, more: self.more.get() }
    }
}
