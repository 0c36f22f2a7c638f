//! Collecting a child's output on Windows, where pipes cannot be waited for together: a thread for each.

use super::limits::{GRACE, Kept, Limits, end_of, finished, time_up};
use crate::windows_calls::{Job, resume};
use setup_ready_core::observation::{Run, RunEnd, StartFailure};
use std::io::Read;
use std::os::windows::io::AsHandle;
use std::process::Child;
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::JoinHandle;
use std::time::{Duration, Instant};

const TICK: Duration = Duration::from_millis(5);

pub(super) fn collect(mut child: Child, limits: &Limits) -> Run {
    let started = Instant::now();
    // What it starts is ended with it; where there can be no job, at least the program itself is. It was started suspended, so that nothing of it
    // runs before it is in the job.
    let job = Job::of(child.as_handle()).ok();
    if let Err(error) = resume(child.id()) {
        let _ = child.kill();
        let _ = child.wait();
        return Run::not_started(StartFailure::Other, error.to_string());
    }
    let stdout = child.stdout.take().map(follow);
    let stderr = child.stderr.take().map(follow);
    let readers: Vec<&Reader> = stdout.iter().chain(&stderr).collect();
    let mut ended: Option<(RunEnd, Instant)> = None;
    let end = loop {
        if ended.is_none()
            && let Ok(Some(status)) = child.try_wait()
        {
            ended = Some((end_of(status), Instant::now()));
        }
        if let Some((end, at)) = &ended {
            if readers.iter().all(|reader| reader.thread.is_finished()) || at.elapsed() > GRACE {
                break end.clone();
            }
        } else if limits.interrupt.is_raised() || started.elapsed() > limits.time {
            if let Some(job) = &job {
                job.end();
            }
            let _ = child.kill();
            let _ = child.wait();
            break if limits.interrupt.is_raised() { RunEnd::Interrupted } else { time_up(limits) };
        }
        std::thread::sleep(TICK);
    };
    if let Some(job) = &job {
        job.end();
    }
    finished(end, &[taken(stdout.as_ref()), taken(stderr.as_ref())])
}

struct Reader {
    kept: Arc<Mutex<Kept>>,
    thread: JoinHandle<()>,
}

fn follow(mut pipe: impl Read + Send + 'static) -> Reader {
    let kept = Arc::new(Mutex::new(Kept::default()));
    let shared = Arc::clone(&kept);
    let thread = std::thread::spawn(move || {
        let mut buffer = [0; 16 << 10];
        while let Ok(count @ 1..) = pipe.read(&mut buffer) {
            shared.lock().unwrap_or_else(PoisonError::into_inner).take(buffer.get(..count).unwrap_or_default());
        }
    });
    Reader { kept, thread }
}

fn taken(reader: Option<&Reader>) -> Kept {
    reader.map(|reader| std::mem::take(&mut *reader.kept.lock().unwrap_or_else(PoisonError::into_inner))).unwrap_or_default()
}
