//! What is said of files and folders.

use super::Words;
use crate::finding::{PathReason, PathTrouble};
use crate::guide::{Existence, Path, PathKind, Subject};
use crate::observation::Nature;
use crate::prelude::*;
use crate::text::join_words;

fn word(kind: PathKind) -> &'static str {
    match kind {
        PathKind::File => "file",
        PathKind::Folder => "folder",
    }
}

fn nature(nature: &Nature) -> &'static str {
    match nature {
        Nature::File => "a file",
        Nature::Folder => "a folder",
        Nature::Missing | Nature::Other | Nature::Dangling(_) => "something else",
    }
}

pub(super) fn message(words: &Words<'_>, reason: &PathReason) -> String {
    let Subject::Path(wanted) = &words.requirement.subject else { return words.title() };
    let (path, kind) = (&reason.path, word(wanted.kind));
    let pattern = wanted.contains.as_ref().map(|pattern| pattern.source().to_owned()).unwrap_or_default();
    match &reason.trouble {
        PathTrouble::Missing { alike: Some(name) } => format!(
            "The {kind} {path} is not there. There is {name}, which differs only in upper and lower case, and this disk tells them apart."
        ),
        PathTrouble::Missing { alike: None } => format!("The {kind} {path} is not there."),
        PathTrouble::Unwanted => format!("{path} is there, and this project does not work while it is."),
        PathTrouble::Dangling { target } => format!("{path} is a link to {target}, and nothing is there."),
        PathTrouble::OtherKind { nature: found } => format!("{path} is {}, and a {kind} is needed there.", nature(found)),
        PathTrouble::NotMine { owner } => {
            let owner = owner.as_deref().unwrap_or("another user");
            format!("{path} belongs to {owner}, and it must belong to you.")
        }
        PathTrouble::OwnerUnknown => format!("Whose {path} is could not be found out."),
        PathTrouble::Mode { mode, needed } => {
            format!("{path} has the permissions {mode:o}, and they must be {needed:o}{}.", meaning(*needed))
        }
        PathTrouble::OpenToOthers { others, needed } => {
            let what = if needed & 0o200 == 0 { "read it" } else { "use it" };
            format!("{path} can be read or changed by {}, but only you should be able to {what}.", join_words(others, "and"))
        }
        PathTrouble::NoPermissionBits => format!("This system has no such permissions for {path}."),
        PathTrouble::NotWritable => format!("You may not write to {path}."),
        PathTrouble::NotExecutable => format!("You may not execute {path}."),
        PathTrouble::Content => match wanted.kind {
            PathKind::File => format!("{path} is there, but its text does not hold what this project needs: {pattern}"),
            PathKind::Folder => format!("{path} is there, but no name in it fits what this project needs: {pattern}"),
        },
        PathTrouble::ContentUnread => {
            format!("What is in {path} could not be read, or searching it for the pattern would take too long.")
        }
    }
}

/// Modes that beginners meet, in words.
fn meaning(mode: u32) -> &'static str {
    match mode {
        0o600 | 0o400 | 0o700 => " (only you may use it)",
        0o644 => " (everyone may read it, only you may change it)",
        0o755 => " (everyone may use it, only you may change it)",
        _ => "",
    }
}

pub(super) fn found(reason: &PathReason) -> Option<String> {
    let text = match &reason.trouble {
        PathTrouble::Missing { alike: Some(_) } => "under another name",
        PathTrouble::Missing { alike: None } => "not there",
        PathTrouble::Unwanted => "there",
        PathTrouble::Dangling { .. } => "a link to nothing",
        PathTrouble::OtherKind { nature: found } => nature(found),
        PathTrouble::NotMine { owner } => {
            return Some(format!("of {}", owner.as_deref().unwrap_or("another user")));
        }
        PathTrouble::Mode { mode, .. } => return Some(format!("{mode:o}")),
        PathTrouble::OpenToOthers { .. } => "open to others",
        PathTrouble::NotWritable => "not writable for you",
        PathTrouble::NotExecutable => "not executable",
        PathTrouble::Content => "something else in it",
        PathTrouble::OwnerUnknown | PathTrouble::NoPermissionBits | PathTrouble::ContentUnread => return None,
    };
    Some(text.to_owned())
}

pub(super) fn wanted_of(reason: &PathReason) -> Option<String> {
    match &reason.trouble {
        PathTrouble::Mode { needed, .. } => Some(format!("{needed:o}")),
        PathTrouble::OpenToOthers { .. } => Some("only for you".to_owned()),
        PathTrouble::NotMine { .. } => Some("yours".to_owned()),
        PathTrouble::NotWritable => Some("writable".to_owned()),
        PathTrouble::NotExecutable => Some("executable".to_owned()),
        PathTrouble::Missing { .. }
        | PathTrouble::Unwanted
        | PathTrouble::Dangling { .. }
        | PathTrouble::OtherKind { .. }
        | PathTrouble::OwnerUnknown
        | PathTrouble::NoPermissionBits
        | PathTrouble::Content
        | PathTrouble::ContentUnread => None,
    }
}

pub(super) fn wanted(path: &Path) -> String {
    if path.expect == Existence::Absent {
        return "not there".to_owned();
    }
    let mode = path.mode.map(|mode| format!("mode {mode:o}"));
    let words = [
        path.mine.then(|| "yours".to_owned()),
        mode,
        path.writable.then(|| "writable".to_owned()),
        path.executable.then(|| "executable".to_owned()),
        path.contains.is_some().then(|| "with the right text".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "there".to_owned() } else { join_words(&words, "and") }
}
