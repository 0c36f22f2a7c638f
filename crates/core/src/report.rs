//! Everything of one preflight, as the formats are written from it. The field names of its JSON are fixed.

use crate::cause::Cause;
use crate::driver::Settled;
use crate::finding::{Finding, Verdict};
use crate::fix::{Fix, Shell};
use crate::guide::{Edit, Guide, Level, Requirement, Then};
use crate::known::{Answer, Known};
use crate::observation::{Observation, Surroundings, System};
use crate::plan::{Plan, Step};
use crate::prelude::*;
use crate::probe::Probe;
use serde::{Serialize, Serializer};

/// Where the machine's answers came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
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
#[serde(rename_all = "kebab-case")]
pub enum Outcome {
    /// Every `must` is met.
    Ready,
    /// At least one `must` is not met.
    NotReady,
    /// No `must` is unmet, but at least one is unknown.
    Undecided,
}

/// What the caller adds to what the driver found.
#[derive(Debug, Clone)]
pub struct Frame {
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
}

/// One preflight.
#[derive(Debug)]
pub struct Report<'g> {
    /// The guide.
    pub guide: &'g Guide,
    /// The index of the role, where one was chosen.
    pub role: Option<usize>,
    /// What the caller added.
    pub frame: Frame,
    /// The system, where it is known.
    pub system: Option<System>,
    /// Where the system runs, where it is known.
    pub surroundings: Option<Surroundings>,
    /// What came of each requirement that was asked for, in the order of the guide.
    pub settled: Vec<Settled>,
    /// What to do.
    pub plan: Plan,
    /// The shell that commands are written for.
    pub shell: Shell,
    /// Whether the person has admin rights, where it is known.
    pub rights: Option<bool>,
}

/// How many requirements have each verdict.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
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

impl<'g> Report<'g> {
    /// Puts a report together.
    pub fn new(guide: &'g Guide, role: Option<usize>, frame: Frame, known: &Known, settled: Vec<Settled>) -> Self {
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
        let plan = crate::plan::make(guide, &settled, rights);
        Self { guide, role, frame, system, surroundings, settled, plan, shell, rights }
    }

    /// The requirement that a result is about.
    pub fn requirement(&self, settled: &Settled) -> Option<&'g Requirement> {
        self.guide.requirements.get(settled.index)
    }

    /// What came of the alternatives of a finding, in its order: the cheapest to settle first.
    pub fn alternatives<'a>(&'a self, finding: &'a Finding) -> impl Iterator<Item = &'a Settled> {
        finding.alternatives.iter().filter_map(|index| self.settled.iter().find(|other| other.index == *index))
    }

    /// What came of the requirements that count by themselves: not of alternatives, for which their `any_of` speaks.
    pub fn counting(&self) -> impl Iterator<Item = &Settled> {
        self.settled.iter().filter(|one| self.requirement(one).is_some_and(|requirement| !requirement.alternative))
    }

    /// How many have each verdict, of those that count by themselves.
    pub fn counts(&self) -> Counts {
        let mut counts = Counts::default();
        for one in self.counting() {
            match one.finding.verdict {
                Verdict::Met => counts.met += 1,
                Verdict::Unmet => counts.unmet += 1,
                Verdict::Unknown => counts.unknown += 1,
                Verdict::Blocked => counts.blocked += 1,
                Verdict::Skipped => counts.skipped += 1,
            }
        }
        counts
    }

    /// How the whole of it came out. What is blocked counts as that which it waits for.
    pub fn outcome(&self) -> Outcome {
        let musts =
            self.counting().filter(|one| self.requirement(one).is_some_and(|requirement| requirement.level == Level::Must));
        let mut outcome = Outcome::Ready;
        for one in musts {
            match self.root_verdict(one, 0) {
                Verdict::Unmet => return Outcome::NotReady,
                Verdict::Unknown | Verdict::Blocked => outcome = Outcome::Undecided,
                Verdict::Met | Verdict::Skipped => {}
            }
        }
        outcome
    }

    fn root_verdict(&self, one: &Settled, depth: usize) -> Verdict {
        if one.finding.verdict != Verdict::Blocked || depth > self.settled.len() {
            return one.finding.verdict;
        }
        let roots = one.finding.blocked_by.iter().filter_map(|index| self.settled.iter().find(|other| other.index == *index));
        let verdicts: Vec<Verdict> = roots.map(|root| self.root_verdict(root, depth + 1)).collect();
        if verdicts.contains(&Verdict::Unmet) { Verdict::Unmet } else { Verdict::Blocked }
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

#[derive(Serialize)]
struct JsonReport<'r> {
    format: u32,
    software: &'r str,
    project: &'r str,
    guide: JsonGuide<'r>,
    machine: JsonMachine<'r>,
    role: Option<&'r str>,
    started: &'r str,
    elapsed_ms: u64,
    outcome: Outcome,
    interrupted: bool,
    counts: Counts,
    requirements: JsonRequirements<'r>,
    plan: JsonPlan<'r>,
}

