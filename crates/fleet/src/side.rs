//! Machines to be compared, from whatever one has of them: a recording, a report in JSON, a described machine, or the one that this runs on.

use crate::recording::{RecordingError, read_bounded, recording, short, sound};
use crate::surveying::CountsRead;
use serde::Deserialize;
use serde_json::Value;
use setup_ready_core::compare::{Fact, Judged, Side, with_remark};
use setup_ready_core::driver::NotInGuideError;
use setup_ready_core::finding::{LeftOut, Verdict};
use setup_ready_core::guide::Level;
use setup_ready_core::selection::Selection;
use setup_ready_observe::Host;
use setup_ready_observe::{Described, Preflight};
use setup_ready_observe::{GuideFile, LoadError};
use std::path::Path;
use std::sync::Arc;

/// Why a file is no machine that can be compared.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum CompareError {
    /// It is no recording and no report that can be used.
    #[error(transparent)]
    File(#[from] RecordingError),
    /// It is no described machine that can be used.
    #[error(transparent)]
    Described(#[from] LoadError),
    /// It is of another project than the guide.
    #[error("it is of {0}, and the guide is of {1}")]
    OtherProject(String, String),
    /// It cannot be assessed without a guide.
    #[error("it cannot be assessed without a guide: name one with --guide FILE")]
    NoGuide,
    /// The selection is of another guide.
    #[error(transparent)]
    NotInGuide(#[from] NotInGuideError),
}

/// What a report in JSON says, as far as it is compared.
#[derive(Deserialize)]
struct ReportRead {
    project: String,
    machine: MachineRead,
    counts: Option<CountsRead>,
    #[serde(default)]
    shared_evidence: Vec<EvidenceRead>,
    requirements: Vec<RequirementRead>,
}

#[derive(Deserialize)]
struct MachineRead {
    os: Option<String>,
    os_version: Option<String>,
    distro: Option<String>,
    distro_version: Option<String>,
    arch: Option<String>,
    #[serde(default)]
    flags: Vec<String>,
}

#[derive(Deserialize)]
struct RequirementRead {
    id: String,
    #[serde(default)]
    title: String,
    verdict: String,
    cause: Option<String>,
    #[serde(default)]
    level: String,
    found: Option<String>,
    remark: Option<String>,
    #[serde(default)]
    message: String,
    #[serde(default)]
    evidence: Vec<EvidenceRead>,
    #[serde(default)]
    shares_evidence: bool,
    #[serde(default)]
    facts: Value,
    #[serde(default)]
    is_alternative: bool,
}

#[derive(Deserialize)]
struct EvidenceRead {
    asked: String,
    saw: String,
}

impl From<EvidenceRead> for Fact {
    fn from(read: EvidenceRead) -> Self {
        Self { asked: read.asked, saw: read.saw }
    }
}

/// The machine in a file. Described machines and recordings are assessed by the guide, as `selection` says; a report says what came of it then.
///
/// # Errors
/// When the file cannot be read or used, or is of another project.
pub fn side_in_file(path: &Path, file: Option<&GuideFile>, selection: &Selection) -> Result<Side, CompareError> {
    if !crate::is_recorded_file(path) {
        let described = Described::load(path)?;
        return side_of(described.machine_name(), &described, file.ok_or(CompareError::NoGuide)?, selection);
    }
    let name = crate::recorded_name(path);
    let text = read_bounded(path)?;
    let text = sound(&text)?;
    // Both say a format; what they have else tells which of them it is.
    let problem = match recording(&text) {
        Ok(recording) => {
            let file = file.ok_or(CompareError::NoGuide)?;
            let project = &file.guide.project.name;
            if recording.project != *project {
                return Err(CompareError::OtherProject(recording.project.clone(), project.clone()));
            }
            return side_of(&name, &recording, file, selection);
        }
        Err(later @ RecordingError::Later(_)) => return Err(later.into()),
        Err(problem) => problem,
    };
    match serde_json::from_str::<ReportRead>(&text) {
        Ok(report) => {
            if let Some(file) = file.filter(|file| file.guide.project.name != report.project) {
                return Err(CompareError::OtherProject(report.project, file.guide.project.name.clone()));
            }
            if let Some(counts) = &report.counts {
                counts.is_whole(report.requirements.iter().filter(|one| !one.is_alternative).count() as u64)?;
            }
            Ok(reported(name, report))
        }
        Err(error) if matches!(problem, RecordingError::Report) => Err(RecordingError::Damaged(short(&error)).into()),
        Err(_) => Err(problem.into()),
    }
}

/// A machine that can be asked, or could.
///
/// # Errors
/// When the selection is of another guide.
pub fn side_of(name: &str, host: &dyn Host, file: &GuideFile, selection: &Selection) -> Result<Side, CompareError> {
    let preflight = Preflight::new(Arc::clone(&file.guide)).select(selection.clone());
    Ok(Side::of(name, &preflight.run(host)?))
}

fn reported(name: String, report: ReportRead) -> Side {
    let fact = |asked: &str, saw: Option<String>| saw.map(|saw| Fact { asked: asked.to_owned(), saw });
    let machine = report.machine;
    let distro = machine.distro.map(|distro| format!("{distro} {}", machine.distro_version.unwrap_or_default()));
    let facts = [
        fact(
            "system",
            machine.os.and_then(|os| setup_ready_core::observation::Os::from_word(&os)).map(|os| os.name().to_owned()),
        ),
        fact("version of the system", machine.os_version),
        fact("distribution", distro),
        fact("architecture", machine.arch),
        fact("is", (!machine.flags.is_empty()).then(|| machine.flags.join(", "))),
    ];
    let (people, groups) = names(&report.requirements);
    let shared: Vec<Fact> = report.shared_evidence.into_iter().map(Fact::from).collect();
    let judged = |one: RequirementRead| {
        let verdict = Verdict::from_word(&one.verdict)?;
        let mut evidence: Vec<Fact> = one.evidence.into_iter().map(Fact::from).collect();
        if one.shares_evidence {
            evidence.extend_from_slice(&shared);
        }
        Some(Judged {
            id: one.id,
            title: one.title,
            level: Level::from_word(&one.level).unwrap_or(Level::Must),
            verdict,
            cause: one.cause,
            found: with_remark(one.found, one.remark.as_deref()),
            message: one.message,
            evidence,
        })
    };
    let is_chosen = |one: &RequirementRead| {
        let left_out = one.facts.get("left_out").and_then(|word| LeftOut::deserialize(word).ok());
        left_out.is_some_and(LeftOut::is_chosen)
    };
    let requirements = report.requirements.into_iter().filter(|one| !one.is_alternative && !is_chosen(one));
    let judged = requirements.filter_map(judged).collect();
    Side { name, machine: facts.into_iter().flatten().collect(), judged, known: None, people, groups }
}

/// The people and groups that a report tells of, by the fields that name them.
fn names(requirements: &[RequirementRead]) -> (Vec<String>, Vec<String>) {
    fn named(facts: &Value, key: &str, (people, groups): (&mut Vec<String>, &mut Vec<String>)) {
        match (facts, key) {
            (Value::String(name), "user" | "owner") => people.push(name.clone()),
            (Value::String(name), "group" | "groups" | "writers") => groups.push(name.clone()),
            (Value::Array(list), _) => list.iter().for_each(|one| named(one, key, (people, groups))),
            (Value::Object(table), _) => table.iter().for_each(|(key, one)| named(one, key, (people, groups))),
            _ => {}
        }
    }
    let (mut people, mut groups) = (Vec::new(), Vec::new());
    for one in requirements {
        named(&one.facts, "", (&mut people, &mut groups));
        let told = one.evidence.iter().filter_map(|fact| fact.saw.strip_prefix("groups: "));
        groups.extend(told.flat_map(|names| names.split(", ")).map(ToOwned::to_owned));
    }
    (people, groups)
}
