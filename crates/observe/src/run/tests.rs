#![allow(clippy::unwrap_used, reason = "helpers of tests may be blunt")]
use super::limits::KEPT_BYTES;
use super::{ExecEnv, Isolated};
use super::{Limits, run};
use crate::host::Interrupt;
use rstest::rstest;
use setup_ready_core::observation::{Run, RunEnd, StartFailure};
use std::os::unix::fs::PermissionsExt;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

struct Bench {
    folder: tempfile::TempDir,
}

impl Bench {
    fn new() -> Self {
        Self { folder: tempfile::tempdir().unwrap() }
    }

    fn program(&self, content: &str, mode: u32) -> PathBuf {
        let path = self.folder.path().join("program");
        std::fs::write(&path, content).unwrap();
        std::fs::set_permissions(&path, std::fs::Permissions::from_mode(mode)).unwrap();
        path
    }

    fn script(&self, body: &str) -> PathBuf {
        self.program(&format!("#!/bin/sh\n{body}\n"), 0o755)
    }
}

fn limits(milliseconds: u64) -> Limits {
    Limits { time: Duration::from_millis(milliseconds), interrupt: Interrupt::default(), environment: &[] }
}

fn run_within(path: &Path, milliseconds: u64) -> Run {
    run(path, &[], &ExecEnv::Isolated(Isolated::of_the_system()), &limits(milliseconds))
}

/// Whether the process is still there a moment later: dying takes a little, and one that only waits to be buried by init is dead.
fn is_alive(pid_file: &Path) -> bool {
    let pid = std::fs::read_to_string(pid_file).unwrap();
    (0..200).all(|_| {
        std::thread::sleep(Duration::from_millis(10));
        let status = std::fs::read_to_string(format!("/proc/{}/stat", pid.trim())).unwrap_or_default();
        !status.is_empty() && !status.contains(") Z ")
    })
}

#[rstest]
#[case::a_version_on_one_stream_and_a_note_on_the_other("echo out; echo err >&2; exit 3", RunEnd::Exit(3), "out\n", "err\n")]
#[case::no_input_to_wait_for("read line || echo none", RunEnd::Exit(0), "none\n", "")]
#[case::bytes_that_are_no_text(r"printf 'a\377b'", RunEnd::Exit(0), "a\u{fffd}b", "")]
#[case::a_signal("kill -11 $$", RunEnd::Signal(11), "", "")]
#[case::closing_its_output_and_going_on("echo early; exec >&- 2>&-; sleep 0.2; exit 4", RunEnd::Exit(4), "early\n", "")]
fn a_program_is_seen_as_it_ends(#[case] body: &str, #[case] end: RunEnd, #[case] stdout: &str, #[case] stderr: &str) {
    let bench = Bench::new();
    let seen = run_within(&bench.script(body), 10_000);
    assert_eq!(seen, Run { end, stdout: stdout.into(), stderr: stderr.into(), cut: false });
}

#[test]
fn a_gigabyte_of_output_is_read_and_not_kept() {
    let bench = Bench::new();
    let seen = run_within(&bench.script("head -c 1000000000 /dev/zero | tr '\\0' y; echo end >&2"), 60_000);
    assert_eq!((seen.end, seen.stdout.len(), seen.cut, seen.stderr.as_str()), (RunEnd::Exit(0), KEPT_BYTES, true, "end\n"));
}

#[test]
fn a_program_that_never_ends_is_stopped_with_all_that_it_started() {
    let bench = Bench::new();
    let pid = bench.folder.path().join("pid");
    let seen = run_within(&bench.script(&format!("echo begun; sleep 600 & echo $! > {}; yes >/dev/null", pid.display())), 2_000);
    assert_eq!((seen.end, seen.stdout.as_str()), (RunEnd::TimeUp(2_000), "begun\n"));
    assert!(!is_alive(&pid));
}

#[test]
fn endless_output_does_not_outrun_the_clock() {
    let bench = Bench::new();
    let seen = run_within(&bench.script("yes"), 900);
    assert_eq!((seen.end, seen.cut), (RunEnd::TimeUp(900), true));
}

#[test]
fn a_grandchild_that_holds_the_pipe_costs_a_moment_and_is_ended() {
    let bench = Bench::new();
    let pid = bench.folder.path().join("pid");
    let seen = run_within(&bench.script(&format!("sleep 600 & echo $! > {}; echo 2.0", pid.display())), 20_000);
    assert_eq!((seen.end, seen.stdout.as_str()), (RunEnd::Exit(0), "2.0\n"));
    assert!(!is_alive(&pid));
}

#[test]
fn an_interruption_ends_what_is_running() {
    let bench = Bench::new();
    let limits = limits(60_000);
    let switch = limits.interrupt.clone();
    let begun = Instant::now();
    let thread = std::thread::spawn(move || {
        std::thread::sleep(Duration::from_millis(200));
        switch.raise();
    });
    assert_eq!(
        run(&bench.script("sleep 600"), &[], &ExecEnv::Isolated(Isolated::of_the_system()), &limits).end,
        RunEnd::Interrupted
    );
    assert!(begun.elapsed() < Duration::from_secs(50));
    thread.join().unwrap();
}

#[rstest]
#[case::an_interpreter_that_is_not_there("#!/nowhere/interpreter\n", 0o755, StartFailure::PieceMissing)]
#[case::something_that_is_no_program("\u{1}\u{2}\u{3}", 0o755, StartFailure::Format)]
#[case::a_file_without_permission("#!/bin/sh\n", 0o644, StartFailure::Denied)]
fn a_program_that_cannot_start_says_why(#[case] content: &str, #[case] mode: u32, #[case] failure: StartFailure) {
    let bench = Bench::new();
    let seen = run_within(&bench.program(content, mode), 5_000);
    assert!(matches!(seen.end, RunEnd::NotStarted(why, _) if why == failure), "{seen:?}");
}
