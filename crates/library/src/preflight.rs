use crate::driver::{Consent, Driver, NotInGuide, Selection};
use crate::finding::Finding;
use crate::guide::{Guide, Requirement};
use crate::host::{Host, Interrupt};
use crate::observation::{Observation, RunEnd};
use crate::probe::Probe;
use crate::report::{Frame, MachineSource, Report};
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// A question that is open for so long may never be answered: somebody else goes on with the rest.
const HANGING: Duration = Duration::from_secs(1);
/// More workers than this are never started.
const MOST_WORKERS: usize = 64;

/// Checks a machine against a guide.
///
/// ```
/// use build_setup_ready::{Described, Preflight, guide};
///
/// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
/// let machine = Described::parse("format = 1\n[machine]\nname = \"small\"\n[cores]\nonline = 2\n").unwrap();
/// let report = Preflight::new(&guide).run(&machine).unwrap();
/// assert_eq!(report.settled[0].finding.message, "This machine has 2 processor cores, and 4 are needed.");
/// ```
pub struct Preflight<'g> {
    guide: &'g Guide,
    selection: Selection,
    jobs: Option<usize>,
    interrupt: Interrupt,
    progress: Option<Listener<'g>>,
    findings: Option<FindingListener<'g>>,
    guide_path: Option<String>,
    guide_sha256: Option<String>,
}

impl std::fmt::Debug for Preflight<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Preflight").field("selection", &self.selection).field("jobs", &self.jobs).finish_non_exhaustive()
    }
}

/// Who is told how far it is.
type Listener<'g> = Box<dyn Fn(&Progress) + Sync + 'g>;

/// Who is told each finding.
type FindingListener<'g> = Box<dyn Fn(&Requirement, &Finding) + Sync + 'g>;

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

