//! What settles disks, memory, cores, virtualization and the system itself.

use super::Fix;
use super::case::{Case, sign_in};
use crate::finding::{CapacityReason, DiskReason, DiskTrouble, SystemReason, SystemTrouble, VirtualizationReason};
use crate::guide::{Subject, Then};
use crate::observation::Os;
use crate::prelude::*;
use crate::text::Size;
use crate::version::Fit;

pub(super) fn disk(case: &Case<'_>, reason: &DiskReason) -> Fix {
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

pub(super) fn capacity(case: &Case<'_>, reason: &CapacityReason) -> Option<Fix> {
    Some(match reason {
        CapacityReason::MemoryShort { inside_windows: true, .. } => {
            let Subject::Memory(memory) = &case.requirement.subject else { return None };
            // In whole gibibytes, as people write it there, and a little more than what is needed: the kernel takes some.
            give_guest_more(&format!("memory={}GB", memory.size.0.div_ceil(1 << 30) + 1))
        }
        CapacityReason::CoresShort { inside_windows: true, .. } => {
            let Subject::Cores(cores) = &case.requirement.subject else { return None };
            give_guest_more(&format!("processors={cores}"))
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

pub(super) fn virtualization(case: &Case<'_>, reason: &VirtualizationReason) -> Option<Fix> {
    Some(match reason {
        VirtualizationReason::ProcessorLacks => Fix::say("Work on another machine; this processor cannot do it."),
        VirtualizationReason::NestingOff { inside_windows: true } => Fix::say(
            "On the Windows side, write the two lines `[wsl2]` and `nestedVirtualization=true` into the file .wslconfig in your Windows \
             home folder (where it has a part `[wsl2]` already, only the second line, in that part). Then type `wsl --shutdown` in a \
             Windows terminal, and open this Linux again. It needs Windows 11.",
        ),
        VirtualizationReason::NestingOff { .. } => {
            Fix::say("Switch on nested virtualization for this virtual machine on its host, or work on the host itself.")
        }
        VirtualizationReason::FirmwareOff if case.here.os == Some(Os::Macos) => {
            Fix::say("Ask whoever looks after this machine: its firmware has no switch that you could set.")
        }
        VirtualizationReason::FirmwareOff => Fix::say(
            "Restart, open the firmware settings (often with F2 or Del), and switch on the entry named VT-x, AMD-V or SVM.",
        )
        .then(Then::Restart),
        VirtualizationReason::ModuleMissing => load_module(case),
        VirtualizationReason::Denied { group: Some(group), .. } => case.join_group(group),
        VirtualizationReason::Denied { device, group: None } => {
            Fix::say(format!("Ask whoever looks after this machine to let you use {device}."))
        }
        VirtualizationReason::DeniedUntilSignIn { .. } => sign_in(),
        VirtualizationReason::NotInContainer => {
            Fix::say("Start the container with the device /dev/kvm passed in, or work outside the container.")
        }
        VirtualizationReason::Held { .. } => Fix::say("Stop the other virtual machine program, then check again."),
        VirtualizationReason::FeatureOff => {
            let say = "Switch on the system's feature for virtual machines, in a terminal that was started as administrator.";
            let command = "dism /online /enable-feature /featurename:HypervisorPlatform /all /norestart";
            case.admin_step(say, &[command]).then(Then::Restart)
        }
        // The system starts its hypervisor or not as its start settings say (bcdedit, in Microsoft's reference of commands).
        VirtualizationReason::NotStarted => {
            let say =
                "Have the system start its hypervisor from the next restart on, in a terminal that was started as administrator.";
            case.admin_step(say, &["bcdedit /set hypervisorlaunchtype auto"]).then(Then::Restart)
        }
        VirtualizationReason::ProcessorUnknown | VirtualizationReason::FeatureUnknown => return None,
    })
}

fn load_module(case: &Case<'_>) -> Fix {
    let say = "Load the kernel's virtualization module (the first name is for Intel processors, the second for AMD).";
    let command = format!("{} || {}", case.here.as_admin("modprobe kvm_intel"), case.here.as_admin("modprobe kvm_amd"));
    case.admin_step(say, &[]).run(vec![command])
}

pub(super) fn system(case: &Case<'_>, reason: &SystemReason) -> Option<Fix> {
    let elsewhere = || {
        let Subject::System(systems) = &case.requirement.subject else { return None };
        Some(Fix::say(format!("Work on a system that fits ({systems}), for example in a virtual machine on this one.")))
    };
    match &reason.trouble {
        SystemTrouble::Other
        | SystemTrouble::OtherDistribution { .. }
        | SystemTrouble::Edition { .. }
        | SystemTrouble::Arch { .. } => elsewhere(),
        SystemTrouble::OutOfRange { miss, .. } => match miss.fit {
            Fit::TooOld => Some(Fix::say("Upgrade the operating system, or work in a virtual machine with a newer one.")),
            Fit::TooNew => Some(Fix::say(
                "Ask the project whether it works here by now; otherwise work in a virtual machine with an older system.",
            )),
            Fit::Inside | Fit::Excluded | Fit::Incomparable => elsewhere(),
        },
        SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => None,
    }
}
