//! Keeping on Linux: the one that works is in a session of its own without a terminal, hears of the other's death by SIGTERM, and both take in
//! the children that others left.

#![allow(clippy::exit, reason = "whoever is orphaned before it began has nothing to end")]

use super::children;
use crate::exit::Status;
use rustix::process::{Pid, Signal, getpid, getppid, kill_process, set_child_subreaper, set_parent_process_death_signal, setsid};
use rustix::termios::{OptionalActions, Termios, isatty, tcgetattr, tcgetpgrp, tcsetattr};
use signal_hook::consts::{SIGCONT, SIGHUP, SIGINT, SIGQUIT, SIGTERM, SIGTSTP};
use signal_hook::iterator::Signals;
use std::os::unix::process::{CommandExt, ExitStatusExt};
use std::process::{Child, Command, ExitCode, ExitStatus, Stdio};
use std::sync::OnceLock;
use std::time::Duration;

/// Tells the one that works whose it is.
const SUPERVISOR_PID: &str = build_setup_ready::SUPERVISOR_PID;
/// So long the one that works may take to end after a signal; it needs less.
const PATIENCE: Duration = Duration::from_millis(1_500);

/// In the one that works: whose it is, and how the terminal was.
static KEPT: OnceLock<(i32, Modes)> = OnceLock::new();

/// Whether this process is the one that works.
pub(super) fn is_kept() -> bool {
    KEPT.get().is_some()
}

/// Gives the terminal back from the one that works, whether or not the keeper lives: it may be killed before it does so itself.
pub(super) fn give_terminal_back() {
    if let Some((supervisor, modes)) = KEPT.get()
        && let Some(modes) = &modes.0
        && (getppid().is_none_or(|parent| parent.as_raw_nonzero().get() != *supervisor) || !is_in_background(*supervisor))
    {
        let _ = tcsetattr(rustix::stdio::stdin(), OptionalActions::Now, modes);
    }
}

/// Whether a process lives and another group has its terminal, by what the kernel says of it (proc(5), `pgrp` and `tpgid`): one that works
/// has no terminal of its own to ask.
fn is_in_background(process: i32) -> bool {
    let stat = std::fs::read_to_string(format!("/proc/{process}/stat")).unwrap_or_default();
    // The name before may hold anything, but ends at the last parenthesis.
    let words: Vec<&str> = stat.rsplit_once(')').map(|(_, rest)| rest.split_whitespace().collect()).unwrap_or_default();
    match words.as_slice() {
        [state, _, group, _, _, foreground, ..] => !matches!(*state, "Z" | "X") && *foreground != "-1" && group != foreground,
        _ => false,
    }
}

pub(super) fn keep() -> Option<ExitCode> {
    // Only the one that works has it: what that starts does not (`run` takes it away).
    if let Some(supervisor) = std::env::var(SUPERVISOR_PID).ok().and_then(|text| text.parse::<i32>().ok()) {
        become_supervised(supervisor);
        return None;
    }
    let modes = Modes::of_terminal();
    // Heard from here on, so that none is lost while the other begins.
    let mut signals = Signals::new([SIGINT, SIGTERM, SIGHUP, SIGQUIT, SIGTSTP, SIGCONT]).ok()?;
    // A shell may have become this process and have jobs of its own: those are the person's, and so is what they leave.
    let alone = children::is_alone();
    if alone {
        let _ = set_child_subreaper(Some(getpid()));
    }
    let mut worker = start()?;
    let pid = i32::try_from(worker.id()).ok().and_then(Pid::from_raw)?;
    let handle = signals.handle();
    let listener = std::thread::Builder::new().spawn(move || {
        let mut heard = false;
        for signal in signals.forever() {
            match signal {
                SIGTSTP => {
                    let _ = kill_process(pid, Signal::STOP);
                    let _ = signal_hook::low_level::emulate_default_handler(SIGTSTP);
                }
                SIGCONT => drop(kill_process(pid, Signal::CONT)),
                _ if heard => drop(kill_process(pid, Signal::KILL)),
                _ => {
                    heard = true;
                    let _ = kill_process(pid, if signal == SIGINT { Signal::INT } else { Signal::TERM });
                    let _ = std::thread::Builder::new().spawn(move || {
                        std::thread::sleep(PATIENCE);
                        let _ = kill_process(pid, Signal::KILL);
                    });
                }
            }
        }
    });
    if listener.is_err() {
        // No thread can be started: the signals end this process, and so the other.
        handle.close();
    }
    let status = wait(&mut worker);
    if alone {
        children::end_all();
    }
    modes.restore();
    Some(end(status))
}

/// Starts the one that works: this very file, whatever lies at its path by now. `None` where nothing can be started.
fn start() -> Option<Child> {
    let mut words = std::env::args_os();
    let name = words.next().unwrap_or_else(|| "setup-ready".into());
    let mut command = Command::new("/proc/self/exe");
    command.arg0(name).args(words).env(SUPERVISOR_PID, std::process::id().to_string());
    // In the background one must not read what is typed; the other has no terminal of its own that would stop it.
    let stdin = rustix::stdio::stdin();
    if isatty(stdin) && tcgetpgrp(stdin).is_ok_and(|group| group != rustix::process::getpgrp()) {
        command.stdin(Stdio::null());
    }
    command.spawn().ok()
}

fn become_supervised(supervisor: i32) {
    let _ = KEPT.set((supervisor, Modes::of_terminal()));
    // By its own name among all processes, not by that of the link it was started by.
    let _ = rustix::thread::set_name(c"setup-ready");
    let _ = set_parent_process_death_signal(Some(Signal::TERM));
    // It may have ended before that was set, or even before this began.
    if getppid().is_none_or(|parent| parent.as_raw_nonzero().get() != supervisor) {
        std::process::exit(Status::Interrupted.number());
    }
    let _ = setsid();
    let _ = set_child_subreaper(Some(getpid()));
}

fn wait(worker: &mut Child) -> Option<ExitStatus> {
    loop {
        match worker.wait() {
            Ok(status) => return Some(status),
            Err(error) if error.kind() == std::io::ErrorKind::Interrupted => {}
            Err(_) => return None,
        }
    }
}

fn end(status: Option<ExitStatus>) -> ExitCode {
    let code = match status {
        Some(status) => status.code().unwrap_or_else(|| match status.signal() {
            // Ended after a signal that it did not answer in time.
            Some(signal_hook::consts::SIGKILL) | None => Status::Interrupted.number(),
            Some(signal) => 128 + signal,
        }),
        None => Status::Failed.number(),
    };
    ExitCode::from(u8::try_from(code).unwrap_or(u8::MAX))
}

/// The modes of the terminal, where there is one.
#[derive(Debug)]
struct Modes(Option<Termios>);

impl Modes {
    fn of_terminal() -> Self {
        let stdin = rustix::stdio::stdin();
        Self(if isatty(stdin) { tcgetattr(stdin).ok() } else { None })
    }

    /// As they were. In the background they are somebody else's.
    fn restore(&self) {
        let stdin = rustix::stdio::stdin();
        if let Some(modes) = &self.0
            && tcgetpgrp(stdin).is_ok_and(|group| group == rustix::process::getpgrp())
        {
            let _ = tcsetattr(stdin, OptionalActions::Now, modes);
        }
    }
}
