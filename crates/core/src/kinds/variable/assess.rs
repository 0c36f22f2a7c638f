//! `variable`: set, not empty, of the shape that is asked for. Its value is never told.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, Place, VariableReason, VariableTrouble};
use crate::guide::{EnvironmentVariable, Existence};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Leads, Value, VariableState};
use crate::prelude::*;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &EnvironmentVariable) -> Result<Conclusion, Stop> {
    let state = inquiry.variable(&wanted.name, wanted.env_file.as_deref(), wanted.matches.as_ref())?;
    let (value, place) = effective(state);
    let trouble = match (wanted.expect, value) {
        (Existence::Absent, Value::Unset) => return Ok(Met::VariableUnset.into()),
        (Existence::Absent, Value::Empty | Value::Set(_)) => VariableTrouble::Unwanted { place },
        (Existence::Present, Value::Set(true)) if state.leads_nowhere => VariableTrouble::LeadsNowhere { place },
        (Existence::Present, Value::Set(true)) if state.of_another_system && matches!(place, Place::File(_)) => {
            VariableTrouble::OtherLineEnds { place }
        }
        (Existence::Present, Value::Set(true)) => match other_kit(inquiry, wanted, place.clone())? {
            Some(trouble) => trouble,
            None => return Ok(Met::VariableSet { place }.into()),
        },
        (Existence::Present, Value::Set(false)) => VariableTrouble::Shape { place },
        (Existence::Present, Value::Empty) => VariableTrouble::Empty { place },
        (Existence::Present, Value::Unset) => match &state.startup {
            Some(file) => VariableTrouble::OnlyInFile {
                file: file.clone(),
                line: state.startup_line,
                fate: state.fate,
                kept_by: state.kept_by.clone(),
            },
            None => VariableTrouble::Unset,
        },
    };
    Ok(VariableReason { name: wanted.name.clone(), trouble }.into())
}

/// Where it is to lead to the kit of a tool of the guide, and leads elsewhere.
fn other_kit(inquiry: &mut Inquiry<'_>, wanted: &EnvironmentVariable, place: Place) -> Result<Option<VariableTrouble>, Stop> {
    let Some(index) = wanted.of else { return Ok(None) };
    let Some(program) = crate::kinds::component::assess::program_of(inquiry, index)? else { return Ok(None) };
    Ok(match inquiry.leads_to(&wanted.name, program)? {
        Leads::There | Leads::Unset => None,
        Leads::Elsewhere(kit) => Some(VariableTrouble::OtherKit { place, program: program.to_owned(), kit: kit.clone() }),
    })
}

/// The environment wins over the file, also with an empty value: what loads such files leaves alone what is set.
fn effective(state: &VariableState) -> (Value, Place) {
    match (state.environment, &state.file) {
        (Value::Unset, Some((place, value))) => (*value, Place::File(place.clone())),
        (value, _) => (value, Place::Environment),
    }
}

impl Assess for EnvironmentVariable {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
