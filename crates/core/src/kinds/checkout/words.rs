//! What people are told.

use crate::finding::{CheckoutReason, Met};
use crate::guide::{Checkout, Guide, Requirement, Subject};
use crate::observation::Unfinished;
use crate::prelude::*;
use crate::text::join_words;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

/// More names than these are only counted.
const MOST_NAMED: usize = 4;

fn some(names: &[String]) -> String {
    let mut shown: Vec<String> = names.iter().take(MOST_NAMED).cloned().collect();
    if names.len() > MOST_NAMED {
        shown.push(format!("{} more", names.len() - MOST_NAMED));
    }
    join_words(&shown, "and")
}

pub(crate) fn message(words: &Words<'_>, reason: &CheckoutReason) -> String {
    let Subject::Checkout(wanted) = &words.requirement.subject else { return words.title() };
    match reason {
        CheckoutReason::NoWorkingCopy => {
            let place = if wanted.path == "." { "This folder" } else { &wanted.path };
            format!("{place} is not a working copy of a repository.")
        }
        CheckoutReason::Branch { branch } => {
            let found = branch.as_ref().map_or_else(|| "no branch".to_owned(), |branch| format!("the branch {branch}"));
            let wanted = wanted.branch.as_deref().unwrap_or_default();
            format!("The working copy is on {found}, and it should be on {wanted}.")
        }
        CheckoutReason::Submodules { missing } => {
            format!("Parts of the project from other repositories were not fetched: {}.", some(missing))
        }
        CheckoutReason::Unfinished { what: Unfinished::Locked(lock) } => {
            format!("A git is running in this working copy, or one that crashed has left its lock behind: {lock}.")
        }
        CheckoutReason::Unfinished { what } => {
            format!("A {} was begun in this working copy and is not finished: git wants that done first.", what.verb())
        }
        CheckoutReason::Foreign { folder, owner } => {
            let owner = owner.as_deref().unwrap_or("another user");
            format!("{folder} belongs to {owner}, and git refuses to work in a working copy of another user's.")
        }
        CheckoutReason::SubmodulesMoved { moved } => format!(
            "Parts of the project from other repositories stand at another commit than the project records: {}.",
            some(moved)
        ),
        CheckoutReason::SubmodulesEmptied { emptied } => {
            format!("Parts of the project from other repositories were fetched, but their files are gone: {}.", some(emptied))
        }
        CheckoutReason::LargeFiles { missing } => format!("Of some large files only the pointers are here: {}.", some(missing)),
        CheckoutReason::Dirty { changed, .. } => format!("The working copy has changes that are not committed ({changed})."),
        CheckoutReason::Shallow => "Only the last part of the project's history is here.".to_owned(),
        CheckoutReason::NoTags => "The project's tags are not here.".to_owned(),
        CheckoutReason::WindowsEnds { texts } => {
            format!(
                "Texts of the working copy end their lines as on Windows ({texts}): scripts and tests may not work with that."
            )
        }
        CheckoutReason::EndsUnknown => {
            "How the texts of the working copy end their lines could not be found out: git did not say.".to_owned()
        }
        CheckoutReason::ChangesUnknown => {
            "Whether anything is uncommitted could not be found out: git did not say, or it would have started \
                                           what this working copy's own settings name."
                .to_owned()
        }
    }
}

