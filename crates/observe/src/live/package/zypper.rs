//! What zypper says of an installation that it does not carry out.

use super::trial::Attempt;
use super::{Live, asked, no_answer};
use crate::read::{zypper_costs, zypper_trial};
use setup_ready_core::observation::{RunEnd, Trial};

pub(super) fn attempt(live: &Live, names: &[&str]) -> Attempt {
    // It wants to be root for this machine, and not for one that lies in a folder: the folder is this machine's own.
    let words = ["--xmlout", "--root", "/", "--non-interactive", "--no-refresh", "install", "--dry-run", "--"];
    let run = match asked(live, "zypper", words.into_iter().chain(names.iter().copied())) {
        Ok(run) => run,
        Err(reason) => return Attempt::of(Trial::NotTried(reason)),
    };
    let went_well = run.end == RunEnd::Exit(0);
    match zypper_trial(&run.stdout, went_well) {
        Some(trial) => Attempt {
            trial,
            costs: if went_well { zypper_costs(&run.stdout, names) } else { Vec::new() },
            ..Attempt::of(Trial::Unhindered)
        },
        None => Attempt::of(Trial::NotTried(no_answer("zypper", &run))),
    }
}
