//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{EnvironmentVariable, Existence, Guide};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::{extended, is_inside, is_plain_variable, quoted};

pub(crate) fn check(variable: &EnvironmentVariable) -> Option<ScriptCheck> {
    let name = variable.name.as_str();
    let file = variable.env_file.as_deref().unwrap_or_default();
    if !is_plain_variable(name) || !is_inside(file) {
        return None;
    }
    let mut words = Vec::new();
    if variable.expect == Existence::Absent {
        words.push("absent");
    }
    let shape = variable.matches.as_ref().map(|pattern| extended(pattern).ok_or(()));
    let leads = name == "LANG" || name.starts_with("LC_") || name.ends_with("_HOME") || name.ends_with("_ROOT");
    if shape == Some(Err(())) || variable.of.is_some() || leads {
        words.push("more");
    }
    let shape = shape.and_then(Result::ok).unwrap_or_default();
    let line = format!("variable {name} {} {} {}", quoted(file), quoted(shape), quoted(&words.join(" ")));
    Some(ScriptCheck::new(line, &[Part::Value, Part::Variable]))
}

impl SubjectScript for EnvironmentVariable {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
