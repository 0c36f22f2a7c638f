//! Lines that the person types while something else goes on; from a pipe as from a terminal.

use build_setup_ready::Interrupt;
use std::io::BufRead;
use std::sync::mpsc::{Receiver, RecvTimeoutError, channel};
use std::sync::{Mutex, OnceLock, PoisonError};
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

/// Of a longer line only so many bytes are kept: no word here is as long.
const LONGEST: usize = 4096;

/// What listens, once something does: nobody else can read the input then.
static LINES: OnceLock<Mutex<Receiver<String>>> = OnceLock::new();

/// Listens to standard input from now on.
#[derive(Debug)]
pub(crate) struct Keyboard {
    lines: &'static Mutex<Receiver<String>>,
    ended: bool,
}

/// One line, without its end, whatever its bytes; `None` at the end of the input.
fn line(input: &mut impl BufRead) -> Option<String> {
    let (mut kept, mut is_there) = (Vec::new(), false);
    loop {
        let part = input.fill_buf().ok()?;
        if part.is_empty() {
            return is_there.then(|| String::from_utf8_lossy(&kept).into_owned());
        }
        is_there = true;
        let end = part.iter().position(|byte| *byte == b'\n');
        let (text, taken) = (part.get(..end.unwrap_or(part.len())).unwrap_or_default(), end.map_or(part.len(), |end| end + 1));
        kept.extend(text.iter().take(LONGEST.saturating_sub(kept.len())));
        input.consume(taken);
        if end.is_some() {
            return Some(String::from_utf8_lossy(&kept).into_owned());
        }
    }
}

/// The answer to a question, by way of whatever listens; `None` at the end of the input.
pub(crate) fn answer() -> Option<String> {
    match LINES.get() {
        Some(lines) => lines.lock().unwrap_or_else(PoisonError::into_inner).recv().ok(),
        None => line(&mut std::io::stdin().lock()),
    }
}

impl Keyboard {
    pub(crate) fn listen() -> Self {
        let lines = LINES.get_or_init(|| {
            let (sender, lines) = channel();
            // It ends with the program: a read cannot be cut short.
            // Where no thread can be started, no line can come.
            let _ = std::thread::Builder::new().spawn(move || {
                let mut input = std::io::stdin().lock();
                while let Some(line) = line(&mut input) {
                    if sender.send(line).is_err() {
                        return;
                    }
                }
            });
            Mutex::new(lines)
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
            let line = self.lines.lock().unwrap_or_else(PoisonError::into_inner).recv_timeout(pause);
            match line {
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

#[cfg(test)]
mod tests {
    use super::{LONGEST, line};

    #[test]
    fn a_line_is_heard_whatever_its_bytes_and_however_long() {
        let long = [b"a".repeat(1 << 20), b"\nnext\n\xe9t\xe9\nlast".to_vec()].concat();
        let mut input = std::io::BufReader::with_capacity(7, long.as_slice());
        assert_eq!(line(&mut input).map(|line| line.len()), Some(LONGEST));
        let rest: Vec<String> = std::iter::from_fn(|| line(&mut input)).collect();
        assert_eq!(rest, ["next", "\u{fffd}t\u{fffd}", "last"]);
    }
}
