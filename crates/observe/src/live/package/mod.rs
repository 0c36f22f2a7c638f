//! Package managers: which are here, how they stand, and what they would install.

mod apt;
mod dnf;
mod files;
mod pacman;
mod provider;
mod state;
mod trial;
mod zypper;

pub(super) use files::{files, owner};
pub(super) use provider::provider;
pub(super) use state::state;

use super::program::{asked, own};
use super::{Live, os, program};
use crate::read::{CandidateQuestion, candidate, candidate_question, without_a_place, without_lists};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Candidate, Observation, Offered, Run, RunEnd};
use std::sync::PoisonError;
use trial::Attempt;

/// Which package managers are here.
pub(super) fn managers(live: &Live) -> Observation {
    let here = |name: &str| program::files(std::env::split_paths(&live.path), name).any(|path| os::is_executable(&path));
    Observation::Managers(Manager::ALL.iter().copied().filter(|manager| here(manager.program())).collect())
}

/// So many packages are named in one question.
const MOST_AT_ONCE: usize = 200;

/// What a package manager would install of each of these packages. A manager is never asked twice at the same time, and one that answers for many at once
/// is asked for all of them with one question and one simulation: each question costs it a second of reading its lists.
pub(super) fn would_install_all(live: &Live, manager: Manager, packages: &[&str]) -> Vec<Observation> {
    let _alone = live.asking_managers.lock().unwrap_or_else(PoisonError::into_inner);
    let at_once = match manager {
        Manager::Apt | Manager::Dnf | Manager::Zypper | Manager::Pacman => MOST_AT_ONCE,
        Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => 1,
    };
    packages.chunks(at_once).flat_map(|some| would_install(live, manager, some)).collect()
}

fn would_install(live: &Live, manager: Manager, packages: &[&str]) -> Vec<Observation> {
    let mut answers: Vec<Observation> = candidates(live, manager, packages);
    let mut known: Vec<(&str, &mut Offered)> = Vec::new();
    for (package, answer) in packages.iter().zip(&mut answers) {
        if let Observation::Candidate(Candidate::Version(offered)) = answer {
            known.push((package, offered));
        }
    }
    let attempt: Option<fn(&Live, &[&str]) -> Attempt> = match manager {
        Manager::Apt => Some(apt::attempt),
        Manager::Dnf => Some(dnf::attempt),
        Manager::Zypper => Some(zypper::attempt),
        Manager::Pacman => Some(pacman::attempt),
        // They have no way to tell what would come of it.
        Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => None,
    };
    if let Some(attempt) = attempt {
        // Whoever may not install needs to know of each package what comes along with it.
        let may_install = !matches!(os::account(live), Observation::Account(account) if account.admin == Some(false));
        let together = if may_install { known.len() } else { 1 };
        known.chunks_mut(together.max(1)).for_each(|some| trial::tried(some, &|names| attempt(live, names)));
    }
    answers
}

/// What the manager's lists have of each of these packages; nothing is fetched or changed by asking.
fn candidates(live: &Live, manager: Manager, packages: &[&str]) -> Vec<Observation> {
    let CandidateQuestion { program: name, before, after } = candidate_question(manager);
    let words = before.iter().copied().chain(packages.iter().copied()).chain(after.iter().copied());
    let run = match asked(live, name, words) {
        Ok(run) => run,
        Err(reason) => return vec![Observation::CouldNotLook(reason); packages.len()],
    };
    if run.cut && packages.len() > 1 {
        let (some, others) = packages.split_at(packages.len() / 2);
        let mut answers = candidates(live, manager, some);
        answers.append(&mut candidates(live, manager, others));
        return answers;
    }
    let of_all = |answer: Observation| vec![answer; packages.len()];
    if let Some(words) = without_a_place(manager, &run.stdout, &run.stderr) {
        return of_all(Observation::Candidate(Candidate::Unusable(words)));
    }
    // Of some places there may be lists all the same.
    let unlisted = without_lists(manager, &run.stdout, &run.stderr);
    // These end so where they have no such package.
    let missing = run.end == RunEnd::Exit(1)
        && match manager {
            Manager::Pacman => run.stderr.contains("was not found"),
            Manager::Brew | Manager::Port => true,
            Manager::Apt | Manager::Dnf | Manager::Zypper | Manager::Apk | Manager::Winget | Manager::Scoop | Manager::Choco => {
                false
            }
        };
    if run.end != RunEnd::Exit(0) && !missing {
        return of_all(if unlisted {
            Observation::Candidate(Candidate::Unlisted)
        } else {
            Observation::CouldNotLook(no_answer(name, &run))
        });
    }
    // Some answer in silence where no list was fetched.
    let nothing = if unlisted || state::has_lists(manager) == Some(false) { Candidate::Unlisted } else { Candidate::Absent };
    let one = |package: &&str| match candidate(manager, package, packages, &run.stdout) {
        Some(Candidate::Absent | Candidate::Unlisted) => Observation::Candidate(nothing.clone()),
        Some(candidate) => Observation::Candidate(candidate),
        None if missing => Observation::Candidate(nothing.clone()),
        None => Observation::CouldNotLook(format!("what {name} says cannot be read")),
    };
    packages.iter().map(one).collect()
}

/// Why there is no answer.
fn no_answer(name: &str, run: &Run) -> String {
    match &run.end {
        RunEnd::Exit(status) => match run.stderr.lines().map(str::trim).find(|line| !line.is_empty()) {
            Some(words) => format!("{name} says: {}", words.trim_end_matches('.')),
            None => format!("{name} ended with the exit status {status}"),
        },
        RunEnd::TimeUp(_) => format!("{name} did not answer in time"),
        RunEnd::Signal(_) | RunEnd::Interrupted => format!("{name} was interrupted"),
        RunEnd::NotStarted(_, reason) => reason.clone(),
    }
}
