//! What stands in the registry: the system's version and edition, variables for new terminals, a few settings.

use crate::read::{expanded, proxy_of_settings};
use setup_ready_core::observation::SystemProxy;
use std::path::PathBuf;
use windows_registry::{CLASSES_ROOT, CURRENT_USER, Key, LOCAL_MACHINE};

const VERSION: &str = r"SOFTWARE\Microsoft\Windows NT\CurrentVersion";
const MACHINE_VARIABLES: &str = r"SYSTEM\CurrentControlSet\Control\Session Manager\Environment";

fn key(root: &Key, path: &str) -> Option<Key> {
    root.open(path).ok()
}

/// A text of the system's version key.
pub(super) fn version_text(name: &str) -> Option<String> {
    key(LOCAL_MACHINE, VERSION)?.get_string(name).ok().filter(|text| !text.is_empty())
}

/// A number of the system's version key.
pub(super) fn version_number(name: &str) -> Option<u32> {
    key(LOCAL_MACHINE, VERSION)?.get_u32(name).ok()
}

/// Whether a switch of the machine is on; off where it is not there.
pub(super) fn is_on(path: &str, name: &str) -> bool {
    key(LOCAL_MACHINE, path).and_then(|key| key.get_u32(name).ok()) == Some(1)
}

/// Whose settings set a variable for new terminals.
pub(super) fn variable_is_set_for(name: &str) -> Option<&'static str> {
    let has = |root: &Key, path: &str| key(root, path).is_some_and(|key| key.get_value(name).is_ok());
    if has(CURRENT_USER, "Environment") {
        Some("your user's settings")
    } else if has(LOCAL_MACHINE, MACHINE_VARIABLES) {
        Some("the machine's settings")
    } else {
        None
    }
}

/// The folders that new terminals search, of the machine and then of the user. This one may have been opened before they were set.
pub(super) fn search_path() -> Vec<PathBuf> {
    let of = |root: &Key, path: &str| key(root, path).and_then(|key| key.get_string("Path").ok()).unwrap_or_default();
    let both = [of(LOCAL_MACHINE, MACHINE_VARIABLES), of(CURRENT_USER, "Environment")];
    let variable = |name: &str| std::env::var(name).ok();
    let folders = both.iter().flat_map(|path| path.split(';')).map(|folder| expanded(folder.trim(), variable));
    folders.filter(|folder| !folder.is_empty()).map(PathBuf::from).collect()
}

/// The command that files with this ending are opened with: the one that the person chose, else the kind's own.
pub(super) fn opens(extension: &str) -> Option<String> {
    let chosen = format!(r"Software\Microsoft\Windows\CurrentVersion\Explorer\FileExts\.{extension}\UserChoice");
    let chosen = key(CURRENT_USER, &chosen).and_then(|key| key.get_string("ProgId").ok());
    // What a user has set for files of a kind goes before what holds for all.
    let class = |path: &str| {
        let own = key(CURRENT_USER, &format!(r"Software\Classes\{path}")).and_then(|key| key.get_string("").ok());
        own.or_else(|| key(CLASSES_ROOT, path).and_then(|key| key.get_string("").ok()))
    };
    let kind = chosen.or_else(|| class(&format!(".{extension}")))?;
    let command = class(&format!(r"{kind}\shell\open\command"))?;
    Some(expanded(&command, |name| std::env::var(name).ok()))
}

/// The serial lines that are connected now, such as `COM3`.
pub(super) fn serial_lines() -> Vec<String> {
    let Some(key) = key(LOCAL_MACHINE, r"HARDWARE\DEVICEMAP\SERIALCOMM") else { return Vec::new() };
    let Ok(values) = key.values() else { return Vec::new() };
    values.filter_map(|(_, value)| String::try_from(value).ok()).collect()
}

/// The proxy that this user's settings name.
pub(super) fn proxy() -> SystemProxy {
    let Some(key) = key(CURRENT_USER, r"Software\Microsoft\Windows\CurrentVersion\Internet Settings") else {
        return SystemProxy::default();
    };
    let text = |name: &str| key.get_string(name).unwrap_or_default();
    proxy_of_settings(key.get_u32("ProxyEnable").is_ok_and(|on| on == 1), &text("ProxyServer"), &text("AutoConfigURL"))
}

/// Whether a service may not be started (the value `Start` of its key: 4 is disabled).
pub(super) fn is_disabled(service: &str) -> bool {
    let key = key(LOCAL_MACHINE, &format!(r"SYSTEM\CurrentControlSet\Services\{service}"));
    key.and_then(|key| key.get_u32("Start").ok()) == Some(4)
}

/// Whether this system runs in a container: only there it is told of which kind.
pub(super) fn is_container() -> bool {
    key(LOCAL_MACHINE, r"SYSTEM\CurrentControlSet\Control").is_some_and(|key| key.get_value("ContainerType").is_ok())
}
