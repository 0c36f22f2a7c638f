//! A described machine: a TOML file that answers every question that a real machine does.
//!
//! What it does not mention is absent for programs and files, and unknown for the rest. Nothing of the real machine is looked at.
//! The format is documented in `docs/described-machines.md`.

mod answer;
mod component;
mod contents;
mod expectation;
mod fields;
mod network;
mod parse;
mod shape;
#[cfg(feature = "schema")]
pub mod vocabulary;

pub use shape::{Expectation, Expected};

use crate::guide_file::{LoadError, read_text};
use crate::host::Host;
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::Observation;
use setup_ready_core::probe::Probe;
use setup_ready_core::problem::GuideError;
use setup_ready_core::report::{MachineSource, Report};
use std::path::Path;
use std::sync::Arc;

/// A machine that a file describes.
///
/// ```
/// use setup_ready_core::guide;
/// use setup_ready_observe::{Described, Preflight};
///
/// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.git]\ntool = \"git\"\n").unwrap();
/// let machine = Described::parse("format = 1\n[machine]\nname = \"bare\"\n[expect]\ngit = { verdict = \"met\" }\n").unwrap();
/// let report = Preflight::new(&guide).run(&machine).unwrap();
/// // What it expects makes it a test of the guide.
/// assert_eq!(machine.differences(&report), ["git is expected to be met and is unmet (tool-missing)"]);
/// ```
#[derive(Debug, Clone)]
pub struct Described {
    shape: shape::Shape,
}

impl Described {
    /// Reads a description.
    ///
    /// # Errors
    /// Every mistake that was found, in the order of the text.
    pub fn parse(text: &str) -> Result<Self, GuideError> {
        parse::parse(text).map(|shape| Self { shape })
    }

    /// Reads the description in a file.
    ///
    /// # Errors
    /// When the file cannot be read, is too large, is not UTF-8, or has mistakes.
    pub fn load(path: &Path) -> Result<Self, LoadError> {
        let text = read_text(path)?;
        Self::parse(&text).map_err(|mistakes| LoadError::Mistakes { path: path.to_owned(), text, mistakes })
    }

    /// The machine's name.
    pub fn machine_name(&self) -> &str {
        &self.shape.name
    }

    /// What the machine is there to show.
    pub fn about(&self) -> Option<&str> {
        self.shape.about.as_deref()
    }

    /// What the description expects, in its order.
    pub fn expected(&self) -> &[Expected] {
        &self.shape.expected
    }

    /// Where a report differs from what is expected, a sentence each; empty when all is as expected.
    pub fn differences(&self, report: &Report) -> Vec<String> {
        expectation::differences(&self.shape.expected, report)
    }
}

impl Described {
    /// The preflights that the description speaks of, with what is expected of each.
    pub fn expectations(&self) -> &[Expectation] {
        &self.shape.expectations
    }

    /// Where those preflights come out otherwise, a sentence each; empty when all is as expected.
    pub fn disagreements(&self, guide: impl Into<Arc<Guide>>) -> Vec<String> {
        expectation::disagreements(self, &guide.into())
    }
}

impl Host for Described {
    fn observe(&self, probe: &Probe) -> Observation {
        answer::answer(&self.shape, probe)
    }

    /// What is only described answers at once.
    fn elapsed_ms_of(&self, _: &Probe) -> Option<u64> {
        Some(0)
    }

    fn source(&self) -> MachineSource {
        MachineSource::Described
    }

    fn name(&self) -> Option<&str> {
        Some(&self.shape.name)
    }
}

#[cfg(test)]
mod tests;
