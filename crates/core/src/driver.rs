//! The sans-I/O driver: hands out probes, takes observations in any order, and ends with a finding for each requirement.
//!
//! A thread pool, a described machine, a recording and a test all drive the same machine. A requirement moves on as soon as
//! *its* answers are in; there are no rounds.

use crate::assess::{place, sum_disks, values_set};
use crate::assessment::{Assessment, assess};
use crate::finding::{Finding, General};
use crate::fix::agreed;
use crate::guide::Guide;
use crate::guide_ports::GuidePorts;
use crate::inquiry::{Context, DISK_LEDGER, FoundVersions, VALUES};
use crate::known::Known;
use crate::ledger::DiskLedger;
use crate::manager::Manager;
use crate::observation::Observation;
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::settled::RequirementResult;
use alloc::collections::VecDeque;
use hashbrown::HashMap;

/// Whether a question is one that is answered at once: nobody is started or waited for.
fn is_quick(probe: &Probe) -> bool {
    matches!(probe.urgency(), 0 | 3) && manager_of(probe).is_none()
}

/// The package manager that a question goes to.
fn manager_of(probe: &Probe) -> Option<Manager> {
    if let Probe::Candidate { manager, .. } = probe { Some(*manager) } else { None }
}

/// What is answered at once is handed out in so many parts at least, so that nobody waits for one that holds all.
const PARTS: usize = 32;
/// And never more of it together than these.
const LARGEST_SHARE: usize = 32;

/// What a driver ends with.
#[derive(Debug)]
#[non_exhaustive]
pub struct Finished {
    /// What was learnt about the machine.
    pub known: Known,
    /// What came of each requirement that was begun, in the order of the guide.
    pub settled: Vec<RequirementResult>,
    /// The guide, as it is with the values that are set here.
    pub guide: Arc<Guide>,
    /// The index of the place where one is, of those that the guide names.
    pub place: Option<usize>,
}

/// The selection names something that the guide does not have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("the selection names a role, stage or requirement that this guide does not have")]
#[non_exhaustive]
pub struct NotInGuideError;

/// The state machine.
#[derive(Debug)]
pub struct Driver {
    guide: Arc<Guide>,
    selection: Selection,
    known: Known,
    settled: Vec<Option<RequirementResult>>,
    /// How many answers each requirement still waits for; `None` is: not asked for.
    open: Vec<Option<usize>>,
    ports: GuidePorts,
    versions: FoundVersions,
    ledger: Option<DiskLedger>,
    ledger_open: Option<usize>,
    /// How many answers the values of the guide still wait for.
    values_open: usize,
    /// What begins once they are known.
    selected: VecDeque<usize>,
    ready: VecDeque<usize>,
    /// The findings that were told already, since they are there and only their fixes are still to come.
    told: Vec<Option<Arc<Finding>>>,
    /// How many requirements are settled, and how many were begun: counted as it goes, since whoever shows progress asks often.
    done: usize,
    begun: usize,
    /// Findings that nobody was told of yet.
    news: Vec<(usize, Arc<Finding>)>,
    /// Probes to hand out, by urgency.
    queues: [VecDeque<Arc<Probe>>; 4],
    /// Questions to package managers, which are put together.
    for_managers: VecDeque<Arc<Probe>>,
    /// How many questions that are answered at once were handed out and not answered yet.
    quick: usize,
    /// The package managers that are being asked.
    asking: Vec<Manager>,
    /// Who waits for a probe that was asked and not yet answered.
    askers: HashMap<Arc<Probe>, Vec<usize>>,
    /// Who waits for the finding of a requirement.
    followers: HashMap<usize, Vec<usize>>,
}

impl Driver {
    /// A driver for a selection of a guide's requirements.
    ///
    /// # Errors
    /// When the selection names what the guide does not have.
    pub fn new(guide: impl Into<Arc<Guide>>, selection: Selection) -> Result<Self, NotInGuideError> {
        let guide: Arc<Guide> = guide.into();
        let count = guide.requirements.len();
        let right = selection.role.is_none_or(|role| role < guide.roles.len())
            && selection.stage.is_none_or(|stage| stage < guide.stages.len())
            && selection.only.iter().all(|index| *index < count);
        if !right {
            return Err(NotInGuideError);
        }
        let selected = |index: &usize| guide.requirements.get(*index).is_some_and(|one| selection.includes(one, *index));
        let ready: VecDeque<usize> = (0..count).filter(selected).collect();
        let mut open = vec![None; count];
        for index in &ready {
            if let Some(open) = open.get_mut(*index) {
                *open = Some(0);
            }
        }
        let ports = GuidePorts::of(&guide);
        let mut driver = Self {
            guide,
            selection,
            known: Known::default(),
            settled: vec![None; count],
            told: vec![None; count],
            open,
            ports,
            versions: FoundVersions::default(),
            ledger: None,
            ledger_open: None,
            values_open: 0,
            done: 0,
            begun: ready.len(),
            selected: ready,
            ready: VecDeque::new(),
            news: Vec::new(),
            queues: Default::default(),
            for_managers: VecDeque::new(),
            quick: 0,
            asking: Vec::new(),
            askers: HashMap::new(),
            followers: HashMap::new(),
        };
        // Every report says what machine it is about.
        for probe in [Probe::System, Probe::Surroundings] {
            driver.ask(probe, None);
        }
        driver.advance_values();
        Ok(driver)
    }