impl<'g> Preflight<'g> {
    /// A preflight of all requirements of a guide, for every role.
    pub fn new(guide: &'g Guide) -> Self {
        Self {
            guide,
            selection: Selection::default(),
            jobs: None,
            interrupt: Interrupt::default(),
            progress: None,
            findings: None,
            guide_path: None,
            guide_sha256: None,
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

    /// A switch that ends the preflight early. Give the same one to the host.
    #[must_use]
    pub fn interrupt(mut self, interrupt: &Interrupt) -> Self {
        self.interrupt = interrupt.clone();
        self
    }

    /// Is called, from several threads, whenever something was learnt.
    #[must_use]
    pub fn on_progress(mut self, progress: impl Fn(&Progress) + Sync + 'g) -> Self {
        self.progress = Some(Box::new(progress));
        self
    }

    /// Is called, from several threads, with each finding as soon as there is one, in no particular order.
    #[must_use]
    pub fn on_finding(mut self, listener: impl Fn(&Requirement, &Finding) + Sync + 'g) -> Self {
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

    /// Asks the host all that is needed and reports what came of it.
    ///
    /// # Errors
    /// When the selection names a role, stage or requirement that the guide does not have.
    pub fn run(&self, host: &dyn Host) -> Result<Report<'g>, NotInGuide> {
        let started = jiff::Timestamp::now();
        let clock = Instant::now();
        let mut selection = self.selection.clone();
        // Nothing is started on a machine that is only described.
        if host.source() != MachineSource::Live {
            selection.consent = Consent::Given;
        }
        let driver = Driver::new(self.guide, selection)?;
        let jobs = self.jobs.unwrap_or_else(|| host.jobs());
        let driver = if jobs <= 1 && self.progress.is_none() && self.findings.is_none() {
            self.drive_alone(driver, host)
        } else {
            self.drive(driver, host, jobs)
        };
        let interrupted = self.interrupt.is_raised();
        let frame = Frame {
            software: env!("CARGO_PKG_VERSION").to_owned(),
            guide_path: self.guide_path.clone(),
            guide_sha256: self.guide_sha256.clone(),
            source: host.source(),
            machine_name: host.name().map(ToOwned::to_owned),
            started: started.strftime("%Y-%m-%dT%H:%M:%SZ").to_string(),
            elapsed_ms: milliseconds(clock),
            interrupted,
        };
        let finished = driver.finish();
        Ok(Report::new(self.guide, self.selection.role, frame, &finished.known, finished.settled))
    }

    fn drive_alone(&self, mut driver: Driver<'g>, host: &dyn Host) -> Driver<'g> {
        while !self.interrupt.is_raised()
            && let Some(probe) = driver.next_probe()
        {
            let clock = Instant::now();
            let observation = host.observe(&probe);
            driver.answer_timed(&probe, observation, milliseconds(clock));
        }
        driver
    }

    fn drive(&self, driver: Driver<'g>, host: &dyn Host, jobs: usize) -> Driver<'g> {
        let pool = Pool { state: Mutex::new(State { driver, running: Vec::new() }), changed: Condvar::new() };
        std::thread::scope(|scope| {
            for _ in 1..jobs {
                scope.spawn(|| self.work(&pool, host));
            }
            // A number that was asked for is kept to; else those that hang do not count.
            if self.jobs.is_some() {
                return self.work(&pool, host);
            }
            let mut workers = jobs.max(1);
            scope.spawn(|| self.work(&pool, host));
            let mut state = pool.lock();
            while !state.is_done() && !self.interrupt.is_raised() {
                state = pool.changed.wait_timeout(state, HANGING).unwrap_or_else(PoisonError::into_inner).0;
                let hanging = state.running.iter().filter(|(_, since)| since.elapsed() >= HANGING).count();
                if hanging >= workers && state.driver.has_questions() && workers < MOST_WORKERS {
                    for _ in 0..workers {
                        scope.spawn(|| self.work(&pool, host));
                    }
                    workers *= 2;
                }
            }
        });
        pool.state.into_inner().unwrap_or_else(PoisonError::into_inner).driver
    }

    /// One worker: takes a question, answers it, until none can come any more.
    fn work(&self, pool: &Pool<'g>, host: &dyn Host) {
        let mut state = pool.lock();
        loop {
            if self.interrupt.is_raised() {
                break;
            }
            let Some(probe) = state.driver.next_probe() else {
                if state.is_done() {
                    break;
                }
                state = pool.changed.wait(state).unwrap_or_else(PoisonError::into_inner);
                continue;
            };
            state.running.push((Arc::clone(&probe), Instant::now()));
            self.report(&mut state);
            drop(state);
            let clock = Instant::now();
            let observation = host.observe(&probe);
            let elapsed = milliseconds(clock);
            state = pool.lock();
            state.running.retain(|(running, _)| !Arc::ptr_eq(running, &probe));
            // An answer that the interruption cut short is none.
            let cut = if let Observation::Run(run) = &observation {
                run.end == RunEnd::Interrupted
            } else {
                self.interrupt.is_raised() && is_cut_short(&probe)
            };
            if !cut {
                state.driver.answer_timed(&probe, observation, elapsed);
            }
            self.report(&mut state);
            pool.changed.notify_all();
        }
        pool.changed.notify_all();
    }

    fn report(&self, state: &mut State<'g>) {
        if let Some(listener) = &self.findings {
            for (requirement, finding) in state.driver.take_news() {
                listener(requirement, &finding);
            }
        }
        if let Some(progress) = &self.progress {
            let (settled, begun) = state.driver.progress();
            progress(&Progress {
                settled,
                begun,
                waiting_for: state.running.iter().map(|(probe, _)| probe.to_string()).collect(),
            });
        }
    }
}

struct Pool<'g> {
    state: Mutex<State<'g>>,
    changed: Condvar,
}

struct State<'g> {
    driver: Driver<'g>,
    /// What is being asked, and since when, the longest-running first.
    running: Vec<(Arc<Probe>, Instant)>,
}

impl State<'_> {
    /// Nothing is asked, and no question can come any more.
    fn is_done(&self) -> bool {
        self.driver.is_finished() || (self.running.is_empty() && !self.driver.has_questions())
    }
}

impl<'g> Pool<'g> {
    fn lock(&self) -> MutexGuard<'_, State<'g>> {
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
            | Probe::Checkout { .. }
            | Probe::Candidate { .. }
    )
}

fn milliseconds(clock: Instant) -> u64 {
    u64::try_from(clock.elapsed().as_millis()).unwrap_or(u64::MAX)
}
