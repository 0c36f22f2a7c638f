use super::{Live, place};
use crate::observation::Observation;
use crate::read::setting_number;

/// The number that the environment, or else the file, sets.
pub(super) fn number(live: &Live, variable: &str, env_file: Option<&str>) -> Observation {
    if let Some(reason) = env_file.and_then(|file| live.leads_out(file)) {
        return Observation::CouldNotLook(reason);
    }
    let environment = std::env::var_os(variable).map(|value| value.to_string_lossy().into_owned());
    let text = match env_file.map(|file| place::text(&live.place(file))) {
        None => None,
        Some(Ok(text)) => Some(text),
        Some(Err(crate::LoadError::Unreadable { reason, .. })) if reason.kind() == std::io::ErrorKind::NotFound => None,
        Some(Err(error)) => return Observation::CouldNotLook(error.to_string()),
    };
    Observation::SettingNumber(setting_number(variable, environment.as_deref(), env_file.zip(text.as_deref())))
}
