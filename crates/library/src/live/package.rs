//! Package managers: which are here, and what they would install.

use super::{Live, os, program};
use crate::observation::{Candidate, Observation, RunEnd};
use crate::read::{candidate, candidate_question};
use std::path::Path;

/// Package managers by the program that shows that they are here; the system's own before those that people add.
const MANAGERS: [(&str, &str); 10] = [
    ("apt", "apt-get"),
    ("dnf", "dnf"),
    ("zypper", "zypper"),
    ("pacman", "pacman"),
    ("apk", "apk"),
    ("winget", "winget"),
    ("brew", "brew"),
    ("port", "port"),
    ("scoop", "scoop"),
    ("choco", "choco"),
];

/// Which package managers are here.
pub(super) fn managers(live: &Live) -> Observation {
    let here = |name: &str| program::files(std::env::split_paths(&live.path), name).any(|path| os::is_executable(&path));
    Observation::Managers(MANAGERS.into_iter().filter(|(_, program)| here(program)).map(|(name, _)| name.to_owned()).collect())
}

/// What a package manager would install, by its own index; nothing is fetched or changed by asking.
pub(super) fn would_install(live: &Live, manager: &str, package: &str) -> Observation {
    let Some((name, before, after)) = candidate_question(manager) else {
        return Observation::NotSupported(format!("{manager} cannot be asked"));
    };
    let found = program::copies(live, name).into_iter().find(|copy| copy.executable && !copy.in_project);
    let Some(copy) = found else { return Observation::CouldNotLook(format!("{name} was not found on PATH")) };
    let words = before.iter().copied().chain([package]).chain(after.iter().copied());
    let run = live.run(Path::new(&copy.path), &words.map(ToOwned::to_owned).collect::<Vec<_>>());
    match run.end {
        RunEnd::Exit(0) => match candidate(manager, package, &run.stdout) {
            Some(candidate) => Observation::Candidate(candidate),
            None => Observation::CouldNotLook(format!("what {name} says cannot be read")),
        },
        // These end so where they have no such package.
        RunEnd::Exit(1) if matches!(manager, "pacman" | "brew" | "port") => Observation::Candidate(Candidate::Absent),
        RunEnd::Exit(status) => Observation::CouldNotLook(format!("{name} ended with the exit status {status}")),
        RunEnd::TimeUp(_) => Observation::CouldNotLook(format!("{name} did not answer in time")),
        RunEnd::Signal(_) | RunEnd::Interrupted => Observation::CouldNotLook(format!("{name} was interrupted")),
        RunEnd::NotStarted(_, reason) => Observation::CouldNotLook(reason),
    }
}
