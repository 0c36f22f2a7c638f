use super::{Live, os, place};
use crate::observation::{Observation, Value, VariableState};
use crate::read::env_value;
use crate::text::Pattern;
use std::io::ErrorKind;

/// Where a variable is set, and whether its value has a shape. The value itself goes no further than here.
pub(super) fn state(live: &Live, name: &str, env_file: Option<&str>, pattern: Option<&Pattern>) -> Observation {
    if let Some(reason) = env_file.and_then(|file| live.leads_out(file)) {
        return Observation::CouldNotLook(reason);
    }
    let environment = match std::env::var_os(name) {
        None => Value::Unset,
        Some(value) => Value::of(&value.to_string_lossy(), pattern),
    };
    let file = match env_file.map(|file| (file, place::text(&live.place(file)))) {
        None => None,
        Some((file, Ok(text))) => Some(match env_value(&text, name) {
            Some((number, value)) => (format!("{file}, line {number}"), Value::of(&value, pattern)),
            None => (file.to_owned(), Value::Unset),
        }),
        Some((file, Err(crate::LoadError::Unreadable { reason, .. }))) if reason.kind() == ErrorKind::NotFound => {
            Some((file.to_owned(), Value::Unset))
        }
        Some((_, Err(error))) => return Observation::CouldNotLook(error.to_string()),
    };
    let startup = if environment == Value::Unset { os::startup_file_with(name, live.home.as_deref()) } else { None };
    Observation::Variable(VariableState { environment, file, startup })
}
