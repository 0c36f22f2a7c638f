//! Linux: what the kernel's file systems say.

mod account;
mod disk;
mod limit;
mod network;
mod package_lock;
mod pieces;
mod port_holder;
mod resources;

pub(in crate::live) use account::{account, database_groups, group_of, has_group, shell_here, shell_of_the_account};
pub(in crate::live) use disk::{forbids_execution, share};
pub(in crate::live) use limit::{limit, locales};
pub(in crate::live) use network::{has_way_out, networks};
pub(in crate::live) use package_lock::{holder_of_lock, process_called, process_is_called};
pub(in crate::live) use pieces::{is_whole, lacks, loads};
pub(in crate::live) use port_holder::{is_spoken_for, port_holder};
pub(in crate::live) use resources::{cores, memory};

use crate::host::Interrupt;
use crate::live::Live;
use crate::read::{cpuinfo_flags, mount_of, os_release, systemd_service};
use crate::run::{ExecEnv, Isolated, Limits, run};
use setup_ready_core::observation::{Observation, Os, Processor, StartEffect, Surroundings, System};
use std::fs::read_to_string;
use std::path::{Path, PathBuf};

/// The system, from uname(2) and `/etc/os-release`.
pub(in crate::live) fn system() -> Observation {
    let uname = rustix::system::uname();
    let text = ["/etc/os-release", "/usr/lib/os-release"].into_iter().find_map(|path| read_to_string(path).ok());
    let release = text.as_deref().map(os_release).unwrap_or_default();
    Observation::System(System {
        os: Os::Linux,
        version: Some(uname.release().to_string_lossy().into_owned()),
        edition: release.variant_id,
        distro: release.id,
        distro_like: release.id_like,
        distro_version: release.version_id,
        pretty: release.pretty_name,
        arch: super::arch(&uname.machine().to_string_lossy()),
    })
}

/// Files that container engines leave inside.
const CONTAINER_MARKS: [&str; 3] = ["/.dockerenv", "/run/.containerenv", "/run/systemd/container"];
/// Words in the first process's control group that name a container engine.
const CONTAINER_GROUPS: [&str; 5] = ["docker", "kubepods", "containerd", "libpod", "lxc"];

/// Whether this is a Linux inside Windows: its kernel says who built it.
fn is_inside_windows() -> Option<bool> {
    let release = read_to_string("/proc/sys/kernel/osrelease").ok()?;
    Some(release.to_lowercase().contains("microsoft"))
}

/// Container, virtual machine, guest inside Windows, build server.
pub(in crate::live) fn surroundings(folder: &Path) -> Observation {
    let wsl = is_inside_windows();
    let mounts = read_to_string("/proc/self/mountinfo").unwrap_or_default();
    let mount = mount_of(&mounts, &folder.to_string_lossy());
    let group = read_to_string("/proc/1/cgroup").unwrap_or_default();
    let marked = CONTAINER_MARKS.iter().any(|mark| Path::new(mark).exists());
    let container = marked || std::env::var_os("container").is_some() || CONTAINER_GROUPS.iter().any(|word| group.contains(word));
    let flag = read_to_string("/proc/cpuinfo").ok().and_then(|text| cpuinfo_flags(&text, &["hypervisor"]));
    Observation::Surroundings(Surroundings {
        wsl,
        outside: Some(wsl == Some(true) && mount.is_some_and(|mount| mount.is_of_windows())),
        container: Some(container),
        virtual_machine: ask_processor().map(|(_, hypervisor)| hypervisor).or(flag),
        ci: Some(super::is_build_server()),
    })
}

/// The processor, asked directly, beside what the kernel offers: the difference is the firmware's switch.
pub(in crate::live) fn processor() -> Observation {
    let text = read_to_string("/proc/cpuinfo").ok();
    let flags = |wanted: &[&str]| text.as_deref().and_then(|text| cpuinfo_flags(text, wanted));
    let (able, hypervisor) = ask_processor().unzip();
    // Other processors have no flag for it; where the kernel made the device, they can do it.
    let device = Path::new("/dev/kvm").exists().then_some(true);
    let x86 = cfg!(target_arch = "x86_64");
    Observation::Processor(Processor {
        able: if x86 { able } else { device },
        offered: if x86 { flags(&["vmx", "svm"]) } else { device },
        hypervisor: hypervisor.or_else(|| flags(&["hypervisor"])),
    })
}

