//! `disk`: room on a disk.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::vocabulary::Shape::{Number, Text};
use crate::guide::vocabulary::{Shape, may};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::text::Size;

/// `disk = "12 GB"`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Disk {
    /// How much must be free.
    pub size: Size,
    /// Where; the guide's folder where none is given.
    pub at: String,
    /// How many files must still fit.
    pub inodes: Option<u64>,
}

/// How guides say it.
pub(crate) const DISK: Entry<Disk> = Entry {
    shape: Shape::Size,
    further: &[may("at", Text), may("inodes", Number)],
    several: None,
    about: &[About::Disk],
    looks_ahead: false,
    read: |fields, _| {
        let at = fields.owned("at").unwrap_or_else(|| ".".to_owned());
        let inodes = fields.number("inodes").map(|number| number.value);
        fields.read("disk", Size::parse).map(|size| Disk { size, at, inodes })
    },
};

impl SubjectEntry for Disk {
    fn kind(&self) -> Kind {
        Kind::Disk
    }

    fn title(&self) -> String {
        match self.at.as_str() {
            "." => "disk space in this folder".to_owned(),
            at => format!("disk space at {at}"),
        }
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.size.to_string())
    }

    fn asks(&self) -> Option<String> {
        Some(format!("disk {}", self.at))
    }

    fn paths(&self) -> Vec<(&'static str, &str)> {
        vec![("at", self.at.as_str())]
    }
}
