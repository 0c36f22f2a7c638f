//! How a script checks it, in the words of a POSIX shell.

use crate::catalogue;
use crate::guide::{Existence, Guide, Tool};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::quoted;

pub(crate) fn check(tool: &Tool) -> Option<ScriptCheck> {
    if tool.expect == Existence::Absent {
        let line = format!("no_tool {}", names(&tool.names)?);
        return Some(ScriptCheck::new(line, &[Part::Tool, Part::Version, Part::NoTool]));
    }
    let names = names(&tool.names)?;
    let arguments = |name: &String| -> Vec<String> {
        if tool.args.is_empty() {
            catalogue::version_arguments(name).iter().map(|one| (*one).to_owned()).collect()
        } else {
            tool.args.clone()
        }
    };
    let first = tool.names.first().map(arguments).unwrap_or_default();
    // What stands before the version where that is not the tool's name.
    let stem = |name: &str| name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.' || c == '-').to_lowercase();
    let says =
        |name: &String| catalogue::find(name).is_some_and(|row| !row.says.is_empty() && row.says.to_lowercase() != stem(name));
    // Consent, pins, patterns and processors are for the program to see to.
    let plainly_asked = tool.names.iter().all(|name| arguments(name) == first && !catalogue::is_never_started(name))
        && first.iter().all(|one| one.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._=-".contains(&byte)))
        && (tool.args.is_empty() || tool.names.iter().all(|name| catalogue::version_arguments(name) == tool.args))
        && tool.version_from.is_none()
        && tool.pattern.is_none()
        && tool.arch.is_none()
        && !(tool.version.is_some() && tool.names.iter().any(says));
    let range = tool.version.as_ref().map(crate::version::Range::text).unwrap_or_default();
    let words: Vec<String> =
        [quoted(&names), quoted(range)].into_iter().chain(first.into_iter().filter(|_| plainly_asked)).collect();
    Some(ScriptCheck::new(format!("tool {}", words.join(" ")), &[Part::Version, Part::Tool]))
}

/// Names of programs as words; none where one of them is a path or odd.
fn names(names: &[String]) -> Option<String> {
    let plain = |name: &String| {
        !name.is_empty()
            && !name.starts_with('-')
            && name.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._+-".contains(&byte))
    };
    (!names.is_empty() && names.iter().all(plain)).then(|| names.join(" "))
}

impl SubjectScript for Tool {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
