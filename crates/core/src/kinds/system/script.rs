//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Guide, Systems};
use crate::observation::Os;
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::quoted;

pub(crate) fn check(systems: &Systems) -> Option<ScriptCheck> {
    let linux = systems.versions.iter().find(|(os, _)| *os == Os::Linux);
    let range = match (linux, systems.versions.is_empty()) {
        (Some((_, Some(range))), _) => range.text().to_owned(),
        (Some((_, None)), _) | (None, true) => "-".to_owned(),
        (None, false) => String::new(),
    };
    let lists = [&systems.distros, &systems.arches, &systems.editions];
    let plain = |one: &String| one.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._-".contains(&byte));
    if !lists.iter().all(|list| list.iter().all(plain)) {
        return None;
    }
    let line = format!(
        "system {} {} {} {}",
        quoted(&range),
        quoted(&systems.distros.join(" ")),
        quoted(&systems.arches.join(" ")),
        quoted(&systems.editions.join(" "))
    );
    Some(ScriptCheck::new(line, &[Part::Version, Part::System]))
}

impl SubjectScript for Systems {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
