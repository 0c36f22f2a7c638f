//! Starting programs with limits: no shell, no input, a time limit, bounded output, and nothing left behind.

mod exec_env;
mod limits;
#[cfg(windows)]
mod loader;
#[cfg(unix)]
mod poll;
#[cfg(windows)]
mod threads;

pub(crate) use exec_env::{ExecEnv, Isolated, system_root};
pub(crate) use limits::Limits;
#[cfg(unix)]
use poll::collect;
#[cfg(windows)]
use threads::collect;

use setup_ready_core::observation::{Run, RunEnd, StartFailure};
use std::io::ErrorKind;
use std::path::Path;
use std::process::{Command, Stdio};
use std::sync::{PoisonError, RwLock, RwLockWriteGuard};
use std::time::Duration;

/// The variable by which a process that is kept by another of the same program knows that one's number; nothing that is started has it.
pub const SUPERVISOR_PID: &str = "SETUP_READY_KEPT_BY";

/// Held for reading while a program is being started.
static STARTING: RwLock<()> = RwLock::new(());

/// Waits until no program is being started, and lets none be as long as what it gives is kept: whoever ends all children of the process before it
/// ends would miss one that is started in between.
pub fn start_nothing_more() -> RwLockWriteGuard<'static, ()> {
    STARTING.write().unwrap_or_else(PoisonError::into_inner)
}

/// Runs a program to its end, or to its limits.
pub(crate) fn run(path: &Path, arguments: &[String], around: &ExecEnv, limits: &Limits) -> Run {
    let mut command = Command::new(path);
    around.apply(&mut command);
    command.args(arguments).stdin(Stdio::null()).stdout(Stdio::piped()).stderr(Stdio::piped());
    command.env_remove(SUPERVISOR_PID);
    // Text that can be read, and no installing of what is missing behind our back.
    command.env("LC_ALL", "C.UTF-8").env("RUSTUP_AUTO_INSTALL", "0");
    // Looking at a working copy takes no locks, and asks nobody for a password.
    command.env("GIT_OPTIONAL_LOCKS", "0").env("GIT_TERMINAL_PROMPT", "0");
    // Asking what a package manager has makes it fetch nothing.
    command.env("HOMEBREW_NO_AUTO_UPDATE", "1");
    command.envs(limits.environment.iter().copied());
    #[cfg(unix)]
    std::os::unix::process::CommandExt::process_group(&mut command, 0);
    // A program that cannot be started, or crashes, would open a window that waits for the person.
    #[cfg(windows)]
    crate::windows_calls::open_no_windows_of_errors();
    // It is let run when it is in its job (CREATE_SUSPENDED).
    #[cfg(windows)]
    std::os::windows::process::CommandExt::creation_flags(&mut command, 0x4);
    let mut tries = 0;
    loop {
        let Ok(starting) = STARTING.try_read() else {
            return Run { end: RunEnd::Interrupted, stdout: String::new(), stderr: String::new(), cut: false };
        };
        let started = command.spawn();
        drop(starting);
        match started {
            Ok(child) => return explained(collect(child, limits), path),
            // Somebody is still writing the file: it passes.
            Err(error) if error.kind() == ErrorKind::ExecutableFileBusy && tries < 20 => {
                tries += 1;
                std::thread::sleep(Duration::from_millis(5));
            }
            Err(error) => {
                return Run::not_started(why(&error, path), error.to_string());
            }
        }
    }
}

/// A program that has ended before it began, in the loader, was not started.
fn explained(run: Run, path: &Path) -> Run {
    #[cfg(windows)]
    if let RunEnd::Exit(status) = run.end
        && let Some(reason) = loader::failure(status, path)
    {
        return Run { end: RunEnd::NotStarted(StartFailure::LibraryMissing, reason), ..run };
    }
    let _ = path;
    run
}

fn why(error: &std::io::Error, path: &Path) -> StartFailure {
    // ENOEXEC, and ERROR_BAD_EXE_FORMAT.
    let format = if cfg!(windows) { 193 } else { 8 };
    let exhausted = [ErrorKind::WouldBlock, ErrorKind::OutOfMemory];
    // EMFILE and ENFILE have no kind of their own.
    let files = cfg!(unix) && matches!(error.raw_os_error(), Some(23 | 24));
    if files || exhausted.contains(&error.kind()) {
        StartFailure::NothingStarts
    } else if error.raw_os_error() == Some(format) {
        StartFailure::Format
    } else if error.kind() == ErrorKind::PermissionDenied {
        StartFailure::Denied
    } else if error.kind() == ErrorKind::NotFound {
        // The same error says that the null device is missing, without which nothing can be started.
        let nothing = cfg!(unix) && !Path::new("/dev/null").exists();
        if nothing {
            StartFailure::NothingStarts
        } else if path.exists() {
            StartFailure::PieceMissing
        } else {
            StartFailure::Other
        }
    } else {
        StartFailure::Other
    }
}

#[cfg(all(test, unix))]
mod tests;
