//! What would be known after a fix: its prediction, as changes to what was observed.

use crate::observation::{Nature, Observation, PathState};
use crate::prelude::*;
use crate::probe::Probe;

/// What would be known after a fix.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) enum Effect {
    /// It rests on what this software cannot know: a download, somebody else's command, what a person does.
    #[default]
    Unknown,
    /// These changes, and no others.
    Changes(Vec<Change>),
}

/// One change to what is observed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Change {
    /// What is at a path of the guide, and how the system calls it.
    Path {
        /// As the guide has it.
        asked: String,
        /// As the system knows it.
        path: String,
        /// What becomes of it.
        to: PathChange,
    },
    /// This session is in a group.
    Joined(String),
}

/// What becomes of what is at a path.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum PathChange {
    /// It belongs to this user, with all that is in it.
    Mine,
    /// It has these permission bits.
    Mode(u32),
    /// It has these permission bits too.
    With(u32),
    /// Nothing is there any more.
    Gone,
    /// An empty folder is there, of this user's.
    Folder,
    /// Its lines end as they should.
    LineEnds,
}

impl Change {
    /// What a question would be answered then; `None` where it would be as before.
    pub(crate) fn on(&self, probe: &Probe, before: &Observation) -> Option<Observation> {
        match (self, probe, before) {
            (Self::Path { path, to, .. }, Probe::Path { pattern, .. }, Observation::Path(state)) if state.path == *path => {
                Some(Observation::Path(to.on(state.clone(), pattern.is_some())))
            }
            (
                Self::Path { asked, to: PathChange::Mine | PathChange::Folder, .. },
                Probe::Within { path },
                Observation::Within(_),
            ) if path == asked => Some(Observation::Within(None)),
            (Self::Joined(group), Probe::Account, Observation::Account(account)) if !account.groups.contains(group) => {
                let mut account = account.clone();
                account.groups.push(group.clone());
                Some(Observation::Account(account))
            }
            (Self::Joined(group), Probe::Path { .. }, Observation::Path(state)) if state.writers.as_ref() == Some(group) => {
                Some(Observation::Path(PathState { writable: true, executable: true, readable: true, ..state.clone() }))
            }
            (Self::Joined(group), Probe::Group { name }, Observation::Group(false)) if name == group => {
                Some(Observation::Group(true))
            }
            _ => None,
        }
    }
}

impl PathChange {
    fn on(self, mut state: PathState, searched: bool) -> PathState {
        match self {
            Self::Mine => {
                state.mine = Some(true);
                state.owner = None;
                let mode = state.mode;
                allow(&mut state, mode.unwrap_or(0o700));
            }
            Self::Mode(mode) => {
                state.mode = Some(mode);
                state.open_to = state.open_to.map(|_| Vec::new());
                allow(&mut state, mode);
            }
            Self::With(bits) => {
                let mode = state.mode.unwrap_or(0o700) | bits;
                state.mode = state.mode.map(|_| mode);
                allow(&mut state, mode);
            }
            Self::Gone => state = PathState { writable: state.writable, ..PathState::nothing(state.path) },
            Self::Folder => {
                state = PathState {
                    nature: Nature::Folder,
                    mine: Some(true),
                    mode: Some(0o755),
                    executable: true,
                    holds: searched.then_some(false),
                    ..PathState::nothing(state.path)
                };
            }
            Self::LineEnds => state.script = None,
        }
        state
    }
}

/// What the permission bits let this user do, by POSIX: the owner's bits count for the owner alone, and of others nothing more is sure than
/// the bits for all.
fn allow(state: &mut PathState, mode: u32) {
    let bits = if state.mine == Some(true) { mode >> 6 } else { mode };
    (state.readable, state.writable, state.executable) = (bits & 4 != 0, bits & 2 != 0, bits & 1 != 0);
}

impl Effect {
    /// One change at a path.
    pub(crate) fn path(asked: &str, path: &str, to: PathChange) -> Self {
        Self::Changes(vec![Change::Path { asked: asked.to_owned(), path: path.to_owned(), to }])
    }

    /// The changes of this and then of another.
    pub(crate) fn and(self, other: Self) -> Self {
        match (self, other) {
            (Self::Changes(mut changes), Self::Changes(more)) => {
                changes.extend(more);
                Self::Changes(changes)
            }
            _ => Self::Unknown,
        }
    }
}
