//! Which package would bring a program, by the lists of files that a manager has.

use super::{Live, asked, no_answer};
use crate::read::provider_named;
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Observation, RunEnd};
use std::sync::PoisonError;

/// The package that has a program of this name among the system's programs; nothing is fetched for that.
pub(in crate::live) fn provider(live: &Live, manager: Manager, program: &str) -> Observation {
    let (path, below_root) = (format!("/usr/bin/{program}"), format!("usr/bin/{program}"));
    let words: &[&str] = match manager {
        Manager::Dnf => &["--quiet", "--cacheonly", "repoquery", "--latest-limit=1", "--queryformat=%{name}\n", "--file", &path],
        Manager::Zypper => {
            &["--non-interactive", "--no-refresh", "--xmlout", "search", "--provides", "--match-exact", "--", &path]
        }
        Manager::Pacman => &["-Fq", "--", &below_root],
        // Their lists of files are another program's, or there are none.
        Manager::Apt | Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => {
            return Observation::Provider(None);
        }
    };
    let _alone = live.asking_managers.lock().unwrap_or_else(PoisonError::into_inner);
    match asked(live, manager.program(), words.iter().copied()) {
        Ok(run) if matches!(run.end, RunEnd::Exit(_)) => Observation::Provider(provider_named(manager, &run.stdout)),
        Ok(run) => Observation::CouldNotLook(no_answer(manager.program(), &run)),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}
