use super::registry;
use crate::observation::{LimitState, Observation};
use crate::windows_calls as call;
use std::path::Path;

/// The longest path, with its end mark, of programs that know no longer ones (`MAX_PATH`), and of the others.
const SHORT: u64 = 260;
const LONG: u64 = 32_767;

/// A limit that is in force for this user.
pub(in crate::live) fn limit(name: &str, _: &Path) -> Observation {
    match name {
        "path-length" => {
            let long = registry::is_on(r"SYSTEM\CurrentControlSet\Control\FileSystem", "LongPathsEnabled");
            Observation::Limit(LimitState::Number(if long { LONG } else { SHORT }, None))
        }
        "symbolic-links" => {
            let developer =
                registry::is_on(r"SOFTWARE\Microsoft\Windows\CurrentVersion\AppModelUnlock", "AllowDevelopmentWithoutDevLicense");
            match call::is_elevated() {
                Ok(elevated) => Observation::Limit(LimitState::Able(elevated || developer)),
                Err(error) => Observation::CouldNotLook(error.to_string()),
            }
        }
        other => Observation::NotSupported(format!("Windows has no limit for {other}")),
    }
}
