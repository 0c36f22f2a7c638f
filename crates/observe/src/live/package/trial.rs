//! Trying an installation of several packages without doing it, and finding out which of them hinders the others.

use setup_ready_core::observation::{Offered, Trial};

/// What came of trying to install some packages together.
#[derive(Debug, Clone)]
pub(super) struct Attempt {
    /// What would come of it.
    pub(super) trial: Trial,
    /// Of each package how much would be downloaded, and how many others would come along.
    pub(super) costs: Vec<(Option<u64>, Option<usize>)>,
    /// Of packages that only stand for another, what they bring.
    pub(super) brings: Vec<Option<(String, String)>>,
}

impl Attempt {
    /// One that tells nothing of what it costs.
    pub(super) fn of(trial: Trial) -> Self {
        Self { trial, costs: Vec::new(), brings: Vec::new() }
    }

    fn goes_well(&self) -> bool {
        self.trial == Trial::Unhindered
    }

    /// Whether asking for fewer packages would tell more.
    fn is_of_some(&self) -> bool {
        matches!(self.trial, Trial::Refused(_) | Trial::Removes(_) | Trial::Held)
    }
}

/// So many packages are tried one by one beside each other; each costs a question.
const MOST_ONE_BY_ONE: usize = 24;

/// Tries the packages together, and where that does not go well, finds those that hinder: alone, or beside the others.
pub(super) fn tried(packages: &mut [(&str, &mut Offered)], attempt: &dyn Fn(&[&str]) -> Attempt) {
    if packages.is_empty() {
        return;
    }
    let went_well = halved(packages, attempt);
    let fine: Vec<usize> = (0..packages.len()).filter(|at| is_fine(packages, *at)).collect();
    if went_well || fine.len() < 2 || fine.len() > MOST_ONE_BY_ONE {
        return;
    }
    // Each goes by itself. Do they go together?
    let name = |at: &usize| packages.get(*at).map_or("", |(name, _)| *name);
    let names: Vec<&str> = fine.iter().map(name).collect();
    if !attempt(&names).is_of_some() {
        return;
    }
    let mut accepted: Vec<&str> = Vec::new();
    let mut excluded: Vec<(usize, Trial)> = Vec::new();
    for (at, name) in fine.iter().zip(names) {
        accepted.push(name);
        let tried = attempt(&accepted);
        if accepted.len() < 2 || !tried.is_of_some() {
            continue;
        }
        accepted.pop();
        let words = if let Trial::Refused(words) = tried.trial { words } else { "one would be removed for the other".to_owned() };
        let why = format!("not together with what else this project needs ({})", words.trim_end_matches('.'));
        excluded.push((*at, Trial::Refused(why)));
    }
    for (at, trial) in excluded {
        if let Some((_, offered)) = packages.get_mut(at) {
            offered.trial = trial;
        }
    }
}

fn is_fine(packages: &[(&str, &mut Offered)], at: usize) -> bool {
    packages.get(at).is_some_and(|(_, offered)| offered.trial == Trial::Unhindered)
}

/// Whether all go well together; each is told what came of the smallest group that it was tried in.
fn halved(packages: &mut [(&str, &mut Offered)], attempt: &dyn Fn(&[&str]) -> Attempt) -> bool {
    let names: Vec<&str> = packages.iter().map(|(name, _)| *name).collect();
    let all = attempt(&names);
    if names.len() > 1 && all.is_of_some() {
        let (some, others) = packages.split_at_mut(names.len() / 2);
        halved(some, attempt);
        halved(others, attempt);
        return false;
    }
    for (at, (_, offered)) in packages.iter_mut().enumerate() {
        (offered.download_bytes, offered.others) = all.costs.get(at).copied().unwrap_or_default();
        offered.brings = all.brings.get(at).cloned().flatten();
        offered.trial = all.trial.clone();
    }
    all.goes_well()
}

#[cfg(test)]
mod tests {
    use super::{Attempt, tried};
    use rstest::rstest;
    use setup_ready_core::observation::{Offered, Trial};

    /// `b` cannot be installed at all, and `c` and `d` exclude each other.
    fn attempt(names: &[&str]) -> Attempt {
        let refused = |words: &str| Attempt::of(Trial::Refused(words.to_owned()));
        match names {
            _ if names.contains(&"b") => refused("nowhere"),
            _ if names.contains(&"c") && names.contains(&"d") => refused("d : Conflicts: c"),
            _ => Attempt { trial: Trial::Unhindered, costs: vec![(Some(1), None); names.len()], brings: Vec::new() },
        }
    }

    #[rstest]
    #[case::all_go(&["a", "e"], &["fine", "fine"])]
    #[case::one_cannot(&["a", "b", "e"], &["fine", "nowhere", "fine"])]
    #[case::two_exclude_each_other(&["c", "a", "d"], &["fine", "fine", "not together with what else this project needs (d : Conflicts: c)"])]
    #[case::both(&["b", "d", "c"], &["nowhere", "fine", "not together with what else this project needs (d : Conflicts: c)"])]
    fn what_hinders_is_told_of_the_package_that_does(#[case] names: &[&str], #[case] expected: &[&str]) {
        let mut offers: Vec<Offered> = names.iter().map(|_| Offered::from("1")).collect();
        let mut packages: Vec<(&str, &mut Offered)> = names.iter().copied().zip(&mut offers).collect();
        tried(&mut packages, &attempt);
        let word = |offered: &Offered| match &offered.trial {
            Trial::Unhindered => "fine".to_owned(),
            Trial::Refused(words) => words.clone(),
            Trial::NotTried(_) | Trial::Removes(_) | Trial::Held | Trial::Unfinished => "something else".to_owned(),
        };
        assert_eq!(offers.iter().map(word).collect::<Vec<_>>(), expected);
    }
}
