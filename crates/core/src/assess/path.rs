//! `file` and `folder`: all that is stated about it holds.

use crate::finding::{Conclusion, Met, PathReason, PathTrouble, Whose};
use crate::guide::{Existence, Path, PathKind};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Nature, PathState};

pub(super) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Path) -> Result<Conclusion, Stop> {
    let state = inquiry.path(&wanted.path, wanted.contains.as_ref())?;
    let path = state.path.clone();
    let Some(trouble) = trouble(wanted, state) else {
        let absent = wanted.expect == Existence::Absent;
        return Ok(if absent { Met::PathAbsent { path } } else { Met::PathFits { path } }.into());
    };
    let whose = match (&state.nature, state.mine) {
        (Nature::Missing | Nature::Dangling(_), _) if !state.writable => Whose::Foreign,
        (Nature::Missing | Nature::Dangling(_), _) | (_, None) => Whose::Unknown,
        (_, Some(true)) => Whose::Own,
        (_, Some(false)) => Whose::Foreign,
    };
    Ok(PathReason { path, whose, trouble }.into())
}

fn trouble(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    if wanted.expect == Existence::Absent {
        return (state.nature != Nature::Missing).then_some(PathTrouble::Unwanted);
    }
    match (&state.nature, wanted.kind) {
        (Nature::File, PathKind::File) | (Nature::Folder, PathKind::Folder) => {
            rights(wanted, state).or_else(|| content(wanted, state))
        }
        (Nature::Missing, _) => Some(PathTrouble::Missing { alike: state.alike.clone() }),
        (Nature::Dangling(target), _) => Some(PathTrouble::Dangling { target: target.clone() }),
        (Nature::File | Nature::Folder | Nature::Other, _) => Some(PathTrouble::OtherKind { nature: state.nature.clone() }),
    }
}

/// What is wrong with whose it is and what they may do.
fn rights(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    if wanted.mine {
        match state.mine {
            Some(true) => {}
            Some(false) => return Some(PathTrouble::NotMine { owner: state.owner.clone() }),
            None => return Some(PathTrouble::OwnerUnknown),
        }
    }
    if let Some(needed) = wanted.mode {
        let for_others = needed & 0o077;
        match (state.mode, &state.open_to) {
            (Some(mode), _) if mode == needed => {}
            (Some(mode), _) => return Some(PathTrouble::Mode { mode, needed }),
            (None, Some(others)) if for_others == 0 && others.is_empty() => {}
            (None, Some(others)) if for_others == 0 => {
                return Some(PathTrouble::OpenToOthers { others: others.clone(), needed });
            }
            (None, _) => return Some(PathTrouble::NoPermissionBits),
        }
    }
    if wanted.writable && !state.writable {
        return Some(PathTrouble::NotWritable);
    }
    (wanted.executable && !state.executable).then_some(PathTrouble::NotExecutable)
}

fn content(wanted: &Path, state: &PathState) -> Option<PathTrouble> {
    wanted.contains.as_ref()?;
    match state.holds {
        Some(true) => None,
        Some(false) => Some(PathTrouble::Content),
        None => Some(PathTrouble::ContentUnread),
    }
}
