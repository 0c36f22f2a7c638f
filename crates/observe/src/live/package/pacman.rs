//! What pacman says of an installation that it does not carry out. It does not tell then what excludes what, so that is compared here.

use super::trial::Attempt;
use super::{Live, asked, no_answer};
use crate::read::{PacmanPackage, pacman_conflict, pacman_costs, pacman_installed, pacman_offers, pacman_refusal};
use setup_ready_core::observation::{RunEnd, Trial};
use std::path::Path;

/// Where it notes what is installed.
const INSTALLED: &str = "/var/lib/pacman/local";

/// So many installed packages are looked at.
const MOST_INSTALLED: usize = 20_000;

pub(super) fn attempt(live: &Live, names: &[&str]) -> Attempt {
    let words = ["-S", "--print", "--print-format", "%n %s", "--"].into_iter().chain(names.iter().copied());
    let run = match asked(live, "pacman", words) {
        Ok(run) => run,
        Err(reason) => return Attempt::of(Trial::NotTried(reason)),
    };
    if run.end != RunEnd::Exit(0) {
        let refused = pacman_refusal(&run.stdout, &run.stderr);
        return Attempt::of(refused.map_or_else(|| Trial::NotTried(no_answer("pacman", &run)), Trial::Refused));
    }
    let costs = pacman_costs(&run.stdout, names);
    let coming: Vec<&str> = run.stdout.lines().filter_map(|line| line.split_whitespace().next()).collect();
    let mut offers = Vec::new();
    // Of each it tells about a thousand characters, and 64 Ki are kept of an answer.
    for some in coming.chunks(24) {
        match asked(live, "pacman", ["-Si", "--"].into_iter().chain(some.iter().copied())) {
            Ok(run) if run.end == RunEnd::Exit(0) && !run.cut => offers.append(&mut pacman_offers(&run.stdout)),
            Ok(run) => return Attempt::of(Trial::NotTried(no_answer("pacman", &run))),
            Err(reason) => return Attempt::of(Trial::NotTried(reason)),
        }
    }
    if let Some(conflict) = pacman_conflict(&offers, &installed()) {
        return Attempt::of(Trial::Removes(vec![conflict]));
    }
    let trial = if is_ignored(live, names) { Trial::Held } else { Trial::Unhindered };
    Attempt { costs, ..Attempt::of(trial) }
}

/// What is installed, from the manager's own notes.
fn installed() -> Vec<PacmanPackage> {
    let entries = std::fs::read_dir(INSTALLED).into_iter().flatten().flatten().take(MOST_INSTALLED);
    let note = |folder: std::path::PathBuf| crate::live::place::text(&folder.join("desc"));
    entries.filter_map(|entry| note(entry.path()).ok()).map(|text| pacman_installed(&text)).collect()
}

/// Whether it is told to leave one of these as it is.
fn is_ignored(live: &Live, names: &[&str]) -> bool {
    let words = ["IgnorePkg"].into_iter();
    let run = if Path::new("/usr/bin/pacman-conf").exists() { asked(live, "pacman-conf", words).ok() } else { None };
    run.is_some_and(|run| run.stdout.lines().any(|line| names.contains(&line.trim())))
}
