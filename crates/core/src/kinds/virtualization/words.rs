//! What people are told.

use crate::finding::{Met, VirtualizationReason};
use crate::guide::{Guide, Requirement, Virtualization};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn wanted(need: Virtualization) -> &'static str {
    match need {
        Virtualization::Usable => "usable by you now",
        Virtualization::Present => "a processor that has it",
    }
}

pub(crate) fn message(reason: &VirtualizationReason) -> String {
    let text = match reason {
        VirtualizationReason::ProcessorLacks => {
            "This processor cannot run virtual machines with hardware help. No setting can change that."
        }
        VirtualizationReason::NestingOff { inside_windows: true } => {
            "This Linux runs inside Windows, and Windows does not let it run virtual machines in turn (nesting is off)."
        }
        VirtualizationReason::NestingOff { .. } => {
            "This is a virtual machine, and its host does not let it run virtual machines in turn (nesting is off)."
        }
        VirtualizationReason::FirmwareOff => {
            "The processor can run virtual machines, but the machine's firmware (BIOS or UEFI) has that switched off."
        }
        VirtualizationReason::ModuleMissing => {
            "The processor and the firmware are ready, but the kernel's virtualization module (kvm) is not loaded."
        }
        VirtualizationReason::Denied { device, group: Some(group) } => {
            return format!("Virtualization works here, but {device} is only for the group {group}, and you are not in it.");
        }
        VirtualizationReason::Denied { device, group: None } => {
            return format!("Virtualization works here, but you may not use {device}.");
        }
        VirtualizationReason::DeniedUntilSignIn { device, group } => {
            let group = group.as_ref().map(|group| format!(" {group}")).unwrap_or_default();
            return format!("You were added to the group{group}, which may use {device}, but this session began before that.");
        }
        VirtualizationReason::NotInContainer => {
            "You are inside a container, and it was not given the virtualization device (/dev/kvm)."
        }
        VirtualizationReason::Held { by } => {
            let holder = by.as_deref().unwrap_or("Another hypervisor");
            return format!("{holder} is using the processor's virtualization now, and only one program can.");
        }
        VirtualizationReason::FeatureOff => {
            "The processor and the firmware are ready, but the system's own feature for virtual machines is switched off."
        }
        VirtualizationReason::NotStarted => {
            "The system's own feature for virtual machines is switched on, but the system has not started its hypervisor: it was told not \
             to, or has not been restarted since."
        }
        VirtualizationReason::ProcessorUnknown => {
            "Whether this processor can run virtual machines with hardware help could not be found out."
        }
        VirtualizationReason::FeatureUnknown => {
            "Whether the system's feature for virtual machines is switched on could not be found out."
        }
    };
    text.to_owned()
}

pub(crate) fn found(reason: &VirtualizationReason) -> Option<&'static str> {
    Some(match reason {
        VirtualizationReason::ProcessorLacks => "the processor lacks it",
        VirtualizationReason::NestingOff { .. } => "nesting is off",
        VirtualizationReason::FirmwareOff => "off in the firmware",
        VirtualizationReason::ModuleMissing => "module not loaded",
        VirtualizationReason::Denied { .. } => "permission denied",
        VirtualizationReason::DeniedUntilSignIn { .. } => "denied until you sign in again",
        VirtualizationReason::NotInContainer => "not in this container",
        VirtualizationReason::Held { .. } => "held by another program",
        VirtualizationReason::FeatureOff => "feature is off",
        VirtualizationReason::NotStarted => "not started",
        VirtualizationReason::ProcessorUnknown | VirtualizationReason::FeatureUnknown => return None,
    })
}

impl ReasonWords for VirtualizationReason {
    fn message(&self, _: &Words<'_>) -> String {
        message(self)
    }

    fn found(&self) -> Option<String> {
        found(self).map(ToOwned::to_owned)
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Virtualization {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        match met {
            Met::VirtualizationUsable => "Virtual machines can be run with hardware help.".to_owned(),
            Met::VirtualizationPresent => "The processor can run virtual machines with hardware help.".to_owned(),
            _ => words.title(),
        }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        match met {
            Met::VirtualizationUsable => "usable".to_owned(),
            Met::VirtualizationPresent => "the processor has it".to_owned(),
            _ => words.title(),
        }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(*self).to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        match self {
            Self::Usable => "usable by you",
            Self::Present => "in the processor",
        }
        .to_owned()
    }
}