/// Linux gives hypervisors to programs by a device.
pub(in crate::live) fn hypervisor() -> Observation {
    Observation::NotSupported("Linux has no such feature".to_owned())
}

/// Whether a device of a vendor and a product is connected, by what the kernel lists (`/sys/bus/usb/devices`).
pub(in crate::live) fn usb(id: &str) -> Observation {
    let Ok(entries) = std::fs::read_dir("/sys/bus/usb/devices") else {
        return Observation::CouldNotLook("the kernel lists no devices on USB here".to_owned());
    };
    let says = |folder: &Path, file: &str| std::fs::read_to_string(folder.join(file)).map(|text| text.trim().to_lowercase());
    let is_it = |folder: &Path| {
        let (vendor, product) = (says(folder, "idVendor"), says(folder, "idProduct"));
        vendor.is_ok_and(|vendor| product.is_ok_and(|product| format!("{vendor}:{product}") == id))
    };
    Observation::Usb(entries.take(10_000).flatten().any(|entry| is_it(&entry.path())))
}

/// Whether a kernel module is loaded or built in (`/sys/module` has both).
pub(in crate::live) fn module(name: &str) -> Observation {
    let plain = name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_' || c == '-');
    if !plain {
        return Observation::CouldNotLook(format!("{name} cannot be the name of a module"));
    }
    if !Path::new("/sys/module").is_dir() {
        return Observation::CouldNotLook("/sys is not there".to_owned());
    }
    Observation::Module(Path::new("/sys/module").join(name.replace('-', "_")).is_dir())
}

/// The first port that every user may bind.
pub(in crate::live) fn first_free_for_all() -> Option<u16> {
    read_to_string("/proc/sys/net/ipv4/ip_unprivileged_port_start").ok().and_then(|text| text.trim().parse().ok()).or(Some(1024))
}

/// What the processor itself says: the ability, and whether a hypervisor is in charge (Intel SDM volume 2, CPUID leaf 1; AMD APM
/// volume 3, function `8000_0001`). None on other processors.
fn ask_processor() -> Option<(bool, bool)> {
    #[cfg(target_arch = "x86_64")]
    {
        let cpu = raw_cpuid::CpuId::new();
        let features = cpu.get_feature_info()?;
        let svm = cpu.get_extended_processor_and_feature_identifiers().is_some_and(|more| more.has_svm());
        Some((features.has_vmx() || svm, features.has_hypervisor()))
    }
    #[cfg(not(target_arch = "x86_64"))]
    None
}

/// Files for Linux state no version.
pub(in crate::live) fn file_version(_: &Path) -> Observation {
    Observation::NotSupported("on Linux a program's file does not state its version".to_owned())
}

/// Nothing here asks or opens a window by itself.
pub(in crate::live) fn start_effect(_: &Path, _: &[u8]) -> StartEffect {
    StartEffect::Quiet
}

/// Each desktop has settings of its own; what all programs know are the variables.
pub(in crate::live) fn system_proxy() -> Observation {
    Observation::NotSupported("on Linux the proxy is named by variables".to_owned())
}

/// How a service stands, where systemd looks after them (`sd_booted(3)`).
pub(in crate::live) fn system_service(name: &str) -> Observation {
    if !Path::new("/run/systemd/system").is_dir() {
        return Observation::NotSupported("services are not looked after by systemd here".to_owned());
    }
    let words =
        ["show", "--property=LoadState,ActiveState,UnitFileState", "--", &format!("{name}.service")].map(ToOwned::to_owned);
    let limits = Limits { time: Live::TIME_LIMIT, interrupt: Interrupt::default(), environment: &[] };
    let asked = ["/usr/bin/systemctl", "/bin/systemctl"].into_iter().find(|path| Path::new(path).exists());
    let said = asked.and_then(|path| {
        systemd_service(&run(Path::new(path), &words, &ExecEnv::Isolated(Isolated::of_the_system()), &limits).stdout)
    });
    said.map_or_else(|| Observation::CouldNotLook("systemctl did not answer".to_owned()), Observation::SystemService)
}

/// Folders below the home folder in which languages and people put programs.
const USUAL_AT_HOME: [&str; 9] =
    [".local/bin", "bin", ".cargo/bin", "go/bin", ".npm-global/bin", ".dotnet/tools", ".deno/bin", ".luarocks/bin", ".cabal/bin"];
