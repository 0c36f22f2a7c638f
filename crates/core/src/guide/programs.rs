//! The programs that a guide asks for, and those that may hold its ports.

use crate::prelude::*;
use hashbrown::HashMap;

/// The tools of a guide by their names, and the programs that may hold a port.
#[derive(Debug, Default)]
pub(crate) struct Programs<'g> {
    pub(super) tools: HashMap<&'g str, usize>,
    pub(super) holders: HashMap<u16, &'g [String]>,
}

impl<'g> Programs<'g> {
    /// The requirement of the program with this name.
    pub(crate) fn tool(&self, name: &str) -> Option<usize> {
        self.tools.get(name).copied()
    }

    /// The programs that may hold a port.
    pub(crate) fn holders_of(&self, port: u16) -> &'g [String] {
        self.holders.get(&port).copied().unwrap_or_default()
    }
}
