//! What zypper prints (zypper(8)), in the C locale; what it would do it writes as XML.

use setup_ready_core::observation::{Candidate, Trial};

/// Blocks of fields, each under a line that names the package.
pub(super) fn candidate(package: &str, printed: &str) -> Option<Candidate> {
    let heading = format!("Information for package {package}:");
    if printed.lines().any(|line| line.trim() == format!("package '{package}' not found.")) {
        return Some(Candidate::Absent);
    }
    let block = printed.lines().skip_while(|line| *line != heading).skip(1);
    let mut block = block.take_while(|line| !line.starts_with("Information for package "));
    let version = block.find_map(|line| {
        let (key, value) = line.split_once(':')?;
        (key.trim() == "Version").then(|| value.trim())
    })?;
    Some(Candidate::Version(version.into()))
}

/// What would come of an installation; none where it cannot be read.
pub fn zypper_trial(printed: &str, went_well: bool) -> Option<Trial> {
    if went_well {
        let removed = names(part(printed, "to-remove"));
        return Some(if removed.is_empty() { Trial::Unhindered } else { Trial::Removes(removed) });
    }
    let problem = part(printed, "description");
    if problem.contains("remove lock ") {
        return Some(Trial::Held);
    }
    let words = problem.split("Solution ").next()?.split_whitespace().collect::<Vec<_>>().join(" ");
    let words = words.trim_start_matches("Problem: ");
    (!words.is_empty()).then(|| Trial::Refused(words.to_owned()))
}

/// How much would be downloaded: all of it for the first, since it tells the sum alone; and how many others come along.
pub fn zypper_costs(printed: &str, asked: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let sum = attribute(part(printed, "install-summary download-size="), "").and_then(|digits| digits.parse().ok());
    let coming = names(part(printed, "to-install")).into_iter().chain(names(part(printed, "to-upgrade")));
    let others = coming.filter(|name| !asked.contains(&name.as_str())).count();
    let along = (others == 0 || asked.len() == 1).then_some(others);
    asked.iter().enumerate().map(|(at, _)| (if at == 0 { sum } else { sum.map(|_| 0) }, along)).collect()
}

/// What stands between a tag and its end.
fn part<'t>(text: &'t str, tag: &str) -> &'t str {
    let Some((_, rest)) = text.split_once(&format!("<{tag}")) else { return "" };
    let name = tag.split(' ').next().unwrap_or(tag);
    let inside = rest.split_once(&format!("</{name}>")).map_or("", |(inside, _)| inside);
    inside.strip_prefix('>').unwrap_or(inside)
}

/// The names of the packages in a part.
pub(super) fn names(part: &str) -> Vec<String> {
    part.split("<solvable ").skip(1).filter_map(|one| attribute(one, "name=")).map(ToOwned::to_owned).collect()
}

/// The value of an attribute, which has no quotes in it.
fn attribute<'t>(text: &'t str, name: &str) -> Option<&'t str> {
    let (_, rest) = text.split_once(&format!("{name}\""))?;
    rest.split_once('"').map(|(value, _)| value)
}
