//! `library`: something to build against.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::supply_parse::packages;
use crate::guide::vocabulary::Shape::Text;
use crate::guide::vocabulary::{PACKAGES, may};
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::version;
use crate::version::Range;

/// `library = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Library {
    /// Its pkg-config name.
    pub name: String,
    /// The versions that do.
    pub version: Option<version::Range>,
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
}

/// How guides say it.
pub(crate) const LIBRARY: Entry<Library> = Entry {
    shape: Text,
    further: &[may("version", Text), PACKAGES],
    several: Some("libraries"),
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, _| {
        names::plain(fields, "library").map(|name| {
            let version = fields.read("version", Range::parse);
            Library { name, version, packages: packages(fields) }
        })
    },
};

impl SubjectEntry for Library {
    fn kind(&self) -> Kind {
        Kind::Library
    }

    fn title(&self) -> String {
        format!("library {}", self.name)
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.packages
    }

    fn wanted_value(&self) -> Option<String> {
        self.version.as_ref().map(ToString::to_string)
    }

    fn topics(&self) -> Vec<Topic> {
        vec![Topic::Library(self.name.clone())]
    }

    fn asks(&self) -> Option<String> {
        Some(format!("library {}", self.name))
    }
}
