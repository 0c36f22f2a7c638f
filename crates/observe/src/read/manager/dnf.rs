//! What dnf prints (dnf(8)), and the lines in which its library is asked what it would do.

use setup_ready_core::observation::{Candidate, Trial};

/// Lines of a name and a version. Where none has the name, and some have one that nobody asked for, it may stand for this one.
pub(super) fn candidate(package: &str, asked: &[&str], printed: &str) -> Option<Candidate> {
    let mut lines = printed.lines().filter_map(|line| line.trim().split_once(' '));
    if let Some((_, version)) = lines.clone().rfind(|(name, _)| *name == package) {
        return Some(Candidate::Version(version.trim().into()));
    }
    lines.all(|(name, _)| asked.contains(&name)).then_some(Candidate::Absent)
}

/// What the library of dnf 4 says: a line each of what comes, what goes, what is excluded, and why it cannot be; the last is `end`.
pub fn dnf_trial(printed: &str) -> Option<Trial> {
    let of = |word: &str| -> Vec<String> {
        printed.lines().filter_map(|line| line.strip_prefix(word)?.strip_prefix(' ')).map(ToOwned::to_owned).collect()
    };
    if printed.lines().last() != Some("end") {
        return None;
    }
    let goes = of("goes");
    Some(if let Some(words) = of("cannot").first() {
        // Its reasons stand behind each other; the deepest tells what is so.
        let deepest =
            words.split(" - ").find(|part| [" conflicts with ", "nothing provides "].iter().any(|mark| part.contains(mark)));
        Trial::Refused(deepest.unwrap_or(words).trim_start_matches("Problem: ").to_owned())
    } else if !goes.is_empty() {
        Trial::Removes(goes)
    } else if !of("excluded").is_empty() {
        // Its lists have it when they are asked without what is excluded.
        Trial::Held
    } else {
        Trial::Unhindered
    })
}

/// How much would be downloaded for each, the first with all that comes along, and how many others do.
pub fn dnf_costs(printed: &str, names: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let line = |line: &str| {
        let mut words = line.strip_prefix("comes ")?.split(' ');
        Some((words.next()?.to_owned(), words.next()?.parse().ok()?))
    };
    super::costs(&printed.lines().filter_map(line).collect::<Vec<_>>(), names)
}

/// What dnf 5 says where it is to say no (dnf5(8)): it ends with a failure also where it could have gone on.
pub fn dnf5_trial(printed: &str, complaints: &str) -> Option<Trial> {
    let all = || printed.lines().chain(complaints.lines()).map(str::trim);
    if all().any(|line| line.starts_with("Failed to resolve the transaction")) {
        let words: Vec<&str> = all().skip_while(|line| !line.starts_with("Failed to resolve")).skip(1).take(4).collect();
        return Some(Trial::Refused(words.join(" ").trim_start_matches("Problem: ").to_owned()));
    }
    let said_no = all().any(|line| line.starts_with("Operation aborted"));
    let removes: Vec<String> = all()
        .skip_while(|line| *line != "Removing:")
        .skip(1)
        .take_while(|line| !line.is_empty() && !line.ends_with(':'))
        .filter_map(|line| line.split_whitespace().next())
        .map(ToOwned::to_owned)
        .collect();
    said_no.then_some(if removes.is_empty() { Trial::Unhindered } else { Trial::Removes(removes) })
}
