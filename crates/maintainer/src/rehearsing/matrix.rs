//! A guide on described machines: what came of each requirement on each, and where that is not what the machine expects.

use super::ways::{Rehearsal, report_on};
use setup_ready_core::guide::Guide;
use setup_ready_core::recording::Recording;
use setup_ready_core::report::Report;
use setup_ready_core::selection::Selection;
use setup_ready_observe::Described;
use std::sync::Arc;

/// A guide on described machines.
#[derive(Debug)]
#[non_exhaustive]
pub struct Matrix {
    /// The guide.
    pub guide: Arc<Guide>,
    /// What came of each machine, in their order.
    pub performances: Vec<Performance>,
}

/// A guide on one described machine.
#[derive(Debug)]
#[non_exhaustive]
pub struct Performance {
    /// The machine's name.
    pub machine: String,
    /// What the machine is there to show.
    pub about: Option<String>,
    /// Whether it expects anything.
    pub expects: bool,
    /// What came of it, for every role.
    pub report: Report,
    /// Where that is not what the machine expects, a sentence each.
    pub differences: Vec<String>,
}

impl Matrix {
    /// How many differences there are in all.
    pub fn differences(&self) -> usize {
        self.performances.iter().map(|one| one.differences.len()).sum()
    }
}

impl Rehearsal {
    /// Tries the guide on described machines.
    pub fn on(&self, machines: &[Described]) -> Matrix {
        self.of(machines.iter().filter_map(|machine| self.perform(machine)).collect())
    }

    /// What came of trying it on each machine, together.
    pub fn of(&self, performances: Vec<Performance>) -> Matrix {
        Matrix { guide: Arc::clone(&self.guide), performances }
    }

    /// Tries the guide on a described machine; `None` where its selection is of another guide.
    pub fn perform(&self, machine: &Described) -> Option<Performance> {
        let report = report_on(&self.guide, Selection::default(), machine)?;
        let mut differences = machine.differences(&report);
        differences.extend(machine.disagreements(Arc::clone(&self.guide)));
        Some(Performance {
            machine: machine.machine_name().to_owned(),
            about: machine.about().map(ToOwned::to_owned),
            expects: !machine.expected().is_empty() || !machine.expectations().is_empty(),
            report,
            differences,
        })
    }

    /// Tries the guide on a machine that was recorded, as it was chosen then; it expects nothing.
    pub fn perform_recorded(&self, name: &str, recording: &Recording) -> Option<Performance> {
        let report = report_on(&self.guide, Selection::default(), recording)?;
        Some(Performance { machine: name.to_owned(), about: None, expects: false, report, differences: Vec::new() })
    }

    /// The guide.
    pub fn guide(&self) -> &Arc<Guide> {
        &self.guide
    }
}
