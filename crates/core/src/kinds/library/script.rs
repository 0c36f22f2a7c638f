//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Guide, Library};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::quoted;
use crate::version::Range;

pub(crate) fn check(library: &Library) -> ScriptCheck {
    let range = library.version.as_ref().map(Range::text).unwrap_or_default();
    let line = format!("library {} {}", quoted(&library.name), quoted(range));
    ScriptCheck::new(line, &[Part::Version, Part::Library])
}

impl SubjectScript for Library {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        Some(check(self))
    }
}
