//! What is said of memory, cores, virtualization and the system.

use super::Words;
use crate::finding::{CapacityMet, CapacityReason, SystemReason, SystemTrouble, SystemUnknown, VirtualizationReason};
use crate::guide::{Memory, Subject, Virtualization};
use crate::observation::cores_text;
use crate::prelude::*;
use crate::text::{Size, join_words};
use crate::version::Fit;

pub(super) fn met(met: &CapacityMet) -> String {
    match met {
        CapacityMet::Memory { usable } => format!("{usable} of memory can be used."),
        CapacityMet::FreeMemory { available } => format!("{available} of memory is free now."),
        CapacityMet::Swap { swap } => format!("{swap} of what is in memory may be put onto the disk (swap)."),
        CapacityMet::Cores { usable_hundredths } => format!("{} processor cores can be used.", cores_text(*usable_hundredths)),
    }
}

pub(super) fn met_briefly(met: &CapacityMet) -> String {
    match met {
        CapacityMet::Memory { usable } => usable.to_string(),
        CapacityMet::FreeMemory { available } => format!("{available} free"),
        CapacityMet::Swap { swap } => swap.to_string(),
        CapacityMet::Cores { usable_hundredths } => cores_text(*usable_hundredths),
    }
}

fn counted(cores: u64) -> String {
    if cores == 1 { "1 processor core".to_owned() } else { format!("{cores} processor cores") }
}

pub(super) fn message(words: &Words<'_>, reason: &CapacityReason) -> String {
    let memory = if let Subject::Memory(memory) = &words.requirement.subject { memory.size } else { Size(0) };
    let cores = if let Subject::Cores(cores) = &words.requirement.subject { *cores } else { 0 };
    match reason {
        CapacityReason::MemoryShort { total, inside_windows: true, .. } => {
            format!("Windows gives this Linux {total} of the machine's memory, and {memory} is needed.")
        }
        CapacityReason::MemoryShort { total, .. } => {
            format!("This machine has {total} of memory in all, and {memory} is needed.")
        }
        CapacityReason::MemoryCapped { total, usable, by, .. } => {
            format!("This machine has {total} of memory, but {by} lets you use only {usable}, and {memory} is needed.")
        }
        CapacityReason::MemoryBusy { available, .. } => {
            format!("This machine has enough memory, but only {available} of it is free at the moment, and {memory} is needed.")
        }
        CapacityReason::SwapShort { swap, short_by } => format!(
            "This machine may put {swap} of what is in memory onto the disk (swap), and {short_by} more of that is needed."
        ),
        CapacityReason::SwapUnknown => {
            "How much of what is in memory may be put onto the disk (swap) is not fixed on this system, or it does not tell."
                .to_owned()
        }
        CapacityReason::FreeMemoryUnknown { .. } => "How much memory is free at the moment could not be found out.".to_owned(),
        CapacityReason::CoresShort { online, inside_windows: true } => {
            format!("Windows gives this Linux {}, and {cores} are needed.", counted(*online))
        }
        CapacityReason::CoresShort { online, .. } => format!("This machine has {}, and {cores} are needed.", counted(*online)),
        CapacityReason::CoresCapped { online, usable_hundredths, by } => format!(
            "This machine has {online} processor cores, but {by} lets you use only {}, and {cores} are needed.",
            cores_text(*usable_hundredths)
        ),
    }
}

pub(super) fn found(reason: &CapacityReason) -> String {
    match reason {
        CapacityReason::SwapShort { swap, .. } => swap.to_string(),
        CapacityReason::SwapUnknown => "not known".to_owned(),
        CapacityReason::MemoryShort { total, .. } => total.to_string(),
        CapacityReason::MemoryCapped { usable, .. } => format!("{usable} usable"),
        CapacityReason::MemoryBusy { available, .. } => format!("{available} free"),
        CapacityReason::FreeMemoryUnknown { total } => format!("{total} in all"),
        CapacityReason::CoresShort { online, .. } => online.to_string(),
        CapacityReason::CoresCapped { usable_hundredths, .. } => format!("{} usable", cores_text(*usable_hundredths)),
    }
}

pub(super) fn memory_wanted(memory: &Memory) -> String {
    if memory.free { format!("{} free now", memory.size) } else { memory.size.to_string() }
}

pub(super) fn virtualization_wanted(need: Virtualization) -> &'static str {
    match need {
        Virtualization::Usable => "usable by you now",
        Virtualization::Present => "a processor that has it",
    }
}

pub(super) fn virtualization(reason: &VirtualizationReason) -> String {
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

pub(super) fn virtualization_found(reason: &VirtualizationReason) -> Option<&'static str> {
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

pub(super) fn system(words: &Words<'_>, reason: &SystemReason) -> String {
    let name = reason.name;
    let Subject::System(need) = &words.requirement.subject else { return format!("This project does not work on {name}.") };
    match &reason.trouble {
        SystemTrouble::Other => format!("This project does not work on {name}."),
        SystemTrouble::OtherDistribution { found } => {
            format!("This is {found}, and this project works on {}.", join_words(&need.distros, "or"))
        }
        SystemTrouble::OutOfRange { found, range, miss } => {
            let how = match miss.fit {
                Fit::TooOld => "too old",
                Fit::TooNew => "too new",
                Fit::Inside | Fit::Excluded | Fit::Incomparable => "ruled out",
            };
            format!("{name} {found} is {how}: this project works with {range}.")
        }
        SystemTrouble::Incomparable { found, range } => {
            format!("The version of {name}, {found}, cannot be compared with {range}.")
        }
        SystemTrouble::Edition { found } => {
            format!("The edition here is {found}, and this project works with {}.", join_words(&need.editions, "or"))
        }
        SystemTrouble::Arch { found } => {
            format!("The kind of processor here is {found}, and this project works with {}.", join_words(&need.arches, "or"))
        }
        SystemTrouble::Unknown { what } => {
            let what = match what {
                SystemUnknown::Version => format!("version of {name}"),
                SystemUnknown::Distribution => "distribution".to_owned(),
                SystemUnknown::Edition => "edition".to_owned(),
            };
            format!("Which {what} this is could not be found out.")
        }
    }
}

pub(super) fn system_wanted_of(words: &Words<'_>, reason: &SystemReason) -> Option<String> {
    let Subject::System(need) = &words.requirement.subject else { return None };
    match &reason.trouble {
        SystemTrouble::Edition { .. } => Some(join_words(&need.editions, "or")),
        SystemTrouble::Arch { .. } => Some(join_words(&need.arches, "or")),
        SystemTrouble::OtherDistribution { .. } => Some(join_words(&need.distros, "or")),
        SystemTrouble::OutOfRange { range, .. } | SystemTrouble::Incomparable { range, .. } => {
            Some(format!("{} {range}", reason.name))
        }
        SystemTrouble::Other | SystemTrouble::Unknown { .. } => None,
    }
}