/// Folders of the system that not every PATH names.
const USUAL: [&str; 10] = [
    "/usr/local/bin",
    "/usr/bin",
    "/bin",
    "/usr/local/sbin",
    "/usr/sbin",
    "/sbin",
    "/snap/bin",
    "/usr/local/go/bin",
    "/usr/games",
    "/var/lib/flatpak/exports/bin",
];

/// More folders of packages than these are not looked into.
const MOST_PACKAGES: usize = 2_000;

/// What the system could let a name stand for: the files that its alternatives list (update-alternatives(1)).
pub(in crate::live) fn alternatives(name: &str) -> Vec<PathBuf> {
    if name.contains(['/', '\0']) {
        return Vec::new();
    }
    let text = super::super::place::text(&Path::new("/var/lib/dpkg/alternatives").join(name));
    text.map(|text| crate::read::alternatives(&text)).unwrap_or_default().into_iter().map(PathBuf::from).collect()
}

/// Where programs usually are.
pub(in crate::live) fn usual_folders(home: Option<&Path>) -> Vec<PathBuf> {
    let at_home = home.into_iter().flat_map(|home| USUAL_AT_HOME.iter().map(|folder| home.join(folder)));
    // Packages from outside the distribution: /opt/NAME/bin.
    at_home.chain(USUAL.iter().map(PathBuf::from)).chain(brought_in(Path::new("/opt"))).collect()
}

/// Where packages put programs that PATH does not name by itself: those of one's own, and those that keep theirs together.
pub(in crate::live) fn folders_of_packages(home: Option<&Path>) -> Vec<PathBuf> {
    let own = home.map(|home| home.join(".local/opt"));
    own.as_deref().into_iter().chain([Path::new("/usr/lib")]).flat_map(brought_in).collect()
}

fn brought_in(place: &Path) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(place).into_iter().flatten().flatten().take(MOST_PACKAGES);
    entries.map(|entry| entry.path().join("bin")).filter(|folder| folder.is_dir()).collect()
}

/// Linux systems ship no placeholders: what is not installed is not there.
pub(in crate::live) fn is_placeholder(_: &Path) -> bool {
    false
}

/// Folders that describe libraries for builds, of every architecture's own that are here.
pub(in crate::live) fn description_folders() -> Vec<PathBuf> {
    let mut folders: Vec<PathBuf> =
        ["/usr/local/lib/pkgconfig", "/usr/local/share/pkgconfig", "/usr/lib/pkgconfig", "/usr/lib64/pkgconfig"]
            .into_iter()
            .chain(["/usr/share/pkgconfig", "/lib/pkgconfig"])
            .map(PathBuf::from)
            .collect();
    // Debian and its like: a folder for each architecture; only this one's counts.
    let triplet = format!("{}-linux-gnu", std::env::consts::ARCH);
    folders.extend(["/usr/local/lib", "/usr/lib"].map(|lib| Path::new(lib).join(&triplet).join("pkgconfig")));
    folders
}

/// Devices of which opening is known to do nothing, by the kernel's list of devices: null, zero, full, random, urandom; fuse, kvm, vhost-net,
/// vhost-vsock, tun. Of others it may: opening a watchdog starts it, a tape is wound back, a serial line resets the board behind it.
const HARMLESS: [(u32, u32); 10] =
    [(1, 3), (1, 5), (1, 7), (1, 8), (1, 9), (10, 200), (10, 229), (10, 232), (10, 238), (10, 241)];

/// Whether opening a device does nothing, by its number.
pub(in crate::live) fn opens_without_effect(_: &Path, metadata: &std::fs::Metadata) -> bool {
    use std::os::unix::fs::{FileTypeExt, MetadataExt};
    let number = (rustix::fs::major(metadata.rdev()), rustix::fs::minor(metadata.rdev()));
    // The nodes of graphics cards on which one can only draw aside.
    let aside = number.0 == 226 && number.1 >= 128;
    metadata.file_type().is_char_device() && (HARMLESS.contains(&number) || aside)
}

/// Whether the kernel has a driver behind a device's number; where it does not tell, it may.
pub(in crate::live) fn has_driver(metadata: &std::fs::Metadata) -> bool {
    use std::os::unix::fs::{FileTypeExt, MetadataExt};
    let sort = if metadata.file_type().is_block_device() { "block" } else { "char" };
    let all = Path::new("/sys/dev").join(sort);
    let number = format!("{}:{}", rustix::fs::major(metadata.rdev()), rustix::fs::minor(metadata.rdev()));
    !all.is_dir() || all.join(number).exists()
}
