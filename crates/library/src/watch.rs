//! Noticing that something changed which may settle what is open, without asking anything slow.

use setup_ready_core::finding::Verdict;
use setup_ready_core::known::Answer;
use setup_ready_core::observation::Observation;
use setup_ready_core::probe::Probe;
use setup_ready_core::report::{MachineSource, Report};
use setup_ready_core::settled::RequirementResult;
use setup_ready_observe::Host;
use setup_ready_observe::notice::Notice;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant, SystemTime};

/// What the requirements of a report rest on, as it was then.
#[derive(Debug)]
pub struct Watch {
    answers: Vec<Answer>,
    files: BTreeMap<PathBuf, Option<(SystemTime, u64)>>,
}

impl Watch {
    /// Remembers what a report's requirements rest on: the answers that are had at once (files, ports, programs on PATH, sockets), the folders of
    /// PATH, the programs that were asked, the files on which slower answers rest, and these `files`. Of what is met only what a change in a file can
    /// undo, since time alone seldom does.
    pub fn new(report: &Report, files: &[&Path], host: &dyn Host) -> Self {
        let mut watch = Self::of_files(files);
        if report.frame.source != MachineSource::Live {
            return watch;
        }
        let path = std::env::var_os("PATH").unwrap_or_default();
        for folder in std::env::split_paths(&path).filter(|folder| folder.is_absolute()) {
            watch.remember(&folder);
        }
        let mut seen = BTreeSet::new();
        let (open, met): (Vec<&RequirementResult>, Vec<&RequirementResult>) =
            report.settled.iter().partition(|one| matches!(one.finding.verdict(), Verdict::Unmet | Verdict::Unknown));
        let all = open.into_iter().map(|one| (one, true)).chain(met.into_iter().map(|one| (one, false)));
        for (answer, is_open) in all.flat_map(|(one, is_open)| one.finding.evidence.iter().map(move |answer| (answer, is_open))) {
            if !seen.insert(answer.probe.clone()) {
                continue;
            }
            if let Probe::Run { path, .. } = &*answer.probe {
                watch.remember(Path::new(path));
            }
            let places = host.watch_paths(&answer.probe);
            if !answer.probe.is_answered_at_once() {
                for place in &places {
                    watch.remember(place);
                }
            } else if is_open || !places.is_empty() {
                watch.answers.push(answer.clone());
            }
        }
        watch
    }

    /// Remembers only these files, each as it is, or that it is not there.
    pub fn of_files(files: &[&Path]) -> Self {
        let mut watch = Self { answers: Vec::new(), files: BTreeMap::new() };
        for file in files {
            watch.remember(file);
        }
        watch
    }

    fn remember(&mut self, file: &Path) {
        // Of a name alone there is no folder that could be listened to.
        let file = std::path::absolute(file).unwrap_or_else(|_| file.to_owned());
        let stamp = stamp(&file);
        self.files.insert(file, stamp);
    }

    /// What is not as it was, in words; `None` where nothing is known to have changed. Everything is asked again.
    pub fn changed(&self, host: &dyn Host) -> Option<String> {
        host.begin();
        self.changed_file().or_else(|| Self::changed_among(host, self.answers.iter()))
    }

    /// Waits for changes from now on: asks again only what a change in a folder can have touched, and what time alone changes at a calm pace.
    pub fn listen<'w>(&'w self, host: &'w dyn Host) -> Listening<'w> {
        let watch_paths: Vec<Vec<PathBuf>> = self.answers.iter().map(|answer| host.watch_paths(&answer.probe)).collect();
        let mut listening =
            Listening { watch: self, host, watch_paths, notice: None, is_new: true, calm: Instant::now(), whole: Instant::now() };
        listening.look_where_they_are();
        listening
    }

    fn changed_file(&self) -> Option<String> {
        let file = self.files.iter().find(|(file, before)| stamp(file) != **before);
        file.map(|(file, _)| file.display().to_string())
    }

