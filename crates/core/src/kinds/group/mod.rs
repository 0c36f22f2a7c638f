//! `group`: membership of a group.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::vocabulary::Shape::Text;
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `group = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Group {
    /// Its name.
    pub name: String,
}

/// How guides say it.
pub(crate) const GROUP: Entry<Group> = Entry {
    shape: Text,
    further: &[],
    several: None,
    about: &[About::Group],
    looks_ahead: true,
    read: |fields, _| names::plain(fields, "group").map(|name| Group { name }),
};

impl SubjectEntry for Group {
    fn kind(&self) -> Kind {
        Kind::Group
    }

    fn title(&self) -> String {
        format!("group {}", self.name)
    }

    fn asks(&self) -> Option<String> {
        Some(format!("group {}", self.name))
    }
}
