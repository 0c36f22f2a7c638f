//! Making a recording: of what was observed, what is private is replaced, and then it is assessed, so that nobody sends one that says something else.

use super::own_names;
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use setup_ready_core::driver::NotInGuideError;
use setup_ready_core::known::{Answer, Known};
use setup_ready_core::observation::Observation;
use setup_ready_core::privacy::Replacer;
use setup_ready_core::probe::Probe;
use setup_ready_core::recording::{Chosen, Recording, without_mark};
use setup_ready_core::report::{MachineSource, Report};
use setup_ready_core::selection::Selection;
use setup_ready_observe::GuideFile;
use setup_ready_observe::{Live, Preflight};
use std::collections::BTreeMap;
use std::collections::btree_map::Entry;
use std::sync::Arc;

/// What is said of something that cannot be told.
const NOT_TOLD: &str = "what was seen there cannot be told without what is private";

/// A recording, and what of it would be judged otherwise than on the machine.
#[derive(Debug)]
#[non_exhaustive]
pub struct Recorded {
    /// The recording.
    pub recording: Recording,
    /// What replaced it, which says what was replaced.
    pub replacer: Replacer,
    /// What comes of it when it is assessed: the report without what is private.
    pub report: Report,
    /// The ids of requirements whose verdict or cause is another there, since it rested on what was replaced.
    pub differing: Vec<String>,
}

/// Records what a preflight observed, without what is private.
///
/// Of a report of this machine its names are taken out; what is private of another one is told by the answers and by its shape alone.
///
/// # Errors
/// When the report is of another guide.
///
/// ```
/// use build_setup_ready::{Described, GuideFile, Preflight};
/// use setup_ready_fleet::record;
///
/// let folder = tempfile::tempdir().unwrap();
/// let path = folder.path().join("setup-guide.toml");
/// std::fs::write(&path, "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
/// let file = GuideFile::load(&path).unwrap();
/// let machine = Described::parse("format = 1\n[machine]\nname = \"small\"\n[cores]\nonline = 2\n").unwrap();
/// let report = Preflight::new(file.guide.clone()).run(&machine).unwrap();
/// let recorded = record(&report, &file).unwrap();
/// // Somebody else assesses it, without the machine.
/// let there = Preflight::new(file.guide.clone()).run(&recorded.recording).unwrap();
/// assert_eq!(there.message(&there.settled[0]), "This machine has 2 processor cores, and 4 are needed.");
/// ```
pub fn record(report: &Report, file: &GuideFile) -> Result<Recorded, NotInGuideError> {
    let mut replacer = Replacer::for_guide(&file.text);
    if report.frame.source == MachineSource::Live {
        own_names(&mut replacer, &Live::for_guide(file), &file.folder());
    }
    record_with(report, file, &replacer)
}

/// The same for a machine whose names the caller knows and has told the replacer.
///
/// # Errors
/// When the report is of another guide.
pub fn record_with(report: &Report, file: &GuideFile, replacer: &Replacer) -> Result<Recorded, NotInGuideError> {
    let wide = attempt(report, file, replacer.clone())?;
    if wide.differing.is_empty() {
        return Ok(wide);
    }
    // A person may be called like something that a verdict rests on.
    let narrow = attempt(report, file, replacer.clone().narrow())?;
    Ok(if narrow.differing.len() < wide.differing.len() { narrow } else { wide })
}

fn attempt(report: &Report, file: &GuideFile, mut replacer: Replacer) -> Result<Recorded, NotInGuideError> {
    let mut answers: Vec<&Answer> = report.known.iter().collect();
    answers.sort_by(|a, b| a.probe.cmp(&b.probe));
    for answer in &answers {
        replacer.learn(&answer.observation);
    }
    let mut told: BTreeMap<Probe, (Observation, u64)> = BTreeMap::new();
    for answer in answers {
        let probe = without_mark(&answer.probe);
        // A question that cannot be told without what is private is not told at all.
        let Some(probe) = replaced(&probe, &mut replacer) else { continue };
        let hidden = || Observation::CouldNotLook(NOT_TOLD.to_owned());
        let observation = replaced(&*answer.observation, &mut replacer).unwrap_or_else(hidden);
        match told.entry(probe) {
            Entry::Vacant(vacant) => {
                vacant.insert((observation, answer.elapsed_ms));
            }
            // Two things that are called alike now: neither may get the other's answer.
            Entry::Occupied(mut first) if first.get().0 != observation => first.get_mut().0 = hidden(),
            Entry::Occupied(_) => {}
        }
    }
    let mut known = Known::default();
    for (probe, (observation, elapsed_ms)) in told {
        known.learn(Arc::new(probe), observation, elapsed_ms);
    }
    let frame = &report.frame;
    let mut recording = Recording::new(report.guide.project.name.clone(), Chosen::of(&report.selection, &file.guide), known);
    recording.software.clone_from(&frame.software);
    recording.guide_sha256 = Some(file.sha256.clone());
    recording.recorded.clone_from(&frame.started);
    recording.elapsed_ms = frame.elapsed_ms;
    recording.machine.clone_from(&frame.machine_name);
    let again = Selection { advised: Arc::clone(&report.selection.advised), ..Selection::default() };
    let preflight = Preflight::new(Arc::clone(&file.guide)).select(again).jobs(1);
    let preflight = report.elsewhere.iter().cloned().fold(preflight, Preflight::with);
    let name = file.path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    let mut replayed = preflight.guide_source(name, file.sha256.clone()).run(&recording)?;
    replayed.frame.interrupted = frame.interrupted;
    let differing = report.settled.iter().filter(|one| {
        let there = replayed.settled_at(one.index).map(|there| (there.finding.verdict(), there.finding.cause()));
        there != Some((one.finding.verdict(), one.finding.cause()))
    });
    let differing = differing.filter_map(|one| report.requirement(one)).map(|one| one.id.clone()).collect();
    Ok(Recorded { recording, replacer, report: replayed, differing })
}

/// A value with its texts replaced; `None` where it would be none of its kind any more.
fn replaced<T: Serialize + DeserializeOwned + Clone>(value: &T, replacer: &mut Replacer) -> Option<T> {
    let mut tree = serde_json::to_value(value).ok()?;
    if replace_texts(&mut tree, replacer) { serde_json::from_value(tree).ok() } else { Some(value.clone()) }
}

fn replace_texts(tree: &mut Value, replacer: &mut Replacer) -> bool {
    match tree {
        Value::String(text) => {
            let new = replacer.text(text);
            let differs = new != *text;
            *text = new;
            differs
        }
        Value::Array(list) => list.iter_mut().fold(false, |changed, value| replace_texts(value, replacer) | changed),
        Value::Object(table) => table.values_mut().fold(false, |changed, value| replace_texts(value, replacer) | changed),
        Value::Null | Value::Bool(_) | Value::Number(_) => false,
    }
}
