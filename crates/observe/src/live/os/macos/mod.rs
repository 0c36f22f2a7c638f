//! macOS: what its files, its kernel and its own commands tell. Never run: see docs/platforms.md.

mod account;
mod ask;
mod machine;

pub(in crate::live) use account::{account, database_groups, group_of, has_group, shell_here, shell_of_the_account};
pub(in crate::live) use machine::{cores, hypervisor, limit, locales, memory, processor, surroundings, system};

use super::Share;
use crate::live::Live;
use crate::read::{apfs_container, is_kept_back, lsof_holder, plist_text, proxy_of_scutil};
use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{Observation, Piece, RunEnd, StartEffect};
use setup_ready_core::probe::PortPlace;
use std::net::IpAddr;
use std::path::{Path, PathBuf};

/// Who holds a port. The command ends with 1 where it finds nobody, and does not see other users' programs.
pub(in crate::live) fn port_holder(_: &Live, place: &PortPlace) -> Observation {
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

/// Nobody knows how to look.
pub(in crate::live) fn usb(_: &str) -> Observation {
    Observation::NotSupported("devices on USB are not listed on macOS".to_owned())
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

/// The version of a program inside a bundle, from the bundle's property list (Apple's `CFBundleShortVersionString`); other files state none.
pub(in crate::live) fn file_version(path: &Path) -> Observation {
    let bundle = path.ancestors().skip(1).find(|folder| folder.extension().is_some_and(|extension| extension == "app"));
    let text = bundle.and_then(|folder| std::fs::read_to_string(folder.join("Contents/Info.plist")).ok());
    let version = text.as_deref().and_then(|text| plist_text(text, "CFBundleShortVersionString"));
    Observation::FileVersion(version.map(ToOwned::to_owned))
}

/// What was downloaded and not allowed yet, the system asks about; the program of a bundle opens a window.
pub(in crate::live) fn start_effect(path: &Path, _: &[u8]) -> StartEffect {
    let mut mark = [0; 256];
    let length = rustix::fs::getxattr(path, "com.apple.quarantine", &mut mark[..]).unwrap_or(0);
    let mark = String::from_utf8_lossy(mark.get(..length).unwrap_or_default());
    if is_kept_back(&mark) {
        StartEffect::Question
    } else if path.parent().is_some_and(|folder| folder.ends_with("Contents/MacOS")) {
        StartEffect::Window
    } else {
        StartEffect::Quiet
    }
}

/// The proxy that the settings of the network name.
pub(in crate::live) fn system_proxy() -> Observation {
    let text = ask::ask("/usr/sbin/scutil", &["--proxy"]);
    text.map_or_else(Observation::CouldNotLook, |text| Observation::SystemProxy(proxy_of_scutil(&text)))
}

/// Services of the system have names in their makers' style here, which a port or a socket does not tell.
pub(in crate::live) fn system_service(_: &str) -> Observation {
    Observation::NotSupported("on macOS services are not looked up by a short name".to_owned())
}

/// Mach-O files are started to find out: what they need lies in a cache that only the loader reads.
pub(in crate::live) fn lacks(_: &Path) -> Vec<Piece> {
    Vec::new()
}

/// The range that systems hand out to connections unless they are told otherwise (RFC 6335, section 6).
pub(in crate::live) fn is_spoken_for(_: &Live, port: u16) -> bool {
    port >= 49_152
}

/// Whether a filesystem lets nothing on it be executed: here these flags do not tell, and it is found out when something is started.
pub(in crate::live) fn forbids_execution(_: rustix::fs::StatVfsMountFlags) -> bool {
    false
}

/// Volumes of one container take their room from each other.
pub(in crate::live) fn share(folder: &Path) -> Share {
    let mounts = ask::ask("/sbin/mount", &[]).unwrap_or_default();
    Share { pool: apfs_container(&mounts, &folder.to_string_lossy()), ..Share::default() }
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

/// Whether opening a device does nothing, by its name.
pub(in crate::live) fn opens_without_effect(path: &Path, _: &std::fs::Metadata) -> bool {
    ["/dev/null", "/dev/zero", "/dev/random", "/dev/urandom"].iter().any(|harmless| path == Path::new(harmless))
}

/// Whether there is a driver behind a device: its node is only there while there is.
pub(in crate::live) fn has_driver(_: &std::fs::Metadata) -> bool {
    true
}
