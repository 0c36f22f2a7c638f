//! Package managers: which are here, and what they would install.

use super::{Live, os, program};
use crate::manager::Manager;
use crate::observation::{Candidate, ManagerState, Observation, Offered, Run, RunEnd};
use crate::read::{CandidateQuestion, candidate, candidate_question, download_of_each, download_question, simulated};
use std::path::Path;
use std::sync::PoisonError;

/// Which package managers are here.
pub(super) fn managers(live: &Live) -> Observation {
    let here = |name: &str| program::files(std::env::split_paths(&live.path), name).any(|path| os::is_executable(&path));
    Observation::Managers(Manager::ALL.iter().copied().filter(|manager| here(manager.program())).collect())
}

/// What a package manager would install of each of these packages. A manager is never asked twice at the same time, and one that answers for many at once
/// is asked for all of them with one question and one simulation: each question costs it a second of reading its lists.
pub(super) fn would_install_all(live: &Live, manager: Manager, packages: &[&str]) -> Vec<Observation> {
    let _alone = live.asking_managers.lock().unwrap_or_else(PoisonError::into_inner);
    if manager != Manager::Apt || packages.len() < 2 {
        return packages.iter().map(|package| would_install(live, manager, package)).collect();
    }
    packages.chunks(MOST_AT_ONCE).flat_map(|some| by_apt(live, some)).collect()
}

/// So many packages are named in one question.
const MOST_AT_ONCE: usize = 200;

fn by_apt(live: &Live, packages: &[&str]) -> Vec<Observation> {
    let question = candidate_question(Manager::Apt);
    let words = question.before.iter().copied().chain(packages.iter().copied());
    let run = match asked(live, question.program, words) {
        Ok(run) if run.end == RunEnd::Exit(0) => run,
        // Whatever is the matter is told of each.
        Ok(_) | Err(_) => return packages.iter().map(|package| would_install(live, Manager::Apt, package)).collect(),
    };
    let mut found: Vec<Option<Candidate>> =
        packages.iter().map(|package| candidate(Manager::Apt, package, &run.stdout)).collect();
    let mut known: Vec<(&str, &mut Offered)> = Vec::new();
    for (package, one) in packages.iter().zip(&mut found) {
        if let Some(Candidate::Version(offered)) = one {
            known.push((package, offered));
        }
    }
    // Whoever may not install needs to know of each package what comes along with it.
    let may_install = !matches!(os::account(live), Observation::Account(account) if account.admin == Some(false));
    let together = if may_install { known.len() } else { 1 };
    known.chunks_mut(together.max(1)).for_each(|some| simulate(live, some));
    let unread = || Observation::CouldNotLook("what apt-cache says cannot be read".to_owned());
    found.into_iter().map(|one| one.map_or_else(unread, Observation::Candidate)).collect()
}

/// What installing these packages with one command would do; where that does not go well, which of them it is.
fn simulate(live: &Live, packages: &mut [(&str, &mut Offered)]) {
    let names: Vec<&str> = packages.iter().map(|(name, _)| *name).collect();
    let Some((program, before)) = download_question(Manager::Apt) else { return };
    let Ok(run) = asked(live, program, before.iter().copied().chain(names.iter().copied())) else { return };
    let RunEnd::Exit(status) = run.end else { return };
    let mut all = Offered::from("");
    simulated(&mut all, &run.stdout, &run.stderr);
    let goes_well = status == 0 && all.removes.is_empty() && all.hindered.is_none();
    if packages.len() > 1 && !goes_well && all.manager == ManagerState::Ready {
        let (some, others) = packages.split_at_mut(names.len() / 2);
        simulate(live, some);
        return simulate(live, others);
    }
    let holder = os::holder_of_lock(Path::new(LOCK));
    let costs = if status == 0 { download_of_each(&run.stdout, &names) } else { vec![(None, None); names.len()] };
    for ((_, offered), (bytes, others)) in packages.iter_mut().zip(costs) {
        (offered.download_bytes, offered.others) = (bytes, others);
        (offered.hindered, offered.removes) = (all.hindered.clone(), all.removes.clone());
        offered.manager = holder.map_or(all.manager, ManagerState::Busy);
    }
}

/// The lock that whoever changes packages holds (dpkg(1)).
const LOCK: &str = "/var/lib/dpkg/lock-frontend";

/// What a package manager would install, by its own index; nothing is fetched or changed by asking.
fn would_install(live: &Live, manager: Manager, package: &str) -> Observation {
    let mut answer = answer(live, manager, package);
    if let Observation::Candidate(Candidate::Version(offered)) = &mut answer
        && manager == Manager::Apt
    {
        simulate(live, &mut [(package, offered)]);
    }
    answer
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
