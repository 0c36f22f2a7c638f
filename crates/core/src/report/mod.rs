//! Everything of one preflight, as the formats are written from it.

mod json;
mod problem;
mod roots;

use crate::driver::Finished;
use crate::elsewhere::PlaceReport;
use crate::finding::{LeftOut, Verdict};
use crate::fix::Shell;
use crate::guide::{Guide, Level, Requirement, WorkPlace};
use crate::known::{Answer, Known};
use crate::observation::{Observation, Surroundings, System};
use crate::plan::Plan;
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::settled::RequirementResult;
use crate::words::Words;
use roots::Roots;
use serde::Serialize;

#[cfg(feature = "schema")]
pub use json::schema;
pub use problem::ReportProblem;

/// Where the machine's answers came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum MachineSource {
    /// This machine.
    Live,
    /// A described machine.
    Described,
    /// A recording.
    Recording,
}

/// How the whole of it came out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Outcome {
    /// Every `must` is met.
    Ready,
    /// At least one `must` is not met.
    NotReady,
    /// No `must` is unmet, but at least one is unknown, or was left out because it needs the network.
    Undecided,
    /// Every `must` that belongs here is met; others belong into another place, and nothing is known of them.
    ReadyHere,
    /// Every `must` that was asked for is met; others of the guide were not asked for, and nothing is known of them.
    ReadyInPart,
}

impl Outcome {
    /// Whether all that was asked for here is met. Of [`Outcome::ReadyHere`] that is not said: other places remain.
    pub fn is_ready(self) -> bool {
        matches!(self, Self::Ready | Self::ReadyInPart)
    }

    /// The exit status that a program should end with: 0 ready, 1 not ready, 3 undecided. 2 is left for wrong use, as POSIX shells have it.
    pub fn exit_status(self) -> u8 {
        match self {
            Self::Ready | Self::ReadyInPart => 0,
            Self::NotReady => 1,
            Self::Undecided | Self::ReadyHere => 3,
        }
    }
}

/// A place of the guide that is not here.
#[derive(Debug)]
#[non_exhaustive]
pub struct OtherPlace<'r> {
    /// The place.
    pub place: &'r WorkPlace,
    /// What is to be checked there, and nobody told how it stands.
    pub remaining: Vec<&'r RequirementResult>,
    /// What was found there.
    pub told: Option<&'r PlaceReport>,
}

/// What the caller adds to what the driver found.
#[derive(Debug, Clone)]
pub struct ReportMetadata {
    /// The version of the software.
    pub software: String,
    /// Where the guide was read from.
    pub guide_path: Option<String>,
    /// The SHA-256 of the guide, in hexadecimal digits.
    pub guide_sha256: Option<String>,
    /// Where the answers came from.
    pub source: MachineSource,
    /// The machine's name, where it has one.
    pub machine_name: Option<String>,
    /// When the preflight started, by RFC 3339.
    pub started: String,
    /// How long it took, in milliseconds.
    pub elapsed_ms: u64,
    /// It was interrupted before all was known.
    pub interrupted: bool,
    /// A random word by which two reports of one machine can be told to be that, where the person asked for one.
    pub id: Option<String>,
}

/// One preflight. It shares its guide, so that it can be returned and kept.
#[derive(Debug)]
#[non_exhaustive]
pub struct Report {
    /// The guide.
    pub guide: Arc<Guide>,
    /// The index of the role, where one was chosen.
    pub role: Option<usize>,
    /// The index of the stage, where one was chosen.
    pub stage: Option<usize>,
    /// The index of the place where one is, of those that the guide names.
    pub place: Option<usize>,
    /// What was chosen to be checked, as the machine took it.
    pub selection: Selection,
    /// What was found in other places.
    pub elsewhere: Vec<PlaceReport>,
    /// What the caller added.
    pub frame: ReportMetadata,
    /// The system, where it is known.
    pub system: Option<System>,
    /// Where the system runs, where it is known.
    pub surroundings: Option<Surroundings>,
    /// What came of each requirement that was asked for, in the order of the guide.
    pub settled: Vec<RequirementResult>,
    /// What to do.
    pub plan: Plan,
    /// The shell that commands are written for.
    pub shell: Shell,
    /// Whether the person has admin rights, where it is known.
    pub rights: Option<bool>,
    /// What to send to whoever looks after this machine, a line each, where the person has no admin rights: all that needs them.
    pub request: Vec<String>,
    /// All that was learnt about the machine.
    pub known: Known,
    roots: Roots,
}

/// How many requirements have each verdict.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct Counts {
    /// Met.
    pub met: usize,
    /// Not met.
    pub unmet: usize,
    /// Could not be found out.
    pub unknown: usize,
    /// Waiting for another.
    pub blocked: usize,
    /// Do not apply.
    pub skipped: usize,
}

/// What many wait for is not followed any further for one sentence.
const MOST_WAITING: usize = 1_000;

