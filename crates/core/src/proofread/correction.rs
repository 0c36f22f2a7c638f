//! What to write instead. A correction changes only the bytes that it names, so comments and layout stay.

use super::Remark;
use crate::prelude::*;
use core::ops::Range;

/// Changes that belong together.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Correction {
    /// What it does, as words.
    pub says: String,
    /// The changes, in the order of the text.
    pub replacements: Vec<Replacement>,
}

/// One change.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Replacement {
    /// What goes, in bytes; empty where something is only put in.
    pub span: Range<usize>,
    /// What stands there then.
    pub text: String,
}

impl Correction {
    pub(super) fn new(says: impl Into<String>, replacements: Vec<Replacement>) -> Self {
        Self { says: says.into(), replacements }
    }
}

/// The place behind the line of a key, where a further key may stand on a line of its own; none where other things follow on that line.
pub(super) fn line_after(text: &str, value: &Range<usize>) -> Option<(usize, String)> {
    let start = text.get(..value.start)?.rfind('\n').map_or(0, |at| at + 1);
    let before = text.get(start..value.start)?;
    let indent: String = before.chars().take_while(|c| c.is_whitespace()).collect();
    // The key itself begins the line, and only a comment follows the value.
    let key = before.trim();
    let plain = key.strip_suffix('=')?.trim().chars().all(|c| c.is_ascii_alphanumeric() || c == '_' || c == '-');
    let rest = text.get(value.end..)?;
    let end = rest.find('\n').unwrap_or(rest.len());
    let after = rest.get(..end)?.trim();
    (plain && (after.is_empty() || after.starts_with('#'))).then(|| (value.end + end, indent))
}

/// The text with every correction carried out; those that would change the same bytes wait for the next time.
pub fn corrected(text: &str, remarks: &[Remark]) -> (String, usize) {
    let mut done = 0;
    let mut all: Vec<&Replacement> = Vec::new();
    for correction in remarks.iter().filter_map(|remark| remark.correction.as_ref()) {
        let apart = |one: &Replacement| {
            all.iter().all(|other| {
                one.span.end <= other.span.start && (one.span != other.span || one.span.is_empty())
                    || other.span.end <= one.span.start && one.span != other.span
            })
        };
        let fits = correction
            .replacements
            .iter()
            .all(|one| apart(one) && text.is_char_boundary(one.span.start) && text.is_char_boundary(one.span.end));
        if fits && !correction.replacements.is_empty() {
            all.extend(&correction.replacements);
            done += 1;
        }
    }
    all.sort_by_key(|one| (one.span.start, one.span.end));
    let mut out = String::with_capacity(text.len());
    let mut at = 0;
    for one in all {
        out.push_str(text.get(at..one.span.start).unwrap_or_default());
        out.push_str(&one.text);
        at = one.span.end.max(at);
    }
    out.push_str(text.get(at..).unwrap_or_default());
    (out, done)
}
