//! What people are told.

use crate::finding::{CapacityMet, CapacityReason, Met};
use crate::guide::{Cores, Guide, Memory, Requirement, Subject, Swap};
use crate::observation::cores_text;
use crate::prelude::*;
use crate::text::Size;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn met_by(met: &CapacityMet) -> String {
    match met {
        CapacityMet::Memory { usable } => format!("{usable} of memory can be used."),
        CapacityMet::FreeMemory { available } => format!("{available} of memory is free now."),
        CapacityMet::Swap { swap } => format!("{swap} of what is in memory may be put onto the disk (swap)."),
        CapacityMet::Cores { usable_hundredths } => format!("{} processor cores can be used.", cores_text(*usable_hundredths)),
    }
}

pub(crate) fn met_briefly(met: &CapacityMet) -> String {
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

pub(crate) fn message(words: &Words<'_>, reason: &CapacityReason) -> String {
    let memory = if let Subject::Memory(memory) = &words.requirement.subject { memory.size } else { Size(0) };
    let cores = if let Subject::Cores(cores) = &words.requirement.subject { cores.count } else { 0 };
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

pub(crate) fn found(reason: &CapacityReason) -> String {
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

pub(crate) fn memory_wanted(memory: &Memory) -> String {
    if memory.free { format!("{} free now", memory.size) } else { memory.size.to_string() }
}

impl ReasonWords for CapacityReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

impl SubjectWords for Memory {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_by(facts) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_briefly(facts) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(memory_wanted(self))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        if self.free { format!("{} not in use", self.size) } else { self.size.to_string() }
    }
}

impl SubjectWords for Swap {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_by(facts) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_briefly(facts) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(self.size.to_string())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        self.size.to_string()
    }
}

impl SubjectWords for Cores {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_by(facts) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Capacity(facts) = met { met_briefly(facts) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(self.count.to_string())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("{} at least", self.count)
    }
}
