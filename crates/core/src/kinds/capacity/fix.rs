//! What settles it.

use crate::finding::CapacityReason;
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Cores, Memory, Requirement, Subject, Swap};
use crate::observation::{Os, cores_text};
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: &CapacityReason) -> Option<Fix> {
    Some(match reason {
        CapacityReason::MemoryShort { inside_windows: true, .. } => {
            let Subject::Memory(memory) = &case.requirement.subject else { return None };
            // In whole gibibytes, as people write it there, and a little more than what is needed: the kernel takes some.
            give_guest_more(&format!("memory={}GB", memory.size.0.div_ceil(1 << 30) + 1))
        }
        CapacityReason::CoresShort { inside_windows: true, .. } => {
            let Subject::Cores(cores) = &case.requirement.subject else { return None };
            give_guest_more(&format!("processors={}", cores.count))
        }
        CapacityReason::MemoryShort { .. } => Fix::say("Work on a machine with more memory; this cannot be settled here."),
        CapacityReason::CoresShort { .. } => Fix::say("Work on a machine with more cores, or expect the build to take longer."),
        CapacityReason::MemoryCapped { .. } | CapacityReason::CoresCapped { .. } => Fix::say(
            "Have the limit raised where it is set: the container's settings, the service, or whoever looks after this machine.",
        ),
        CapacityReason::MemoryBusy { .. } => {
            Fix::say("Close programs that use much memory (browsers, other builds), then check again.")
        }
        CapacityReason::SwapShort { short_by, .. } if case.here.os == Some(Os::Linux) => {
            let megabytes = short_by.0.div_ceil(1 << 20);
            let commands = [
                format!("dd if=/dev/zero of=/swapfile-project bs=1M count={megabytes} status=none"),
                "chmod 600 /swapfile-project".to_owned(),
                "mkswap /swapfile-project".to_owned(),
                "swapon /swapfile-project".to_owned(),
            ];
            let say = format!("Make a file of {short_by} that memory may be put into, and use it until the next restart.");
            let mut fix = case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
            fix.warn("It takes that much of the disk. To undo it: swapoff /swapfile-project, and delete the file.");
            fix
        }
        CapacityReason::SwapShort { .. } => {
            Fix::say("Let the system put more of what is in memory onto the disk, in its settings.")
        }
        CapacityReason::FreeMemoryUnknown { .. } | CapacityReason::SwapUnknown => return None,
    })
}

/// A Linux inside Windows gets what a file of the user on the Windows side says (Microsoft's documentation of the `.wslconfig` file).
fn give_guest_more(line: &str) -> Fix {
    let mut fix = Fix::say(format!(
        "If the machine has more, let this Linux have more of it. On the Windows side, write the two lines `[wsl2]` and `{line}` into the \
         file .wslconfig in your Windows home folder (where it has a part `[wsl2]` already, only the second line, in that part). Then type \
         `wsl --shutdown` in a Windows terminal, and open this Linux again."
    ));
    fix.warn("What this Linux takes, Windows does not have meanwhile. The shutdown ends all that runs in it.");
    fix
}

impl ReasonFixes for CapacityReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = match self {
            Self::MemoryShort { total, .. } | Self::FreeMemoryUnknown { total } => Some(total.to_string()),
            Self::MemoryCapped { usable, .. } => Some(usable.to_string()),
            Self::MemoryBusy { available, .. } => Some(available.to_string()),
            Self::SwapShort { swap, .. } => Some(swap.to_string()),
            Self::SwapUnknown => None,
            Self::CoresShort { online, .. } => Some(online.to_string()),
            Self::CoresCapped { usable_hundredths, .. } => Some(cores_text(*usable_hundredths)),
        };
        Fills { found, short_by: self.short_by(), ..Fills::default() }
    }
}

impl SubjectFixes for Memory {}

impl SubjectFixes for Swap {}

impl SubjectFixes for Cores {}
