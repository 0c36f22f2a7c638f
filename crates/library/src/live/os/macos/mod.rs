//! macOS: what its files, its kernel and its own commands tell. Never run: see docs/platforms.md.

mod account;
mod ask;
mod machine;

pub(in crate::live) use account::{account, database_groups, group_of, has_group};
pub(in crate::live) use machine::{cores, hypervisor, limit, memory, processor, surroundings, system};

use super::Share;
use crate::guide::Protocol;
use crate::observation::{Observation, Piece, RunEnd};
use crate::probe::PortPlace;
use crate::read::lsof_holder;
use std::net::IpAddr;
use std::path::{Path, PathBuf};

/// Who holds a port. The command ends with 1 where it finds nobody, and does not see other users' programs.
pub(in crate::live) fn port_holder(place: &PortPlace) -> Observation {
    let (which, state) = match place.protocol {
        Protocol::Tcp => (format!("-iTCP:{}", place.port), &["-sTCP:LISTEN"][..]),
        Protocol::Udp => (format!("-iUDP:{}", place.port), &[][..]),
    };
    let mut words = vec!["-nP", which.as_str(), "-F", "pcL"];
    words.extend(state);
    let run = ask::ran("/usr/sbin/lsof", &words);
    if matches!(run.end, RunEnd::Exit(0 | 1)) {
        return Observation::PortHolder(lsof_holder(&run.stdout));
    }
    Observation::CouldNotLook("lsof did not answer".to_owned())
}

/// There are no such modules.
pub(in crate::live) fn module(_: &str) -> Observation {
    Observation::NotSupported("macOS has no kernel modules of this sort".to_owned())
}

/// Every user may bind every port on the wildcard address since macOS 10.14; the system tells no number.
pub(in crate::live) fn first_free_for_all() -> Option<u16> {
    None
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

/// The networks of this machine's interfaces.
pub(in crate::live) fn networks() -> Observation {
    match super::interfaces() {
        Ok(networks) => Observation::Networks(networks),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// Whether any network could lead out of this machine: one with an address that others can reach.
///
/// # Errors
/// When the networks cannot be looked at, with the reason.
pub(in crate::live) fn has_way_out() -> Result<bool, String> {
    let reaches = |address: &IpAddr| match address {
        IpAddr::V4(address) => !address.is_loopback() && !address.is_link_local(),
        IpAddr::V6(address) => !address.is_loopback() && !address.is_unicast_link_local(),
    };
    Ok(super::interfaces()?.iter().any(|network| reaches(&network.address)))
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