    /// The next question to put to the machine; none while answers must come first, or when all is done.
    pub fn next_probe(&mut self) -> Option<Arc<Probe>> {
        self.advance_ready();
        let mut next = self.queues.iter_mut().rev().find_map(VecDeque::pop_front);
        // One question to a manager costs as much as many: it waits until all that could be asked with it is known, and until the last one is
        // answered. Something else is being asked then, so that its turn comes.
        if next.is_none() && self.quick == 0 {
            let is_free = |probe: &Arc<Probe>| manager_of(probe).is_none_or(|manager| !self.asking.contains(&manager));
            next = self.for_managers.iter().position(is_free).and_then(|at| self.for_managers.remove(at));
        }
        match next.as_deref() {
            Some(probe) if is_quick(probe) => self.quick += 1,
            Some(probe) => self.asking.extend(manager_of(probe)),
            None => {}
        }
        next
    }

    fn end(&mut self, probe: &Probe) {
        if let Some(manager) = manager_of(probe) {
            if let Some(at) = self.asking.iter().position(|one| *one == manager) {
                self.asking.swap_remove(at);
            }
        } else if is_quick(probe) {
            self.quick = self.quick.saturating_sub(1);
        }
    }

    /// Takes the further questions that are best put together with this one: those that go to the same package manager, since one question of it costs
    /// as much as many; and of very many that are answered at once a share, since handing them out one by one would cost more than answering them.
    pub fn take_alike(&mut self, probe: &Probe) -> Vec<Arc<Probe>> {
        let Some(wanted) = manager_of(probe) else { return self.take_share(probe) };
        let all = core::mem::take(&mut self.for_managers);
        let (found, others): (Vec<_>, Vec<_>) = all.into_iter().partition(|one| manager_of(one) == Some(wanted));
        self.for_managers = others.into();
        self.asking.extend(found.iter().map(|_| wanted));
        found
    }

    fn take_share(&mut self, probe: &Probe) -> Vec<Arc<Probe>> {
        let [.., at_once] = &mut self.queues;
        if probe.urgency() != 3 {
            return Vec::new();
        }
        let share = (at_once.len() / PARTS).min(LARGEST_SHARE);
        self.quick += share;
        at_once.drain(..share).collect()
    }

    /// Whether there is a question to hand out now.
    pub fn has_questions(&self) -> bool {
        self.queues.iter().any(|queue| !queue.is_empty()) || !self.for_managers.is_empty()
    }

    /// Whether every requirement has its finding and nothing is asked any more.
    pub fn is_finished(&self) -> bool {
        self.ready.is_empty() && self.askers.is_empty()
    }

    /// How many requirements have their finding, of how many that were begun.
    pub fn progress(&self) -> (usize, usize) {
        (self.done, self.begun)
    }

    /// The findings that came since this was called last, each with the index of its requirement: as soon as it is there, while its fixes may
    /// still be looked for.
    pub fn take_news(&mut self) -> Vec<(usize, Arc<Finding>)> {
        core::mem::take(&mut self.news)
    }

    /// Takes an answer.
    pub fn answer(&mut self, probe: &Arc<Probe>, observation: Observation) {
        self.answer_timed(probe, observation, 0);
    }

    /// Takes an answer that took so many milliseconds.
    pub fn answer_timed(&mut self, probe: &Arc<Probe>, observation: Observation, elapsed_ms: u64) {
        self.end(probe);
        self.known.learn(Arc::clone(probe), observation, elapsed_ms);
        for index in self.askers.remove(probe).unwrap_or_default() {
            self.release(index);
        }
        self.advance_ready();
    }

    /// What came of every requirement that was begun, in the order of the guide. One that has no finding yet was interrupted, and is
    /// unknown.
    pub fn finish(mut self) -> Finished {
        self.advance_ready();
        for (index, fixes) in agreed(self.context()) {
            if let Some(Some(one)) = self.settled.get_mut(index) {
                one.fixes = fixes.into();
            }
        }
        let place = place(self.context());
        let begun = self.open.iter().enumerate().filter(|(_, open)| open.is_some());
        let settled = begun
            .map(|(index, _)| {
                let settled = self.settled.get_mut(index).and_then(Option::take);
                settled.unwrap_or_else(|| RequirementResult::new(index, Finding::new(General::Interrupted.into()), Vec::new()))
            })
            .collect();
        Finished { known: self.known, settled, guide: self.guide, place }
    }

