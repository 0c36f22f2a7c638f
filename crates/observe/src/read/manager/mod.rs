//! What package managers print when they are asked about packages.

mod apt;
mod dnf;
mod pacman;
mod zypper;

pub use apt::{apt_trial, brought_along, download_of_each};
pub use dnf::{dnf_costs, dnf_trial, dnf5_trial};
pub use pacman::{PacmanPackage, pacman_conflict, pacman_costs, pacman_installed, pacman_offers, pacman_refusal};
pub use zypper::{zypper_costs, zypper_trial};

use setup_ready_core::manager::Manager;
use setup_ready_core::observation::Candidate;

/// How a package manager is asked about a package, whose name stands between.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CandidateQuestion {
    /// The program.
    pub program: &'static str,
    /// Its arguments before the package's name.
    pub before: &'static [&'static str],
    /// Those behind it.
    pub after: &'static [&'static str],
}

/// How a package manager is asked what it would install. Each only looks at what it has already fetched where it can.
pub fn candidate_question(manager: Manager) -> CandidateQuestion {
    let (program, before): (&'static str, &'static [&'static str]) = match manager {
        // Its own package is asked for too: what is known of it tells whether any list was fetched.
        Manager::Apt => ("apt-cache", &["policy", "--", "apt"]),
        Manager::Dnf => (
            "dnf",
            &[
                "--quiet",
                "--cacheonly",
                // What is excluded is told apart from what is not there.
                "--setopt=disable_excludes=all",
                "repoquery",
                "--latest-limit=1",
                "--queryformat=%{name} %{version}\n",
                "--",
            ],
        ),
        Manager::Zypper => ("zypper", &["--non-interactive", "--no-refresh", "info", "--"]),
        Manager::Pacman => ("pacman", &["-Si", "--"]),
        Manager::Apk => ("apk", &["search", "--exact", "--"]),
        Manager::Brew => ("brew", &["info", "--json=v2", "--"]),
        Manager::Port => ("port", &["-q", "info", "--line", "--version"]),
        Manager::Winget => ("winget", &["show", "--exact", "--disable-interactivity", "--id"]),
        Manager::Scoop => ("scoop", &["info"]),
        Manager::Choco => ("choco", &["search", "--exact", "--limit-output"]),
    };
    CandidateQuestion { program, before, after: &[] }
}

/// What a package manager's answer says of one of the packages that it was asked about; `None` where it says nothing that can be read.
pub fn candidate(manager: Manager, package: &str, asked: &[&str], printed: &str) -> Option<Candidate> {
    let field = |name: &str| {
        let value = |line: &str| {
            let (key, value) = line.split_once(':')?;
            (key.trim() == name).then(|| value.trim().to_owned())
        };
        printed.lines().find_map(value).filter(|value| !value.is_empty())
    };
    let version = match manager {
        Manager::Apt => return apt::candidate(package, printed),
        Manager::Dnf => return dnf::candidate(package, asked, printed),
        Manager::Zypper => return zypper::candidate(package, printed),
        Manager::Pacman => return pacman::candidate(package, printed),
        Manager::Port => printed.lines().map(str::trim).rfind(|line| !line.is_empty()).map(ToOwned::to_owned),
        Manager::Apk => printed.lines().find_map(|line| {
            // Another package may have a longer name.
            let version = line.trim().strip_prefix(package)?.strip_prefix('-')?;
            version.starts_with(|c: char| c.is_ascii_digit()).then(|| version.to_owned())
        }),
        Manager::Brew => {
            let value: serde_json::Value = serde_json::from_str(printed).ok()?;
            let formula = value.get("formulae").and_then(|all| all.get(0)?.get("versions")?.get("stable")?.as_str());
            formula.or_else(|| value.get("casks")?.get(0)?.get("version")?.as_str()).map(ToOwned::to_owned)
        }
        Manager::Choco => printed.lines().find_map(|line| Some(line.trim().strip_prefix(package)?.strip_prefix('|')?.to_owned())),
        Manager::Winget | Manager::Scoop => field("Version"),
    };
    // Where the manager ended well and has no line for it, it has no such package.
    let silent = matches!(manager, Manager::Apk | Manager::Choco) && version.is_none();
    let usable = |version: &String| version.starts_with(|c: char| c.is_ascii_digit()) || version.starts_with('v');
    if silent {
        Some(Candidate::Absent)
    } else {
        version.filter(usable).map(|version| Candidate::Version(version.as_str().into()))
    }
}

/// The package that a manager names as the one that has a file.
pub fn provider_named(manager: Manager, printed: &str) -> Option<String> {
    match manager {
        Manager::Dnf => printed.lines().map(str::trim).find(|line| !line.is_empty()).map(ToOwned::to_owned),
        Manager::Zypper => zypper::names(printed).into_iter().next(),
        // With the place that it comes from before.
        Manager::Pacman => printed.lines().find_map(|line| Some(line.trim().split_once('/')?.1.to_owned())),
        Manager::Apt | Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => None,
    }
}

/// The manager's words where it has no place to get packages from, or cannot read its settings; it can do nothing then.
pub fn without_a_place(manager: Manager, printed: &str, complaints: &str) -> Option<String> {
    let marks: &[&str] = match manager {
        Manager::Apt => &["Malformed ", "The list of sources could not be read"],
        Manager::Dnf => &["There are no enabled repositories", "Parsing file"],
        Manager::Zypper => &["No repositories defined", "contains garbage"],
        Manager::Pacman => &["no usable package repositories configured", "error: config file "],
        Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => &[],
    };
    let line = complaints.lines().chain(printed.lines()).find(|line| marks.iter().any(|mark| line.contains(mark)))?;
    let words = ["E: ", "error: ", "Error: ", "warning: ", "Warning: "];
    Some(words.iter().fold(line.trim(), |line, word| line.trim_start_matches(word)).to_owned())
}

/// Whether its lists of packages were never fetched.
pub fn without_lists(manager: Manager, printed: &str, complaints: &str) -> bool {
    let marks: &[&str] = match manager {
        Manager::Dnf => &["Cache-only enabled but no cache for"],
        Manager::Zypper => &["You can run 'zypper refresh' as root"],
        Manager::Pacman => &["(use '-Sy' to download)", "could not create database"],
        // Apt tells it of each package.
        Manager::Apt | Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => {
            return false;
        }
    };
    complaints.lines().chain(printed.lines()).any(|line| marks.iter().any(|mark| line.contains(mark)))
}

/// What each of several packages costs that are asked for together, from the sizes of all that come: each its own size, and the first also what comes
/// along with all of them, so that the sum is that of the one command; how many come along with one of several is only known where none does.
fn costs(coming: &[(String, u64)], names: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let further = coming.iter().filter(|(name, _)| !names.contains(&name.as_str()));
    let (count, sum) = further.fold((0, 0_u64), |(count, sum), (_, size)| (count + 1, sum.saturating_add(*size)));
    let along = (count == 0 || names.len() == 1).then_some(count);
    let own =
        |name: &&str| coming.iter().filter(|(other, _)| other == name).fold(0_u64, |sum, (_, size)| sum.saturating_add(*size));
    let extra = |at: usize| if at == 0 { sum } else { 0 };
    names.iter().enumerate().map(|(at, name)| (Some(own(name).saturating_add(extra(at))), along)).collect()
}

#[cfg(test)]
mod tests;
