//! Following by ptrace(2): a filter (seccomp(2)) stops the processes only where they start a program, open a file, bind or connect.

mod begin;
mod memory;
mod stops;

use super::WitnessError;
use nix::errno::Errno;
use nix::libc;
use nix::sys::ptrace;
use nix::sys::signal::Signal;
use nix::sys::wait::{WaitPidFlag, WaitStatus, waitpid};
use nix::unistd::Pid;
use setup_ready_core::witnessed::Seen;
use std::collections::HashSet;
use std::ffi::OsString;
use std::path::Path;
use stops::Follower;

/// Follows a command to the end of its last child; gives what it used, and how it ended.
pub(super) fn follow(words: &[OsString], folder: &Path) -> Result<(Seen, i32), WitnessError> {
    let folder = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    let before = size_of(&folder);
    let child = begin::begin(words, &folder)?;
    let mut follower = Follower::new(folder.clone(), child);
    let mut status = 0;
    let mut known = HashSet::from([child]);
    let mut first = true;
    loop {
        match waitpid(Pid::from_raw(-1), Some(WaitPidFlag::__WALL)) {
            Ok(WaitStatus::Exited(pid, code)) => {
                known.remove(&pid);
                if pid == child {
                    status = code;
                }
            }
            Ok(WaitStatus::Signaled(pid, signal, _)) => {
                known.remove(&pid);
                if pid == child {
                    status = 128 + signal as i32;
                }
            }
            Ok(WaitStatus::PtraceEvent(pid, _, event)) => {
                match event {
                    libc::PTRACE_EVENT_SECCOMP => follower.asks(pid),
                    libc::PTRACE_EVENT_EXEC => follower.became(pid),
                    libc::PTRACE_EVENT_FORK | libc::PTRACE_EVENT_VFORK | libc::PTRACE_EVENT_CLONE => follower.had_child(pid),
                    _ => {}
                }
                go_on(pid, None);
            }
            Ok(WaitStatus::Stopped(pid, Signal::SIGSTOP)) if pid == child && first => {
                first = false;
                begin::set_options(child).map_err(|error| WitnessError::NotAllowed(error.into()))?;
                go_on(pid, None);
            }
            // A child begins with a stop of its own.
            Ok(WaitStatus::Stopped(pid, Signal::SIGSTOP)) if known.insert(pid) => go_on(pid, None),
            Ok(WaitStatus::Stopped(pid, Signal::SIGTRAP) | WaitStatus::PtraceSyscall(pid)) => go_on(pid, None),
            Ok(WaitStatus::Stopped(pid, signal)) => go_on(pid, Some(signal)),
            Ok(WaitStatus::Continued(_) | WaitStatus::StillAlive) | Err(Errno::EINTR) => {}
            Err(_) => break,
        }
    }
    if status == begin::NOT_STARTED && follower.started_nothing() {
        let program = words.first().map(|word| word.to_string_lossy().into_owned()).unwrap_or_default();
        return Err(WitnessError::NotStarted { program });
    }
    let mut seen = follower.into_seen();
    seen.grown_bytes = size_of(&folder).saturating_sub(before);
    seen.largest_process_bytes = largest_child();
    Ok((seen, status))
}

/// A process that has ended meanwhile needs nothing more.
fn go_on(pid: Pid, signal: Option<Signal>) {
    let _ = ptrace::cont(pid, signal);
}

/// More entries than this are not summed up.
const MOST_ENTRIES: usize = 2_000_000;

/// How many bytes lie in a folder.
fn size_of(folder: &Path) -> u64 {
    use std::os::unix::fs::MetadataExt;
    let (mut sum, mut count) = (0_u64, 0);
    let mut open = vec![folder.to_owned()];
    while let Some(folder) = open.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            count += 1;
            if count > MOST_ENTRIES {
                return sum;
            }
            let Ok(known) = entry.path().symlink_metadata() else { continue };
            if known.is_dir() {
                open.push(entry.path());
            } else {
                sum = sum.saturating_add(known.blocks().saturating_mul(512));
            }
        }
    }
    sum
}

/// The most memory that one of the children that have ended had (getrusage(2)).
fn largest_child() -> u64 {
    nix::sys::resource::getrusage(nix::sys::resource::UsageWho::RUSAGE_CHILDREN)
        .map_or(0, |usage| u64::try_from(usage.max_rss()).unwrap_or(0).saturating_mul(1_024))
}
