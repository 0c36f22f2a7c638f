//! What settles it.

use crate::finding::{DiskReason, DiskTrouble};
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Disk, Requirement, Subject};
use crate::prelude::*;
use crate::text::Size;

pub(crate) fn fix(case: &Case<'_>, reason: &DiskReason) -> Fix {
    match &reason.trouble {
        DiskTrouble::InodesShort { .. } => {
            Fix::say(format!("Delete folders with many small files (old builds, caches) on the disk that holds {}.", reason.disk))
        }
        DiskTrouble::ReadOnly | DiskTrouble::NoPermission | DiskTrouble::OthersUnknown { .. } => Fix::say(
            "Use a folder of your own on another disk, or ask whoever looks after this machine for the permission to write.",
        ),
        DiskTrouble::Short { short_by, together } => {
            free_space(case, reason, together.as_ref().map_or(*short_by, |together| together.short_by))
        }
        DiskTrouble::ShortTogether(together) => free_space(case, reason, together.short_by),
    }
}

fn free_space(case: &Case<'_>, reason: &DiskReason, short: Size) -> Fix {
    if let Some(outside) = reason.outside() {
        return Fix::say(format!(
            "On the Windows side, free at least {short} on the disk that is seen from here as {outside}. What is deleted in this Linux gives \
             Windows nothing back by itself.",
        ));
    }
    let disk = &reason.disk;
    let mut fix = Fix::say(format!("Free at least {short} on the disk that holds {disk}, or move the folder to a larger disk."));
    if case.unix() {
        fix.say.push_str(" This shows what takes the room:");
        fix.run = vec![format!("du -xhd1 {} | sort -h", case.quoted(disk))];
    }
    fix
}

impl ReasonFixes for DiskReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, requirement: &Requirement) -> Fills {
        let mut fills = Fills {
            found: Some(Size(self.available_bytes).to_string()),
            path: Some(self.disk.clone()),
            short_by: self.short_by(),
            ..Fills::default()
        };
        if let DiskTrouble::InodesShort { left, .. } = self.trouble {
            fills.found = Some(left.to_string());
            fills.wanted =
                if let Subject::Disk(disk) = &requirement.subject { disk.inodes } else { None }.map(|one| one.to_string());
        }
        fills
    }
}

impl SubjectFixes for Disk {}
