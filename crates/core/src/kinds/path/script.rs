//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Existence, Guide, Path, PathKind};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::{literal, place, quoted};

pub(crate) fn check(path: &Path) -> Option<ScriptCheck> {
    if !path.or.is_empty() {
        return None;
    }
    if path.expect == Existence::Absent {
        return Some(ScriptCheck::new(format!("absent {}", place(&path.path)), &[Part::Absent]));
    }
    let mut words = Vec::new();
    for (is, word) in [(path.mine, "mine"), (path.writable, "writable"), (path.executable, "executable")] {
        if is {
            words.push(word);
        }
    }
    let texts: Option<Vec<&str>> = path.contains.iter().map(literal).collect();
    let texts = texts.filter(|_| path.kind == PathKind::File);
    // Whether a script can start, and what a folder must have, only the program sees.
    if path.executable || path.runs_programs || (texts.is_none() && !path.contains.is_empty()) {
        words.push("more");
    }
    let sort = if path.kind == PathKind::File { "file" } else { "folder" };
    let mode = path.mode.map(|mode| format!("{mode:03o}")).unwrap_or_default();
    let mut all = vec![place(&path.path), quoted(&mode), quoted(&words.join(" "))];
    all.extend(texts.unwrap_or_default().into_iter().map(quoted));
    Some(ScriptCheck::new(format!("path {sort} {}", all.join(" ")), &[Part::Path]))
}

impl SubjectScript for Path {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
