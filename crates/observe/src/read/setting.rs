//! What a setting of a project is set to: by the environment, a `.env`-style file, or a key of another file.

use super::{env_value, keyed};
use setup_ready_core::guide::{SetBy, ValueShape};
use setup_ready_core::observation::{SettingNumber, SettingText};

/// The value that is set, with where; none where nothing sets it. `text` gives the text of a file of the project.
fn set<'t>(by: &SetBy, environment: Option<&str>, text: impl Fn(&str) -> Option<&'t str>) -> Option<(String, String)> {
    if let Some(value) = environment.filter(|value| !value.is_empty()) {
        return Some((value.to_owned(), "the environment".to_owned()));
    }
    let from_env_file = || {
        let file = by.env_file.as_deref()?;
        let entry = env_value(text(file)?, by.variable.as_deref()?)?;
        (!entry.value.is_empty()).then(|| (entry.value, format!("{file}, line {}", entry.lines.start())))
    };
    let from_entry = || {
        let (file, key) = by.entry.as_ref()?;
        let (line, value) = keyed(file, text(file)?, key)?;
        (!value.is_empty()).then(|| (value, format!("{file}, line {line}")))
    };
    from_env_file().or_else(from_entry)
}

/// The number that is set. Values that are no numbers are not kept: they may be secrets.
pub fn setting_number<'t>(by: &SetBy, environment: Option<&str>, text: impl Fn(&str) -> Option<&'t str>) -> SettingNumber {
    match set(by, environment, text) {
        Some((value, place)) => match value.trim().parse() {
            Ok(number) => SettingNumber::Number(number, place),
            Err(_) => SettingNumber::NotANumber(place),
        },
        None => SettingNumber::Unset,
    }
}

/// The text of a shape that is set. What has another shape is not kept: it may be a secret.
pub fn setting_text<'t>(
    (by, shape): (&SetBy, &ValueShape),
    environment: Option<&str>,
    text: impl Fn(&str) -> Option<&'t str>,
) -> SettingText {
    match set(by, environment, text) {
        Some((value, place)) if shape.fits(value.trim()) => SettingText::Text(value.trim().to_owned(), place),
        Some((_, place)) => SettingText::Other(place),
        None => SettingText::Unset,
    }
}
