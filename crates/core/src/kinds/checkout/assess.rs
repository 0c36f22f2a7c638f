//! How it is looked at.

use crate::assess::kind::Assess;
use crate::finding::{CheckoutReason, Conclusion, Met};
use crate::guide::Checkout;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::CheckoutState;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Checkout) -> Result<Conclusion, Stop> {
    let state = inquiry.checkout(wanted)?;
    let reason = if !state.present {
        CheckoutReason::NoWorkingCopy
    } else if let Some((folder, owner)) = &state.foreign {
        CheckoutReason::Foreign { folder: folder.clone(), owner: owner.clone() }
    } else if let Some(what) =
        state.unfinished.as_ref().filter(|_| wanted.clean || (wanted.branch.is_some() && state.branch != wanted.branch))
    {
        // Neither a switch of the branch nor a clean state can be had before.
        CheckoutReason::Unfinished { what: what.clone() }
    } else if wanted.branch.is_some() && state.branch != wanted.branch {
        CheckoutReason::Branch { branch: state.branch.clone() }
    } else if wanted.submodules && !state.submodules.is_empty() {
        CheckoutReason::Submodules { missing: state.submodules.clone() }
    } else if wanted.submodules && !state.moved.is_empty() {
        CheckoutReason::SubmodulesMoved { moved: state.moved.clone() }
    } else if wanted.submodules && !state.emptied.is_empty() {
        CheckoutReason::SubmodulesEmptied { emptied: state.emptied.clone() }
    } else if wanted.large_files && !state.large_files.is_empty() {
        CheckoutReason::LargeFiles { missing: state.large_files.clone() }
    } else if wanted.history && state.shallow {
        CheckoutReason::Shallow
    } else if wanted.tags && state.no_tags {
        CheckoutReason::NoTags
    } else if let Some(reason) = line_ends(wanted, state) {
        reason
    } else {
        match state.changed.filter(|_| wanted.clean) {
            None if wanted.clean => CheckoutReason::ChangesUnknown,
            None | Some(0) => return Ok(Met::Checkout { branch: state.branch.clone() }.into()),
            Some(changed) => CheckoutReason::Dirty { changed, untracked: state.untracked.min(changed) },
        }
    };
    Ok(reason.into())
}

impl Assess for Checkout {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}

/// Texts that end their lines as on Windows, where they must not.
fn line_ends(wanted: &Checkout, state: &CheckoutState) -> Option<CheckoutReason> {
    match state.windows_ends {
        _ if !wanted.line_ends => None,
        Some(0) => None,
        Some(texts) => Some(CheckoutReason::WindowsEnds { texts }),
        None => Some(CheckoutReason::EndsUnknown),
    }
}
