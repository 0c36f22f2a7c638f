//! Which of several alternatives is the cheapest to settle here, and why.

use crate::finding::{AnyOfReason, Conclusion, Finding, Reason};
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{AnyOf, Guide, Requirement};
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;
use crate::text::join_words;

/// The best fix of each alternative, in their order, the first with the reason why it is the one to take.
///
/// # Errors
/// When one of them is still to be settled.
pub(crate) fn fixes(inquiry: &mut Inquiry<'_>, open: &[usize]) -> Result<Vec<Fix>, Stop> {
    let ordered = with_best_fix(inquiry, open)?;
    let choice = choice(inquiry.context.guide, &ordered);
    let mut fixes: Vec<Fix> = ordered.into_iter().filter_map(|(_, fix)| fix.cloned()).collect();
    if let Some(first) = fixes.first_mut() {
        first.choice = choice;
    }
    Ok(fixes)
}

/// Puts the alternatives of a finding in order, the cheapest first: without admin rights, without a restart, with little to download, soon
/// done.
///
/// # Errors
/// When one of them is still to be settled.
pub(crate) fn cheapest_first(inquiry: &mut Inquiry<'_>, finding: &mut Finding) -> Result<(), Stop> {
    let Conclusion::Open(Reason::AnyOf(AnyOfReason::NoneMet { open })) = &mut finding.conclusion else { return Ok(()) };
    let mut ordered = with_best_fix(inquiry, open)?;
    // What only words describe costs nobody knows what.
    let cost = |fix: &Fix| (!fix.acts(), fix.admin, fix.then, fix.download_bytes.unwrap_or(0), fix.takes_ms.unwrap_or(0));
    ordered.sort_by_key(|(_, fix)| (fix.is_none(), fix.map(cost)));
    *open = ordered.into_iter().map(|(index, _)| index).collect();
    Ok(())
}

fn with_best_fix<'a>(inquiry: &mut Inquiry<'a>, open: &[usize]) -> Result<Vec<(usize, Option<&'a Fix>)>, Stop> {
    open.iter().map(|index| Ok((*index, inquiry.settled(*index)?.fixes.first()))).collect()
}

/// Whether both are known, and the first is less.
fn is_less(first: Option<u64>, second: Option<u64>) -> bool {
    first.zip(second).is_some_and(|(first, second)| first < second)
}

/// Why the first of several that would do is the one to take: what it is ahead of the second by.
fn choice(guide: &Guide, ordered: &[(usize, Option<&Fix>)]) -> Option<String> {
    let titles: Vec<String> =
        ordered.iter().filter_map(|(index, _)| guide.requirements.get(*index)).map(Requirement::title).collect();
    let ((_, Some(first)), second) = (ordered.first()?, ordered.get(1)?.1) else { return None };
    let reason = match second {
        None => "is the one that this software knows how to get here",
        Some(second) if first.acts() != second.acts() => "is the one that a command brings",
        Some(second) if first.admin != second.admin => "needs no admin rights",
        Some(second) if first.then != second.then && first.then.is_none() => "works at once",
        Some(second) if first.then != second.then => "interrupts you less",
        Some(second) if is_less(first.download_bytes, second.download_bytes) => "is the smaller download",
        Some(second) if (first.download_bytes, first.takes_ms) == (second.download_bytes, second.takes_ms) => {
            "comes first in the guide"
        }
        Some(second) if is_less(first.takes_ms, second.takes_ms) => "is done sooner",
        Some(_) => "costs less, as far as that is known",
    };
    Some(format!("{} will do; {} {reason}.", join_words(&titles, "or"), titles.first()?))
}

impl ReasonFixes for AnyOfReason {
    fn fixes(&self, _: &Case<'_>) -> Vec<Fix> {
        // What settles an alternative settles it.
        Vec::new()
    }
}

impl SubjectFixes for AnyOf {}
