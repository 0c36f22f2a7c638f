//! Package managers: which are here, and what they would install.

use super::{Live, os, program};
use crate::manager::Manager;
use crate::observation::{Candidate, ManagerState, Observation, Run, RunEnd};
use crate::read::{CandidateQuestion, candidate, candidate_question, download_question, downloads, simulated};
use std::path::Path;

/// Which package managers are here.
pub(super) fn managers(live: &Live) -> Observation {
    let here = |name: &str| program::files(std::env::split_paths(&live.path), name).any(|path| os::is_executable(&path));
    Observation::Managers(Manager::ALL.iter().copied().filter(|manager| here(manager.program())).collect())
}

/// What a package manager would install, by its own index; nothing is fetched or changed by asking.
pub(super) fn would_install(live: &Live, manager: Manager, package: &str) -> Observation {
    let answer = answer(live, manager, package);
    let Observation::Candidate(Candidate::Version(mut offered)) = answer else { return answer };
    // What it would download and bring along is a second question, where it can be asked.
    if let Some((name, before)) = download_question(manager)
        && let Ok(run) = asked(live, name, before.iter().copied().chain([package]))
        && let RunEnd::Exit(status) = run.end
    {
        simulated(&mut offered, &run.stdout, &run.stderr);
        if status == 0 {
            (offered.download_bytes, offered.others) = downloads(&run.stdout);
        }
        if let Some(holder) = os::holder_of_lock(Path::new("/var/lib/dpkg/lock-frontend")) {
            offered.manager = ManagerState::Busy(holder);
        }
    }
    Observation::Candidate(Candidate::Version(offered))
}

/// Runs a program on PATH outside the project.
fn asked<'a>(live: &Live, name: &str, words: impl Iterator<Item = &'a str>) -> Result<Run, String> {
    let found = program::copies(live, name).into_iter().find(|copy| copy.executable && copy.is_the_persons());
    let copy = found.ok_or_else(|| format!("{name} was not found on PATH"))?;
    Ok(live.run(Path::new(copy.asked()), &words.map(ToOwned::to_owned).collect::<Vec<_>>()))
}

fn answer(live: &Live, manager: Manager, package: &str) -> Observation {
    let CandidateQuestion { program: name, before, after } = candidate_question(manager);
    let words = before.iter().copied().chain([package]).chain(after.iter().copied());
    let run = match asked(live, name, words) {
        Ok(run) => run,
        Err(reason) => return Observation::CouldNotLook(reason),
    };
    match run.end {
        RunEnd::Exit(0) => match candidate(manager, package, &run.stdout) {
            Some(candidate) => Observation::Candidate(candidate),
            None => Observation::CouldNotLook(format!("what {name} says cannot be read")),
        },
        // These end so where they have no such package.
        RunEnd::Exit(1) if matches!(manager, Manager::Pacman | Manager::Brew | Manager::Port) => {
            Observation::Candidate(Candidate::Absent)
        }
        RunEnd::Exit(status) => Observation::CouldNotLook(format!("{name} ended with the exit status {status}")),
        RunEnd::TimeUp(_) => Observation::CouldNotLook(format!("{name} did not answer in time")),
        RunEnd::Signal(_) | RunEnd::Interrupted => Observation::CouldNotLook(format!("{name} was interrupted")),
        RunEnd::NotStarted(_, reason) => Observation::CouldNotLook(reason),
    }
}
