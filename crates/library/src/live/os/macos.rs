//! macOS: the places for its answers. What is not written yet says so and guesses nothing.

use super::Share;
use crate::live::Live;
use crate::observation::{Hypervisor, Observation, Os, Piece, Surroundings, System};
use crate::probe::PortPlace;
use std::path::{Path, PathBuf};

fn later(what: &str) -> Observation {
    Observation::NotSupported(format!("{what} on macOS is looked at by a later version of this software"))
}

/// The system, as far as uname(2) tells: the kernel's version is not the system's.
pub(in crate::live) fn system() -> Observation {
    let uname = rustix::system::uname();
    Observation::System(System {
        os: Os::Macos,
        version: None,
        edition: None,
        distro: None,
        distro_like: Vec::new(),
        distro_version: None,
        pretty: None,
        arch: super::arch(&uname.machine().to_string_lossy()),
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

/// The system's framework is always there.
pub(in crate::live) fn hypervisor() -> Observation {
    Observation::Hypervisor(Hypervisor { enabled: Some(true), held_by: None })
}

/// There are no such modules.
pub(in crate::live) fn module(_: &str) -> Observation {
    Observation::NotSupported("macOS has no kernel modules of this sort".to_owned())
}

/// Every user may bind every port on the wildcard address since macOS 10.14; the system tells no number.
pub(in crate::live) fn first_free_for_all() -> Option<u16> {
    None
}

/// The group's number: names are looked up by a later version.
pub(in crate::live) fn group_of(id: u32) -> String {
    id.to_string()
}

/// Where programs usually are: both prefixes of the package manager, and what people and languages use.
pub(in crate::live) fn usual_folders(home: Option<&Path>) -> Vec<PathBuf> {
    let at_home = [".local/bin", "bin", ".cargo/bin", "go/bin", ".npm-global/bin", ".dotnet/tools"];
    let at_home = home.into_iter().flat_map(|home| at_home.iter().map(|folder| home.join(folder)));
    let system = ["/opt/homebrew/bin", "/usr/local/bin", "/opt/local/bin", "/usr/local/go/bin", "/usr/sbin", "/sbin"];
    at_home.chain(system.iter().map(PathBuf::from)).collect()
}

/// Files of the system that open an installer while the developer tools are missing.
const STAND_INS: [&str; 8] = ["clang", "cc", "gcc", "git", "make", "python3", "swift", "ld"];

/// The system's own names in `/usr/bin` stand in for tools that lie in the developer folder, when that is not there.
pub(in crate::live) fn is_placeholder(path: &Path) -> bool {
    let stand_in = path.parent() == Some(Path::new("/usr/bin"))
        && path.file_name().is_some_and(|name| STAND_INS.iter().any(|one| name == *one));
    stand_in
        && !["/Library/Developer/CommandLineTools/usr/bin", "/Applications/Xcode.app/Contents/Developer"]
            .iter()
            .any(|folder| Path::new(folder).is_dir())
}

/// Mach-O files are started to find out: what they need lies in a cache that only the loader reads.
pub(in crate::live) fn lacks(_: &Path) -> Vec<Piece> {
    Vec::new()
}

/// The range that systems hand out to connections unless they are told otherwise (RFC 6335, section 6).
pub(in crate::live) fn is_spoken_for(port: u16) -> bool {
    port >= 49_152
}

/// Not looked at yet: volumes of one APFS container count as disks of their own.
pub(in crate::live) fn share(_: &Path) -> Share {
    Share::default()
}

/// The group's entry is looked up by a later version.
pub(in crate::live) fn has_group(_: &Live, _: &str) -> Observation {
    later("the account database")
}

/// Not looked at yet.
pub(in crate::live) fn limit(_: &str, _: &Path) -> Observation {
    later("limits")
}

/// The networks of this machine's interfaces.
pub(in crate::live) fn networks() -> Observation {
    match super::interfaces() {
        Ok(networks) => Observation::Networks(networks),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// Not looked at yet.
///
/// # Errors
/// Always.
pub(in crate::live) fn has_way_out() -> Result<bool, String> {
    Err("ways out of this machine on macOS are looked at by a later version of this software".to_owned())
}

/// Libraries of the system lie in a cache that only the loader reads.
pub(in crate::live) fn loads(_: &str) -> Option<String> {
    None
}

/// Folders that describe libraries for builds: both prefixes of the package manager, and the system's.
pub(in crate::live) fn description_folders() -> Vec<PathBuf> {
    let folders = [
        "/opt/homebrew/lib/pkgconfig",
        "/opt/homebrew/share/pkgconfig",
        "/usr/local/lib/pkgconfig",
        "/usr/local/share/pkgconfig",
    ];
    folders.into_iter().chain(["/opt/local/lib/pkgconfig", "/usr/lib/pkgconfig"]).map(PathBuf::from).collect()
}

/// Whether a device is a serial line, by its name.
pub(in crate::live) fn is_serial(path: &Path, _: u64) -> bool {
    path.file_name().is_some_and(|name| name.to_string_lossy().starts_with("tty.") || name.to_string_lossy().starts_with("cu."))
}
