use super::{Live, place};
use crate::read::{setting_number, setting_text};
use setup_ready_core::guide::{SetBy, ValueShape};
use setup_ready_core::observation::Observation;
use std::collections::HashMap;

/// The number that a setting holds.
pub(super) fn number(live: &Live, by: &SetBy) -> Observation {
    match files(live, by) {
        Ok(texts) => {
            Observation::SettingNumber(setting_number(by, environment(by).as_deref(), |file| texts.get(file).map(String::as_str)))
        }
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// The text of a shape that a setting holds.
pub(super) fn text(live: &Live, by: &SetBy, shape: &ValueShape) -> Observation {
    match files(live, by) {
        Ok(texts) => Observation::SettingText(setting_text((by, shape), environment(by).as_deref(), |file| {
            texts.get(file).map(String::as_str)
        })),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

fn environment(by: &SetBy) -> Option<String> {
    Some(std::env::var_os(by.variable.as_ref()?)?.to_string_lossy().into_owned())
}

/// The texts of the files that are there.
fn files(live: &Live, by: &SetBy) -> Result<HashMap<String, String>, String> {
    let mut texts = HashMap::new();
    for file in by.files() {
        if let Some(reason) = live.leads_out(file) {
            return Err(reason);
        }
        match place::text(&live.place(file)) {
            Ok(text) => drop(texts.insert(file.to_owned(), text)),
            Err(crate::LoadError::Unreadable { reason, .. }) if reason.kind() == std::io::ErrorKind::NotFound => {}
            Err(error) => return Err(error.to_string()),
        }
    }
    Ok(texts)
}
