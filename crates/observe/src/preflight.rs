use crate::host::{Host, Interrupt};
use setup_ready_core::driver::{Driver, NotInGuideError};
use setup_ready_core::elsewhere::PlaceReport;
use setup_ready_core::finding::Finding;
use setup_ready_core::guide::{Guide, Requirement};
use setup_ready_core::observation::{Observation, RunEnd};
use setup_ready_core::probe::Probe;
use setup_ready_core::report::{Report, ReportMetadata};
use setup_ready_core::selection::Selection;
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant, SystemTime};

/// A question that is open for so long may never be answered: somebody else goes on with the rest.
const HANGING: Duration = Duration::from_secs(1);
/// More workers than this are never started.
const MOST_WORKERS: usize = 64;

/// Checks a machine against a guide.
///
/// ```
/// use setup_ready_core::guide;
/// use setup_ready_observe::{Described, Preflight};
///
/// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
/// let machine = Described::parse("format = 1\n[machine]\nname = \"small\"\n[cores]\nonline = 2\n").unwrap();
/// let report = Preflight::new(&guide).run(&machine).unwrap();
/// assert_eq!(report.message(&report.settled[0]), "This machine has 2 processor cores, and 4 are needed.");
/// ```
pub struct Preflight<'l> {
    guide: Arc<Guide>,
    selection: Selection,
    jobs: Option<usize>,
    interrupt: Interrupt,
    progress: Option<Listener<'l>>,
    findings: Option<FindingListener<'l>>,
    guide_path: Option<String>,
    guide_sha256: Option<String>,
    elsewhere: Vec<PlaceReport>,
}

impl std::fmt::Debug for Preflight<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Preflight").field("selection", &self.selection).field("jobs", &self.jobs).finish_non_exhaustive()
    }
}

/// Who is told how far it is.
type Listener<'l> = Box<dyn Fn(&Progress) + Sync + 'l>;

/// Who is told each finding.
type FindingListener<'l> = Box<dyn Fn(&Requirement, &Finding) + Sync + 'l>;

/// How far a preflight is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Progress {
    /// Requirements that have their finding.
    pub settled: usize,
    /// Requirements that were begun.
    pub begun: usize,
    /// The questions that are being answered now, in words, the longest-running first.
    pub waiting_for: Vec<String>,
}

impl<'l> Preflight<'l> {
    /// A preflight of all requirements of a guide, for every role.
    ///
    /// A guide that is shared already (`Arc<Guide>`) is shared further; of one that is lent a copy is made.
    pub fn new(guide: impl Into<Arc<Guide>>) -> Self {
        Self {
            guide: guide.into(),
            selection: Selection::default(),
            jobs: None,
            interrupt: Interrupt::default(),
            progress: None,
            findings: None,
            guide_path: None,
            guide_sha256: None,
            elsewhere: Vec::new(),
        }
    }

    /// Only what is selected: a role, some requirements, a stage.
    #[must_use]
    pub fn select(mut self, selection: Selection) -> Self {
        self.selection = selection;
        self
    }

    /// How many questions are asked at once; the host decides unless this is called. The report is the same for every number.
    #[must_use]
    pub fn jobs(mut self, jobs: usize) -> Self {
        self.jobs = Some(jobs.max(1));
        self
    }

    /// A switch that ends the preflight early, for a host that has none of its own: a [`crate::Live`] is given it itself.
    #[must_use]
    pub fn interrupt(mut self, interrupt: &Interrupt) -> Self {
        self.interrupt = interrupt.clone();
        self
    }

    /// Is called, from several threads, whenever something was learnt.
    #[must_use]
    pub fn on_progress(mut self, progress: impl Fn(&Progress) + Sync + 'l) -> Self {
        self.progress = Some(Box::new(progress));
        self
    }

    /// Is called, from several threads, with each finding as soon as there is one, in no particular order: what would settle it may still be
    /// looked for.
    #[must_use]
    pub fn on_finding(mut self, listener: impl Fn(&Requirement, &Finding) + Sync + 'l) -> Self {
        self.findings = Some(Box::new(listener));
        self
    }

    /// Where the guide came from, for the report: its path, and the SHA-256 of its text in hexadecimal digits.
    #[must_use]
    pub fn guide_source(mut self, path: impl Into<String>, sha256: impl Into<String>) -> Self {
        self.guide_path = Some(path.into());
        self.guide_sha256 = Some(sha256.into());
        self
    }

    /// What was found in another place where the work goes on.
    #[must_use]
    pub fn with(mut self, elsewhere: PlaceReport) -> Self {
        self.elsewhere.retain(|other| other.place != elsewhere.place);
        self.elsewhere.push(elsewhere);
        self
    }

