//! `command`: exits so and prints so; it runs only with the person's consent.

use super::tool::said;
use crate::cause::Cause;
use crate::driver::Consent;
use crate::finding::Finding;
use crate::guide::Command;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{RunEnd, StartFailure};
use crate::prelude::*;
use crate::text::seconds;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Command) -> Result<Finding, Stop> {
    let shown = wanted.words.join(" ");
    if inquiry.context.selection.consent == Consent::Withheld {
        let message = format!(
            "`{shown}` was not run: a command of the guide needs your consent. Read it, and allow it with --allow-commands."
        );
        return Ok(Finding::unknown(Cause::CommandNoConsent, message).found("not run"));
    }
    let run = inquiry.command(wanted)?;
    let unmet = |cause: Cause, found: &str, message: String| Ok(Finding::unmet(cause, message).found(found));
    match &run.end {
        RunEnd::NotStarted(StartFailure::NotFound, _) => {
            let program = wanted.words.first().map_or("", String::as_str);
            unmet(Cause::CommandNotFound, "not found", format!("`{shown}` cannot be run: {program} was not found."))
        }
        RunEnd::NotStarted(StartFailure::NothingStarts, reason) => Ok(Finding::unknown(
            Cause::CouldNotLook,
            format!("`{shown}` could not be run: no program can be started here: {reason}."),
        )),
        RunEnd::NotStarted(_, reason) => {
            unmet(Cause::CommandFailed, "did not start", format!("`{shown}` could not be started: {reason}."))
        }
        RunEnd::TimeUp(ms) => {
            let message =
                format!("`{shown}` was still running after {} s and was stopped, with all that it had started.", seconds(*ms));
            unmet(Cause::CommandStuck, "did not end", message)
        }
        RunEnd::Interrupted => Ok(Finding::unknown(Cause::CouldNotLook, format!("`{shown}` was interrupted before it ended."))),
        RunEnd::Signal(signal) => {
            unmet(Cause::CommandFailed, "crashed", format!("`{shown}` crashed (signal {signal}){}", said(run)))
        }
        RunEnd::Exit(status) if *status != i32::from(wanted.exit) => {
            let should = if wanted.exit == 0 { String::new() } else { format!(", and {} is expected", wanted.exit) };
            let message = format!("`{shown}` ended with the exit status {status}{should}{}", said(run));
            unmet(Cause::CommandFailed, &format!("exit status {status}"), message)
        }
        RunEnd::Exit(_) => match &wanted.matches {
            Some(pattern) if !pattern.matches(&run.stdout) && !pattern.matches(&run.stderr) => {
                let message = format!("`{shown}` ran, but did not print what is expected: {}", pattern.source());
                unmet(Cause::CommandOutput, "another output", message)
            }
            _ => Ok(Finding::met("as expected", format!("`{shown}` ran as expected."))),
        },
    }
}
