//! Which files an installed package brought, from the manager's own notes.

use super::{Live, asked};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::RunEnd;
use std::path::{Path, PathBuf};

/// The programs of this name that an installed package brought, also in folders where nobody looks for programs.
pub(in crate::live) fn files(live: &Live, manager: Manager, package: &str, name: &str) -> Vec<PathBuf> {
    if package.contains('/') {
        return Vec::new();
    }
    let list = match manager {
        Manager::Apt => of_dpkg(package),
        Manager::Pacman => of_pacman(package),
        Manager::Dnf | Manager::Zypper => of_rpm(live, package),
        Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => None,
    };
    let is_program = |path: &Path| {
        let elsewhere = ["/etc", "/usr/share/doc", "/usr/share/bash-completion", "/usr/share/zsh"];
        path.is_absolute()
            && path.file_name().is_some_and(|file| file == name)
            && !elsewhere.iter().any(|folder| path.starts_with(folder))
    };
    list.unwrap_or_default().lines().map(PathBuf::from).filter(|path| is_program(path)).collect()
}

/// One package's list, under its name or its name and architecture (dpkg(1)).
fn of_dpkg(package: &str) -> Option<String> {
    let place = Path::new("/var/lib/dpkg/info");
    let names = ["", ":amd64", ":arm64", ":i386", ":armhf", ":riscv64", ":ppc64el", ":s390x"];
    names.iter().find_map(|arch| crate::live::place::text(&place.join(format!("{package}{arch}.list"))).ok())
}

/// The list is beside the note of the package, in a folder that is called by name, version and release; its paths begin below the root.
fn of_pacman(package: &str) -> Option<String> {
    let folder = std::fs::read_dir("/var/lib/pacman/local").ok()?.flatten().find(|entry| {
        let name = entry.file_name();
        let mut parts = name.to_str().unwrap_or_default().rsplitn(3, '-');
        parts.nth(2) == Some(package)
    })?;
    let text = crate::live::place::text(&folder.path().join("files")).ok()?;
    Some(text.lines().fold(String::new(), |all, line| all + "/" + line + "\n"))
}

fn of_rpm(live: &Live, package: &str) -> Option<String> {
    let run = asked(live, "rpm", ["-q", "--list", "--", package].into_iter()).ok()?;
    (run.end == RunEnd::Exit(0)).then_some(run.stdout)
}

/// More packages than these are not looked through.
const MOST_PACKAGES: usize = 20_000;

/// The installed package that has a file of this name, by the notes of the first manager that has any.
pub(in crate::live) fn owner(live: &Live, file: &str) -> Option<(Manager, String)> {
    let end = format!("/{file}");
    let names_it = |list: &Path| crate::live::place::text(list).is_ok_and(|text| text.lines().any(|line| line.ends_with(&end)));
    let entries = |place: &str| std::fs::read_dir(place).into_iter().flatten().flatten().take(MOST_PACKAGES);
    let of_dpkg = entries("/var/lib/dpkg/info").map(|entry| entry.path()).find_map(|list| {
        let name = list.file_name()?.to_str()?.strip_suffix(".list")?.to_owned();
        // An architecture may stand behind the name.
        names_it(&list).then(|| (Manager::Apt, name.split(':').next().unwrap_or_default().to_owned()))
    });
    let of_pacman = || {
        entries("/var/lib/pacman/local").find_map(|entry| {
            let name = entry.file_name().to_str()?.rsplitn(3, '-').nth(2)?.to_owned();
            names_it(&entry.path().join("files")).then_some((Manager::Pacman, name))
        })
    };
    let of_rpm = || {
        let provided = format!("{file}()(64bit)");
        let run =
            asked(live, "rpm", ["-q", "--queryformat", "%{NAME}\n", "--whatprovides", provided.as_str()].into_iter()).ok()?;
        let name = (run.end == RunEnd::Exit(0)).then(|| run.stdout.lines().next().map(ToOwned::to_owned))??;
        let here = |name: &str| crate::live::program::own(live, name).is_ok();
        Some((if here("zypper") { Manager::Zypper } else { Manager::Dnf }, name))
    };
    of_dpkg.or_else(of_pacman).or_else(of_rpm)
}
