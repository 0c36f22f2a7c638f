//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Cores, Guide, Memory, Swap};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};

/// More cores than these no shell counts.
const MOST_CORES: u64 = 10_000_000;

pub(crate) fn check_memory(memory: &Memory) -> ScriptCheck {
    let line = format!("memory {} {}", memory.size.0, if memory.free { "free" } else { "all" });
    ScriptCheck::new(line, &[Part::Groups, Part::Memory])
}

pub(crate) fn check_swap(swap: Swap) -> ScriptCheck {
    ScriptCheck::new(format!("swap {}", swap.size.0), &[Part::Swap])
}

pub(crate) fn check_cores(cores: Cores) -> Option<ScriptCheck> {
    (cores.count < MOST_CORES).then(|| ScriptCheck::new(format!("cores {}", cores.count), &[Part::Groups, Part::Cores]))
}

impl SubjectScript for Memory {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        Some(check_memory(self))
    }
}

impl SubjectScript for Swap {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        Some(check_swap(*self))
    }
}

impl SubjectScript for Cores {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check_cores(*self)
    }
}
