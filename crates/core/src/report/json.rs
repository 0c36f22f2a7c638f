//! A report as JSON. The field names are fixed: they are added to within a format, and never changed.

use super::{Counts, MachineSource, Outcome, Report};
use crate::cause::Cause;
use crate::elsewhere::PlaceReport;
use crate::finding::{Conclusion, Verdict};
use crate::fix::Fix;
use crate::guide::{Edit, Then};
use crate::known::Answer;
use crate::plan::Step;
use crate::prelude::*;
use crate::settled::RequirementResult;
use serde::{Serialize, Serializer};

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonReport<'r> {
    format: u32,
    software: &'r str,
    project: &'r str,
    guide: JsonGuide<'r>,
    machine: JsonMachine<'r>,
    role: Option<&'r str>,
    /// Where no role was chosen: the outcome for each alone.
    roles: Vec<JsonRole<'r>>,
    stage: Option<&'r str>,
    /// The place where it was made, of those that the guide names.
    place: Option<&'r str>,
    /// Places that are not here.
    elsewhere: Vec<JsonPlace<'r>>,
    started: &'r str,
    elapsed_ms: u64,
    outcome: Outcome,
    /// How many needed requirements of the guide were not asked for.
    not_asked: usize,
    /// How many needed requirements were left out because they need the network.
    left_for_the_network: usize,
    interrupted: bool,
    counts: Counts,
    #[cfg_attr(feature = "schema", schemars(with = "Vec<JsonRequirement<'r>>"))]
    requirements: JsonRequirements<'r>,
    /// What several findings rest on together.
    #[cfg_attr(feature = "schema", schemars(with = "Vec<JsonEvidenceFields>"))]
    shared_evidence: JsonEvidences<'r>,
    plan: JsonPlan<'r>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonRole<'r> {
    id: &'r str,
    outcome: Outcome,
}

/// A place of the guide that is not here.
#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonPlace<'r> {
    id: &'r str,
    title: &'r str,
    enter: Option<&'r str>,
    /// What is to be checked there, and nobody told how it stands.
    remaining: Vec<&'r str>,
    /// What was found there, by a report from there.
    told: Vec<JsonTold<'r>>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonTold<'r> {
    id: &'r str,
    verdict: Verdict,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonGuide<'r> {
    path: Option<&'r str>,
    sha256: Option<&'r str>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonMachine<'r> {
    source: MachineSource,
    name: Option<&'r str>,
    os: Option<&'static str>,
    os_version: Option<&'r str>,
    distro: Option<&'r str>,
    distro_version: Option<&'r str>,
    arch: Option<&'r str>,
    flags: Vec<&'static str>,
    /// A random word by which two reports of one machine can be told to be that, where the person asked for one.
    #[serde(skip_serializing_if = "Option::is_none")]
    id: Option<&'r str>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonRequirement<'r> {
    id: &'r str,
    stage: &'r str,
    kind: &'static str,
    level: &'static str,
    title: String,
    verdict: Verdict,
    cause: Option<Cause>,
    found: Option<String>,
    wanted: Option<String>,
    /// What is worth knowing of what is met, in a few words.
    #[serde(skip_serializing_if = "Option::is_none")]
    remark: Option<&'static str>,
    message: String,
    /// The facts of the finding, by its cause.
    facts: JsonFacts<'r>,
    why: Option<&'r str>,
    #[cfg_attr(feature = "schema", schemars(with = "Vec<JsonEvidenceFields>"))]
    evidence: JsonEvidences<'r>,
    /// It rests on the shared evidence too.
    shares_evidence: bool,
    blocked_by: Vec<&'r str>,
    alternatives: Vec<&'r str>,
    is_alternative: bool,
    #[cfg_attr(feature = "schema", schemars(with = "Vec<JsonFix<'r>>"))]
    fixes: JsonFixes<'r>,
    elapsed_ms: u64,
}

/// Lists are written as they are walked, so that a large report needs no copy of itself.
struct JsonRequirements<'r>(&'r Report);

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

/// What stands in the evidence.
#[cfg(feature = "schema")]
#[derive(schemars::JsonSchema)]
#[allow(dead_code, reason = "the schema is made from it; the texts are written as they are made")]
struct JsonEvidenceFields {
    asked: String,
    saw: String,
}

/// What a finding has to say in fields; an empty object where it has nothing.
struct JsonFacts<'r>(&'r Conclusion);

