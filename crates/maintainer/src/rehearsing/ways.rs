//! The ways in which newcomers can fail, each on a machine that was made for it, and where the advice leads.

use super::baseline::roomy_machine;
use super::faults::make;
use super::machine_builder::MachineBuilder;
use super::satisfy::{SAYINGS, Wanted, meet};
use setup_ready_core::cause::Cause;
use setup_ready_core::fix::Fix;
use setup_ready_core::guide::{Guide, Requirement, Subject};
use setup_ready_core::observation::Os;
use setup_ready_core::rehearsal::{Untried, Way, Ways};
use setup_ready_core::report::Report;
use setup_ready_core::selection::Selection;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::verdict::Verdict;
use setup_ready_observe::{Host, Preflight};
use std::collections::BTreeSet;
use std::path::Path;
use std::sync::Arc;

/// So long a file that says a version may be.
const MOST_PIN_BYTES: u64 = 1 << 20;

impl Rehearsal {
    /// A rehearsal of a guide; `folder` is where it lies, whose files may say versions.
    pub fn new(guide: impl Into<Arc<Guide>>, folder: &Path) -> Self {
        let guide = guide.into();
        let pins = pins(&guide, folder);
        Self { guide, pins }
    }

    /// The systems that are rehearsed: those that the guide promises, or Linux.
    pub fn systems(&self) -> Vec<Os> {
        let promised = &self.guide.project.systems;
        if promised.is_empty() { vec![Os::Linux] } else { Os::ALL.into_iter().filter(|os| promised.contains(os)).collect() }
    }

    /// Every way to fail that can be made: for each requirement, each promised system and each cause that can happen there, a machine on which all is
    /// met but that. What the newcomer is advised is done to the machine, where that can be described, and the machine is assessed again.
    ///
    /// ```
    /// use setup_ready_core::guide;
    /// use setup_ready_maintainer::Rehearsal;
    ///
    /// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.dialout]\ngroup = \"dialout\"\n").unwrap();
    /// let ways = Rehearsal::new(&guide, std::path::Path::new(".")).ways(&|_| {});
    /// assert_eq!(ways.summary(), "3 ways to fail: 3 end in a fix that cures, 0 end in a command whose result cannot be foretold, 0 end in words only, 0 end in nothing to do.");
    /// ```
    pub fn ways(&self, on_progress: &dyn Fn(usize)) -> Ways {
        let mut all = Ways::default();
        for (index, requirement) in self.guide.requirements.iter().enumerate() {
            for os in self.systems() {
                self.of_requirement((index, requirement), os, &mut all);
            }
            on_progress(index + 1);
        }
        all
    }

    fn of_requirement(&self, (index, requirement): (usize, &Requirement), os: Os, all: &mut Ways) {
        let trial = Trial { rehearsal: self, index, requirement, os };
        let Some((sketch, wanted, base)) = trial.whole() else { return };
        match base.verdict {
            Verdict::Met => {}
            Verdict::Skipped => return,
            Verdict::Unmet | Verdict::Unknown | Verdict::Blocked => {
                all.untried.push(Untried::new(index, os, base.message));
                return;
            }
        }
        let kind = requirement.subject.kind();
        for cause in Cause::ALL.iter().copied().filter(|cause| kind.can_have(*cause)) {
            let mut broken = sketch.clone();
            if make(&mut broken, wanted, cause).is_err() {
                continue;
            }
            let Some(report) = trial.assess(&broken) else { continue };
            let Some(settled) = report.settled_at(index).filter(|settled| settled.finding.cause() == Some(cause)) else {
                continue;
            };
            let cured = settled.fixes.first().is_some_and(|fix| trial.cures(&broken, wanted, fix));
            all.ways.extend(Way::of(&self.guide, settled, os, report.message(settled), cured));
        }
    }
}

/// A guide that is to be tried before newcomers meet it.
#[derive(Debug, Clone)]
pub struct Rehearsal {
    pub(super) guide: Arc<Guide>,
    /// The files that `version_from` names, with their texts.
    pins: Vec<(String, String)>,
}

/// One requirement on one system.
struct Trial<'r> {
    rehearsal: &'r Rehearsal,
    index: usize,
    requirement: &'r Requirement,
    os: Os,
}

/// What the requirement comes to.
struct Come {
    verdict: Verdict,
    message: String,
}

