//! What each command does.

mod check;
mod compare;
mod completions;
mod demo;
mod draft;
mod explain;
mod manual;
mod plan;
mod preflight;
mod proofread;
mod record;
mod rehearse;
mod render;
mod schema;
mod survey;
mod walk;
mod watch;
mod witness;

use crate::arguments::{Command, Typed};
use crate::exit::{Failure, Status};
use crate::look::OutputStyle;
use build_setup_ready::Interrupt;

/// Runs the command that was typed, if its results have a place of their own.
pub(crate) fn run(typed: &Typed, interrupt: &Interrupt, look: &OutputStyle) -> Result<Status, Failure> {
    crate::results::apart(typed)?;
    match &typed.command {
        Command::Preflight(arguments) => preflight::run(arguments, &typed.shown, (interrupt, look)),
        Command::Walk(arguments) => walk::run(arguments, &typed.shown, (interrupt, look)),
        Command::Plan(arguments) => plan::run(arguments, &typed.shown, (interrupt, look)),
        Command::Record(arguments) => record::run(arguments, &typed.shown, (interrupt, look)),
        Command::Explain(arguments) => explain::run(arguments, &typed.shown, (interrupt, look)),
        Command::Draft(arguments) => draft::run(arguments, &typed.shown, look),
        Command::Proofread(arguments) => proofread::run(arguments, &typed.shown, look),
        Command::Rehearse(arguments) => rehearse::run(arguments, &typed.shown, look),
        Command::Render(arguments) => render::run(arguments, &typed.shown, look),
        Command::Witness(arguments) => witness::run(arguments, &typed.shown, look),
        Command::Compare(arguments) => compare::run(arguments, &typed.shown, (interrupt, look)),
        Command::Survey(arguments) => survey::run(arguments, &typed.shown, (interrupt, look)),
        Command::Schema { what } => schema::run(*what, &typed.shown),
        Command::Demo(arguments) => demo::run(arguments, &typed.shown, look),
        Command::Completions { shell } => completions::run(*shell, &typed.shown),
        Command::Manual { command } => manual::run(command.as_deref(), &typed.shown),
    }
}
