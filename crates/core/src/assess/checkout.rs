//! `checkout`: the working copy is in the state that is stated. `setting`: a version-control setting is there and of that shape.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::{Checkout, Setting};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{CheckoutState, Value};
use crate::prelude::*;
use crate::text::join_words;

/// More names than these are only counted.
const MOST_NAMED: usize = 4;

pub(super) fn checkout(inquiry: &mut Inquiry<'_>, wanted: &Checkout) -> Result<Finding, Stop> {
    let state = inquiry.checkout(wanted)?;
    Ok(judge(wanted, state).with(Particulars { path: Some(wanted.path.clone()), ..Particulars::default() }))
}

fn judge(wanted: &Checkout, state: &CheckoutState) -> Finding {
    if !state.present {
        let message = format!("{} is not a working copy of a repository.", place(&wanted.path));
        return Finding::unmet(Cause::CheckoutNone, message).found("no working copy");
    }
    if let Some(branch) = wanted.branch.as_ref().filter(|branch| state.branch.as_ref() != Some(branch)) {
        let found = state.branch.as_ref().map_or_else(|| "no branch".to_owned(), |branch| format!("the branch {branch}"));
        let message = format!("The working copy is on {found}, and it should be on {branch}.");
        return Finding::unmet(Cause::CheckoutBranch, message).found(found).wanted(branch.clone());
    }
    if wanted.submodules && !state.submodules.is_empty() {
        let message = format!("Parts of the project from other repositories were not fetched: {}.", named(&state.submodules));
        return Finding::unmet(Cause::CheckoutSubmodules, message).found(format!("{} not fetched", state.submodules.len()));
    }
    if wanted.large_files && !state.large_files.is_empty() {
        let message = format!("Of some large files only the pointers are here: {}.", named(&state.large_files));
        return Finding::unmet(Cause::CheckoutLargeFiles, message).found(format!("{} not fetched", state.large_files.len()));
    }
    match state.changed.filter(|_| wanted.clean) {
        Some(0) => {}
        Some(count) => {
            let message = format!("The working copy has changes that are not committed ({count}).");
            return Finding::unmet(Cause::CheckoutDirty, message).found(format!("{count} changed"));
        }
        None if wanted.clean => {
            return Finding::unknown(Cause::CouldNotLook, "Whether anything is uncommitted could not be found out.");
        }
        None => {}
    }
    Finding::met(state.branch.clone().unwrap_or_else(|| "as needed".to_owned()), "The working copy is as it should be.")
}

/// What is asked of a working copy, in a few words.
pub(super) fn wanted(wanted: &Checkout) -> String {
    let words = [
        wanted.branch.as_ref().map(|branch| format!("on branch {branch}")),
        wanted.submodules.then(|| "with its submodules".to_owned()),
        wanted.large_files.then(|| "with its large files".to_owned()),
        wanted.clean.then(|| "with nothing uncommitted".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "a working copy".to_owned() } else { join_words(&words, "and") }
}

fn place(path: &str) -> &str {
    if path == "." { "This folder" } else { path }
}

fn named(names: &[String]) -> String {
    let mut shown: Vec<String> = names.iter().take(MOST_NAMED).cloned().collect();
    if names.len() > MOST_NAMED {
        shown.push(format!("{} more", names.len() - MOST_NAMED));
    }
    join_words(&shown, "and")
}

pub(super) fn setting(inquiry: &mut Inquiry<'_>, wanted: &Setting) -> Result<Finding, Stop> {
    let (of, key) = (&wanted.of, &wanted.key);
    Ok(match inquiry.setting(of, key, wanted.matches.as_ref())? {
        Value::Set(true) => Finding::met("set", format!("The {of} setting {key} is there.")),
        Value::Set(false) => {
            let shape = wanted.matches.as_ref().map(|pattern| format!(": {}", pattern.source())).unwrap_or_default();
            let message = format!("The {of} setting {key} does not have the form that is needed{shape}");
            Finding::unmet(Cause::SettingShape, message).found("another form")
        }
        Value::Unset | Value::Empty => {
            Finding::unmet(Cause::SettingUnset, format!("The {of} setting {key} is not set.")).found("not set")
        }
    })
}
