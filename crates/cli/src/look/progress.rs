//! What is being waited for, on standard error, while it is being waited for.

use super::Look;
use build_setup_ready::Progress;
use build_setup_ready::text::Sanitised;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::JoinHandle;
use std::time::Duration;

/// Nothing is shown before: most checks are over by then.
const PATIENCE: Duration = Duration::from_millis(200);
const PACE: Duration = Duration::from_millis(100);

/// A line that is rewritten until it is dropped.
#[derive(Debug)]
pub(crate) struct ProgressLine {
    latest: Arc<Mutex<Option<Progress>>>,
    done: Arc<AtomicBool>,
    thread: Option<JoinHandle<()>>,
}

impl ProgressLine {
    /// Starts the line, or nothing where nothing may be shown.
    pub(crate) fn start(look: &Look) -> Self {
        let (latest, done) = (Arc::new(Mutex::new(None)), Arc::new(AtomicBool::new(false)));
        let (seen, ended) = (Arc::clone(&latest), Arc::clone(&done));
        let thread = look.progress.then(|| std::thread::spawn(move || draw(&seen, &ended)));
        Self { latest, done, thread }
    }

    /// Takes the news.
    pub(crate) fn update(&self, progress: &Progress) {
        if self.thread.is_some() {
            *self.latest.lock().unwrap_or_else(PoisonError::into_inner) = Some(progress.clone());
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

fn draw(latest: &Mutex<Option<Progress>>, done: &AtomicBool) {
    std::thread::park_timeout(PATIENCE);
    if done.load(Ordering::SeqCst) {
        return;
    }
    let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::stderr());
    bar.set_style(ProgressStyle::with_template("{wide_msg}").unwrap_or_else(|_| ProgressStyle::default_spinner()));
    while !done.load(Ordering::SeqCst) {
        let progress = latest.lock().unwrap_or_else(PoisonError::into_inner).clone();
        if let Some(progress) = progress {
            bar.set_message(words(&progress));
            bar.tick();
        }
        std::thread::park_timeout(PACE);
    }
    bar.finish_and_clear();
}

fn words(progress: &Progress) -> String {
    let waiting: Vec<String> = progress.waiting_for.iter().map(|what| Sanitised::line(what).to_string()).collect();
    let waiting = if waiting.is_empty() { String::new() } else { format!("; waiting for {}", waiting.join(", ")) };
    format!("{} of {} known{waiting}", progress.settled, progress.begun)
}
