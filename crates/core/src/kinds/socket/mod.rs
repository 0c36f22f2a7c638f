//! `socket`: a local socket at which somebody answers.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::reading::{access, text};
use crate::guide::supply_parse::supply;
use crate::guide::vocabulary::Shape::Text;
use crate::guide::vocabulary::{ACCESS, PACKAGES, START, UNIT};
use crate::guide::{Access, Kind, Supply};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;

/// `socket = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Socket {
    /// Its path.
    pub path: String,
    /// Who brings what answers there.
    pub supply: Supply,
    /// How it is to be opened.
    pub access: Access,
}

/// How guides say it.
pub(crate) const SOCKET: Entry<Socket> = Entry {
    shape: Text,
    further: &[ACCESS, PACKAGES, UNIT, START],
    several: None,
    about: &[About::Socket],
    looks_ahead: false,
    read: |fields, _| text(fields, "socket").map(|path| Socket { path, access: access(fields), supply: supply(fields) }),
};

impl SubjectEntry for Socket {
    fn kind(&self) -> Kind {
        Kind::Socket
    }

    fn title(&self) -> String {
        format!("socket {}", self.path)
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.supply.packages
    }

    fn supply(&self) -> Option<&Supply> {
        Some(&self.supply)
    }

    fn topics(&self) -> Vec<Topic> {
        let engine = ["docker", "podman", "containerd", "engine"].iter().any(|name| self.path.contains(name));
        engine.then_some(Topic::ContainerEngine).into_iter().collect()
    }

    fn paths(&self) -> Vec<(&'static str, &str)> {
        vec![("socket", self.path.as_str())]
    }
}
