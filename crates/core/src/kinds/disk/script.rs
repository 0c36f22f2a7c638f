//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Disk, Guide};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::place;

pub(crate) fn check(disk: &Disk) -> ScriptCheck {
    let line = format!("disk {} {} {}", disk.size.0, disk.inodes.unwrap_or(0), place(&disk.at));
    ScriptCheck::new(line, &[Part::Disk])
}

/// How much is needed, and where: what lies on one disk is added up.
pub(crate) fn room(disk: &Disk) -> String {
    format!("{} {}", disk.size.0, place(&disk.at))
}

impl SubjectScript for Disk {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        Some(check(self))
    }
}
