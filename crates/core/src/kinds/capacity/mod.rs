//! `memory`, `swap` and `cores`: what the machine has to work with.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::reading::flag;
use crate::guide::vocabulary::Shape::{Flag, Number};
use crate::guide::vocabulary::{Shape, may};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::text::Size;

/// `memory = "8 GB"`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Memory {
    /// How much.
    pub size: Size,
    /// It must be free now.
    pub free: bool,
}

/// `swap = "4 GB"`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct Swap {
    /// How much.
    pub size: Size,
}

/// `cores = 4`
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct Cores {
    /// How many.
    pub count: u64,
}

/// How guides say it.
pub(crate) const MEMORY: Entry<Memory> = Entry {
    shape: Shape::Size,
    further: &[may("free", Flag)],
    several: None,
    about: &[About::Memory],
    looks_ahead: false,
    read: |fields, _| {
        let free = flag(fields, "free");
        fields.read("memory", Size::parse).map(|size| Memory { size, free })
    },
};

/// How guides say it.
pub(crate) const SWAP: Entry<Swap> = Entry {
    shape: Shape::Size,
    further: &[],
    several: None,
    about: &[About::Memory],
    looks_ahead: true,
    read: |fields, _| fields.read("swap", Size::parse).map(|size| Swap { size }),
};

/// How guides say it.
pub(crate) const CORES: Entry<Cores> = Entry {
    shape: Number,
    further: &[],
    several: None,
    about: &[About::Memory],
    looks_ahead: false,
    read: |fields, _| fields.number("cores").map(|count| Cores { count: count.value }),
};

impl SubjectEntry for Memory {
    fn kind(&self) -> Kind {
        Kind::Memory
    }

    fn title(&self) -> String {
        if self.free { "free memory" } else { "memory" }.to_owned()
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.size.to_string())
    }
}

impl SubjectEntry for Swap {
    fn kind(&self) -> Kind {
        Kind::Swap
    }

    fn title(&self) -> String {
        "swap space".to_owned()
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.size.to_string())
    }
}

impl SubjectEntry for Cores {
    fn kind(&self) -> Kind {
        Kind::Cores
    }

    fn title(&self) -> String {
        "processor cores".to_owned()
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.count.to_string())
    }
}
