//! Many workers drive one preflight: nothing is asked twice, nothing is lost, and it ends early when told to.

use build_setup_ready::{Host, Interrupt, Preflight, Progress};
use rstest::rstest;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{self, Guide};
use setup_ready_core::observation::{Choice, FileKind, Observation, ProgramCopy, Run, RunEnd, StartEffect};
use setup_ready_core::probe::Probe;
use setup_ready_core::report::{MachineSource, Outcome};
use std::collections::HashMap;
use std::fmt::Write;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;

/// A machine that has every program, takes its time, and remembers what it was asked.
#[derive(Default)]
struct Slow {
    asked: Mutex<HashMap<Probe, usize>>,
    at_once: AtomicUsize,
    most_at_once: AtomicUsize,
    interrupt_at: Option<(usize, Interrupt)>,
}

impl Host for Slow {
    fn observe(&self, probe: &Probe) -> Observation {
        let now = self.at_once.fetch_add(1, Ordering::SeqCst) + 1;
        self.most_at_once.fetch_max(now, Ordering::SeqCst);
        std::thread::sleep(Duration::from_millis(2));
        let mut asked = self.asked.lock().unwrap();
        *asked.entry(probe.clone()).or_default() += 1;
        if let Some((count, interrupt)) = &self.interrupt_at
            && asked.len() >= *count
        {
            interrupt.raise();
        }
        self.at_once.fetch_sub(1, Ordering::SeqCst);
        if let Probe::Program { name } = probe {
            let path = format!("/usr/bin/{name}");
            return Observation::Program(vec![ProgramCopy {
                real_path: path.clone(),
                path,
                executable: true,
                in_project: false,
                kind: FileKind::Unknown,
                lacks: Vec::new(),
                start: StartEffect::Quiet,
                choice: Choice::Itself,
                by_relative_entry: false,
            }]);
        }
        if matches!(probe, Probe::Run { .. }) {
            let run = Run { end: RunEnd::Exit(0), stdout: "version 3.4".into(), stderr: String::new(), cut: false };
            return Observation::Run(run);
        }
        Observation::CouldNotLook("it is only slow".to_owned())
    }

    fn source(&self) -> MachineSource {
        MachineSource::Described
    }
}

/// Forty requirements of ten programs, each waiting for the one before it in its row of four.
fn rows() -> Guide {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for index in 0..40 {
        writeln!(text, "[require.r{index}]\ntool = \"t{}\"\nversion = \">= {}\"", index % 10, index / 10 + 1).unwrap();
        if index >= 10 {
            writeln!(text, "after = [\"r{}\"]", index - 10).unwrap();
        }
    }
    guide::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"))
}

#[rstest]
#[case::one(1)]
#[case::three(3)]
#[case::more_than_there_is_to_do(64)]
fn every_question_is_asked_once_by_any_number_of_workers(#[case] jobs: usize) {
    let guide = rows();
    let host = Slow::default();
    let report = Preflight::new(&guide).jobs(jobs).run(&host).unwrap();
    let verdicts: Vec<Verdict> = report.settled.iter().map(|one| one.finding.verdict()).collect();
    assert_eq!(verdicts.iter().filter(|verdict| **verdict == Verdict::Met).count(), 30);
    assert_eq!(verdicts.iter().filter(|verdict| **verdict == Verdict::Unmet).count(), 10);
    assert_eq!(report.outcome(), Outcome::NotReady);
    let asked = host.asked.lock().unwrap();
    assert!(asked.values().all(|times| *times == 1), "{asked:?}");
    // Ten programs found and run, looked for off PATH in the end, the machine itself, and what the fixes need.
    assert_eq!(asked.len(), 34);
    assert!(host.most_at_once.load(Ordering::SeqCst) <= jobs);
    assert!(jobs == 1 || host.most_at_once.load(Ordering::SeqCst) > 1);
}

#[test]
fn an_interruption_keeps_what_is_known_and_asks_nothing_more() {
    let guide = rows();
    let interrupt = Interrupt::default();
    let host = Slow { interrupt_at: Some((8, interrupt.clone())), ..Slow::default() };
    let report = Preflight::new(&guide).jobs(2).interrupt(&interrupt).run(&host).unwrap();
    assert!(report.frame.interrupted);
    let known = report.settled.iter().filter(|one| one.finding.verdict() == Verdict::Met).count();
    let unknown = report.settled.iter().filter(|one| one.finding.verdict() == Verdict::Unknown).count();
    assert!(unknown >= 10 && known + unknown == report.settled.len(), "{known} {unknown}");
    assert!(host.asked.lock().unwrap().len() <= 10);
}

#[test]
fn progress_only_grows_and_names_what_is_waited_for() {
    let guide = rows();
    let seen: Mutex<Vec<Progress>> = Mutex::new(Vec::new());
    Preflight::new(&guide)
        .jobs(4)
        .on_progress(|progress| seen.lock().unwrap().push(progress.clone()))
        .run(&Slow::default())
        .unwrap();
    let seen = seen.into_inner().unwrap();
    let settled: Vec<usize> = seen.iter().map(|progress| progress.settled).collect();
    assert!(settled.is_sorted() && settled.last() == Some(&40), "{settled:?}");
    assert!(seen.iter().all(|progress| progress.settled <= 40 && progress.waiting_for.len() <= 4));
    assert!(seen.iter().any(|progress| progress.waiting_for.iter().any(|what| what == "/usr/bin/t0 --version")));
}
