//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Group, Guide};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::quoted;

pub(crate) fn check(group: &Group) -> Option<ScriptCheck> {
    (!group.name.contains(' ')).then(|| ScriptCheck::new(format!("group {}", quoted(&group.name)), &[Part::Group]))
}

impl SubjectScript for Group {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
