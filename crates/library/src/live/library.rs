use super::os;
use crate::observation::{LibraryState, Observation};
use crate::read::pkg_config_version;
use std::path::PathBuf;

/// A library's description for builds, where pkg-config would look, and the library itself.
pub(super) fn state(name: &str) -> Observation {
    if name.contains(['/', '\\', '\0']) {
        return Observation::CouldNotLook(format!("{name} cannot be the name of a library"));
    }
    let file = format!("{name}.pc");
    let description = folders().into_iter().find_map(|folder| {
        let path = folder.join(&file);
        let version = pkg_config_version(&super::place::text(&path).ok()?)?;
        Some((path.display().to_string(), version))
    });
    Observation::Library(LibraryState { description, loaded_from: os::loads(name) })
}

/// What the person has set comes first, and may replace the system's folders (pkg-config(1)).
fn folders() -> Vec<PathBuf> {
    let listed = |name: &str| std::env::var_os(name).filter(|value| !value.is_empty());
    let own = listed("PKG_CONFIG_PATH").map(|value| std::env::split_paths(&value).collect::<Vec<_>>()).unwrap_or_default();
    let system = match listed("PKG_CONFIG_LIBDIR") {
        Some(value) => std::env::split_paths(&value).collect(),
        None => os::description_folders(),
    };
    own.into_iter().chain(system).collect()
}
