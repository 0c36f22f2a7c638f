//! One report of many, read for what a survey looks at; the rest of it is passed over.

use crate::recording::{RecordingError, recording, short, sound};
use serde::de::{IgnoredAny, SeqAccess, Visitor};
use serde::{Deserialize, Deserializer};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::Level;
use setup_ready_core::recording::Recording;
use setup_ready_core::report::Outcome;
use setup_ready_core::survey::{Entry, Row};
use std::borrow::Cow;
use std::fmt;
use std::marker::PhantomData;

/// What a line may hold.
pub(super) enum Document<'t> {
    /// A report.
    Report(Box<Entry<'t>>),
    /// A recording, to be assessed.
    Recording(Box<Recording>),
    /// Something was around it, or it was quoted: this is what is left, to be read by itself.
    Freed(String),
}

/// A text that is borrowed where nothing in it is escaped.
#[derive(Deserialize)]
#[serde(transparent)]
struct Text<'t>(#[serde(borrow)] Cow<'t, str>);

#[derive(Deserialize)]
struct Report<'t> {
    format: u64,
    #[serde(borrow)]
    project: Text<'t>,
    #[serde(borrow)]
    guide: Option<GuideRead<'t>>,
    #[serde(borrow)]
    machine: Machine<'t>,
    #[serde(borrow)]
    role: Option<Text<'t>>,
    #[serde(borrow)]
    started: Text<'t>,
    outcome: OutcomeRead,
    #[serde(default)]
    not_asked: u64,
    #[serde(default)]
    left_for_the_network: u64,
    counts: Option<CountsRead>,
    #[serde(default)]
    elsewhere: Vec<Place>,
    #[serde(borrow)]
    requirements: Vec<Requirement<'t>>,
}

#[derive(Deserialize)]
struct GuideRead<'t> {
    #[serde(borrow)]
    sha256: Option<Text<'t>>,
}

#[derive(Deserialize)]
struct Machine<'t> {
    #[serde(borrow)]
    id: Option<Text<'t>>,
    #[serde(borrow)]
    os: Option<Text<'t>>,
    #[serde(borrow)]
    distro: Option<Text<'t>>,
    #[serde(borrow)]
    distro_version: Option<Text<'t>>,
    #[serde(borrow)]
    arch: Option<Text<'t>>,
}

/// How many requirements a report says that it holds.
#[derive(Deserialize)]
pub(crate) struct CountsRead {
    met: u64,
    unmet: u64,
    unknown: u64,
    blocked: u64,
    skipped: u64,
}

impl CountsRead {
    /// Whether so many are as many as it says.
    ///
    /// # Errors
    /// When some are missing, or too many.
    pub(crate) fn is_whole(&self, held: u64) -> Result<(), RecordingError> {
        let counted = [self.met, self.unmet, self.unknown, self.blocked, self.skipped].into_iter().fold(0, u64::saturating_add);
        if counted == held { Ok(()) } else { Err(RecordingError::Incomplete(counted, held)) }
    }
}

#[derive(Deserialize)]
#[serde(rename_all = "kebab-case")]
enum OutcomeRead {
    Ready,
    NotReady,
    Undecided,
    ReadyHere,
    ReadyInPart,
}

#[derive(Deserialize)]
#[serde(rename_all = "kebab-case")]
enum VerdictRead {
    Met,
    Unmet,
    Unknown,
    Blocked,
    Skipped,
}

#[derive(Deserialize)]
#[serde(rename_all = "kebab-case")]
enum LevelRead {
    Must,
    Should,
    May,
}

#[derive(Deserialize)]
struct Requirement<'t> {
    #[serde(borrow)]
    id: Text<'t>,
    #[serde(borrow)]
    kind: Text<'t>,
    level: LevelRead,
    verdict: VerdictRead,
    #[serde(borrow)]
    cause: Option<Text<'t>>,
    #[serde(borrow)]
    found: Option<Text<'t>>,
    #[serde(default)]
    is_alternative: bool,
    #[serde(borrow, default)]
    fixes: First<Fix<'t>>,
}

/// A place that is not here.
#[derive(Deserialize)]
struct Place {
    remaining: First<IgnoredAny>,
}

#[derive(Deserialize)]
struct Fix<'t> {
    #[serde(borrow)]
    say: Text<'t>,
}

/// The first of a list; the others are passed over.
struct First<T>(Option<T>);

impl<T> Default for First<T> {
    fn default() -> Self {
        Self(None)
    }
}

