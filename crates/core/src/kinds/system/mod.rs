//! `system`: the operating system.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::Kind;
use crate::guide::reading::{bad, check_word, owned};
use crate::guide::vocabulary::Shape::{Named, Texts};
use crate::guide::vocabulary::{SYSTEMS, may};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::observation::Os;
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::join_words;
use crate::version;
use crate::version::Range;
use core::fmt::{self, Display};

/// `system = { ... }`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Systems {
    /// The systems with the versions that do.
    pub versions: Vec<(Os, Option<version::Range>)>,
    /// Editions that do; all where empty.
    pub editions: Vec<String>,
    /// Distributions that do; all where empty.
    pub distros: Vec<String>,
    /// Architectures that do; all where empty.
    pub arches: Vec<String>,
}

impl Display for Systems {
    /// What would do, in a few words: `linux >= 5.10 or macos; debian or fedora`.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = |(os, range): &(Os, Option<version::Range>)| match range {
            Some(range) => format!("{} {range}", os.name()),
            None => os.name().to_owned(),
        };
        let systems: Vec<String> = self.versions.iter().map(name).collect();
        let lists = [&systems, &self.distros, &self.editions, &self.arches];
        let parts: Vec<String> = lists.into_iter().filter(|list| !list.is_empty()).map(|list| join_words(list, "or")).collect();
        f.write_str(&parts.join("; "))
    }
}

/// How guides say it.
pub(crate) const SYSTEM: Entry<Systems> = Entry {
    shape: Named(&SYSTEMS),
    further: &[may("edition", Texts), may("distro", Texts), may("arch", Texts)],
    several: None,
    about: &[About::System],
    looks_ahead: false,
    read: |fields, _| system(fields),
};

impl SubjectEntry for Systems {
    fn kind(&self) -> Kind {
        Kind::System
    }

    fn title(&self) -> String {
        "operating system".to_owned()
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.to_string())
    }
}

fn system(fields: &Fields<'_>) -> Option<Systems> {
    let table = fields.table("system", "system")?;
    let mut versions = Vec::new();
    for (name, value) in table.entries() {
        check_word(fields, "system", &name, &SYSTEMS);
        let Some(os) = Os::from_word(name.value) else { continue };
        match value.get_ref().as_str() {
            Some("any" | "*") => versions.push((os, None)),
            Some(text) => match Range::parse(text) {
                Ok(range) => versions.push((os, Some(range))),
                Err(error) => bad(fields, value.span(), error.to_string()),
            },
            None => fields.problems().report(
                ProblemKind::WrongType,
                value.span(),
                "a version range in quotes, or \"any\", stands here",
            ),
        }
    }
    let list = |key| owned(fields.texts(key));
    Some(Systems { versions, editions: list("edition"), distros: list("distro"), arches: list("arch") })
}
