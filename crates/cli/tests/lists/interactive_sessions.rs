//! What somebody does while `walk` and `preflight --watch` wait for them, and what they must then be able to read.

mod cases;
mod walks;
mod watches;

use std::io::Write;
use std::process::{Child, ChildStdin, Command, Stdio};
use std::sync::mpsc::Receiver;
use std::time::{Duration, Instant};

use crate::harness::{Bench, listened_to, text};
use crate::trials;
use cases::{Case, Step};
use libtest_mimic::Trial;
use walks::WALKS;
use watches::WATCHES;

/// A hang has no end; a busy machine is only slow.
const PATIENCE: Duration = Duration::from_secs(300);

/// The program while it runs, and what it wrote that no step has read yet.
struct Running {
    child: Child,
    input: Option<ChildStdin>,
    written: Receiver<Vec<u8>>,
    unread: String,
}

impl Running {
    fn start(bench: &Bench, arguments: &[&str]) -> Self {
        let mut command = bench.command(&[], arguments);
        command.env("HOME", bench.folder.path().join("home")).env_remove("SHELL").env_remove("ENV");
        let (mut child, written) = listened_to(command.stdin(Stdio::piped()));
        Self { input: child.stdin.take(), child, written, unread: String::new() }
    }

    /// All that it writes until it waits for somebody; where it has ended, or never does, what there is.
    fn until_it_waits(&mut self) -> Result<String, String> {
        let began = Instant::now();
        loop {
            if let Some(at) =
                self.unread.find("\n> ").map(|at| at + 3).or_else(|| self.unread.find("Waiting until").map(|at| at + 13))
            {
                return Ok(self.unread.drain(..at).collect());
            }
            match self.written.recv_timeout(PATIENCE.saturating_sub(began.elapsed())) {
                Ok(bytes) => self.unread.push_str(&String::from_utf8_lossy(&bytes)),
                Err(_) => return Err(std::mem::take(&mut self.unread)),
            }
        }
    }

    fn until_it_ends(&mut self) -> (Option<i32>, String) {
        let began = Instant::now();
        while let Ok(bytes) = self.written.recv_timeout(PATIENCE.saturating_sub(began.elapsed())) {
            self.unread.push_str(&String::from_utf8_lossy(&bytes));
        }
        // The end of what it writes comes a moment before its own.
        let mut code = self.child.try_wait().unwrap();
        while code.is_none() && began.elapsed() < PATIENCE {
            std::thread::sleep(Duration::from_millis(10));
            code = self.child.try_wait().unwrap();
        }
        let code = code.and_then(|status| status.code());
        (code, std::mem::take(&mut self.unread))
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// What of this is not as it must be. Of words between `|` one is enough.
fn read(told: &str, says: &[&str], never: &[&str]) -> Vec<String> {
    // Where a line is broken is no matter here.
    let plain = told.split_whitespace().collect::<Vec<_>>().join(" ");
    let missing =
        says.iter().filter(|one| !one.split('|').any(|one| plain.contains(one))).map(|one| format!("does not say {one:?}"));
    let there = never.iter().filter(|one| told.contains(**one) || plain.contains(**one)).map(|one| format!("says {one:?}"));
    missing.chain(there).collect()
}

fn outside(bench: &Bench, script: &str) {
    let done = Command::new("sh")
        .args(["-euc", script])
        .current_dir(bench.project())
        .env("BIN", bench.bin())
        .env("HOME", bench.folder.path().join("home"))
        .env("HERE", bench.folder.path())
        .output()
        .unwrap();
    assert!(done.status.success(), "{script}: {}", text(&done.stderr));
}

fn wrong(case: &Case, pause: Duration) -> Vec<String> {
    let bench = Bench::new(case.guide);
    std::fs::create_dir(bench.folder.path().join("home")).unwrap();
    let mut running: Option<Running> = None;
    for (number, step) in case.steps.iter().enumerate() {
        let mut failed = Vec::new();
        let mut told = String::new();
        match step {
            Step::Does(script) => {
                // What is done at once would be seen by the first look of a watch, whether or not it is told of changes.
                std::thread::sleep(if running.is_some() { pause } else { Duration::ZERO });
                outside(&bench, script);
            }
            Step::Starts(arguments) => running = Some(Running::start(&bench, arguments)),
            other => {
                let running = running.as_mut().unwrap();
                match other {
                    Step::Types(line) => {
                        let _ = running.input.as_mut().unwrap().write_all(line.as_bytes());
                    }
                    Step::Closes => drop(running.input.take()),
                    Step::Signals(signal) => {
                        let pid = running.child.id().to_string();
                        assert!(Command::new("kill").args([*signal, pid.as_str()]).status().unwrap().success());
                    }
                    Step::Waits(says, never) => match running.until_it_waits() {
                        Ok(all) => (failed, told) = (read(&all, says, never), all),
                        Err(all) => (failed, told) = (vec!["does not wait for anybody".to_owned()], all),
                    },
                    Step::Ends(code, says, never) => {
                        let (ended, all) = running.until_it_ends();
                        failed = read(&all, says, never);
                        if ended != Some(*code) {
                            failed.insert(0, format!("ends with {ended:?} and not {code}"));
                        }
                        told = all;
                    }
                    Step::Does(_) | Step::Starts(_) => {}
                }
            }
        }
        if !failed.is_empty() {
            let said = told.lines().collect::<Vec<_>>().join("\n        | ");
            return vec![format!("step {}: {}\n        | {said}", number + 1, failed.join(", "))];
        }
    }
    Vec::new()
}

/// A walk and a watch say what somebody needs, whatever they do meanwhile.
pub(crate) fn tests() -> Vec<Trial> {
    let mut tests = trials::of("walked", WALKS, 1, |case| case.name, |case| wrong(case, Duration::ZERO));
    tests.extend(trials::of("watched", WATCHES, 1, |case| case.name, |case| wrong(case, Duration::from_millis(1200))));
    tests
}
