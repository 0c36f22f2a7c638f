//! How a package manager stands: whether something keeps it from changing packages, and how old its lists are. Nothing is started for that.

use super::{Live, os};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Bar, ManagerState, Observation};
use std::io::ErrorKind;
use std::path::Path;
use std::time::SystemTime;

/// Where a manager's state shows. Files that are not there tell nothing.
struct Traces {
    /// Files that whoever changes packages locks.
    locked: &'static [&'static str],
    /// Files with the number of the process that changes packages.
    numbered: &'static [&'static str],
    /// A file that is there as long as packages are changed, and the programs that make it.
    present: Option<(&'static str, &'static [&'static str])>,
    /// A folder in which files with numbers are left when an installation is broken off.
    broken_off: Option<&'static str>,
    /// What is written anew when the lists are fetched: files, and folders whose entries are.
    lists: &'static [&'static str],
}

const RPM_LOCKS: &[&str] = &["/usr/lib/sysimage/rpm/.rpm.lock", "/var/lib/rpm/.rpm.lock"];

fn traces(manager: Manager) -> Option<Traces> {
    let none = Traces { locked: &[], numbered: &[], present: None, broken_off: None, lists: &[] };
    Some(match manager {
        Manager::Apt => Traces {
            locked: &["/var/lib/dpkg/lock-frontend", "/var/lib/dpkg/lock"],
            broken_off: Some("/var/lib/dpkg/updates"),
            lists: &["/var/lib/apt/lists", "/var/lib/apt/lists/partial", "/var/lib/apt/periodic/update-success-stamp"],
            ..none
        },
        Manager::Dnf => Traces {
            locked: RPM_LOCKS,
            numbered: &["/var/lib/dnf/rpmdb_lock.pid", "/var/cache/dnf/metadata_lock.pid", "/var/cache/dnf/download_lock.pid"],
            lists: &["/var/cache/dnf", "/var/cache/libdnf5"],
            ..none
        },
        Manager::Zypper => Traces {
            locked: RPM_LOCKS,
            numbered: &["/run/zypp.pid", "/var/run/zypp.pid"],
            lists: &["/var/cache/zypp/raw", "/var/cache/zypp/solv"],
            ..none
        },
        Manager::Pacman => Traces {
            present: Some(("/var/lib/pacman/db.lck", &["pacman", "pamac", "packagekit"])),
            lists: &["/var/lib/pacman/sync"],
            ..none
        },
        Manager::Apk => {
            Traces { locked: &["/lib/apk/db/lock", "/run/apk/db.lock"], lists: &["/var/cache/apk", "/etc/apk/cache"], ..none }
        }
        Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => return None,
    })
}

/// More entries of a folder than these are not looked at.
const MOST_ENTRIES: usize = 2_000;

/// How a package manager stands.
pub(in crate::live) fn state(_: &Live, manager: Manager) -> Observation {
    let Some(traces) = traces(manager) else { return Observation::ManagerState(ManagerState::default()) };
    let process = holder(&traces);
    let barred = match (process, traces.present) {
        (Some(process), _) => Some(Bar::Process(process)),
        (None, Some((file, programs))) if Path::new(file).exists() => {
            Some(os::process_called(programs).map_or_else(|| Bar::LeftLock(file.to_owned()), Bar::Process))
        }
        (None, _) => traces.broken_off.filter(|folder| has_numbered_files(Path::new(folder))).map(|_| Bar::BrokenOff),
    };
    let newest = traces.lists.iter().filter_map(|place| newest(Path::new(place))).max();
    let age = newest.and_then(|newest| SystemTime::now().duration_since(newest).ok());
    Observation::ManagerState(ManagerState { barred, lists_days: age.map(|age| age.as_secs() / (24 * 60 * 60)) })
}

/// Whether any list of packages was fetched; `None` where that is not seen by its files.
pub(super) fn has_lists(manager: Manager) -> Option<bool> {
    let is_list: fn(&str) -> bool = match manager {
        Manager::Apt => |name| name.contains("_Packages"),
        // A folder, or a file, for each place that packages come from.
        Manager::Dnf | Manager::Zypper => |name| !has_ending(name, "json"),
        Manager::Pacman => |name| has_ending(name, "db"),
        Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => return None,
    };
    let folders: Vec<_> = traces(manager)?.lists.iter().map(std::fs::read_dir).collect();
    let closed = |folder: &std::io::Result<_>| folder.as_ref().is_err_and(|error| error.kind() == ErrorKind::PermissionDenied);
    // Some of them only the administrator may enter.
    if folders.iter().all(std::result::Result::is_err) && folders.iter().any(closed) {
        return None;
    }
    let names = folders.into_iter().flatten().flat_map(|folder| folder.flatten().take(MOST_ENTRIES));
    Some(names.filter_map(|entry| entry.file_name().into_string().ok()).any(|name| is_list(&name)))
}

fn has_ending(name: &str, ending: &str) -> bool {
    Path::new(name).extension().is_some_and(|found| found == ending)
}

/// The process that is changing packages.
fn holder(traces: &Traces) -> Option<u32> {
    let locked = traces.locked.iter().find_map(|file| os::holder_of_lock(Path::new(file)));
    locked.or_else(|| {
        let number = |file: &&str| super::super::place::text(Path::new(file)).ok()?.trim().parse::<u32>().ok();
        // A number that was left behind may be another program's by now.
        let programs = ["dnf", "yum", "zyp", "packagekit", "y2", "python"];
        traces.numbered.iter().filter_map(number).find(|process| os::process_is_called(*process, &programs))
    })
}

fn has_numbered_files(folder: &Path) -> bool {
    let entries = std::fs::read_dir(folder).into_iter().flatten().flatten().take(MOST_ENTRIES);
    entries.filter_map(|entry| entry.file_name().into_string().ok()).any(|name| name.bytes().all(|byte| byte.is_ascii_digit()))
}

/// When something of it was last written.
fn newest(place: &Path) -> Option<SystemTime> {
    let written = |path: &Path| path.symlink_metadata().ok()?.modified().ok();
    let entries = std::fs::read_dir(place).into_iter().flatten().flatten().take(MOST_ENTRIES);
    // Locks are touched by whoever asks.
    let inside = entries.filter(|entry| entry.file_name() != "lock").filter_map(|entry| written(&entry.path())).max();
    written(place).max(inside)
}
