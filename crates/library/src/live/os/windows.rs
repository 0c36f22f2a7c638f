//! Windows: the places for its answers. What is not written yet says so and guesses nothing.

use crate::guide::Access;
use crate::live::Live;
use crate::observation::{Nature, Observation, Os, PathState, Piece, Surroundings, System};
use crate::probe::PortPlace;
use crate::text::Pattern;
use std::path::{Path, PathBuf};

fn later(what: &str) -> Observation {
    Observation::NotSupported(format!("{what} on Windows is looked at by a later version of this software"))
}

/// The system, as far as this program's own build tells.
pub(in crate::live) fn system() -> Observation {
    Observation::System(System {
        os: Os::Windows,
        version: None,
        edition: None,
        distro: None,
        distro_like: Vec::new(),
        distro_version: None,
        pretty: None,
        arch: super::arch(std::env::consts::ARCH),
    })
}

/// Only the build server is known.
pub(in crate::live) fn surroundings() -> Observation {
    Observation::Surroundings(Surroundings { wsl: Some(false), ci: Some(super::is_build_server()), ..Surroundings::default() })
}

/// Not looked at yet.
pub(in crate::live) fn account(_: &Live) -> Observation {
    later("the account")
}

/// Not looked at yet.
pub(in crate::live) fn database_groups(_: &Live) -> Observation {
    later("the account database")
}

/// Not looked at yet.
pub(in crate::live) fn port_holder(_: &PortPlace) -> Observation {
    later("the holder of a port")
}

/// Not looked at yet.
pub(in crate::live) fn disk_room(_: &Path) -> Observation {
    later("room on a disk")
}

/// Not looked at yet.
pub(in crate::live) fn memory() -> Observation {
    later("memory")
}

/// Not looked at yet.
pub(in crate::live) fn cores() -> Observation {
    later("the number of cores")
}

/// Not looked at yet.
pub(in crate::live) fn processor() -> Observation {
    later("the processor's virtualization")
}

/// Not looked at yet.
pub(in crate::live) fn device(_: &Path, _: Access) -> Observation {
    later("a device")
}

/// Not looked at yet.
pub(in crate::live) fn hypervisor() -> Observation {
    later("the feature for virtual machines")
}

/// There are no such modules.
pub(in crate::live) fn module(_: &str) -> Observation {
    Observation::NotSupported("Windows has no kernel modules of this sort".to_owned())
}

/// Windows has no such limit.
pub(in crate::live) fn first_free_for_all() -> Option<u16> {
    None
}

/// The files that a program's name may mean, by PATHEXT.
pub(in crate::live) fn file_names(name: &str) -> Vec<String> {
    let extensions = std::env::var("PATHEXT").unwrap_or_else(|_| ".COM;.EXE;.BAT;.CMD".to_owned());
    extensions.split(';').filter(|extension| !extension.is_empty()).map(|extension| format!("{name}{extension}")).collect()
}

/// A file that PATHEXT admits can be started.
pub(in crate::live) fn is_executable(path: &Path) -> bool {
    path.is_file()
}

/// Where programs usually are.
pub(in crate::live) fn usual_folders(home: Option<&Path>) -> Vec<PathBuf> {
    let at_home = [".cargo\\bin", "scoop\\shims", "go\\bin", ".dotnet\\tools", "AppData\\Roaming\\npm"];
    let at_home = home.into_iter().flat_map(|home| at_home.iter().map(|folder| home.join(folder)));
    let programs = std::env::var_os("ProgramFiles").map(PathBuf::from).unwrap_or_default();
    let system = ["Git\\cmd", "CMake\\bin", "nodejs"].into_iter().map(|folder| programs.join(folder));
    at_home.chain(system).collect()
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

/// The range that systems hand out to connections unless they are told otherwise (RFC 6335, section 6).
pub(in crate::live) fn is_spoken_for(port: u16) -> bool {
    port >= 49_152
}

/// What is at a path. Whose it is, and what its access list lets this user do, a later version looks at: only the mark for reading counts.
pub(in crate::live) fn path_state(path: &Path, pattern: Option<&Pattern>) -> Observation {
    let mut state = PathState {
        path: path.display().to_string(),
        nature: Nature::Missing,
        mode: None,
        mine: None,
        owner: None,
        writable: true,
        executable: false,
        holds: None,
    };
    let metadata = match path.metadata() {
        Ok(metadata) => metadata,
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => {
            if let Ok(target) = path.read_link() {
                state.nature = Nature::Dangling(target.display().to_string());
            }
            return Observation::Path(state);
        }
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    state.nature = if metadata.is_dir() { Nature::Folder } else { Nature::File };
    state.writable = metadata.is_dir() || !metadata.permissions().readonly();
    state.executable = true;
    state.holds = pattern.and_then(|pattern| {
        if metadata.is_dir() { crate::live::place::lists(path, pattern) } else { crate::live::place::holds(path, pattern) }
    });
    Observation::Path(state)
}

/// Not looked at yet.
pub(in crate::live) fn socket(_: &Path) -> Observation {
    later("a local socket")
}

/// Not looked at yet.
pub(in crate::live) fn has_group(_: &Live, _: &str) -> Observation {
    later("the account database")
}

/// Not looked at yet.
pub(in crate::live) fn limit(_: &str, _: &Path) -> Observation {
    later("limits")
}

/// Not looked at yet.
pub(in crate::live) fn networks() -> Observation {
    later("networks")
}

/// Not looked at yet.
///
/// # Errors
/// Always.
pub(in crate::live) fn has_way_out() -> Result<bool, String> {
    Err("ways out of this machine on Windows are looked at by a later version of this software".to_owned())
}

/// Libraries are searched in places that only the loader knows.
pub(in crate::live) fn loads(_: &str) -> Option<String> {
    None
}

/// There is no usual place: what is described stands in `PKG_CONFIG_PATH`.
pub(in crate::live) fn description_folders() -> Vec<PathBuf> {
    Vec::new()
}

/// Variables that are set for new terminals stand in the registry, which a later version reads.
pub(in crate::live) fn startup_file_with(_: &str, _: Option<&Path>) -> Option<String> {
    None
}

/// Opens a file for reading.
///
/// # Errors
/// The system's.
pub(in crate::live) fn open_file(path: &Path) -> std::io::Result<std::fs::File> {
    std::fs::File::open(path)
}