#[derive(Serialize)]
struct JsonGuide<'r> {
    path: Option<&'r str>,
    sha256: Option<&'r str>,
}

#[derive(Serialize)]
struct JsonMachine<'r> {
    source: MachineSource,
    name: Option<&'r str>,
    os: Option<&'static str>,
    os_version: Option<&'r str>,
    distro: Option<&'r str>,
    distro_version: Option<&'r str>,
    arch: Option<&'r str>,
    flags: Vec<&'static str>,
}

#[derive(Serialize)]
struct JsonRequirement<'r> {
    id: &'r str,
    stage: &'r str,
    kind: &'static str,
    level: &'static str,
    title: String,
    verdict: Verdict,
    cause: Option<Cause>,
    found: Option<&'r str>,
    wanted: Option<&'r str>,
    message: &'r str,
    why: Option<&'r str>,
    evidence: JsonEvidences<'r>,
    blocked_by: Vec<&'r str>,
    alternatives: Vec<&'r str>,
    is_alternative: bool,
    fixes: JsonFixes<'r>,
    elapsed_ms: u64,
}

/// Lists are written as they are walked, so that a large report needs no copy of itself.
struct JsonRequirements<'r>(&'r Report<'r>);

impl Serialize for JsonRequirements<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.settled.iter().filter_map(|one| self.0.json_requirement(one)))
    }
}

struct JsonEvidences<'r>(&'r [Answer]);

impl Serialize for JsonEvidences<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.iter().map(JsonEvidence))
    }
}

struct JsonFixes<'r>(&'r [Fix]);

impl Serialize for JsonFixes<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.iter().map(JsonFix::new))
    }
}

struct JsonEvidence<'r>(&'r Answer);

impl Serialize for JsonEvidence<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        use serde::ser::SerializeStruct;
        let mut evidence = serializer.serialize_struct("Evidence", 2)?;
        evidence.serialize_field("asked", &Shown(&*self.0.probe))?;
        evidence.serialize_field("saw", &Shown(&*self.0.observation))?;
        evidence.end()
    }
}

struct Shown<'r, T>(&'r T);

impl<T: core::fmt::Display> Serialize for Shown<'_, T> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self.0)
    }
}

#[derive(Serialize)]
struct JsonFix<'r> {
    say: &'r str,
    run: &'r [String],
    edit: Option<JsonEdit<'r>>,
    admin: bool,
    then: Option<&'static str>,
    caution: Option<&'r str>,
    choice: Option<&'r str>,
    download_bytes: Option<u64>,
    takes_s: Option<u64>,
    source: &'static str,
}

#[derive(Serialize)]
struct JsonEdit<'r> {
    file: &'r str,
    append: &'r str,
}

#[derive(Serialize)]
struct JsonPlan<'r> {
    steps: Vec<JsonStep<'r>>,
    download_bytes: u64,
    takes_s: u64,
    steps_of_unknown_cost: usize,
    then: Vec<&'static str>,
}

#[derive(Serialize)]
struct JsonStep<'r> {
    say: &'r str,
    run: &'r [String],
    edit: Option<JsonEdit<'r>>,
    settles: Vec<&'r str>,
    level: &'static str,
    admin: bool,
    then: Option<&'static str>,
    caution: Option<&'r str>,
    choice: Option<&'r str>,
    download_bytes: Option<u64>,
    takes_s: Option<u64>,
}

fn json_edit(edit: Option<&Edit>) -> Option<JsonEdit<'_>> {
    edit.map(|edit| JsonEdit { file: &edit.file, append: &edit.append })
}

impl<'r> JsonFix<'r> {
    fn new(fix: &'r Fix) -> Self {
        Self {
            say: &fix.say,
            run: &fix.run,
            edit: json_edit(fix.edit.as_ref()),
            admin: fix.admin,
            then: fix.then.map(Then::word),
            caution: fix.caution.as_deref(),
            choice: fix.choice.as_deref(),
            download_bytes: fix.download_bytes,
            takes_s: fix.takes_ms.map(|ms| ms.div_ceil(1_000)),
            source: fix.source.word(),
        }
    }
}

