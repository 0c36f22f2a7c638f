//! Collecting a child's output on Unix: one thread waits for both pipes at once, so that starting many programs stays cheap.

use super::limits::{GRACE, Kept, Limits, end_of, finished, time_up};
use rustix::event::{PollFd, PollFlags, Timespec, poll};
use rustix::process::{Pid, Signal, kill_process_group};
use setup_ready_core::observation::{Run, RunEnd};
use std::io::Read;
use std::os::fd::AsFd;
use std::process::{Child, ChildStderr, ChildStdout};
use std::time::{Duration, Instant};

/// How often the clock, the interruption and the child are looked at while nothing comes.
const TICK: Duration = Duration::from_millis(20);

pub(super) fn collect(mut child: Child, limits: &Limits) -> Run {
    let started = Instant::now();
    let mut pipes = Pipes { stdout: child.stdout.take(), stderr: child.stderr.take() };
    pipes.make_nonblocking();
    let mut kept = [Kept::default(), Kept::default()];
    let mut ended: Option<(RunEnd, Instant)> = None;
    let end = End::of(&child);
    let mut pause = Duration::from_millis(1);
    loop {
        if pipes.are_open() {
            pipes.wait_and_read(&mut kept);
        } else if ended.is_none() {
            // It closed its output and is about to end, or lives on.
            end.wait(pause);
            pause = (pause * 2).min(TICK);
        }
        if ended.is_none()
            && let Ok(Some(status)) = child.try_wait()
        {
            ended = Some((end_of(status), Instant::now()));
        }
        if let Some((end, at)) = &ended {
            // A grandchild may hold the pipe: it gets a moment, and its output so far is kept. What the program left behind is ended.
            if !pipes.are_open() || at.elapsed() > GRACE {
                kill(&mut child);
                return finished(end.clone(), &kept);
            }
        } else if limits.interrupt.is_raised() || started.elapsed() > limits.time {
            kill(&mut child);
            let _ = child.wait();
            let end = if limits.interrupt.is_raised() { RunEnd::Interrupted } else { time_up(limits) };
            return finished(end, &kept);
        }
    }
}

/// The end of a child, to be waited for.
struct End {
    #[cfg(target_os = "linux")]
    descriptor: Option<std::os::fd::OwnedFd>,
}

impl End {
    #[cfg(target_os = "linux")]
    fn of(child: &Child) -> Self {
        let pid = i32::try_from(child.id()).ok().and_then(Pid::from_raw);
        Self { descriptor: pid.and_then(|pid| rustix::process::pidfd_open(pid, rustix::process::PidfdFlags::empty()).ok()) }
    }

    #[cfg(not(target_os = "linux"))]
    fn of(_: &Child) -> Self {
        Self {}
    }

    /// Waits until it has ended, at most so long; where the system has no descriptor for that, just so long.
    #[cfg_attr(not(target_os = "linux"), allow(clippy::unused_self, reason = "there is no descriptor to wait for"))]
    fn wait(&self, most: Duration) {
        #[cfg(target_os = "linux")]
        if let Some(descriptor) = &self.descriptor {
            let tick = Timespec { tv_sec: 0, tv_nsec: i64::from(TICK.subsec_nanos()) };
            let _ = poll(&mut [PollFd::from_borrowed_fd(descriptor.as_fd(), PollFlags::IN)], Some(&tick));
            return;
        }
        std::thread::sleep(most);
    }
}

/// Ends the whole process group: the program with all that it started.
fn kill(child: &mut Child) {
    if let Some(group) = i32::try_from(child.id()).ok().and_then(Pid::from_raw) {
        let _ = kill_process_group(group, Signal::KILL);
    }
    let _ = child.kill();
}

struct Pipes {
    stdout: Option<ChildStdout>,
    stderr: Option<ChildStderr>,
}

impl Pipes {
    fn make_nonblocking(&self) {
        if let Some(pipe) = &self.stdout {
            let _ = rustix::io::ioctl_fionbio(pipe, true);
        }
        if let Some(pipe) = &self.stderr {
            let _ = rustix::io::ioctl_fionbio(pipe, true);
        }
    }

    fn are_open(&self) -> bool {
        self.stdout.is_some() || self.stderr.is_some()
    }

    fn wait_and_read(&mut self, kept: &mut [Kept; 2]) {
        let mut waiting: Vec<PollFd<'_>> = Vec::with_capacity(2);
        if let Some(pipe) = &self.stdout {
            waiting.push(PollFd::from_borrowed_fd(pipe.as_fd(), PollFlags::IN));
        }
        if let Some(pipe) = &self.stderr {
            waiting.push(PollFd::from_borrowed_fd(pipe.as_fd(), PollFlags::IN));
        }
        let tick = Timespec { tv_sec: 0, tv_nsec: i64::from(TICK.subsec_nanos()) };
        if !matches!(poll(&mut waiting, Some(&tick)), Ok(1..)) {
            return;
        }
        drop(waiting);
        let [stdout, stderr] = kept;
        if self.stdout.as_mut().is_some_and(|pipe| drain(pipe, stdout)) {
            self.stdout = None;
        }
        if self.stderr.as_mut().is_some_and(|pipe| drain(pipe, stderr)) {
            self.stderr = None;
        }
    }
}

/// Reads what is there, up to 1 MiB, so that the clock is looked at even where output never ends. Gives whether the pipe was closed.
fn drain(pipe: &mut impl Read, kept: &mut Kept) -> bool {
    let mut buffer = [0; 16 << 10];
    for _ in 0..64 {
        match pipe.read(&mut buffer) {
            Ok(0) => return true,
            Ok(count) => kept.take(buffer.get(..count).unwrap_or_default()),
            Err(error) if error.kind() == std::io::ErrorKind::Interrupted => {}
            Err(error) => return error.kind() != std::io::ErrorKind::WouldBlock,
        }
    }
    false
}