impl Report {
    /// Puts a report together.
    pub fn new(role: Option<usize>, frame: ReportMetadata, finished: Finished) -> Self {
        let Finished { known, settled, guide, place } = finished;
        let observed = |probe: &Probe| known.get(probe).map(|answer| &*answer.observation);
        let system = match observed(&Probe::System) {
            Some(Observation::System(system)) => Some(system.clone()),
            _ => None,
        };
        let surroundings = match observed(&Probe::Surroundings) {
            Some(Observation::Surroundings(surroundings)) => Some(surroundings.clone()),
            _ => None,
        };
        let account = match observed(&Probe::Account) {
            Some(Observation::Account(account)) => Some(account),
            _ => None,
        };
        let shell = account.and_then(|account| account.shell.as_deref());
        let shell = Shell::of(shell, system.as_ref().map(|system| system.os));
        let rights = account.and_then(|account| account.admin);
        let plan = crate::plan::make(&guide, &settled, rights);
        let roots = Roots::of(guide.requirements.len(), &settled);
        let user = account.and_then(|account| account.name.as_deref());
        let request = if rights == Some(false) { crate::words::request(&guide, &plan, user) } else { Vec::new() };
        Self {
            guide,
            role,
            stage: None,
            place,
            selection: Selection::default(),
            elsewhere: Vec::new(),
            request,
            frame,
            system,
            surroundings,
            settled,
            plan,
            shell,
            rights,
            known,
            roots,
        }
    }

    /// The requirement that a result is about.
    pub fn requirement(&self, settled: &RequirementResult) -> Option<&Requirement> {
        self.guide.requirements.get(settled.index)
    }

    /// What came of the requirement with this index.
    pub fn settled_at(&self, index: usize) -> Option<&RequirementResult> {
        self.settled.get(self.roots.position(index)?)
    }

    /// What came of the requirement with this id.
    pub fn settled_of(&self, id: &str) -> Option<&RequirementResult> {
        self.settled_at(self.guide.find(id)?)
    }

    /// The sentences about a result.
    pub fn words<'r>(&'r self, settled: &'r RequirementResult) -> Option<Words<'r>> {
        Some(Words::new(&self.guide, self.requirement(settled)?, &settled.finding, self.shell))
    }

    /// What a result says to a person, in a sentence or two.
    pub fn message(&self, settled: &RequirementResult) -> String {
        self.words(settled).map(|words| words.message()).unwrap_or_default()
    }

    /// What came of the alternatives of a finding, in its order: the cheapest to settle first.
    pub fn alternatives<'r>(&'r self, settled: &'r RequirementResult) -> impl Iterator<Item = &'r RequirementResult> {
        settled.finding.alternatives().iter().filter_map(|index| self.settled_at(*index))
    }

