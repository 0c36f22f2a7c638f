//! The parts of the script.

use crate::prelude::*;

macro_rules! parts {
    ($($part:ident $file:literal,)+) => {
        /// A part of the script: functions of a kind, or of several.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
        pub(crate) enum Part {
            $(#[doc = concat!("`", $file, "`")] $part),+
        }

        impl Part {
            /// Its text.
            pub(super) fn text(self) -> &'static str {
                match self { $(Self::$part => include_str!($file)),+ }
            }
        }
    };
}

// In the order in which they stand in the script.
parts! {
    Version "parts/version.sh",
    Tool "../kinds/tool/script.sh",
    NoTool "../kinds/tool/script_absent.sh",
    System "../kinds/system/script.sh",
    Disk "../kinds/disk/script.sh",
    Memory "../kinds/capacity/script_memory.sh",
    Swap "../kinds/capacity/script_swap.sh",
    Groups "../kinds/capacity/script_control_groups.sh",
    Cores "../kinds/capacity/script_cores.sh",
    Path "../kinds/path/script.sh",
    Absent "../kinds/path/script_absent.sh",
    Value "parts/value.sh",
    Variable "../kinds/variable/script.sh",
    Group "../kinds/group/script.sh",
    Port "../kinds/port/script.sh",
    Limit "../kinds/limit/script.sh",
    Setting "../kinds/setting/script.sh",
    Library "../kinds/library/script.sh",
    AnyOf "../kinds/any_of/script.sh",
    Only "parts/unknown.sh",
    Conditions "parts/conditions.sh",
}

/// How the script checks a requirement.
pub(crate) struct ScriptCheck {
    pub(super) line: String,
    pub(super) parts: &'static [Part],
}

impl ScriptCheck {
    /// A line that calls a function of the script, and the parts that it takes.
    pub(crate) fn new(line: String, parts: &'static [Part]) -> Self {
        Self { line, parts }
    }
}
