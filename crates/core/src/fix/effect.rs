//! What would be known after a fix: its prediction, as changes to what was observed.

use crate::guide::LimitKind;
use crate::observation::{
    CheckoutState, FileType, LibraryState, LimitState, Observation, PathState, SettingNumber, Value, VariableState,
};
use crate::prelude::*;
use crate::probe::Probe;
use core::net::IpAddr;

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
    /// A limit is this high.
    Limit(LimitKind, u64),
    /// This locale is made.
    Locale(String),
    /// A name leads to one address, and to no other.
    Name(String, IpAddr),
    /// A setting of the project says this number, there.
    Number {
        /// The variable and key.
        variable: String,
        /// The number.
        number: u64,
        /// The file, or the environment.
        place: String,
    },
    /// A variable is set nowhere.
    VariableGone(String),
    /// The file that sets a variable is in this system's form.
    VariableFile(String),
    /// Builds find this description of a library first, with the version in it.
    Library {
        /// Its name.
        name: String,
        /// The file.
        at: String,
        /// The version.
        version: String,
    },
    /// Of the copies of a program that PATH has, the one at this place is found first.
    First(String),
    /// What was found at this place has another name now.
    Aside(String),
    /// What becomes of a working copy.
    Checkout(String, CheckoutChange),
}

/// What becomes of a working copy.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum CheckoutChange {
    /// It belongs to this user.
    Mine,
    /// What was left behind by a git that ended is gone.
    Unlocked,
    /// This branch is current.
    Branch(String),
    /// The changes to tracked files were put aside; new files stay where they are.
    PutAside,
    /// Its parts stand at the commits that are recorded, with all their files.
    Parts,
    /// Its whole history and its tags are here.
    Whole,
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
            (Self::Limit(kind, number), Probe::Limit { name }, Observation::Limit(LimitState::Number(_, most)))
                if name == kind =>
            {
                Some(Observation::Limit(LimitState::Number(*number, *most)))
            }
            (Self::Locale(name), Probe::Locales, Observation::Locales(made)) => {
                // The first of a name counts.
                Some(Observation::Locales(core::iter::once(name.clone()).chain(made.iter().cloned()).collect()))
            }
            (Self::Name(name, address), Probe::Addresses { name: asked }, Observation::Addresses(_)) if name == asked => {
                Some(Observation::Addresses(vec![*address]))
            }
            (Self::Number { variable, number, place }, Probe::SettingNumber(asked), Observation::SettingNumber(_))
                if variable == asked.name() =>
            {
                Some(Observation::SettingNumber(SettingNumber::Number(*number, place.clone())))
            }
            (Self::VariableGone(name), Probe::Variable { name: asked, .. }, Observation::Variable(state)) if name == asked => {
                let (environment, file) = (Value::Unset, None);
                Some(Observation::Variable(VariableState { environment, file, startup: None, line: None, ..state.clone() }))
            }
            (Self::VariableFile(name), Probe::Variable { name: asked, .. }, Observation::Variable(state)) if name == asked => {
                Some(Observation::Variable(VariableState { of_another_system: false, ..state.clone() }))
            }
            (Self::Library { name, at, version }, Probe::Library { name: asked }, Observation::Library(state))
                if name == asked =>
            {
                let description = Some((at.clone(), version.clone()));
                Some(Observation::Library(LibraryState { description, lacks: None, ..state.clone() }))
            }
            (Self::First(at), Probe::Program { .. }, Observation::Program(copies)) => {
                let position = copies.iter().position(|copy| copy.path == *at).filter(|position| *position > 0)?;
                let mut copies = copies.clone();
                copies.get_mut(..=position)?.rotate_right(1);
                Some(Observation::Program(copies))
            }
            (Self::Aside(at), Probe::Program { .. }, Observation::Program(copies)) => copies
                .iter()
                .any(|copy| copy.path == *at)
                .then(|| Observation::Program(copies.iter().filter(|copy| copy.path != *at).cloned().collect())),
            (Self::Checkout(path, to), Probe::Checkout { path: asked, .. }, Observation::Checkout(state)) if path == asked => {
                Some(Observation::Checkout(to.on(state.clone())))
            }
            _ => None,
        }
    }
}

impl CheckoutChange {
    fn on(&self, state: CheckoutState) -> CheckoutState {
        match self {
            Self::Mine => CheckoutState { foreign: None, ..state },
            Self::Unlocked => CheckoutState { unfinished: None, ..state },
            Self::Branch(name) => CheckoutState { branch: Some(name.clone()), ..state },
            Self::PutAside => CheckoutState { changed: state.changed.map(|_| state.untracked), ..state },
            Self::Whole => CheckoutState { shallow: false, no_tags: false, ..state },
            Self::Parts => CheckoutState { moved: Vec::new(), emptied: Vec::new(), ..state },
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
                    nature: FileType::Folder,
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

    /// One change.
    pub(crate) fn one(change: Change) -> Self {
        Self::Changes(vec![change])
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