    /// What waits for this one, directly.
    pub fn waiting_for<'r>(&'r self, settled: &RequirementResult) -> impl Iterator<Item = &'r RequirementResult> {
        self.roots.followers(settled.index).iter().filter_map(|at| self.settled.get(*at))
    }

    /// What waits for this one at any distance: in the order in which it is reached, each once, and a thousand of them at most.
    pub fn all_waiting_for<'r>(&'r self, settled: &RequirementResult) -> Vec<&'r RequirementResult> {
        let mut found: Vec<&RequirementResult> = Vec::new();
        let mut seen: hashbrown::HashSet<usize> = core::iter::once(settled.index).collect();
        let mut from = settled.index;
        for at in 0.. {
            let followers = self.roots.followers(from).iter().filter_map(|at| self.settled.get(*at));
            found.extend(followers.filter(|one| seen.insert(one.index)).take(MOST_WAITING));
            let Some(next) = found.get(at).filter(|_| found.len() < MOST_WAITING) else { break };
            from = next.index;
        }
        found
    }

    /// How one sees by oneself that a step has worked; `None` where only another check tells.
    pub fn success_check(&self, step: &crate::plan::Step) -> Option<String> {
        // Newer lists settle nothing by themselves.
        if step.fix.part.as_ref().is_some_and(|part| matches!(part.of, crate::fix::Whole::Lists(..))) {
            return None;
        }
        // What lets others take effect, and says no more.
        if !step.fix.acts() && step.fix.then.is_some() {
            return None;
        }
        let requirements = step.settles.iter().filter_map(|index| self.guide.requirements.get(*index));
        crate::words::success_check(requirements, step.fix.then, self.shell)
    }

    /// Of a report that is for no role, and about all that the guide has: the outcome for each role alone.
    pub fn outcomes_by_role(&self) -> Vec<(usize, Outcome)> {
        if self.role.is_some() || self.settled.len() < self.guide.requirements.len() {
            return Vec::new();
        }
        (0..self.guide.roles.len()).map(|role| (role, self.outcome_for(Some(role)))).collect()
    }

    /// What several findings rest on together: the room at all places that disks are needed at. Empty where nothing is shared.
    pub fn shared_evidence(&self) -> &[Answer] {
        self.settled.iter().find_map(|one| one.finding.shared_evidence.as_deref()).unwrap_or_default()
    }

    /// What came of the requirements that count by themselves: not of alternatives, for which their `any_of` speaks.
    pub fn counting(&self) -> impl Iterator<Item = &RequirementResult> {
        self.settled.iter().filter(|one| self.requirement(one).is_some_and(|requirement| !requirement.alternative))
    }

    /// How many have each verdict, of those that count by themselves.
    pub fn counts(&self) -> Counts {
        let mut counts = Counts::default();
        for one in self.counting() {
            match one.finding.verdict() {
                Verdict::Met => counts.met += 1,
                Verdict::Unmet => counts.unmet += 1,
                Verdict::Unknown => counts.unknown += 1,
                Verdict::Blocked => counts.blocked += 1,
                Verdict::Skipped => counts.skipped += 1,
            }
        }
        counts
    }

    /// The places of the guide that are not here, and for which something remains to be checked or was told: each with what remains.
    pub fn other_places(&self) -> Vec<OtherPlace<'_>> {
        let remaining = |index: usize| {
            let left = self.counting().filter(move |one| self.place_of(one) == Some(index));
            left.filter(move |one| self.told(one).is_none()).collect::<Vec<&RequirementResult>>()
        };
        let state = |(index, place)| OtherPlace {
            place,
            remaining: remaining(index),
            told: self.elsewhere.iter().find(|told| told.place == index),
        };
        self.guide.places.iter().enumerate().map(state).filter(|one| !one.remaining.is_empty() || one.told.is_some()).collect()
    }

    /// The place that a requirement is checked in, where that is not here.
    fn place_of(&self, settled: &RequirementResult) -> Option<usize> {
        self.requirement(settled)?.place.filter(|_| settled.finding.left_out() == Some(LeftOut::OtherPlace))
    }

    /// What was found about it in another place.
    fn told(&self, settled: &RequirementResult) -> Option<Verdict> {
        let place = self.place_of(settled)?;
        self.elsewhere.iter().find(|told| told.place == place)?.verdicts.get(&settled.index).copied()
    }

    /// How the whole of it came out. What is blocked counts as that which it waits for.
    pub fn outcome(&self) -> Outcome {
        self.outcome_for(self.role)
    }

    fn outcome_for(&self, role: Option<usize>) -> Outcome {
        let counts = |one: &&RequirementResult| {
            self.requirement(one).is_some_and(|requirement| requirement.level == Level::Must && requirement.concerns(role))
        };
        let musts = self.counting().filter(counts);
        let mut outcome = Outcome::Ready;
        for one in musts {
            let here = self.place_of(one).is_none().then(|| self.roots.verdict(one));
            // What belongs to no place must hold in every place from which something was told.
            let there = self.elsewhere.iter().filter_map(|told| told.verdicts.get(&one.index).copied());
            let mut any = false;
            for verdict in here.into_iter().chain(there) {
                any = true;
                match verdict {
                    Verdict::Skipped if one.finding.left_out() == Some(LeftOut::Offline) => outcome = Outcome::Undecided,
                    Verdict::Unmet => return Outcome::NotReady,
                    Verdict::Unknown | Verdict::Blocked => outcome = Outcome::Undecided,
                    Verdict::Met | Verdict::Skipped => {}
                }
            }
            if !any && outcome == Outcome::Ready {
                outcome = Outcome::ReadyHere;
            }
        }
        if outcome == Outcome::Ready && self.not_asked() > 0 { Outcome::ReadyInPart } else { outcome }
    }

    /// How many needed requirements of the guide were not asked for, by what was chosen: those of other roles, and those that wait until the project
    /// runs, are nobody's to ask for here.
    pub fn not_asked(&self) -> usize {
        let later = |requirement: &Requirement| {
            !self.selection.after_start && self.guide.stages.get(requirement.stage).is_some_and(|stage| stage.after_start)
        };
        let needed = |requirement: &Requirement| {
            requirement.level == Level::Must && !requirement.alternative && requirement.concerns(self.role) && !later(requirement)
        };
        let all = self.guide.requirements.iter().enumerate();
        all.filter(|(index, requirement)| needed(requirement) && !self.selection.includes(requirement, *index)).count()
    }

    /// What is needed, and was left out because it needs the network.
    pub fn left_for_the_network(&self) -> impl Iterator<Item = &RequirementResult> {
        self.counting().filter(|one| {
            one.finding.left_out() == Some(LeftOut::Offline)
                && self.requirement(one).is_some_and(|requirement| requirement.level == Level::Must)
        })
    }

    /// The machine's flags that hold.
    pub fn flags(&self) -> Vec<&'static str> {
        let Some(around) = &self.surroundings else { return Vec::new() };
        let all = [
            (around.wsl, "wsl"),
            (around.container, "container"),
            (around.virtual_machine, "virtual-machine"),
            (around.ci, "ci"),
        ];
        all.into_iter().filter(|(holds, _)| *holds == Some(true)).map(|(_, word)| word).collect()
    }
}

#[cfg(test)]
mod tests;
