//! Beginning: the one module of Linux with unsafe code. A process is made that lets itself be followed, has the filter put in, and becomes the
//! command. Between fork and exec only calls are made that signal-safety(7) allows, and no memory is taken.
#![allow(unsafe_code, reason = "fork, prctl and seccomp have no safe interface; each block says why it is sound")]

use super::super::WitnessError;
use nix::libc;
use nix::sys::ptrace::{self, Options};
use nix::sys::signal::{Signal, raise};
use nix::unistd::{ForkResult, Pid, chdir, execvp, fork};
use std::ffi::{CString, OsString};
use std::os::unix::ffi::OsStrExt;
use std::path::Path;

/// How a process ends that could not become the command (as shells have it).
pub(super) const NOT_STARTED: i32 = 127;

/// The calls at which a process stops, and those that older processors have beside them.
#[cfg(target_arch = "x86_64")]
const CALLS: [libc::c_long; 6] =
    [libc::SYS_execve, libc::SYS_execveat, libc::SYS_open, libc::SYS_openat, libc::SYS_bind, libc::SYS_connect];
#[cfg(target_arch = "aarch64")]
const CALLS: [libc::c_long; 5] = [libc::SYS_execve, libc::SYS_execveat, libc::SYS_openat, libc::SYS_bind, libc::SYS_connect];

/// The architecture whose calls these are (linux/audit.h).
#[cfg(target_arch = "x86_64")]
const ARCHITECTURE: u32 = 0xc000_003e;
#[cfg(target_arch = "aarch64")]
const ARCHITECTURE: u32 = 0xc000_00b7;

/// The filter, for seccomp(2): of another architecture all is let through, of this one what is not listed.
fn filter() -> Vec<libc::sock_filter> {
    let step = |code: u32, k: u32, jt: usize, jf: usize| libc::sock_filter {
        code: u16::try_from(code).unwrap_or(0),
        jt: u8::try_from(jt).unwrap_or(0),
        jf: u8::try_from(jf).unwrap_or(0),
        k,
    };
    let load = libc::BPF_LD | libc::BPF_W | libc::BPF_ABS;
    let equal = libc::BPF_JMP | libc::BPF_JEQ | libc::BPF_K;
    let end = libc::BPF_RET | libc::BPF_K;
    // struct seccomp_data: the call's number at 0, the architecture at 4.
    let mut steps = vec![step(load, 4, 0, 0), step(equal, ARCHITECTURE, 0, CALLS.len() + 1), step(load, 0, 0, 0)];
    for (at, call) in CALLS.iter().enumerate() {
        steps.push(step(equal, u32::try_from(*call).unwrap_or(u32::MAX), CALLS.len() - at, 0));
    }
    steps.push(step(end, libc::SECCOMP_RET_ALLOW, 0, 0));
    steps.push(step(end, libc::SECCOMP_RET_TRACE, 0, 0));
    steps
}

/// Makes the process; it waits for [`set_options`].
pub(super) fn begin(words: &[OsString], folder: &Path) -> Result<Pid, WitnessError> {
    let program = words.first().map(|word| word.to_string_lossy().into_owned()).unwrap_or_default();
    let refused = || WitnessError::NotStarted { program: program.clone() };
    let words: Vec<CString> =
        words.iter().map(|word| CString::new(word.as_bytes())).collect::<Result<_, _>>().map_err(|_| refused())?;
    let first = words.first().ok_or_else(refused)?;
    let folder = CString::new(folder.as_os_str().as_bytes()).map_err(|_| refused())?;
    let mut steps = filter();
    let count = u16::try_from(steps.len()).unwrap_or(0);
    let program = libc::sock_fprog { len: count, filter: steps.as_mut_ptr() };
    // SAFETY: this process follows others from this one thread; the child calls only what is safe after a fork (system calls, on memory that was
    // made before), and then becomes another program or ends.
    match unsafe { fork() } {
        Ok(ForkResult::Parent { child }) => Ok(child),
        Ok(ForkResult::Child) => {
            let ready = chdir(folder.as_c_str()).is_ok() && ptrace::traceme().is_ok() && raise(Signal::SIGSTOP).is_ok();
            // SAFETY: both calls read numbers and, the second, the filter above, which lives until the program is replaced. Without new privileges
            // a filter needs no rights of its own.
            let filtered = ready
                && unsafe { libc::prctl(libc::PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) } == 0
                && unsafe { libc::prctl(libc::PR_SET_SECCOMP, libc::SECCOMP_MODE_FILTER, &raw const program) } == 0;
            if filtered {
                let _ = execvp(first, &words);
            }
            // SAFETY: ends this process at once, without what Rust would run at the end.
            unsafe { libc::_exit(NOT_STARTED) }
        }
        Err(error) => Err(WitnessError::NotAllowed(error.into())),
    }
}

/// Has the process, and all that it starts, stop where the filter says; they end with this process.
pub(super) fn set_options(child: Pid) -> nix::Result<()> {
    let options = Options::PTRACE_O_TRACESECCOMP
        | Options::PTRACE_O_TRACEEXEC
        | Options::PTRACE_O_TRACEFORK
        | Options::PTRACE_O_TRACEVFORK
        | Options::PTRACE_O_TRACECLONE
        | Options::PTRACE_O_EXITKILL;
    ptrace::setoptions(child, options)
}
