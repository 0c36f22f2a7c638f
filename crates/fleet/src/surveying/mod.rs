//! Many reports and recordings, as a stream: each broken one is named, and the others go on.

mod dedup;
mod entry;
mod input;
mod pipeline;
mod rows;

pub use input::PassedOver;
pub use rows::{RowForm, Written, rows};

use crate::recording::RecordingError;
use dedup::Deduplicator;
pub(crate) use entry::CountsRead;
use entry::{Document, document};
use input::Block;
use pipeline::Pipeline;
use setup_ready_core::guide::Guide;
use setup_ready_core::recording::Recording;
use setup_ready_core::selection::Selection;
use setup_ready_core::survey::{Changed, Dimension, Entry, Moment, Survey, Tally, WhatIf};
use setup_ready_observe::GuideFile;
use setup_ready_observe::Interrupt;
use setup_ready_observe::Preflight;
use std::path::PathBuf;
use std::sync::{Arc, OnceLock};
use std::time::SystemTime;

/// So many broken ones are named; the others are only counted.
const MOST_NAMED: usize = 20;

/// What is surveyed, and how.
#[derive(Debug, Clone, Default)]
pub struct Surveying<'g> {
    /// Reports and recordings: files, folders, `-` for standard input.
    pub paths: Vec<PathBuf>,
    /// The guide: recordings are assessed by it, and what is of another project is left out.
    pub guide: Option<&'g GuideFile>,
    /// What they are told apart by.
    pub by: Option<Dimension>,
    /// A range that a requirement might have.
    pub what_if: Option<WhatIf>,
    /// How many threads; as many as there are cores where none is given.
    pub jobs: Option<usize>,
    /// Ends it early.
    pub interrupt: Interrupt,
}

/// A report that could not be used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Broken {
    /// The file.
    pub source: String,
    /// The line in it, where it has one a line.
    pub line: Option<u64>,
    /// Why.
    pub reason: String,
    /// How many more of the same file are so for the same reason.
    pub alike: u64,
}

/// What came of surveying.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Surveyed {
    /// What the reports come to.
    pub survey: Survey,
    /// Whose they are.
    pub project: Option<String>,
    /// How many were recordings, assessed again.
    pub recordings: u64,
    /// How many were copies of others, to the byte, and were not counted.
    pub copies: u64,
    /// How many could not be used.
    pub broken: u64,
    /// The first of them.
    pub named: Vec<Broken>,
    /// What lies in a folder and was not read, for its name.
    pub passed_over: PassedOver,
    /// How many bytes were read, after decompression.
    pub bytes: u64,
    /// It was interrupted before all was read.
    pub interrupted: bool,
}

/// What one block came to.
struct Part<T> {
    made: T,
    recordings: u64,
    broken: Vec<Broken>,
}

/// What is needed to judge what is read.
struct Judge<'g> {
    guide: Option<&'g GuideFile>,
    /// The guide with the other range, and the requirement.
    changed: Option<(Arc<Guide>, usize)>,
    what_if: Option<(WhatIf, String)>,
    /// Whose reports count: the guide's, else those of the first report.
    project: OnceLock<String>,
    copies: Deduplicator,
}

impl<'g> Judge<'g> {
    fn of(surveying: &Surveying<'g>) -> Self {
        let guide = surveying.guide;
        let changed = guide.zip(surveying.what_if.as_ref()).and_then(|(file, what_if)| what_if.changed(&file.guide).ok());
        let id = |what_if: &WhatIf| {
            let of_guide =
                guide.and_then(|file| file.guide.requirements.get(what_if.find(&file.guide)?)).map(|one| one.id.clone());
            of_guide.unwrap_or_else(|| what_if.of.clone())
        };
        let project = OnceLock::new();
        if let Some(file) = guide {
            let _ = project.set(file.guide.project.name.clone());
        }
        Self {
            guide,
            changed: changed.map(|(guide, index)| (Arc::new(guide), index)),
            what_if: surveying.what_if.as_ref().map(|what_if| (what_if.clone(), id(what_if))),
            project,
            copies: Deduplicator::default(),
        }
    }

