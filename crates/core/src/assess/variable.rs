//! `variable`: set, not empty, of the shape that is asked for. Its value is never told.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::{EnvironmentVariable, Existence};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Value, VariableState};
use crate::prelude::*;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &EnvironmentVariable) -> Result<Finding, Stop> {
    let state = inquiry.variable(&wanted.name, wanted.env_file.as_deref(), wanted.matches.as_ref())?;
    let (value, place) = effective(state);
    let name = &wanted.name;
    let finding = match (wanted.expect, value) {
        (Existence::Absent, Value::Unset) => Finding::met("not set", format!("{name} is not set, as wanted.")),
        (Existence::Absent, Value::Empty | Value::Set(_)) => {
            let message = format!("{name} is set in {place}, and this project does not work while it is.");
            Finding::unmet(Cause::VariableUnwanted, message).found("set")
        }
        (Existence::Present, Value::Set(true)) => Finding::met("set", format!("{name} is set in {place}.")),
        (Existence::Present, Value::Set(false)) => {
            let shape = wanted.matches.as_ref().map(|pattern| format!(": {}", pattern.source())).unwrap_or_default();
            let message = format!("{name} is set in {place}, but its value does not have the form that is needed{shape}");
            Finding::unmet(Cause::VariableShape, message).found("another form")
        }
        (Existence::Present, Value::Empty) => {
            Finding::unmet(Cause::VariableEmpty, format!("{name} is set in {place}, but to nothing.")).found("empty")
        }
        (Existence::Present, Value::Unset) => unset(wanted, state),
    };
    let path = state.startup.clone().or_else(|| wanted.env_file.clone());
    Ok(finding.with(Particulars { path, ..Particulars::default() }))
}

/// The environment wins over the file, unless it has nothing.
fn effective(state: &VariableState) -> (Value, &str) {
    match (state.environment, &state.file) {
        (Value::Empty, Some((place, value @ Value::Set(_)))) | (Value::Unset, Some((place, value))) => (*value, place),
        (Value::Unset, None) => (Value::Unset, ""),
        (value, _) => (value, "the environment"),
    }
}

fn unset(wanted: &EnvironmentVariable, state: &VariableState) -> Finding {
    let name = &wanted.name;
    if let Some(file) = &state.startup {
        let message = format!(
            "{name} is set in {file}, but this terminal does not have it: it was opened before, or does not read that file."
        );
        return Finding::unmet(Cause::VariableOnlyInFile, message).found(format!("only in {file}"));
    }
    let nor = wanted.env_file.as_ref().map(|file| format!(", and {file} does not set it either")).unwrap_or_default();
    Finding::unmet(Cause::VariableUnset, format!("{name} is not set in this terminal{nor}.")).found("not set")
}
