//! `file` and `folder`: all that is stated about it holds.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars, Whose};
use crate::guide::{Existence, Path, PathKind};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Nature, PathState};
use crate::prelude::*;
use crate::text::join_words;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Path) -> Result<Finding, Stop> {
    let state = inquiry.path(&wanted.path, wanted.contains.as_ref())?;
    let finding = judge(wanted, state);
    let whose = match (&state.nature, state.mine) {
        (Nature::Missing | Nature::Dangling(_), _) if !state.writable => Whose::Foreign,
        (Nature::Missing | Nature::Dangling(_), _) | (_, None) => Whose::Unknown,
        (_, Some(true)) => Whose::Own,
        (_, Some(false)) => Whose::Foreign,
    };
    let particulars = Particulars { path: Some(state.path.clone()), whose, alike: state.alike.clone(), ..Particulars::default() };
    Ok(finding.with(particulars))
}

fn word(kind: PathKind) -> &'static str {
    match kind {
        PathKind::File => "file",
        PathKind::Folder => "folder",
    }
}

fn judge(wanted: &Path, state: &PathState) -> Finding {
    let (path, kind) = (&state.path, word(wanted.kind));
    if wanted.expect == Existence::Absent {
        return match &state.nature {
            Nature::Missing => Finding::met("absent", format!("{path} is not there, as wanted.")),
            Nature::File | Nature::Folder | Nature::Other | Nature::Dangling(_) => {
                let message = format!("{path} is there, and this project does not work while it is.");
                Finding::unmet(Cause::PathUnwanted, message).found("present")
            }
        };
    }
    let found = match (&state.nature, wanted.kind) {
        (Nature::File, PathKind::File) | (Nature::Folder, PathKind::Folder) => None,
        (Nature::Missing, _) if state.alike.is_some() => {
            let name = state.alike.as_deref().unwrap_or_default();
            let message = format!(
                "The {kind} {path} is not there. There is {name}, which differs only in upper and lower case, and this disk tells them apart."
            );
            Some(Finding::unmet(Cause::PathMissing, message).found("under another name"))
        }
        (Nature::Missing, _) => {
            Some(Finding::unmet(Cause::PathMissing, format!("The {kind} {path} is not there.")).found("not there"))
        }
        (Nature::Dangling(target), _) => {
            let message = format!("{path} is a link to {target}, and nothing is there.");
            Some(Finding::unmet(Cause::PathDangling, message).found("a link to nothing"))
        }
        (Nature::File, PathKind::Folder) => Some(other_kind(path, "a file", kind)),
        (Nature::Folder, PathKind::File) => Some(other_kind(path, "a folder", kind)),
        (Nature::Other, _) => Some(other_kind(path, "something else", kind)),
    };
    found.or_else(|| rights(wanted, state)).unwrap_or_else(|| content(wanted, state))
}

fn other_kind(path: &str, found: &str, kind: &str) -> Finding {
    Finding::unmet(Cause::PathOtherKind, format!("{path} is {found}, and a {kind} is needed there.")).found(found)
}

/// What is wrong with whose it is and what they may do.
fn rights(wanted: &Path, state: &PathState) -> Option<Finding> {
    let path = &state.path;
    if wanted.mine {
        let owner = state.owner.as_deref().unwrap_or("another user");
        match state.mine {
            Some(true) => {}
            Some(false) => {
                let message = format!("{path} belongs to {owner}, and it must belong to you.");
                return Some(Finding::unmet(Cause::PathNotMine, message).found(format!("of {owner}")));
            }
            None => return Some(Finding::unknown(Cause::CouldNotLook, format!("Whose {path} is could not be found out."))),
        }
    }
    if let Some(mode) = wanted.mode {
        let for_others = mode & 0o077;
        match state.mode {
            Some(found) if found == mode => {}
            Some(found) => {
                let message = format!("{path} has the permissions {found:o}, and they must be {mode:o}{}.", meaning(mode));
                return Some(Finding::unmet(Cause::PathMode, message).found(format!("{found:o}")).wanted(format!("{mode:o}")));
            }
            None if for_others == 0 && state.open_to.is_some() => {
                let others = state.open_to.as_deref().unwrap_or_default();
                if !others.is_empty() {
                    let others = join_words(others, "and");
                    let message = format!(
                        "{path} can be read or changed by {others}, but only you should be able to{}.",
                        meaning_of_private(mode)
                    );
                    return Some(Finding::unmet(Cause::PathMode, message).found("open to others").wanted("only for you"));
                }
            }
            None => {
                let message = format!("This system has no such permissions for {path}.");
                return Some(Finding::unknown(Cause::NotSupportedHere, message));
            }
        }
    }
    if wanted.writable && !state.writable {
        return Some(
            Finding::unmet(Cause::PathNotWritable, format!("You may not write to {path}.")).found("not writable for you"),
        );
    }
    if wanted.executable && !state.executable {
        return Some(Finding::unmet(Cause::PathNotExecutable, format!("You may not execute {path}.")).found("not executable"));
    }
    None
}

/// What a mode without any right for others is for.
fn meaning_of_private(mode: u32) -> &'static str {
    if mode & 0o200 == 0 { " read it" } else { " use it" }
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

fn content(wanted: &Path, state: &PathState) -> Finding {
    let path = &state.path;
    if let Some(pattern) = &wanted.contains {
        match (state.holds, wanted.kind) {
            (Some(true), _) => {}
            (Some(false), PathKind::File) => {
                let message =
                    format!("{path} is there, but its text does not hold what this project needs: {}", pattern.source());
                return Finding::unmet(Cause::PathContent, message).found("another text");
            }
            (Some(false), PathKind::Folder) => {
                let message = format!("{path} is there, but no name in it fits what this project needs: {}", pattern.source());
                return Finding::unmet(Cause::PathContent, message).found("other contents");
            }
            (None, _) => return Finding::unknown(Cause::CouldNotLook, format!("What is in {path} could not be read.")),
        }
    }
    Finding::met("as needed", format!("{path} is as it should be."))
}
