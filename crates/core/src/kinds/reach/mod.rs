//! `reach`: an address outside.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::reading::{status, url};
use crate::guide::vocabulary::Shape::{Number, Text};
use crate::guide::vocabulary::may;
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `reach = "https://..."`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Reach {
    /// The address.
    pub url: String,
    /// The status expected.
    pub status: Option<u16>,
}

/// How guides say it.
pub(crate) const REACH: Entry<Reach> = Entry {
    shape: Text,
    further: &[may("status", Number)],
    several: None,
    about: &[About::Reach],
    looks_ahead: false,
    read: |fields, _| url(fields, "reach").map(|url| Reach { url, status: status(fields) }),
};

impl SubjectEntry for Reach {
    fn kind(&self) -> Kind {
        Kind::Reach
    }

    fn title(&self) -> String {
        format!("reaching {}", crate::text::without_credentials(&self.url))
    }

    fn wanted_value(&self) -> Option<String> {
        self.status.map(|status| status.to_string())
    }

    fn asks(&self) -> Option<String> {
        Some(format!("reach {}", self.url))
    }
}
