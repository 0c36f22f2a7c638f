//! `virtualization`: the help of hardware for virtual machines.

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

/// `virtualization = ...`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Virtualization {
    /// This user can use it now.
    Usable,
    /// The processor has it.
    Present,
}

/// How guides say it.
pub(crate) const VIRTUALIZATION: Entry<Virtualization> = Entry {
    shape: Word(&["usable", "present"]),
    further: &[],
    several: None,
    about: &[About::Virtualization],
    looks_ahead: false,
    read: |fields, _| fields.word("virtualization", &[("usable", Virtualization::Usable), ("present", Virtualization::Present)]),
};

impl SubjectEntry for Virtualization {
    fn kind(&self) -> Kind {
        Kind::Virtualization
    }

    fn title(&self) -> String {
        "hardware virtualization".to_owned()
    }
}
