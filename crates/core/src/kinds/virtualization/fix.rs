//! What settles it.

use crate::finding::VirtualizationReason;
use crate::fix::Fix;
use crate::fix::case::{Case, sign_in};
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Then, Virtualization};
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: &VirtualizationReason) -> Option<Fix> {
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

impl ReasonFixes for VirtualizationReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }
}

impl SubjectFixes for Virtualization {}
