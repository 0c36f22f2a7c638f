use crate::observation::{Observation, SettingNumber};
use crate::read::env_value;
use std::path::Path;

/// The number that the environment, or else the file, sets. Values that are no numbers are not kept: they may be secrets.
pub(super) fn number(folder: &Path, variable: &str, env_file: Option<&str>) -> Observation {
    let read = |value: &str, place: String| match value.trim().parse() {
        Ok(number) => SettingNumber::Number(number, place),
        Err(_) => SettingNumber::NotANumber(place),
    };
    if let Some(value) = std::env::var_os(variable).filter(|value| !value.is_empty()) {
        return Observation::SettingNumber(read(&value.to_string_lossy(), "the environment".to_owned()));
    }
    let Some(file) = env_file else { return Observation::SettingNumber(SettingNumber::Unset) };
    let text = match crate::read_text(&folder.join(file)) {
        Ok(text) => text,
        Err(crate::LoadError::Unreadable { reason, .. }) if reason.kind() == std::io::ErrorKind::NotFound => String::new(),
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    Observation::SettingNumber(match env_value(&text, variable) {
        Some((_, value)) if value.is_empty() => SettingNumber::Unset,
        Some((line, value)) => read(&value, format!("{file}, line {line}")),
        None => SettingNumber::Unset,
    })
}
