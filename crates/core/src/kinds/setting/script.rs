//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Guide, Setting};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::{extended, quoted};

pub(crate) fn check(setting: &Setting) -> Option<ScriptCheck> {
    if setting.of != "git" {
        return None;
    }
    let shape = setting.matches.as_ref().map(|pattern| extended(pattern).ok_or(()));
    let more = if shape == Some(Err(())) { "more" } else { "" };
    let line =
        format!("setting {} {} {}", quoted(&setting.key), quoted(shape.and_then(Result::ok).unwrap_or_default()), quoted(more));
    Some(ScriptCheck::new(line, &[Part::Setting]))
}

impl SubjectScript for Setting {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
