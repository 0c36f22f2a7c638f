//! `command`: exits so and prints so; it runs only with the person's consent.

use crate::assess::kind::Assess;
use crate::finding::{CommandReason, Conclusion, Met};
use crate::guide::Command;
use crate::inquiry::{Inquiry, Stop};
use crate::kinds::tool::assess::said;
use crate::observation::{Run, RunEnd, StartFailure};
use crate::prelude::*;

/// So much of what a command printed says what it printed.
const SHOWN_LINES: usize = 3;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Command) -> Result<Conclusion, Stop> {
    let Some(permission) = inquiry.context.selection.consent.permits(&wanted.words) else {
        return Ok(CommandReason::NoConsent.into());
    };
    let run = inquiry.command(wanted, permission)?;
    let reason = match &run.end {
        RunEnd::NotStarted(StartFailure::NotFound, _) => CommandReason::NotFound,
        RunEnd::NotStarted(StartFailure::NothingStarts, reason) => CommandReason::NothingStarts { reason: reason.clone() },
        RunEnd::NotStarted(_, reason) => CommandReason::NotStarted { reason: reason.clone() },
        RunEnd::TimeUp(ms) => CommandReason::TimeUp { after_ms: *ms },
        RunEnd::Interrupted => CommandReason::Interrupted,
        RunEnd::Signal(signal) => CommandReason::Crashed { signal: *signal, said: said(run) },
        RunEnd::Exit(status) if *status != i32::from(wanted.exit) => CommandReason::Status { status: *status, said: said(run) },
        RunEnd::Exit(_) => match &wanted.matches {
            Some(pattern) if !pattern.matches(&run.stdout) && !pattern.matches(&run.stderr) => {
                CommandReason::Output { printed: first_lines(run) }
            }
            _ => return Ok(Met::CommandRan.into()),
        },
    };
    Ok(reason.into())
}

fn first_lines(run: &Run) -> String {
    let lines = [&run.stdout, &run.stderr].into_iter().flat_map(|text| text.lines()).map(str::trim_end);
    let shown: Vec<&str> = lines.filter(|line| !line.trim().is_empty()).take(SHOWN_LINES).collect();
    shown.join("\n")
}

impl Assess for Command {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
