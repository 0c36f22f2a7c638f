//! Lines that the person types while something else goes on; from a pipe as from a terminal.

use build_setup_ready::Interrupt;
use std::io::BufRead;
use std::sync::mpsc::{Receiver, RecvTimeoutError, channel};
use std::time::{Duration, Instant};

/// How often it is looked whether the person interrupts, where there is something to be done then.
pub(crate) const PACE: Duration = Duration::from_millis(50);

/// What came.
#[derive(Debug, PartialEq, Eq)]
pub(crate) enum Heard {
    /// A line, without its end.
    Line(String),
    /// The input has ended: no line can come any more.
    End,
    /// Nothing, in all that time.
    Nothing,
    /// The person interrupts.
    Interrupted,
}

/// Listens to standard input from now on.
#[derive(Debug)]
pub(crate) struct Keyboard {
    lines: Receiver<String>,
    ended: bool,
}

impl Keyboard {
    pub(crate) fn listen() -> Self {
        let (sender, lines) = channel();
        // It ends with the program: a read cannot be cut short.
        // Where no thread can be started, no line can come.
        let _ = std::thread::Builder::new().spawn(move || {
            for line in std::io::stdin().lock().lines() {
                let Ok(line) = line else { return };
                if sender.send(line).is_err() {
                    return;
                }
            }
        });
        Self { lines, ended: false }
    }

    /// Whether it is known that no line can come any more.
    pub(crate) fn has_ended(&self) -> bool {
        self.ended
    }

    /// The next line, or what else comes first. Without a line at the end of the input, time passes as if nobody typed.
    pub(crate) fn hear(&mut self, (patience, pace): (Duration, Duration), interrupt: &Interrupt) -> Heard {
        let clock = Instant::now();
        loop {
            if interrupt.is_raised() {
                return Heard::Interrupted;
            }
            let Some(left) = patience.checked_sub(clock.elapsed()) else { return Heard::Nothing };
            let pause = pace.min(left);
            if self.ended {
                std::thread::sleep(pause);
                continue;
            }
            match self.lines.recv_timeout(pause) {
                Ok(line) => return Heard::Line(line),
                Err(RecvTimeoutError::Timeout) => {}
                Err(RecvTimeoutError::Disconnected) => {
                    self.ended = true;
                    return Heard::End;
                }
            }
        }
    }
}