impl Serialize for JsonFacts<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        match self.0 {
            Conclusion::LeftOut(left_out) => {
                use serde::ser::SerializeMap;
                let mut map = serializer.serialize_map(Some(1))?;
                map.serialize_entry("left_out", left_out)?;
                map.end()
            }
            Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) => Facts { facts: self.0 }.serialize(serializer),
        }
    }
}

/// Flattened, so that what has no fields is an empty object.
#[derive(Serialize)]
struct Facts<'r> {
    #[serde(flatten)]
    facts: &'r Conclusion,
}

#[cfg(feature = "schema")]
impl schemars::JsonSchema for JsonFacts<'_> {
    fn schema_name() -> alloc::borrow::Cow<'static, str> {
        "Facts".into()
    }

    fn json_schema(generator: &mut schemars::SchemaGenerator) -> schemars::Schema {
        let conclusion = generator.subschema_for::<Conclusion>();
        let left_out = generator.subschema_for::<crate::finding::LeftOut>();
        schemars::json_schema!({ "anyOf": [conclusion, { "type": "object", "properties": { "left_out": left_out } }] })
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
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonFix<'r> {
    say: &'r str,
    run: &'r [String],
    edit: Option<JsonEdit<'r>>,
    admin: bool,
    then: Option<&'static str>,
    caution: Option<&'r str>,
    choice: Option<&'r str>,
    not_checked: Option<&'r str>,
    otherwise: Option<JsonOtherwise<'r>>,
    download_bytes: Option<u64>,
    takes_s: Option<u64>,
    source: &'static str,
    foreseen: bool,
    presumed: bool,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonOtherwise<'r> {
    say: &'r str,
    run: &'r [String],
    edit: Option<JsonEdit<'r>>,
    then: Option<&'static str>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonEdit<'r> {
    file: &'r str,
    append: &'r str,
    line: Option<usize>,
    replaces: Option<&'r str>,
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
struct JsonPlan<'r> {
    steps: Vec<JsonStep<'r>>,
    download_bytes: u64,
    takes_s: u64,
    steps_of_unknown_cost: usize,
    then: Vec<&'static str>,
    /// What to send to whoever looks after this machine, where the person has no admin rights: a line each.
    request: &'r [String],
}

#[derive(Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
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
    not_checked: Option<&'r str>,
    otherwise: Option<JsonOtherwise<'r>>,
    download_bytes: Option<u64>,
    takes_s: Option<u64>,
    foreseen: bool,
    presumed: bool,
    /// How one sees that it has worked.
    worked_if: Option<String>,
}

fn json_otherwise(fix: &Fix) -> Option<JsonOtherwise<'_>> {
    fix.otherwise.as_ref().map(|other| JsonOtherwise {
        say: &other.say,
        run: &other.run,
        edit: json_edit(other.edit.as_ref()),
        then: other.then.map(Then::word),
    })
}

fn json_edit(edit: Option<&Edit>) -> Option<JsonEdit<'_>> {
    edit.map(|edit| JsonEdit { file: &edit.file, append: &edit.append, line: edit.line, replaces: edit.replaces.as_deref() })
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
            not_checked: fix.not_checked.as_deref(),
            download_bytes: fix.download_bytes,
            takes_s: fix.takes_ms.map(|ms| ms.div_ceil(1_000)),
            source: fix.source.word(),
            otherwise: json_otherwise(fix),
            foreseen: fix.is_foreseen(),
            presumed: fix.presumed,
        }
    }
}

impl Report {
    pub(super) fn id(&self, index: usize) -> Option<&str> {
        self.guide.requirements.get(index).map(|requirement| requirement.id.as_str())
    }

