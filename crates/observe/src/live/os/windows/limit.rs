use super::registry;
use crate::live::Live;
use crate::windows_calls as call;
use setup_ready_core::guide::LimitKind;
use setup_ready_core::observation::{LimitState, Observation};
use std::path::Path;

/// Windows makes no locales: every language is there.
pub(in crate::live) fn locales(_: &Live) -> Observation {
    Observation::NotSupported("Windows does not make locales one by one".to_owned())
}

/// The longest path, with its end mark, of programs that know no longer ones (`MAX_PATH`), and of the others.
const SHORT: u64 = 260;
const LONG: u64 = 32_767;

/// A limit that is in force for this user.
pub(in crate::live) fn limit(kind: LimitKind, _: &Path) -> Observation {
    match kind {
        LimitKind::PathLength => {
            let long = registry::is_on(r"SYSTEM\CurrentControlSet\Control\FileSystem", "LongPathsEnabled");
            Observation::Limit(LimitState::Number(if long { LONG } else { SHORT }, None))
        }
        LimitKind::SymbolicLinks => {
            let developer =
                registry::is_on(r"SOFTWARE\Microsoft\Windows\CurrentVersion\AppModelUnlock", "AllowDevelopmentWithoutDevLicense");
            match call::is_elevated() {
                Ok(elevated) => Observation::Limit(LimitState::Able(elevated || developer)),
                Err(error) => Observation::CouldNotLook(error.to_string()),
            }
        }
        LimitKind::OpenFiles | LimitKind::Processes | LimitKind::FileWatches => {
            Observation::NotSupported(format!("Windows has no limit for {}", kind.word()))
        }
    }
}