pub(crate) fn found(reason: &CheckoutReason) -> Option<String> {
    Some(match reason {
        CheckoutReason::NoWorkingCopy => "no working copy".to_owned(),
        CheckoutReason::Branch { branch } => {
            branch.as_ref().map_or_else(|| "no branch".to_owned(), |branch| format!("the branch {branch}"))
        }
        CheckoutReason::Submodules { missing } | CheckoutReason::LargeFiles { missing } => {
            format!("{} not fetched", missing.len())
        }
        CheckoutReason::Unfinished { what: Unfinished::Locked(_) } => "a lock of git's".to_owned(),
        CheckoutReason::Unfinished { what } => format!("a {} that is not finished", what.verb()),
        CheckoutReason::Foreign { owner, .. } => format!("of {}", owner.as_deref().unwrap_or("another user")),
        CheckoutReason::SubmodulesMoved { moved } => format!("{} at another commit", moved.len()),
        CheckoutReason::SubmodulesEmptied { emptied } => format!("{} without files", emptied.len()),
        CheckoutReason::Dirty { changed, .. } => format!("{changed} changed"),
        CheckoutReason::Shallow => "a part of the history".to_owned(),
        CheckoutReason::NoTags => "no tags".to_owned(),
        CheckoutReason::WindowsEnds { texts } => format!("{texts} with line ends of Windows"),
        CheckoutReason::ChangesUnknown | CheckoutReason::EndsUnknown => return None,
    })
}

pub(crate) fn wanted_of(words: &Words<'_>, reason: &CheckoutReason) -> Option<String> {
    let Subject::Checkout(wanted) = &words.requirement.subject else { return None };
    match reason {
        CheckoutReason::NoWorkingCopy => Some("a working copy".to_owned()),
        CheckoutReason::Branch { .. } => wanted.branch.clone(),
        CheckoutReason::Submodules { .. } | CheckoutReason::LargeFiles { .. } => Some("all fetched".to_owned()),
        CheckoutReason::Unfinished { what: Unfinished::Locked(_) } => Some("no git at work".to_owned()),
        CheckoutReason::Unfinished { .. } => Some("nothing half done".to_owned()),
        CheckoutReason::Foreign { .. } => Some("yours".to_owned()),
        CheckoutReason::SubmodulesMoved { .. } | CheckoutReason::SubmodulesEmptied { .. } => {
            Some("as the project records them".to_owned())
        }
        CheckoutReason::Dirty { .. } => Some("nothing uncommitted".to_owned()),
        CheckoutReason::Shallow => Some("all of it".to_owned()),
        CheckoutReason::NoTags => Some("with its tags".to_owned()),
        CheckoutReason::WindowsEnds { .. } => Some("line ends of Unix".to_owned()),
        CheckoutReason::ChangesUnknown | CheckoutReason::EndsUnknown => None,
    }
}

pub(crate) fn wanted(checkout: &Checkout) -> String {
    let words = [
        checkout.branch.as_ref().map(|branch| format!("on branch {branch}")),
        checkout.submodules.then(|| "with its submodules".to_owned()),
        checkout.large_files.then(|| "with its large files".to_owned()),
        checkout.clean.then(|| "with nothing uncommitted".to_owned()),
        checkout.history.then(|| "with all of its history".to_owned()),
        checkout.tags.then(|| "with its tags".to_owned()),
        checkout.line_ends.then(|| "with line ends of Unix".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "a working copy".to_owned() } else { join_words(&words, "and") }
}

impl ReasonWords for CheckoutReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        found(self)
    }

    fn wanted(&self, words: &Words<'_>) -> Option<String> {
        wanted_of(words, self)
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Checkout {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        "The working copy is as it should be.".to_owned()
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::Checkout { branch: Some(branch) } => branch.clone(),
            _ => "as it should be".to_owned(),
        }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        let mut parts = vec!["a clone of the repository".to_owned()];
        if let Some(branch) = &self.branch {
            parts.push(format!("on the branch {branch}"));
        }
        let wanted = [
            (self.submodules, "with its submodules"),
            (self.large_files, "with its large files"),
            (self.history, "with all of its history"),
            (self.tags, "with its tags"),
            (self.line_ends, "with the line ends of Unix"),
            (self.clean, "with nothing uncommitted"),
        ];
        parts.extend(wanted.into_iter().filter(|(is, _)| *is).map(|(_, text)| text.to_owned()));
        parts.join(", ")
    }
}