    fn json_requirement<'r>(&'r self, one: &'r RequirementResult) -> Option<JsonRequirement<'r>> {
        let requirement = self.requirement(one)?;
        let finding = &one.finding;
        let words = self.words(one)?;
        Some(JsonRequirement {
            id: &requirement.id,
            stage: self.guide.stages.get(requirement.stage).map_or("", |stage| &stage.id),
            kind: requirement.subject.kind().word(),
            level: requirement.level.word(),
            title: requirement.title(),
            verdict: finding.verdict(),
            cause: finding.cause(),
            found: words.found(),
            wanted: words.wanted(),
            remark: words.remark_briefly(),
            message: words.message(),
            facts: JsonFacts(&finding.conclusion),
            why: requirement.why.as_deref(),
            evidence: JsonEvidences(&finding.evidence),
            shares_evidence: finding.shared_evidence.is_some(),
            alternatives: finding.alternatives().iter().filter_map(|index| self.id(*index)).collect(),
            is_alternative: requirement.alternative,
            blocked_by: finding.waits_for().iter().filter_map(|index| self.id(*index)).collect(),
            fixes: JsonFixes(&one.fixes),
            elapsed_ms: finding.evidence.iter().map(|answer| answer.elapsed_ms).sum(),
        })
    }

    fn json_roles(&self) -> Vec<JsonRole<'_>> {
        let outcomes = self.outcomes_by_role().into_iter();
        outcomes.filter_map(|(role, outcome)| Some(JsonRole { id: &self.guide.roles.get(role)?.id, outcome })).collect()
    }

    fn json_places(&self) -> Vec<JsonPlace<'_>> {
        let told = |one: &PlaceReport| {
            one.verdicts
                .iter()
                .filter_map(|(index, verdict)| Some(JsonTold { id: self.id(*index)?, verdict: *verdict }))
                .collect()
        };
        self.other_places()
            .into_iter()
            .map(|one| JsonPlace {
                id: &one.place.id,
                title: &one.place.title,
                enter: one.place.enter.as_deref(),
                remaining: one.remaining.iter().filter_map(|settled| self.id(settled.index)).collect(),
                told: one.told.map(told).unwrap_or_default(),
            })
            .collect()
    }

    fn json_plan(&self) -> JsonPlan<'_> {
        JsonPlan {
            steps: self.plan.steps.iter().map(|step| self.json_step(step)).collect(),
            download_bytes: self.plan.download_bytes,
            takes_s: self.plan.takes_ms.div_ceil(1_000),
            steps_of_unknown_cost: self.plan.steps_of_unknown_cost,
            then: self.plan.then.iter().map(|then| then.word()).collect(),
            request: &self.request,
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
            not_checked: step.fix.not_checked.as_deref(),
            download_bytes: step.fix.download_bytes,
            takes_s: step.fix.takes_ms.map(|ms| ms.div_ceil(1_000)),
            otherwise: json_otherwise(&step.fix),
            foreseen: step.fix.is_foreseen(),
            presumed: step.fix.presumed,
            worked_if: self.success_check(step),
        }
    }
}

impl Serialize for Report {
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
                id: frame.id.as_deref(),
            },
            role: self.role.and_then(|role| self.guide.roles.get(role)).map(|role| role.id.as_str()),
            roles: self.json_roles(),
            stage: self.stage.and_then(|stage| self.guide.stages.get(stage)).map(|stage| stage.id.as_str()),
            place: self.place.and_then(|place| self.guide.places.get(place)).map(|place| place.id.as_str()),
            elsewhere: self.json_places(),
            started: &frame.started,
            elapsed_ms: frame.elapsed_ms,
            outcome: self.outcome(),
            not_asked: self.not_asked(),
            left_for_the_network: self.left_for_the_network().count(),
            interrupted: frame.interrupted,
            counts: self.counts(),
            requirements: JsonRequirements(self),
            shared_evidence: JsonEvidences(self.shared_evidence()),
            plan: self.json_plan(),
        }
        .serialize(serializer)
    }
}

/// The schema of a report, made from the types that it is written from.
#[cfg(feature = "schema")]
pub fn schema() -> schemars::Schema {
    schemars::generate::SchemaSettings::draft2020_12().into_generator().into_root_schema_for::<JsonReport<'static>>()
}