    /// Asks the host all that is needed and reports what came of it.
    ///
    /// # Errors
    /// When the selection names a role, stage or requirement that the guide does not have.
    pub fn run(&self, host: &dyn Host) -> Result<Report, NotInGuideError> {
        let started = SystemTime::now();
        let clock = Instant::now();
        host.begin();
        let selection = host.selection(&self.guide, self.selection.clone());
        let interrupt = host.interrupt().unwrap_or(&self.interrupt);
        let driver = Driver::new(Arc::clone(&self.guide), selection.clone())?;
        let jobs = self.jobs.unwrap_or_else(|| host.jobs());
        let driver = if jobs <= 1 && self.progress.is_none() && self.findings.is_none() {
            Self::drive_alone(driver, host, interrupt)
        } else {
            self.drive(driver, (host, interrupt), jobs)
        };
        let interrupted = interrupt.is_raised();
        let frame = ReportMetadata {
            software: env!("CARGO_PKG_VERSION").to_owned(),
            guide_path: self.guide_path.clone(),
            guide_sha256: self.guide_sha256.clone(),
            source: host.source(),
            machine_name: host.name().map(ToOwned::to_owned),
            started: host
                .recorded_at()
                .map_or_else(|| humantime::format_rfc3339_seconds(started).to_string(), |(then, _)| then.to_owned()),
            elapsed_ms: host.recorded_at().map_or_else(|| milliseconds(clock), |(_, elapsed)| elapsed),
            interrupted,
            id: host.id().map(ToOwned::to_owned),
        };
        let mut report = Report::new(selection.role, frame, driver.finish());
        report.stage = selection.stage;
        report.selection = selection;
        report.elsewhere.clone_from(&self.elsewhere);
        Ok(report)
    }

    fn drive_alone(mut driver: Driver, host: &dyn Host, interrupt: &Interrupt) -> Driver {
        while !interrupt.is_raised()
            && let Some(probe) = driver.next_probe()
        {
            let clock = Instant::now();
            let probes: Vec<Arc<Probe>> = core::iter::once(Arc::clone(&probe)).chain(driver.take_alike(&probe)).collect();
            let observations = host.observe_together(&probes);
            let elapsed = milliseconds_each(clock, &probes);
            for (probe, observation) in probes.iter().zip(whole(observations)) {
                driver.answer_timed(probe, observation, host.elapsed_ms_of(probe).unwrap_or(elapsed));
            }
        }
        driver
    }

    fn drive(&self, driver: Driver, (host, interrupt): (&dyn Host, &Interrupt), jobs: usize) -> Driver {
        // No more than there can be questions for.
        let jobs = jobs.min(self.guide.requirements.len().saturating_add(2));
        let pool = Pool {
            state: Mutex::new(State { driver, running: Vec::new(), waiting: 0, news: 0 }),
            changed: Condvar::new(),
            told: Mutex::new(0),
        };
        let crew = Crew { preflight: self, pool: &pool, host, interrupt };
        std::thread::scope(|scope| {
            let mut workers = 1;
            // The caller's own thread works too where a number was asked for, so that none is needed beside it.
            for _ in 1..jobs {
                if std::thread::Builder::new().spawn_scoped(scope, || crew.work()).is_err() {
                    break;
                }
                workers += 1;
            }
            // A number that was asked for is kept to; else those that hang do not count.
            if self.jobs.is_some() || std::thread::Builder::new().spawn_scoped(scope, || crew.work()).is_err() {
                return crew.work();
            }
            let mut state = pool.lock();
            while !state.is_done() && !interrupt.is_raised() {
                state = pool.changed.wait_timeout(state, HANGING).unwrap_or_else(PoisonError::into_inner).0;
                let hanging = state.running.iter().filter(|(_, since)| since.elapsed() >= HANGING).count();
                if hanging >= workers && state.driver.has_questions() && workers < MOST_WORKERS {
                    for _ in 0..workers {
                        if std::thread::Builder::new().spawn_scoped(scope, || crew.work()).is_err() {
                            break;
                        }
                    }
                    workers *= 2;
                }
            }
        });
        pool.state.into_inner().unwrap_or_else(PoisonError::into_inner).driver
    }
}

/// What all workers share.
#[derive(Clone, Copy)]
struct Crew<'p, 'l> {
    preflight: &'p Preflight<'l>,
    pool: &'p Pool,
    host: &'p dyn Host,
    interrupt: &'p Interrupt,
}

