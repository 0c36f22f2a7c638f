//! What is being waited for, on standard error, while it is being waited for.

use super::OutputStyle;
use super::report::verdict_word;
use build_setup_ready::Progress;
use setup_ready_core::finding::{Finding, Verdict};
use setup_ready_core::fix::Shell;
use setup_ready_core::guide::{Guide, Requirement};
use setup_ready_core::text::Sanitised;
use setup_ready_core::words::Words;
use std::io::Write;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::thread::JoinHandle;
use std::time::{Duration, Instant};

/// Nothing is shown before: most checks are over by then. From then on what is known already is shown, so that nobody waits for it.
const PATIENCE: Duration = Duration::from_millis(200);
const PACE: Duration = Duration::from_millis(100);
/// More lines than these are only counted.
const MOST_SHOWN: usize = 8;

/// Lines that are rewritten until this is dropped.
#[derive(Debug)]
pub(crate) struct ProgressLine {
    seen: Arc<Mutex<Seen>>,
    done: Arc<AtomicBool>,
    thread: Option<JoinHandle<()>>,
}

/// What there is to show.
#[derive(Debug, Default)]
struct Seen {
    progress: Option<Progress>,
    met: usize,
    /// One line for each requirement that is not met.
    open: Vec<String>,
}

impl ProgressLine {
    /// Starts the line, or nothing where nothing may be shown.
    pub(crate) fn start(look: &OutputStyle) -> Self {
        let (seen, done) = (Arc::new(Mutex::new(Seen::default())), Arc::new(AtomicBool::new(false)));
        let (shown, ended, width) = (Arc::clone(&seen), Arc::clone(&done), look.width);
        let thread = look.progress.then(|| std::thread::Builder::new().spawn(move || draw(&shown, &ended, width)).ok()).flatten();
        Self { seen, done, thread }
    }

    /// Whether anybody sees it.
    pub(crate) fn is_shown(&self) -> bool {
        self.thread.is_some()
    }

    fn seen(&self) -> MutexGuard<'_, Seen> {
        self.seen.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Takes the news.
    pub(crate) fn update(&self, progress: &Progress) {
        if self.thread.is_some() {
            self.seen().progress = Some(progress.clone());
        }
    }

    /// Takes a finding.
    pub(crate) fn learn(&self, guide: &Guide, requirement: &Requirement, finding: &Finding) {
        if self.thread.is_none() {
            return;
        }
        match finding.verdict() {
            Verdict::Met => self.seen().met += 1,
            Verdict::Skipped => {}
            Verdict::Unmet | Verdict::Unknown | Verdict::Blocked => {
                let words = Words::new(guide, requirement, finding, Shell::Posix);
                let line = format!("  {}: {} - {}", verdict_word(finding.verdict()).0, requirement.title(), words.message());
                self.seen().open.push(Sanitised::line(&line).to_string());
            }
        }
    }
}

impl Drop for ProgressLine {
    fn drop(&mut self) {
        self.done.store(true, Ordering::SeqCst);
        if let Some(thread) = self.thread.take() {
            thread.thread().unpark();
            let _ = thread.join();
        }
    }
}

fn draw(seen: &Mutex<Seen>, done: &AtomicBool, width: usize) {
    let begun = Instant::now();
    std::thread::park_timeout(PATIENCE);
    if done.load(Ordering::SeqCst) {
        return;
    }
    let mut drawn = 0;
    while !done.load(Ordering::SeqCst) {
        let lines = lines(&seen.lock().unwrap_or_else(PoisonError::into_inner), begun.elapsed());
        // A line that the terminal would wrap could not be rewritten.
        let cut = |line: &String| line.chars().take(width.saturating_sub(1).max(20)).collect::<String>();
        drawn = redraw(drawn, &lines.iter().map(cut).collect::<Vec<String>>());
        std::thread::park_timeout(PACE);
    }
    redraw(drawn, &[]);
}

/// Draws lines in the place of those that were drawn before, and says how many there are now (ECMA-48: up, to the line's end, to the screen's end).
fn redraw(drawn: usize, lines: &[String]) -> usize {
    let up = if drawn > 0 { format!("\x1b[{drawn}A") } else { String::new() };
    let text = lines.iter().map(|line| format!("\r{line}\x1b[K\n")).collect::<Vec<_>>().concat();
    // Windows is told to understand these by whoever writes to its terminal.
    let mut error = anstream::stderr().lock();
    let _ = error.write_all(format!("{up}{text}\r\x1b[J").as_bytes()).and_then(|()| error.flush());
    lines.len()
}

/// What is shown after so long.
fn lines(seen: &Seen, elapsed: Duration) -> Vec<String> {
    let Some(progress) = &seen.progress else { return Vec::new() };
    let waiting: Vec<String> = progress.waiting_for.iter().map(|what| Sanitised::line(what).to_string()).collect();
    let waiting = if waiting.is_empty() { String::new() } else { format!("waiting for {}", waiting.join(", ")) };
    let known = format!("{} of {} known", progress.settled, progress.begun);
    if seen.met == 0 && seen.open.is_empty() && elapsed.as_secs() == 0 {
        return vec![if waiting.is_empty() { known } else { format!("{known}; {waiting}") }];
    }
    // The first second needs no clock.
    let after = if elapsed.as_secs() == 0 { String::new() } else { format!(" after {} s", elapsed.as_secs()) };
    let mut lines = vec![format!("{known}{after}: {} met, {} not", seen.met, seen.open.len())];
    lines.extend(seen.open.iter().take(MOST_SHOWN).cloned());
    if seen.open.len() > MOST_SHOWN {
        lines.push(format!("  and {} more, told at the end", seen.open.len() - MOST_SHOWN));
    }
    lines.push(waiting);
    lines
}

#[cfg(test)]
mod tests {
    use super::{MOST_SHOWN, Seen, lines};
    use build_setup_ready::Progress;
    use std::time::Duration;

    #[test]
    fn what_is_known_is_shown_while_something_takes_long() {
        let progress = Progress { settled: 12, begun: 13, waiting_for: vec!["/opt/buoy\u{1b}[2J --version".to_owned()] };
        let open = (0..11).map(|number| format!("  unmet: tool {number}")).collect();
        let seen = Seen { progress: Some(progress), met: 1, open };
        let soon = lines(&seen, Duration::from_millis(220));
        assert_eq!(soon.first().map(String::as_str), Some("12 of 13 known: 1 met, 11 not"));
        assert_eq!(soon.last().map(String::as_str), Some(r"waiting for /opt/buoy\x1b[2J --version"));
        let late = lines(&seen, Duration::from_secs(3));
        assert_eq!(late.first().map(String::as_str), Some("12 of 13 known after 3 s: 1 met, 11 not"));
        assert_eq!(late.len(), MOST_SHOWN + 3);
        assert_eq!(late.get(MOST_SHOWN + 1).map(String::as_str), Some("  and 3 more, told at the end"));
    }
}
