//! A guide, read as its strictest reader reads it: what is wrong, what a newcomer would suffer, and where it is certain, what to write instead.
//!
//! Pure like everything here: what the repository says, what its pin files say, and what no fix is known for come in as [`Evidence`].

mod agreement;
mod context;
mod correction;
mod gaps;
mod mistakes;
mod portability;
mod rules;
mod safety;
mod sense;
mod words;

pub use correction::{Correction, Replacement, corrected};
pub use rules::{Example, Family, Page, Rule, Weight};

use crate::guide;
use crate::observation::{Os, Pinned};
use crate::prelude::*;
use crate::statement::{Place, Statement};
use context::Context;
use core::ops::Range;

/// What is known beside the guide itself.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Evidence {
    /// What the repository says.
    pub statements: Vec<Statement>,
    /// What each `version_from` came to: the requirement's index, and what its file says.
    pub pins: Vec<(usize, Pinned)>,
    /// What was not met on a bare machine and had no fix: the requirement's index, the system, the cause.
    pub unfixed: Vec<(usize, Os, crate::cause::Cause)>,
}

/// Something that its strictest reader would say of a guide.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Remark {
    /// The rule that it breaks.
    pub rule: Rule,
    /// What it is about: a requirement's id, or what the repository speaks of.
    pub of: Option<String>,
    /// Where it stands in the guide, in bytes.
    pub span: Range<usize>,
    /// What is wrong, in a sentence.
    pub message: String,
    /// What would be right, where more is known than the rule says.
    pub note: Option<String>,
    /// Where else it stands.
    pub elsewhere: Vec<Place>,
    /// What to write instead, where that is certain.
    pub correction: Option<Correction>,
}

impl Remark {
    /// The line and the column (both from 1, columns in characters) where it stands in `text`.
    pub fn position(&self, text: &str) -> (usize, usize) {
        crate::problem::position(text, self.span.start)
    }
}

/// Reads the text of a guide as its strictest reader.
///
/// ```
/// use setup_ready_core::proofread::{Evidence, proofread};
///
/// let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.git]\ntool = \"git\"\n";
/// let [remark] = proofread(guide, &Evidence::default()).try_into().unwrap();
/// assert_eq!((remark.rule.id(), remark.position(guide)), ("why-missing", (5, 10)));
/// ```
pub fn proofread(text: &str, evidence: &Evidence) -> Vec<Remark> {
    let guide = match guide::parse(text) {
        Ok(guide) => guide,
        Err(problems) => return problems.iter().map(mistakes::remark).collect(),
    };
    // What could be read as a guide can be read as TOML.
    let Ok(tree) = crate::document::parse(text) else { return Vec::new() };
    let context = Context::new(&guide, text, tree.get_ref(), evidence);
    let mut remarks = Vec::new();
    let families = [agreement::read, sense::read, gaps::read, portability::read, safety::read, words::read];
    for read in families {
        read(&context, &mut remarks);
    }
    let mut remarks = accepted(&context, remarks);
    remarks.sort_by(|a, b| (a.span.start, a.rule, &a.of).cmp(&(b.span.start, b.rule, &b.of)));
    remarks
}

/// Takes out what the guide lets stand, and remarks on what it lets stand in vain.
fn accepted(context: &Context<'_>, remarks: Vec<Remark>) -> Vec<Remark> {
    let accepts = &context.guide.accepted;
    let fits = |one: &guide::Acceptance, remark: &Remark| {
        one.rule == remark.rule.id() && one.of.as_ref().is_none_or(|of| remark.of.as_ref() == Some(of))
    };
    let mut idle: Vec<bool> = vec![true; accepts.len()];
    let mut kept: Vec<Remark> = Vec::new();
    for remark in remarks {
        let mut stands = false;
        for (one, idle) in accepts.iter().zip(&mut idle) {
            if fits(one, &remark) {
                (stands, *idle) = (true, false);
            }
        }
        if !stands {
            kept.push(remark);
        }
    }
    for (one, _) in accepts.iter().zip(idle).filter(|(_, idle)| *idle) {
        let known = Rule::from_id(&one.rule).is_some();
        let message = if known {
            format!(
                "nothing here breaks `{}`{}, so there is nothing to accept",
                one.rule,
                one.of.as_ref().map(|of| format!(" of `{of}`")).unwrap_or_default()
            )
        } else {
            format!("`{}` is not a rule", crate::document::shortened(&one.rule))
        };
        let note = if known {
            None
        } else {
            crate::text::nearest(&one.rule, Rule::ALL.iter().map(|rule| rule.id())).map(|near| format!("did you mean `{near}`?"))
        };
        kept.push(Remark { note, ..Remark::of(Rule::AcceptanceIdle, one.span.clone(), message) });
    }
    kept
}

impl Remark {
    fn of(rule: Rule, span: Range<usize>, message: impl Into<String>) -> Self {
        Self { rule, of: None, span, message: message.into(), note: None, elsewhere: Vec::new(), correction: None }
    }

    fn about(mut self, of: impl Into<String>) -> Self {
        self.of = Some(of.into());
        self
    }

    fn note(mut self, note: impl Into<String>) -> Self {
        self.note = Some(note.into());
        self
    }
}

#[cfg(test)]
mod tests;