    fn context(&self) -> Context<'_> {
        Context {
            guide: &self.guide,
            selection: &self.selection,
            known: &self.known,
            predicted: None,
            ahead: false,
            ports: &self.ports,
            versions: &self.versions,
            settled: &self.settled,
            disk_ledger: self.ledger.as_ref(),
        }
    }

    /// One answer less to wait for; the last one makes the requirement ready.
    fn release(&mut self, index: usize) {
        let open = match index {
            DISK_LEDGER => self.ledger_open.as_mut(),
            VALUES => Some(&mut self.values_open),
            _ => self.open.get_mut(index).and_then(Option::as_mut),
        };
        let Some(open) = open else { return };
        *open = open.saturating_sub(1);
        if *open == 0 {
            self.ready.push_back(index);
        }
    }

    fn advance_ready(&mut self) {
        while let Some(index) = self.ready.pop_front() {
            self.advance(index);
        }
    }

    fn advance(&mut self, index: usize) {
        match index {
            DISK_LEDGER => return self.advance_ledger(),
            VALUES => return self.advance_values(),
            _ => {}
        }
        if self.settled.get(index).is_none_or(Option::is_some) {
            return;
        }
        let found = self.told.get(index).and_then(Option::clone);
        match assess(self.context(), index, found.as_ref()) {
            Assessment::RequirementResult(settled) => {
                self.tell(index, &settled.finding);
                if let Some(slot) = self.settled.get_mut(index) {
                    *slot = Some(settled);
                    self.done += 1;
                }
                self.set_open(index, 0);
                self.release_followers(index);
            }
            Assessment::Ask { probes, requirements, finding } => {
                if let Some(finding) = finding {
                    self.tell(index, &finding);
                }
                self.set_open(index, probes.len() + requirements.len());
                for probe in probes {
                    self.ask(probe, Some(index));
                }
                for other in requirements {
                    self.follow(other, index);
                }
            }
        }
    }

    fn tell(&mut self, index: usize, finding: &Arc<Finding>) {
        if let Some(told) = self.told.get_mut(index).filter(|told| told.is_none()) {
            *told = Some(Arc::clone(finding));
            self.news.push((index, Arc::clone(finding)));
        }
    }

    fn set_open(&mut self, index: usize, count: usize) {
        if let Some(open) = self.open.get_mut(index) {
            *open = Some(count);
        }
    }

    fn release_followers(&mut self, index: usize) {
        for follower in self.followers.remove(&index).unwrap_or_default() {
            self.release(follower);
        }
    }

    fn follow(&mut self, leader: usize, follower: usize) {
        self.followers.entry(leader).or_default().push(follower);
        // A requirement that was not selected is begun when another one needs its finding.
        let begun =
            if leader == DISK_LEDGER { self.ledger_open.is_some() } else { self.open.get(leader).is_some_and(Option::is_some) };
        if !begun {
            if leader == DISK_LEDGER {
                self.ledger_open = Some(0);
            } else {
                self.set_open(leader, 0);
                self.begun += 1;
            }
            self.ready.push_back(leader);
        }
    }

    /// What the guide says depends on what its values are set to, so they come first.
    fn advance_values(&mut self) {
        match values_set(self.context()) {
            Ok(settings) => {
                if let Some(moved) = settings.and_then(|settings| self.guide.moved(&settings)) {
                    self.ports = GuidePorts::of(&moved);
                    self.guide = Arc::new(moved);
                }
                self.ready.append(&mut self.selected);
            }
            Err(probes) => {
                self.values_open = probes.len();
                for probe in probes {
                    self.ask(probe, Some(VALUES));
                }
            }
        }
    }

    fn advance_ledger(&mut self) {
        match sum_disks(self.context()) {
            Ok(ledger) => {
                self.ledger = Some(ledger);
                self.release_followers(DISK_LEDGER);
            }
            Err(probes) => {
                self.ledger_open = Some(probes.len());
                for probe in probes {
                    self.ask(probe, Some(DISK_LEDGER));
                }
            }
        }
    }

    fn ask(&mut self, probe: Probe, asker: Option<usize>) {
        if let Some(askers) = self.askers.get_mut(&probe) {
            askers.extend(asker);
            return;
        }
        if self.known.get(&probe).is_some() {
            if let Some(asker) = asker {
                self.release(asker);
            }
            return;
        }
        let probe = Arc::new(probe);
        if manager_of(&probe).is_some() {
            self.for_managers.push_back(Arc::clone(&probe));
        } else if let Some(queue) = self.queues.get_mut(usize::from(probe.urgency())) {
            queue.push_back(Arc::clone(&probe));
        }
        self.askers.insert(probe, asker.into_iter().collect());
    }
}

#[cfg(test)]
mod tests;
