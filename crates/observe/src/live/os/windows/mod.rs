//! Windows. What only C can ask is in `windows_calls`.

mod account;
mod file;
mod limit;
mod network;
mod place;
mod registry;
mod stranger;
mod system;

pub(in crate::live) use account::{account, database_groups, has_group};
pub(in crate::live) use file::{file_version, start_effect, started_by};
pub(in crate::live) use limit::{limit, locales};
pub(in crate::live) use network::{has_way_out, is_spoken_for, is_taken_beside, networks, port_holder, refused, system_proxy};
pub(in crate::live) use place::{device, disk_room, foreign, open_file, path_state, socket, within};
pub(in crate::live) use stranger::{elsewhere, no_file};
pub(in crate::live) use system::{cores, hypervisor, memory, processor, surroundings, system, system_service};

use crate::live::Live;
use crate::live::variable::AtStart;
use setup_ready_core::observation::{Observation, Piece};
use std::path::{Path, PathBuf};

/// Nobody knows how to look.
pub(in crate::live) fn usb(_: &str) -> Observation {
    Observation::NotSupported("devices on USB are not listed on Windows".to_owned())
}

/// There are no such modules.
pub(in crate::live) fn module(_: &str) -> Observation {
    Observation::NotSupported("Windows has no kernel modules of this sort".to_owned())
}

/// The files that a program's name may mean: with an extension of PATHEXT as it stands, and else with each of them.
pub(in crate::live) fn file_names(name: &str) -> Vec<String> {
    let extensions = std::env::var("PATHEXT").unwrap_or_else(|_| ".COM;.EXE;.BAT;.CMD".to_owned());
    let mut extensions = extensions.split(';').filter(|extension| !extension.is_empty());
    let lower = name.to_ascii_lowercase();
    if extensions.clone().any(|extension| lower.ends_with(&extension.to_ascii_lowercase())) {
        return vec![name.to_owned()];
    }
    // The system takes upper and lower case for the same; people read the lower one more easily.
    extensions.by_ref().map(|extension| format!("{name}{}", extension.to_ascii_lowercase())).collect()
}

/// A file that PATHEXT admits can be started.
pub(in crate::live) fn is_executable(path: &Path) -> bool {
    path.is_file()
}

/// Where programs usually are: first of all where a new terminal would look.
pub(in crate::live) fn usual_folders(home: Option<&Path>) -> Vec<PathBuf> {
    let at_home = [
        ".cargo\\bin",
        "scoop\\shims",
        "go\\bin",
        ".dotnet\\tools",
        "AppData\\Roaming\\npm",
        "AppData\\Local\\Microsoft\\WinGet\\Links",
        "AppData\\Local\\Programs\\Git\\cmd",
    ];
    let at_home = home.into_iter().flat_map(|home| at_home.iter().map(|folder| home.join(folder)));
    let variable = |name: &str| std::env::var_os(name).map(PathBuf::from);
    let programs = ["ProgramFiles", "ProgramFiles(x86)"].into_iter().filter_map(variable);
    let system =
        programs.flat_map(|programs| ["Git\\cmd", "CMake\\bin", "nodejs", "LLVM\\bin"].map(|folder| programs.join(folder)));
    let others = variable("ProgramData").into_iter().map(|data| data.join("chocolatey\\bin"));
    registry::search_path().into_iter().chain(at_home).chain(system).chain(others).collect()
}

/// Aliases of the store's apps are empty files: starting one opens the store.
pub(in crate::live) fn is_placeholder(path: &Path) -> bool {
    path.components().any(|part| part.as_os_str().eq_ignore_ascii_case("WindowsApps"))
        && path.metadata().is_ok_and(|data| data.len() == 0)
}

/// Libraries are searched in places that only the loader knows; what is missing is told when it is started.
pub(in crate::live) fn lacks(_: &Path) -> Vec<Piece> {
    Vec::new()
}

/// Libraries are searched in places that only the loader knows.
pub(in crate::live) fn loads(_: &str) -> Option<String> {
    None
}

/// There is no usual place: beside `PKG_CONFIG_PATH`, the package managers for libraries tell by variables where they put theirs.
pub(in crate::live) fn description_folders() -> Vec<PathBuf> {
    let variable = |name: &str| std::env::var_os(name).map(PathBuf::from);
    let prefix = variable("MSYSTEM_PREFIX").into_iter();
    let triplet = if std::env::consts::ARCH == "aarch64" { "arm64-windows" } else { "x64-windows" };
    let ports = variable("VCPKG_ROOT").into_iter().map(|root| root.join("installed").join(triplet));
    prefix.chain(ports).flat_map(|root| ["lib", "share"].map(|part| root.join(part).join("pkgconfig"))).collect()
}

/// Whether programs of this session may not ask for as much memory as they like: here a session has no such limit.
pub(in crate::live) fn is_short_of_memory_by_limit() -> bool {
    false
}

/// A program of the system's own, by its full path.
fn own_program(name: &str) -> PathBuf {
    let folder = std::env::var_os("SystemRoot").map_or_else(|| PathBuf::from(r"C:\Windows"), PathBuf::from);
    folder.join("System32").join(name)
}

/// The files that may set a variable: here the registry does.
pub(in crate::live) fn startup_files(_: &Live) -> Vec<PathBuf> {
    Vec::new()
}

/// Whose settings set a variable for new terminals.
pub(in crate::live) fn startup_line_of(name: &str, _: &Live) -> Option<AtStart> {
    registry::variable_is_set_for(name).map(|whose| AtStart { file: whose.to_owned(), ..AtStart::default() })
}
