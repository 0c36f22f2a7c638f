//! What a program may take, and what is kept of what it prints.

use crate::host::Interrupt;
use setup_ready_core::observation::{Run, RunEnd};
use std::process::ExitStatus;
use std::time::Duration;

/// How much of each output stream is kept, in bytes; what comes after is read and dropped.
pub(crate) const KEPT_BYTES: usize = 64 << 10;

/// How long a grandchild may hold the output open after the program itself has ended.
pub(super) const GRACE: Duration = Duration::from_millis(250);

/// What a program may take.
#[derive(Debug, Clone)]
pub(crate) struct Limits {
    /// How long it may run.
    pub time: Duration,
    /// Ends it early.
    pub interrupt: Interrupt,
    /// What it finds in its environment besides.
    pub environment: &'static [(&'static str, &'static str)],
}

/// One output stream, bounded.
#[derive(Debug, Default)]
pub(super) struct Kept {
    pub(super) bytes: Vec<u8>,
    pub(super) cut: bool,
}

impl Kept {
    pub(super) fn take(&mut self, more: &[u8]) {
        let room = KEPT_BYTES.saturating_sub(self.bytes.len());
        self.cut |= more.len() > room;
        self.bytes.extend(more.iter().take(room));
    }

    fn text(&self) -> String {
        String::from_utf8_lossy(&self.bytes).into_owned()
    }
}

pub(super) fn finished(end: RunEnd, streams: &[Kept; 2]) -> Run {
    let [stdout, stderr] = streams;
    Run { end, stdout: stdout.text(), stderr: stderr.text(), cut: stdout.cut || stderr.cut }
}

pub(super) fn end_of(status: ExitStatus) -> RunEnd {
    #[cfg(unix)]
    if let Some(signal) = std::os::unix::process::ExitStatusExt::signal(&status) {
        return RunEnd::Signal(signal);
    }
    RunEnd::Exit(status.code().unwrap_or(-1))
}

pub(super) fn time_up(limits: &Limits) -> RunEnd {
    RunEnd::TimeUp(u64::try_from(limits.time.as_millis()).unwrap_or(u64::MAX))
}
