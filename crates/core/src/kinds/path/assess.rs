//! `file` and `folder`: what it is for can be done with it.

use crate::assess::is_met;
use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, PathReason, PathTrouble, Reason, Whose};
use crate::guide::{Existence, Path, PathKind};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{FileType, PathState};
use crate::prelude::*;

/// Of several places, the first at which all is as it should be does; else what stands in the way at the first where something is.
pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Path) -> Result<Conclusion, Stop> {
    let first = one(inquiry, wanted)?;
    if wanted.or.is_empty() || (is_met(&first) != (wanted.expect == Existence::Absent)) {
        return Ok(first);
    }
    let is_there = |conclusion: &Conclusion| !matches!(conclusion, Conclusion::Open(Reason::Path(reason)) if matches!(reason.trouble, PathTrouble::Missing { .. }));
    let mut best = first;
    for other in &wanted.or {
        let conclusion = one(inquiry, &Path { path: other.clone(), or: Vec::new(), ..wanted.clone() })?;
        if is_met(&conclusion) != (wanted.expect == Existence::Absent) {
            return Ok(conclusion);
        }
        if !is_there(&best) && is_there(&conclusion) {
            best = conclusion;
        }
    }
    Ok(best)
}

fn one(inquiry: &mut Inquiry<'_>, wanted: &Path) -> Result<Conclusion, Stop> {
    let state = inquiry.path(&wanted.path, wanted.contains.first())?;
    let path = state.path.clone();
    let mut trouble = trouble(wanted, state);
    if trouble.is_none() {
        trouble = content(inquiry, wanted, state.holds)?;
    }
    // What one will write into is written into as a whole. In a folder that people share, others have things of their own.
    let whole = state.mine == Some(true)
        && wanted.kind == PathKind::Folder
        && (wanted.writable || wanted.mine)
        && wanted.expect == Existence::Present;
    if trouble.is_none()
        && whole
        && let Some(Some(barrier)) = if_known(inquiry.within(&wanted.path))?
    {
        trouble = Some(PathTrouble::Within { barrier: barrier.clone(), must_be_mine: wanted.mine });
    }
    let Some(trouble) = trouble else {
        let absent = wanted.expect == Existence::Absent;
        return Ok(if absent { Met::PathAbsent { path } } else { Met::PathFits { path } }.into());
    };
    let owned_by = match (&trouble, &state.nature, state.mine) {
        (PathTrouble::Barred { barrier }, ..) if barrier.mine => Whose::Own,
        (PathTrouble::Barred { .. } | PathTrouble::Within { .. }, ..) => Whose::Foreign,
        (_, FileType::Missing | FileType::Dangling(_), _) if !state.writable => Whose::Foreign,
        (_, FileType::Missing | FileType::Dangling(_), _) | (.., None) => Whose::Unknown,
        (.., Some(true)) => Whose::Own,
        (.., Some(false)) => Whose::Foreign,
    };
    Ok(PathReason { path, asked: wanted.path.clone(), whose: owned_by, trouble }.into())
}

fn trouble(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    if let Some(barrier) = &state.barred_by {
        return Some(PathTrouble::Barred { barrier: barrier.clone() });
    }
    if wanted.expect == Existence::Absent {
        return (state.nature != FileType::Missing).then_some(PathTrouble::Unwanted);
    }
    match (&state.nature, wanted.kind) {
        (FileType::File, PathKind::File) | (FileType::Folder, PathKind::Folder) => {
            rights(wanted, state).or_else(|| use_of(wanted, state))
        }
        (FileType::Missing, _) => Some(PathTrouble::Missing { alike: state.alike.clone(), example: state.example.clone() }),
        (FileType::Dangling(target), _) => Some(PathTrouble::Dangling { target: target.clone() }),
        (FileType::File | FileType::Folder | FileType::Other, _) => Some(PathTrouble::OtherKind { nature: state.nature.clone() }),
    }
}

/// What is wrong with whose it is and how it is marked.
fn rights(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    if wanted.mine {
        match state.mine {
            Some(true) => {}
            Some(false) => return Some(PathTrouble::NotMine { owner: state.owner.clone() }),
            None => return Some(PathTrouble::OwnerUnknown),
        }
    }
    let needed = wanted.mode?;
    let for_others = needed & 0o077;
    match (state.mode, &state.open_to) {
        (Some(mode), _) if mode == needed => None,
        (Some(mode), _) => Some(PathTrouble::Mode { mode, needed }),
        (None, Some(others)) if for_others == 0 && others.is_empty() => None,
        (None, Some(others)) if for_others == 0 => Some(PathTrouble::OpenToOthers { others: others.clone(), needed }),
        (None, _) => Some(PathTrouble::NoPermissionBits),
    }
}

/// What keeps this person from what it is for.
fn use_of(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    let mount = state.mount.as_ref();
    if wanted.writable {
        if let Some(mount) = mount.filter(|mount| mount.read_only) {
            return Some(PathTrouble::ReadOnly { mounted_at: mount.at.clone() });
        }
        // Into a folder that one may not enter, nothing can be written.
        if !state.writable || (wanted.kind == PathKind::Folder && !state.executable) {
            return Some(PathTrouble::NotWritable { owner: foreign_owner(state), writers: state.writers.clone() });
        }
    }
    if (wanted.executable || wanted.runs_programs)
        && let Some(mount) = mount.filter(|mount| mount.no_execution)
    {
        return Some(PathTrouble::NoExecution { mounted_at: mount.at.clone() });
    }
    if wanted.executable && !state.executable {
        return Some(PathTrouble::NotExecutable);
    }
    // A script is read by its interpreter, with the rights of this person: a file of their own is one sooner than a program. What must hold
    // something is read too, and so is a key that only its user may read.
    let script = wanted.executable && state.mine == Some(true);
    let is_read = script || !wanted.contains.is_empty() || wanted.mode.is_some_and(|mode| mode & 0o400 != 0);
    if is_read && !state.readable {
        return Some(PathTrouble::NotReadable { owner: foreign_owner(state) });
    }
    state.script.clone().filter(|_| wanted.executable).map(|script| PathTrouble::CannotStart { script })
}

/// Whose it is, where it is somebody else's.
fn foreign_owner(state: &PathState) -> Option<String> {
    state.owner.clone().filter(|_| state.mine == Some(false))
}

/// What nothing in it fits, of all that must be there.
fn content(inquiry: &mut Inquiry<'_>, wanted: &Path, first: Option<bool>) -> Result<Option<PathTrouble>, Stop> {
    if wanted.expect == Existence::Absent {
        return Ok(None);
    }
    let mut missing = Vec::new();
    for (at, pattern) in wanted.contains.iter().enumerate() {
        let holds = if at == 0 { first } else { inquiry.path(&wanted.path, Some(pattern))?.holds };
        match holds {
            Some(true) => {}
            Some(false) => missing.push(pattern.source().to_owned()),
            None => return Ok(Some(PathTrouble::ContentUnread)),
        }
    }
    Ok((!missing.is_empty()).then_some(PathTrouble::Content { missing }))
}

impl Assess for Path {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
