//! `[proofread]`: what the maintainer has looked at and lets stand.

use crate::document::Fields;
use crate::prelude::*;
use core::ops::Range;

/// A remark of proofreading that the guide lets stand.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Acceptance {
    /// The rule's id.
    pub rule: String,
    /// What it is about, where that is one thing: a requirement, or what the repository speaks of (`tool jq`).
    pub of: Option<String>,
    /// Why.
    pub because: String,
    /// Where it stands in the guide, in bytes.
    pub span: Range<usize>,
}

/// The most that a guide may accept.
const MOST: usize = 1_000;

pub(super) fn read(top: &Fields<'_>) -> Vec<Acceptance> {
    let Some(fields) = top.table("proofread", "proofread") else { return Vec::new() };
    let mut all = Vec::new();
    if fields.has("accept") {
        for one in fields.tables("accept", "proofread.accept", MOST) {
            let (rule, because) = (one.required("rule"), one.required("because"));
            let of = one.owned("of");
            if let (Some(rule), Some(because)) = (rule, because) {
                all.push(Acceptance { rule: rule.value.to_owned(), of, because: because.value.to_owned(), span: rule.span });
            }
            one.finish(|_| None);
        }
    }
    fields.finish(|_| None);
    all
}
