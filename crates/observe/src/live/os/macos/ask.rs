//! The system's own commands, by their full paths and without a shell; each only tells something.

use crate::host::Interrupt;
use crate::live::Live;
use crate::run::{ExecEnv, Isolated, Limits, run};
use setup_ready_core::observation::{Run, RunEnd};
use std::path::Path;

/// What a command prints; the reason where it does not end well.
pub(super) fn ask(program: &str, arguments: &[&str]) -> Result<String, String> {
    let run = ran(program, arguments);
    if run.end == RunEnd::Exit(0) { Ok(run.stdout) } else { Err(format!("{program} did not answer")) }
}

/// How a command ends, and what it prints.
pub(super) fn ran(program: &str, arguments: &[&str]) -> Run {
    let words: Vec<String> = arguments.iter().map(|word| (*word).to_owned()).collect();
    let limits = Limits { time: Live::TIME_LIMIT, interrupt: Interrupt::default(), environment: &[] };
    run(Path::new(program), &words, &ExecEnv::Isolated(Isolated::of_the_system()), &limits)
}

/// A number of the kernel's, by sysctl(8).
pub(super) fn kernel_number(name: &str) -> Result<u64, String> {
    let text = ask("/usr/sbin/sysctl", &["-n", name])?;
    text.trim().parse().map_err(|_| format!("sysctl {name} is no number"))
}

/// A switch of the kernel's; `None` where it has no such one.
pub(super) fn kernel_flag(name: &str) -> Option<bool> {
    kernel_number(name).ok().map(|number| number == 1)
}
