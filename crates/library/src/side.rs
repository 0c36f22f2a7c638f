//! Machines to be compared, from whatever one has of them: a recording, a report in JSON, a described machine, or the one that this runs on.

use crate::compare::{Fact, Judged, Side};
use crate::driver::NotInGuide;
use crate::finding::Verdict;
use crate::guide_file::{GuideFile, LoadError};
use crate::host::Host;
use crate::recording::{NotRecording, read_bounded, recording, short, sound};
use crate::selection::Selection;
use crate::surveying::CountsRead;
use crate::{Described, Preflight};
use serde::Deserialize;
use std::path::Path;
use std::sync::Arc;

/// Why a file is no machine that can be compared.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum NoSide {
    /// It is no recording and no report that can be used.
    #[error(transparent)]
    File(#[from] NotRecording),
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
    NotInGuide(#[from] NotInGuide),
}

/// What a report in JSON says, as far as it is compared.
#[derive(Deserialize)]
struct ReportRead {
    project: String,
    machine: MachineRead,
    counts: Option<CountsRead>,
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
    found: Option<String>,
    #[serde(default)]
    message: String,
    #[serde(default)]
    evidence: Vec<EvidenceRead>,
    #[serde(default)]
    is_alternative: bool,
}

#[derive(Deserialize)]
struct EvidenceRead {
    asked: String,
    saw: String,
}

/// The machine in a file. Described machines and recordings are assessed by the guide, as `selection` says; a report says what came of it then.
///
/// # Errors
/// When the file cannot be read or used, or is of another project.
pub fn side_in_file(path: &Path, file: Option<&GuideFile>, selection: &Selection) -> Result<Side, NoSide> {
    if !crate::is_recorded_file(path) {
        let described = Described::load(path)?;
        return side_of(described.machine_name(), &described, file.ok_or(NoSide::NoGuide)?, selection);
    }
    let name = crate::recorded_name(path);
    let text = read_bounded(path)?;
    let text = sound(&text)?;
    // Both say a format; what they have else tells which of them it is.
    let problem = match recording(&text) {
        Ok(recording) => {
            let file = file.ok_or(NoSide::NoGuide)?;
            let project = &file.guide.project.name;
            if recording.project != *project {
                return Err(NoSide::OtherProject(recording.project.clone(), project.clone()));
            }
            return side_of(&name, &recording, file, selection);
        }
        Err(later @ NotRecording::Later(_)) => return Err(later.into()),
        Err(problem) => problem,
    };
    match serde_json::from_str::<ReportRead>(&text) {
        Ok(report) => {
            if let Some(file) = file.filter(|file| file.guide.project.name != report.project) {
                return Err(NoSide::OtherProject(report.project, file.guide.project.name.clone()));
            }
            if let Some(counts) = &report.counts {
                counts.is_whole(report.requirements.iter().filter(|one| !one.is_alternative).count() as u64)?;
            }
            Ok(reported(name, report))
        }
        Err(error) if matches!(problem, NotRecording::Report) => Err(NotRecording::Damaged(short(&error)).into()),
        Err(_) => Err(problem.into()),
    }
}

/// A machine that can be asked, or could.
///
/// # Errors
/// When the selection is of another guide.
pub fn side_of(name: &str, host: &dyn Host, file: &GuideFile, selection: &Selection) -> Result<Side, NoSide> {
    let preflight = Preflight::new(Arc::clone(&file.guide)).select(selection.clone());
    Ok(Side::of(name, &preflight.run(host)?))
}

fn reported(name: String, report: ReportRead) -> Side {
    let fact = |asked: &str, saw: Option<String>| saw.map(|saw| Fact { asked: asked.to_owned(), saw });
    let machine = report.machine;
    let distro = machine.distro.map(|distro| format!("{distro} {}", machine.distro_version.unwrap_or_default()));
    let facts = [
        fact("system", machine.os.and_then(|os| crate::observation::Os::from_word(&os)).map(|os| os.name().to_owned())),
        fact("version of the system", machine.os_version),
        fact("distribution", distro),
        fact("architecture", machine.arch),
        fact("is", (!machine.flags.is_empty()).then(|| machine.flags.join(", "))),
    ];
    let judged = |one: RequirementRead| {
        let verdict = Verdict::from_word(&one.verdict)?;
        let evidence = one.evidence.into_iter().map(|one| Fact { asked: one.asked, saw: one.saw }).collect();
        let (found, message) = (one.found, one.message);
        Some(Judged { id: one.id, title: one.title, verdict, cause: one.cause, found, message, evidence })
    };
    let requirements = report.requirements.into_iter().filter(|one| !one.is_alternative);
    Side { name, machine: facts.into_iter().flatten().collect(), judged: requirements.filter_map(judged).collect(), known: None }
}
