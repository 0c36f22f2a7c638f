//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{AnyOf, Guide};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};

pub(crate) fn check(any: &AnyOf, guide: &Guide) -> ScriptCheck {
    let alternatives = any.alternatives.iter().filter_map(|index| guide.requirements.get(*index));
    let ids: Vec<&str> = alternatives.map(|one| one.id.as_str()).collect();
    ScriptCheck::new(format!("any_of {}", ids.join(" ")), &[Part::AnyOf])
}

impl SubjectScript for AnyOf {
    fn script(&self, guide: &Guide) -> Option<ScriptCheck> {
        Some(check(self, guide))
    }
}