impl<'de, T: Deserialize<'de>> Deserialize<'de> for First<T> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        struct OfList<T>(PhantomData<T>);
        impl<'de, T: Deserialize<'de>> Visitor<'de> for OfList<T> {
            type Value = First<T>;
            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str("a list")
            }
            fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<Self::Value, A::Error> {
                let first = list.next_element()?;
                while list.next_element::<IgnoredAny>()?.is_some() {}
                Ok(First(first))
            }
        }
        deserializer.deserialize_seq(OfList(PhantomData))
    }
}

/// Reads one document: a report or a recording.
///
/// # Errors
/// Why it is neither.
pub(super) fn document(bytes: &[u8]) -> Result<Document<'_>, RecordingError> {
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    // Once for the whole of it: each text of its own would take longer.
    let text = std::str::from_utf8(bytes).map_err(|_| RecordingError::NotUtf8)?;
    let problem = match serde_json::from_str::<Report<'_>>(text) {
        Ok(report) if report.format > 1 => return Err(RecordingError::Later(report.format)),
        Ok(report) => {
            if let Some(counts) = &report.counts {
                counts.is_whole(report.requirements.iter().filter(|one| !one.is_alternative).count() as u64)?;
            }
            let entry = entry(report);
            return match contradiction(&entry) {
                Some(id) => Err(RecordingError::Contradiction(id)),
                None => Ok(Document::Report(Box::new(entry))),
            };
        }
        Err(problem) => problem,
    };
    if (problem.is_syntax() || problem.is_eof())
        && let Cow::Owned(freed) = sound(text)?
    {
        return Ok(Document::Freed(freed));
    }
    match recording(text) {
        Ok(recording) => Ok(Document::Recording(Box::new(recording))),
        // What has no answers was meant to be a report, and then its own trouble tells more.
        Err(RecordingError::Other(_)) => Err(RecordingError::NoReport(short(&problem))),
        Err(RecordingError::Report) => Err(RecordingError::Damaged(short(&problem))),
        Err(other) => Err(other),
    }
}

/// What is needed and not met in a report of a machine that it says is ready: nobody writes that but by hand.
fn contradiction(entry: &Entry<'_>) -> Option<String> {
    let ready = matches!(entry.outcome, Outcome::Ready | Outcome::ReadyHere | Outcome::ReadyInPart);
    let open = |row: &&Row<'_>| row.verdict == Verdict::Unmet && row.level == Level::Must;
    ready.then(|| entry.requirements.iter().find(open)).flatten().map(|row| row.id.chars().take(64).collect())
}

fn text(text: Option<Text<'_>>) -> Option<Cow<'_, str>> {
    text.map(|text| text.0)
}

fn row(one: Requirement<'_>) -> Row<'_> {
    Row {
        id: one.id.0,
        kind: one.kind.0,
        level: match one.level {
            LevelRead::Must => Level::Must,
            LevelRead::Should => Level::Should,
            LevelRead::May => Level::May,
        },
        verdict: match one.verdict {
            VerdictRead::Met => Verdict::Met,
            VerdictRead::Unmet => Verdict::Unmet,
            VerdictRead::Unknown => Verdict::Unknown,
            VerdictRead::Blocked => Verdict::Blocked,
            VerdictRead::Skipped => Verdict::Skipped,
        },
        cause: text(one.cause),
        found: text(one.found),
        fix: one.fixes.0.map(|fix| fix.say.0),
    }
}

fn entry(report: Report<'_>) -> Entry<'_> {
    let machine = report.machine;
    Entry {
        project: report.project.0,
        guide: report.guide.and_then(|guide| text(guide.sha256)),
        id: text(machine.id),
        started: report.started.0,
        os: text(machine.os),
        distro: text(machine.distro),
        distro_version: text(machine.distro_version),
        arch: text(machine.arch),
        role: text(report.role),
        outcome: match report.outcome {
            OutcomeRead::Ready => Outcome::Ready,
            OutcomeRead::NotReady => Outcome::NotReady,
            OutcomeRead::Undecided => Outcome::Undecided,
            OutcomeRead::ReadyHere => Outcome::ReadyHere,
            OutcomeRead::ReadyInPart => Outcome::ReadyInPart,
        },
        in_part: report.not_asked > 0,
        elsewhere: report.left_for_the_network > 0 || report.elsewhere.iter().any(|place| place.remaining.0.is_some()),
        requirements: report.requirements.into_iter().filter(|one| !one.is_alternative).map(row).collect(),
    }
}
