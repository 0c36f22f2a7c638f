//! Packages of the system, by their manager's own notes.

use super::{absent, entries, file_name, here};
use crate::live::{Live, program, record};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{InstalledState, Observation, RunEnd};
use std::path::Path;

/// Whether a package is installed.
pub(in crate::live) fn installed(live: &Live, manager: Manager, package: &str) -> Observation {
    let state = match manager {
        Manager::Apt => {
            let status = Path::new("/var/lib/dpkg/status");
            if !status.is_file() {
                return Observation::CouldNotLook("the notes of dpkg are not here".to_owned());
            }
            record::debian_package(live, package).map_or_else(absent, |version| here(Some(version), status))
        }
        Manager::Pacman => in_folders(Path::new("/var/lib/pacman/local"), package),
        Manager::Apk => {
            let notes = live.kept.text(Path::new("/lib/apk/db/installed"));
            apk(&notes, package).map_or_else(absent, |version| here(Some(version), Path::new("/lib/apk/db/installed")))
        }
        Manager::Brew => {
            let cellars = ["/opt/homebrew/Cellar", "/usr/local/Cellar", "/home/linuxbrew/.linuxbrew/Cellar"];
            let versions = cellars.iter().flat_map(|cellar| entries(&Path::new(cellar).join(package)));
            versions.last().map_or_else(absent, |folder| here(Some(file_name(&folder).to_owned()), &folder))
        }
        Manager::Dnf | Manager::Zypper => return by_rpm(live, package),
        Manager::Port | Manager::Winget | Manager::Scoop | Manager::Choco => {
            let reason = format!("what {} has installed stands in notes that only it can read", manager.word());
            return Observation::NotSupported(reason);
        }
    };
    Observation::Installed(state)
}

/// What the database of RPM has, which only its own program reads (rpm(8), QUERY OPTIONS).
fn by_rpm(live: &Live, package: &str) -> Observation {
    let found = program::copies(live, "rpm").into_iter().find(|copy| copy.executable && copy.is_the_persons());
    let Some(rpm) = found else { return Observation::CouldNotLook("rpm, which would tell, was not found on PATH".to_owned()) };
    let words = ["-q", "--qf", "%{VERSION}\\n", "--", package].map(ToOwned::to_owned);
    let run = live.run_apart(Path::new(rpm.asked()), &words, &[]);
    match run.end {
        RunEnd::Exit(0) => {
            let version = run.stdout.lines().next().unwrap_or_default().trim().to_owned();
            Observation::Installed(here(Some(version).filter(|version| !version.is_empty()), Path::new("/var/lib/rpm")))
        }
        RunEnd::Exit(1) => Observation::Installed(absent()),
        RunEnd::Exit(_) | RunEnd::Signal(_) | RunEnd::TimeUp(_) | RunEnd::Interrupted | RunEnd::NotStarted(..) => {
            Observation::CouldNotLook(format!("rpm says: {}", run.stderr.lines().next().unwrap_or("nothing")))
        }
    }
}

/// `NAME-VERSION-RELEASE` as a folder for each package.
fn in_folders(folder: &Path, package: &str) -> InstalledState {
    let version = |name: &str| {
        let rest = name.strip_prefix(package)?.strip_prefix('-')?;
        (rest.matches('-').count() == 1).then(|| rest.to_owned())
    };
    let found = entries(folder).into_iter().find_map(|path| Some((version(file_name(&path))?, path)));
    found.map_or_else(absent, |(version, path)| here(Some(version), &path))
}

/// The version in the notes of apk: stanzas with `P:` for the name and `V:` for the version (apk-v2 format).
fn apk(notes: &str, package: &str) -> Option<String> {
    let stanza = notes.split("\n\n").find(|stanza| stanza.lines().any(|line| line.strip_prefix("P:") == Some(package)))?;
    stanza.lines().find_map(|line| line.strip_prefix("V:")).map(ToOwned::to_owned)
}

#[cfg(test)]
mod tests {
    use super::apk;

    #[test]
    fn a_version_stands_in_the_stanza_of_its_package() {
        let notes = "C:Q1\nP:make\nV:4.4.1-r2\n\nC:Q2\nP:cmake\nV:3.28.3-r0\n";
        assert_eq!(apk(notes, "cmake").as_deref(), Some("3.28.3-r0"));
        assert_eq!(apk(notes, "mak"), None);
    }
}
