use super::{Live, os, place};
use crate::read::{env_value, is_of_another_system};
use setup_ready_core::observation::{Observation, StartupOutcome, Value, VariableState};
use setup_ready_core::text::Pattern;
use std::io::ErrorKind;

/// Where a start-up file sets a variable, and why this process does not have it.
#[derive(Debug, Default)]
pub(super) struct AtStart {
    /// The file, as people write it.
    pub(super) file: String,
    /// The line, where it is known.
    pub(super) line: Option<usize>,
    /// Why this process does not have it.
    pub(super) fate: StartupOutcome,
    /// The file and line that keep it from having it.
    pub(super) kept_by: Option<(String, usize)>,
}

/// Where a variable is set, and whether its value has a shape. The value itself goes no further than here.
pub(super) fn state(live: &Live, name: &str, env_file: Option<&str>, pattern: Option<&Pattern>) -> Observation {
    if let Some(reason) = env_file.and_then(|file| live.leads_out(file)) {
        return Observation::CouldNotLook(reason);
    }
    let environment = match std::env::var_os(name) {
        None => Value::Unset,
        Some(value) => Value::of(&value.to_string_lossy(), pattern),
    };
    let leads_nowhere = std::env::var(name).is_ok_and(|value| leads_nowhere(live, name, &value));
    let (mut at_line, mut of_another_system) = (None, false);
    let file = match env_file.map(|file| (file, place::text(&live.place(file)))) {
        None => None,
        Some((file, Ok(text))) => Some(match env_value(&text, name) {
            Some(entry) => {
                of_another_system = is_of_another_system(&text);
                at_line = entry.only_line();
                (format!("{file}, line {}", entry.lines.start()), Value::of(&entry.value, pattern))
            }
            None => (file.to_owned(), Value::Unset),
        }),
        Some((file, Err(crate::LoadError::Unreadable { reason, .. }))) if reason.kind() == ErrorKind::NotFound => {
            Some((file.to_owned(), Value::Unset))
        }
        Some((_, Err(error))) => return Observation::CouldNotLook(error.to_string()),
    };
    let found = os::startup_line_of(name, live);
    let (startup, startup_line) = found.as_ref().map_or((None, None), |found| (Some(found.file.clone()), found.line));
    let (fate, kept_by) = found.map(|found| (found.fate, found.kept_by)).unwrap_or_default();
    Observation::Variable(VariableState {
        environment,
        file,
        line: at_line,
        of_another_system,
        leads_nowhere,
        startup,
        startup_line,
        fate,
        kept_by,
    })
}

/// Whether what a value names is not there, as far as the variable's name says what it means: a folder for what is called a home or a root,
/// a locale for what chooses one (locale(7)).
fn leads_nowhere(live: &Live, name: &str, value: &str) -> bool {
    if name == "LANG" || name.starts_with("LC_") {
        let Observation::Locales(made) = os::locales(live) else { return false };
        let plain = |name: &str| name.to_lowercase().replace("utf-8", "utf8");
        let always = ["", "C", "POSIX"].contains(&value);
        return !always && !made.iter().any(|made| plain(made) == plain(value));
    }
    let path = std::path::Path::new(value);
    (name.ends_with("_HOME") || name.ends_with("_ROOT")) && path.is_absolute() && !path.exists()
}