impl Report<'_> {
    fn id(&self, index: usize) -> Option<&str> {
        self.guide.requirements.get(index).map(|requirement| requirement.id.as_str())
    }

    fn json_requirement<'r>(&'r self, one: &'r Settled) -> Option<JsonRequirement<'r>> {
        let requirement = self.requirement(one)?;
        let finding = &one.finding;
        Some(JsonRequirement {
            id: &requirement.id,
            stage: self.guide.stages.get(requirement.stage).map_or("", |stage| &stage.id),
            kind: requirement.subject.kind(),
            level: requirement.level.word(),
            title: requirement.title(),
            verdict: finding.verdict,
            cause: finding.cause,
            found: finding.found.as_deref(),
            wanted: finding.wanted.as_deref(),
            message: &finding.message,
            why: requirement.why.as_deref(),
            evidence: JsonEvidences(&finding.evidence),
            alternatives: finding.alternatives.iter().filter_map(|index| self.id(*index)).collect(),
            is_alternative: requirement.alternative,
            blocked_by: finding.blocked_by.iter().filter_map(|index| self.id(*index)).collect(),
            fixes: JsonFixes(&one.fixes),
            elapsed_ms: finding.evidence.iter().map(|answer| answer.elapsed_ms).sum(),
        })
    }

    fn json_plan(&self) -> JsonPlan<'_> {
        JsonPlan {
            steps: self.plan.steps.iter().map(|step| self.json_step(step)).collect(),
            download_bytes: self.plan.download_bytes,
            takes_s: self.plan.takes_ms.div_ceil(1_000),
            steps_of_unknown_cost: self.plan.steps_of_unknown_cost,
            then: self.plan.then.iter().map(|then| then.word()).collect(),
        }
    }

    /// The plan by itself, with what it is for, to be serialised.
    pub fn plan_alone(&self) -> impl Serialize + '_ {
        #[derive(Serialize)]
        struct Alone<'r> {
            format: u32,
            software: &'r str,
            project: &'r str,
            role: Option<&'r str>,
            outcome: Outcome,
            plan: JsonPlan<'r>,
        }
        Alone {
            format: 1,
            software: &self.frame.software,
            project: &self.guide.project.name,
            role: self.role.and_then(|role| self.guide.roles.get(role)).map(|role| role.id.as_str()),
            outcome: self.outcome(),
            plan: self.json_plan(),
        }
    }

    fn json_step<'r>(&'r self, step: &'r Step) -> JsonStep<'r> {
        JsonStep {
            say: &step.fix.say,
            run: &step.fix.run,
            edit: json_edit(step.fix.edit.as_ref()),
            settles: step.settles.iter().filter_map(|index| self.id(*index)).collect(),
            level: step.level.word(),
            admin: step.fix.admin,
            then: step.fix.then.map(Then::word),
            caution: step.fix.caution.as_deref(),
            choice: step.fix.choice.as_deref(),
            download_bytes: step.fix.download_bytes,
            takes_s: step.fix.takes_ms.map(|ms| ms.div_ceil(1_000)),
        }
    }
}

impl Serialize for Report<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let frame = &self.frame;
        let system = self.system.as_ref();
        JsonReport {
            format: 1,
            software: &frame.software,
            project: &self.guide.project.name,
            guide: JsonGuide { path: frame.guide_path.as_deref(), sha256: frame.guide_sha256.as_deref() },
            machine: JsonMachine {
                source: frame.source,
                name: frame.machine_name.as_deref(),
                os: system.map(|system| system.os.word()),
                os_version: system.and_then(|system| system.version.as_deref()),
                distro: system.and_then(|system| system.distro.as_deref()),
                distro_version: system.and_then(|system| system.distro_version.as_deref()),
                arch: system.map(|system| system.arch.as_str()),
                flags: self.flags(),
            },
            role: self.role.and_then(|role| self.guide.roles.get(role)).map(|role| role.id.as_str()),
            started: &frame.started,
            elapsed_ms: frame.elapsed_ms,
            outcome: self.outcome(),
            interrupted: frame.interrupted,
            counts: self.counts(),
            requirements: JsonRequirements(self),
            plan: self.json_plan(),
        }
        .serialize(serializer)
    }
}

#[cfg(test)]
mod tests;
