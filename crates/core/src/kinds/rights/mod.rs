//! `rights`: what this user may do.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::vocabulary::Shape::Word;
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `rights = ...`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Rights {
    /// The person can act as administrator.
    Admin,
    /// They are the administrator.
    Root,
}

/// How guides say it.
pub(crate) const RIGHTS: Entry<Rights> = Entry {
    shape: Word(&["admin", "root"]),
    further: &[],
    several: None,
    about: &[About::Group],
    looks_ahead: true,
    read: |fields, _| fields.word("rights", &[("admin", Rights::Admin), ("root", Rights::Root)]),
};

impl SubjectEntry for Rights {
    fn kind(&self) -> Kind {
        Kind::Rights
    }

    fn title(&self) -> String {
        match self {
            Self::Admin => "admin rights".to_owned(),
            Self::Root => "the administrator's rights".to_owned(),
        }
    }
}
