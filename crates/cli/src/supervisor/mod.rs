//! Whoever looks at this machine is kept: another process of this program waits for it, hands signals on, and when it ends, however it ends,
//! ends all that it started and left, and gives the terminal back as it was. The two watch over each other, so that a signal which nobody can
//! hear (SIGKILL) leaves nothing either.

#[cfg(target_os = "linux")]
mod children;
#[cfg(target_os = "linux")]
mod linux;

use crate::arguments::{Command, Typed};
use std::process::ExitCode;

/// Whether a command starts programs on this machine.
fn looks_here(command: &Command) -> bool {
    match command {
        Command::Preflight(one) => one.check.how.machine.is_none(),
        Command::Plan(one) => one.check.how.machine.is_none(),
        Command::Record(one) => one.check.how.machine.is_none(),
        Command::Walk(one) => one.how.machine.is_none(),
        Command::Explain(one) => one.machine.is_none() && one.word.is_some(),
        Command::Compare(one) => one.machines.iter().any(|machine| machine.as_os_str() == "here"),
        Command::Draft(_)
        | Command::Proofread(_)
        | Command::Rehearse(_)
        | Command::Render(_)
        | Command::Schema { .. }
        | Command::Survey(_)
        | Command::Witness(_)
        | Command::Demo(_)
        | Command::Completions { .. }
        | Command::Manual { .. } => false,
    }
}

/// Does the work in a process that is kept, and gives its end; `None` where this process is to do it itself.
pub(crate) fn keep(typed: &Typed) -> Option<ExitCode> {
    if !looks_here(&typed.command) {
        return None;
    }
    #[cfg(target_os = "linux")]
    return linux::keep();
    // Elsewhere what is started ends with its group or its job.
    #[cfg(not(target_os = "linux"))]
    None
}

/// Ends what the programs that were started have left, however they took themselves out of the way.
pub(crate) fn end_what_is_left() {
    #[cfg(target_os = "linux")]
    if linux::is_kept() {
        children::end_all();
        linux::give_terminal_back();
    }
}