impl<'r> Trial<'r> {
    /// A machine on which the requirement, and whatever it waits for, is met; or the one that comes nearest.
    fn whole(&self) -> Option<(MachineBuilder, Wanted<'r>, Come)> {
        let sayings = if matches!(self.requirement.subject, Subject::Tool(_)) { SAYINGS.len() } else { 1 };
        let mut nearest = None;
        for saying in 0..sayings {
            let mut sketch = roomy_machine(self.os);
            let wanted = Wanted {
                guide: &self.rehearsal.guide,
                requirement: self.requirement,
                os: self.os,
                pins: &self.rehearsal.pins,
                saying,
            };
            for index in self.closure() {
                if let Some(requirement) = self.rehearsal.guide.requirements.get(index).filter(|_| index != self.index) {
                    self.meet_another(&mut sketch, Wanted { requirement, saying: 0, ..wanted });
                }
            }
            meet(&mut sketch, wanted);
            let report = self.assess(&sketch)?;
            let settled = report.settled_at(self.index)?;
            let come = Come { verdict: settled.finding.verdict(), message: report.message(settled) };
            let met = matches!(come.verdict, Verdict::Met | Verdict::Skipped);
            if met || nearest.is_none() {
                nearest = Some((sketch, wanted, come));
            }
            if met {
                break;
            }
        }
        nearest
    }

    /// What another requirement needs, said as its program says it.
    fn meet_another(&self, sketch: &mut MachineBuilder, wanted: Wanted<'_>) {
        let sayings = if matches!(wanted.requirement.subject, Subject::Tool(_)) { SAYINGS.len() } else { 1 };
        let index = self.rehearsal.guide.find(&wanted.requirement.id).unwrap_or_default();
        for saying in 0..sayings {
            let mut with = sketch.clone();
            meet(&mut with, Wanted { saying, ..wanted });
            let met = self
                .assess_of(&with, index)
                .is_some_and(|report| report.settled_at(index).is_some_and(|one| one.finding.verdict() == Verdict::Met));
            if met || saying + 1 == sayings {
                *sketch = with;
                return;
            }
        }
    }

    /// The requirement and all that it waits for, the first of them first.
    fn closure(&self) -> Vec<usize> {
        let guide = &self.rehearsal.guide;
        let mut found = BTreeSet::new();
        let mut open = vec![self.index];
        while let Some(index) = open.pop() {
            let Some(requirement) = guide.requirements.get(index).filter(|_| found.insert(index)) else { continue };
            open.extend(requirement.after.iter().chain(&requirement.needs));
            match &requirement.subject {
                Subject::AnyOf(any) => open.extend(&any.alternatives),
                Subject::Component(component) => open.extend(component.of),
                Subject::Variable(variable) => open.extend(variable.of),
                // They share the disk.
                Subject::Disk(_) => {
                    let is_disk = |one: &Requirement| matches!(one.subject, Subject::Disk(_));
                    open.extend((0..guide.requirements.len()).filter(|at| guide.requirements.get(*at).is_some_and(is_disk)));
                }
                _ => {}
            }
        }
        found.into_iter().collect()
    }

    fn assess(&self, sketch: &MachineBuilder) -> Option<Report> {
        self.assess_of(sketch, self.index)
    }

    fn assess_of(&self, sketch: &MachineBuilder, index: usize) -> Option<Report> {
        let machine = sketch.machine().ok()?;
        let only = if matches!(self.requirement.subject, Subject::Disk(_)) { self.closure() } else { vec![index] };
        let selection = Selection { only, after_start: true, ..Selection::default() };
        report_on(&self.rehearsal.guide, selection, &machine)
    }

    /// Whether the advice, done to the machine, meets the requirement.
    fn cures(&self, broken: &MachineBuilder, wanted: Wanted<'_>, fix: &Fix) -> bool {
        if fix.is_foreseen() {
            // The engine has assessed what would be known then, and offers only what meets it.
            return true;
        }
        let Some(after) = super::apply_fix::after(broken, wanted, fix) else { return false };
        let is_met = |settled: &RequirementResult| settled.finding.verdict() == Verdict::Met;
        self.assess(&after).is_some_and(|report| report.settled_at(self.index).is_some_and(is_met))
    }
}

/// A preflight of a machine by one thread: there is nothing to wait for.
pub(super) fn report_on(guide: &Arc<Guide>, selection: Selection, machine: &dyn Host) -> Option<Report> {
    Preflight::new(Arc::clone(guide)).select(selection).jobs(1).run(machine).ok()
}

/// What the files say that `version_from` names.
fn pins(guide: &Guide, folder: &Path) -> Vec<(String, String)> {
    let named = guide.requirements.iter().filter_map(|requirement| match &requirement.subject {
        Subject::Tool(tool) => tool.version_from.as_ref().map(|from| from.file.clone()),
        _ => None,
    });
    let files: BTreeSet<String> = named.collect();
    let read = |name: String| {
        let path = folder.join(&name);
        let plain = std::fs::symlink_metadata(&path).is_ok_and(|known| known.is_file() && known.len() <= MOST_PIN_BYTES);
        let text = if plain { std::fs::read_to_string(&path).ok()? } else { return None };
        Some((name, text))
    };
    files.into_iter().filter_map(read).collect()
}