    /// Counts a report that is no copy.
    fn add(&self, tally: &mut Tally, entry: &Entry<'_>, changed: Option<Changed>, mark: u64) -> bool {
        let is_new = self.copies.is_new(mark);
        if is_new {
            tally.add(entry, changed);
        }
        is_new
    }

    /// Hands each report of a block on, and names what cannot be used.
    ///
    /// `take` is also given the document's mark, and says whether it counts.
    fn each<T>(
        &self,
        block: &Block,
        mut made: T,
        mut take: impl FnMut(&mut T, &Entry<'_>, Option<Changed>, u64) -> bool,
    ) -> Part<T> {
        let (mut recordings, mut broken) = (0, Vec::new());
        if let Some(problem) = &block.problem {
            let (source, line) = (block.source.clone(), Some(block.line));
            broken.push(Broken { source, line, reason: problem.to_string(), alike: 0 });
        }
        for (at, line) in block.documents().enumerate() {
            if line.trim_ascii().is_empty() {
                continue;
            }
            let number = (!block.whole).then(|| block.line + at as u64);
            let (mark, mut counts) = (self.copies.mark(line), false);
            match self.one(document(line), &mut |entry, changed| counts = take(&mut made, entry, changed, mark)) {
                Ok(is_recording) => recordings += u64::from(is_recording && counts),
                Err(reason) => broken.push(Broken { source: block.source.clone(), line: number, reason, alike: 0 }),
            }
        }
        Part { made, recordings, broken }
    }

    /// Hands on what a document comes to, and says whether it was a recording; or why it does not count.
    fn one(
        &self,
        read: Result<Document<'_>, RecordingError>,
        take: &mut dyn FnMut(&Entry<'_>, Option<Changed>),
    ) -> Result<bool, String> {
        match read.map_err(|problem| problem.to_string())? {
            Document::Report(entry) => {
                if let Some(reason) = self.other_project(&entry.project) {
                    return Err(reason);
                }
                take(&entry, None);
                Ok(false)
            }
            Document::Recording(recording) => {
                let (entry, changed) = self.assess(&recording)?;
                take(&entry, changed);
                Ok(true)
            }
            // What was freed is one whole document, so that this ends here.
            Document::Freed(text) => self.one(document(text.as_bytes()), take),
        }
    }

    /// Whose reports count is decided by the first, whichever thread would be the fastest.
    fn meets(&self, block: &Block) {
        if self.project.get().is_some() {
            return;
        }
        let _ = block.documents().find_map(|line| self.project.set(project(document(line).ok()?)?).ok());
    }

    /// Why a report does not count, where it is of another project.
    fn other_project(&self, project: &str) -> Option<String> {
        let wanted = self.project.get_or_init(|| project.to_owned());
        (wanted != project).then(|| format!("it is of {project}, and this survey is of {wanted}"))
    }

    fn assess(&self, recording: &Recording) -> Result<(Entry<'static>, Option<Changed>), String> {
        let file = self.guide.ok_or("it is a recording, which cannot be assessed without a guide: name one with --guide FILE")?;
        if let Some(reason) = self.other_project(&recording.project) {
            return Err(reason);
        }
        let run = |guide: &Arc<Guide>| {
            Preflight::new(Arc::clone(guide))
                .select(Selection::default())
                .jobs(1)
                .run(recording)
                .map_err(|error| error.to_string())
        };
        let report = run(&file.guide)?;
        let verdict =
            |report: &setup_ready_core::report::Report, index| report.settled_at(index).map(|one| one.finding.verdict());
        let changed = match &self.changed {
            Some((guide, index)) => {
                let now = verdict(&report, *index);
                let then = verdict(&run(guide)?, *index);
                now.zip(then).and_then(|(now, then)| Changed::between(now, then))
            }
            None => None,
        };
        let mut entry = Entry::of(&report);
        entry.guide = recording.guide_sha256.clone().map(Into::into);
        Ok((entry, changed))
    }
}

/// Whose a document is.
fn project(of: Document<'_>) -> Option<String> {
    match of {
        Document::Report(entry) => Some(entry.project.into_owned()),
        Document::Recording(recording) => Some(recording.project),
        Document::Freed(text) => project(document(text.as_bytes()).ok()?),
    }
}

impl Surveying<'_> {
    /// Reads all of it. `progress` is told the bytes that were read so far.
    ///
    /// ```
    /// use setup_ready_fleet::Surveying;
    ///
    /// let folder = tempfile::tempdir().unwrap();
    /// # let guide = setup_ready_core::guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
    /// # let machine = |cores| build_setup_ready::Described::parse(&format!("format = 1\n[machine]\nname = \"m\"\n[cores]\nonline = {cores}\n")).unwrap();
    /// # for cores in [2, 8] {
    /// #     let report = build_setup_ready::Preflight::new(&guide).run(&machine(cores)).unwrap();
    /// #     build_setup_ready::write::json(&report, std::fs::File::create(folder.path().join(format!("{cores}.json"))).unwrap()).unwrap();
    /// # }
    /// // Two newcomers sent their reports: one has two cores, and one has eight.
    /// let surveyed = Surveying { paths: vec![folder.path().to_owned()], ..Surveying::default() }.read(&|_| {});
    /// assert_eq!((surveyed.survey.machines, surveyed.survey.ready, surveyed.survey.stops[0].requirement.as_str()), (2, 1, "room"));
    /// ```
    pub fn read(&self, progress: &(dyn Fn(u64) + Sync)) -> Surveyed {
        let judge = Judge::of(self);
        // Whoever's clock is wrong by more than this machine's own is told to be.
        let now = Moment::parse(&humantime::format_rfc3339_seconds(SystemTime::now()).to_string());
        let fresh = || {
            let tally = Tally::new(self.by, judge.what_if.clone());
            now.map_or(tally.clone(), |now| tally.now(now))
        };
        let mut tally = fresh();
        let mut told = SurveyProgress::default();
        let pipeline = Pipeline { paths: &self.paths, jobs: self.jobs, interrupt: &self.interrupt, progress };
        let work =
            |block: &Block| judge.each(block, fresh(), |tally, entry, changed, mark| judge.add(tally, entry, changed, mark));
        let ran = pipeline.run(&|block| judge.meets(block), &work, &mut |part| match part {
            Ok(part) => {
                told.take(part.recordings, part.broken);
                tally.merge(part.made);
                true
            }
            Err(unreadable) => {
                told.take(0, vec![unreadable]);
                true
            }
        });
        Surveyed {
            survey: tally.finish(),
            project: judge.project.get().cloned(),
            recordings: told.recordings,
            copies: judge.copies.count(),
            broken: told.broken,
            named: told.named,
            passed_over: ran.passed_over,
            bytes: ran.bytes,
            interrupted: self.interrupt.is_raised(),
        }
    }
}

/// A survey of the reports and recordings in a text, one a line; without a guide.
pub fn surveyed_text(text: &str) -> (Survey, Vec<Broken>) {
    let judge = Judge::of(&Surveying::default());
    let block = Block { source: String::new(), line: 1, bytes: text.as_bytes().to_vec(), whole: false, problem: None };
    judge.meets(&block);
    let part = judge.each(&block, Tally::new(None, None), |tally, entry, changed, mark| judge.add(tally, entry, changed, mark));
    (part.made.finish(), part.broken)
}

/// What was told of blocks so far.
#[derive(Default)]
struct SurveyProgress {
    recordings: u64,
    broken: u64,
    named: Vec<Broken>,
}

impl SurveyProgress {
    fn take(&mut self, recordings: u64, broken: Vec<Broken>) {
        self.recordings += recordings;
        self.broken += broken.len() as u64;
        for one in broken {
            let alike = |known: &Broken| known.source == one.source && known.reason == one.reason;
            let at = self.named.iter().rposition(alike);
            if let Some(known) = at.and_then(|at| self.named.get_mut(at)) {
                known.alike += 1;
            } else if self.named.len() < MOST_NAMED {
                self.named.push(one);
            }
        }
    }
}
