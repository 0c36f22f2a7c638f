//! What apt says of an installation that it does not carry out.

use super::trial::Attempt;
use super::{Live, asked, no_answer};
use crate::read::{apt_trial, brought_along, download_of_each};
use setup_ready_core::observation::{RunEnd, Trial};

pub(super) fn attempt(live: &Live, names: &[&str]) -> Attempt {
    let words = ["install", "--print-uris", "-q", "--"].into_iter().chain(names.iter().copied());
    let run = match asked(live, "apt-get", words) {
        Ok(run) => run,
        Err(reason) => return Attempt::of(Trial::NotTried(reason)),
    };
    let RunEnd::Exit(status) = run.end else { return Attempt::of(Trial::NotTried(no_answer("apt-get", &run))) };
    let mut trial = apt_trial(&run.stdout, &run.stderr);
    if trial == Trial::Unhindered && status != 0 {
        trial = Trial::NotTried(no_answer("apt-get", &run));
    }
    let costs = if status == 0 && !run.cut { download_of_each(&run.stdout, names) } else { Vec::new() };
    let brings = names.iter().map(|name| brought_along(&run.stdout, name)).collect();
    Attempt { trial, costs, brings }
}