    fn changed_among<'a>(host: &dyn Host, mut answers: impl Iterator<Item = &'a Answer>) -> Option<String> {
        let differs = |answer: &&Answer| {
            let now = host.observe(&answer.probe);
            now != *answer.observation && !matches!(now, Observation::CouldNotLook(_))
        };
        let answer = answers.find(differs)?;
        Some(if let Probe::PortBinding(place) = &*answer.probe { place.to_string() } else { answer.probe.to_string() })
    }
}

/// How often what time alone changes is asked again, and files are looked at that nobody tells of.
const CALM: Duration = Duration::from_secs(2);
/// How often everything is, since not every filesystem tells of its changes.
const WHOLE: Duration = Duration::from_secs(60);

/// What waits for changes.
pub struct Listening<'w> {
    watch: &'w Watch,
    host: &'w dyn Host,
    /// For each answer the files and folders that it rests on; none where they do not tell.
    watch_paths: Vec<Vec<PathBuf>>,
    notice: Option<Notice>,
    /// Nothing was asked yet: what changed before it listened was not told.
    is_new: bool,
    calm: Instant,
    whole: Instant,
}

impl std::fmt::Debug for Listening<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Listening").field("watch", &self.watch).field("notice", &self.notice).finish_non_exhaustive()
    }
}

impl Listening<'_> {
    /// What has changed since it was asked last, in words. Never waits, and costs next to nothing where nothing happened.
    pub fn changed(&mut self) -> Option<String> {
        let heard = self.notice.as_ref().map(Notice::heard);
        let is_calm = self.calm.elapsed() >= CALM || self.is_new;
        let is_whole = self.whole.elapsed() >= WHOLE || self.is_new || heard.is_none() && is_calm;
        self.is_new = false;
        let touched = heard.unwrap_or_default();
        if touched.is_empty() && !is_calm {
            return None;
        }
        if !touched.is_empty() {
            // What was not there may be by now, and has to be looked into: before it is asked, so that nothing is missed.
            self.look_where_they_are();
        }
        if is_calm {
            self.calm = Instant::now();
        }
        if is_whole {
            self.whole = Instant::now();
            return self.watch.changed(self.host);
        }
        self.host.begin();
        let is_asked = |(_, places): &(&Answer, &Vec<PathBuf>)| {
            (places.is_empty() && is_calm) || places.iter().any(|place| touched.iter().any(|folder| place.starts_with(folder)))
        };
        let asked = self.watch.answers.iter().zip(&self.watch_paths).filter(is_asked).map(|(answer, _)| answer);
        let file = if touched.is_empty() { None } else { self.watch.changed_file() };
        file.or_else(|| Watch::changed_among(self.host, asked))
    }

    /// Has the system tell of changes in the nearest folders that are there.
    fn look_where_they_are(&mut self) {
        let places: Vec<PathBuf> =
            self.watch.files.keys().chain(self.watch_paths.iter().flatten()).flat_map(|place| by_way_of(place)).collect();
        let above = |place: &PathBuf| place.ancestors().skip(1).find(|folder| folder.is_dir()).map(Path::to_owned);
        let mut folders: Vec<PathBuf> = places.iter().filter_map(above).collect();
        // What is a folder itself changes with what is in it.
        folders.extend(places.into_iter().filter(|place| place.is_dir()));
        folders.sort();
        folders.dedup();
        self.notice = Notice::of(&folders);
    }
}

/// More links than these are not followed.
const MOST_LINKS: usize = 10;

/// A place, and each one that the links at it lead to.
fn by_way_of(place: &Path) -> Vec<PathBuf> {
    let mut all = vec![place.to_owned()];
    while let Some(link) = all.last().filter(|_| all.len() <= MOST_LINKS)
        && let Ok(target) = link.read_link()
    {
        all.push(link.parent().unwrap_or(link).join(target));
    }
    all
}

fn stamp(file: &Path) -> Option<(SystemTime, u64)> {
    let metadata = std::fs::metadata(file).ok()?;
    Some((metadata.modified().ok()?, metadata.len()))
}