impl Crew<'_, '_> {
    /// One worker: takes a question, answers it, until none can come any more.
    fn work(&self) {
        let pool = self.pool;
        let mut state = pool.lock();
        loop {
            if self.interrupt.is_raised() {
                break;
            }
            let Some(probe) = state.driver.next_probe() else {
                if state.is_done() {
                    break;
                }
                state.waiting += 1;
                state = pool.changed.wait(state).unwrap_or_else(PoisonError::into_inner);
                state.waiting -= 1;
                continue;
            };
            let probes: Vec<Arc<Probe>> = core::iter::once(Arc::clone(&probe)).chain(state.driver.take_alike(&probe)).collect();
            state.running.push((Arc::clone(&probe), Instant::now()));
            self.tell(state);
            let clock = Instant::now();
            let observations = self.host.observe_together(&probes);
            let elapsed = milliseconds_each(clock, &probes);
            state = pool.lock();
            state.running.retain(|(running, _)| !Arc::ptr_eq(running, &probe));
            for (probe, observation) in probes.iter().zip(whole(observations)) {
                // An answer that the interruption cut short is none.
                let cut = if let Observation::Run(run) = &observation {
                    run.end == RunEnd::Interrupted
                } else {
                    self.interrupt.is_raised() && is_cut_short(probe)
                };
                if !cut {
                    state.driver.answer_timed(probe, observation, self.host.elapsed_ms_of(probe).unwrap_or(elapsed));
                }
            }
            if state.waiting > 0 {
                pool.changed.notify_all();
            }
            self.tell(state);
            state = pool.lock();
        }
        drop(state);
        pool.changed.notify_all();
    }

    /// Tells the listeners what is new; they are called when the others can work on.
    fn tell(&self, mut state: MutexGuard<'_, State>) {
        if self.preflight.findings.is_none() && self.preflight.progress.is_none() {
            return;
        }
        let news = match &self.preflight.findings {
            Some(_) => state.driver.take_news(),
            None => Vec::new(),
        };
        let progress = self.preflight.progress.as_ref().map(|_| {
            let (settled, begun) = state.driver.progress();
            Progress { settled, begun, waiting_for: state.running.iter().map(|(probe, _)| probe.to_string()).collect() }
        });
        state.news += 1;
        let number = state.news;
        drop(state);
        // One listener at a time, and never older news after newer.
        let mut told = self.pool.told.lock().unwrap_or_else(PoisonError::into_inner);
        let is_newest = number > *told;
        *told = number.max(*told);
        if let Some(listener) = &self.preflight.findings {
            for (index, finding) in news {
                if let Some(requirement) = self.preflight.guide.requirements.get(index) {
                    listener(requirement, &finding);
                }
            }
        }
        if let (Some(listener), Some(progress), true) = (&self.preflight.progress, progress, is_newest) {
            listener(&progress);
        }
    }
}

struct Pool {
    state: Mutex<State>,
    changed: Condvar,
    /// The number of the last news that the listeners were told.
    told: Mutex<u64>,
}

struct State {
    driver: Driver,
    /// What is being asked, and since when, the longest-running first.
    running: Vec<(Arc<Probe>, Instant)>,
    /// How many workers have nothing to ask at the moment.
    waiting: usize,
    /// How often there was something to tell.
    news: u64,
}

impl State {
    /// Nothing is asked, and no question can come any more.
    fn is_done(&self) -> bool {
        self.driver.is_finished() || (self.running.is_empty() && !self.driver.has_questions())
    }
}

impl Pool {
    fn lock(&self) -> MutexGuard<'_, State> {
        self.state.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Whether the answer to such a question may be none because it was interrupted.
fn is_cut_short(probe: &Probe) -> bool {
    matches!(
        probe,
        Probe::Connection { .. }
            | Probe::Fetch { .. }
            | Probe::Addresses { .. }
            | Probe::Group { .. }
            | Probe::Setting { .. }
            | Probe::ClockBeside { .. }
            | Probe::Checkout { .. }
            | Probe::Candidate { .. }
    )
}

/// As many answers as are wanted, whatever a host gives.
fn whole(observations: Vec<Observation>) -> impl Iterator<Item = Observation> {
    let missing = || Observation::CouldNotLook("the host has not answered".to_owned());
    observations.into_iter().chain(std::iter::repeat_with(missing))
}

/// What each of several questions took: a manager answers all of them with one, and others are answered one after the other.
fn milliseconds_each(clock: Instant, probes: &[Arc<Probe>]) -> u64 {
    let together = probes.iter().any(|probe| matches!(**probe, Probe::Candidate { .. }));
    let count = u64::try_from(probes.len()).unwrap_or(1).max(1);
    milliseconds(clock) / if together { 1 } else { count }
}

fn milliseconds(clock: Instant) -> u64 {
    u64::try_from(clock.elapsed().as_millis()).unwrap_or(u64::MAX)
}
