//! What apt prints (apt-cache(8), apt-get(8)), in the C locale.

use setup_ready_core::observation::{Candidate, Trial};

/// The paragraphs of `apt-cache policy`, one for each package. One that is not known is passed over in silence.
pub(super) fn candidate(package: &str, printed: &str) -> Option<Candidate> {
    let paragraph = |name: &str| {
        let start = format!("{name}:");
        let mut lines = printed.lines().skip_while(|line| line.trim_end() != start).peekable();
        lines.next_if(|_| true)?;
        Some(lines.take_while(|line| line.starts_with(' ')).collect::<Vec<_>>())
    };
    let known = paragraph(package);
    let version =
        known.iter().flatten().find_map(|line| line.trim().strip_prefix("Candidate: ")).filter(|version| *version != "(none)");
    if let Some(version) = version {
        return Some(Candidate::Version(version.into()));
    }
    // Only what is installed is known of its own package: no list was fetched.
    let itself = paragraph("apt")?;
    let listed = itself.iter().any(|line| line.trim_end().ends_with(" Packages"));
    Some(if listed || package == "apt" { Candidate::Absent } else { Candidate::Unlisted })
}

/// What apt-get says of an installation that it does not carry out: why it is not possible, what it would remove, what is held back, and whether
/// something is half installed.
pub fn apt_trial(printed: &str, complaints: &str) -> Trial {
    let lines = || printed.lines().chain(complaints.lines());
    if lines().any(|line| line.contains("--fix-broken")) {
        return Trial::Unfinished;
    }
    let indented = |heading: &str| {
        let behind = printed.lines().skip_while(|line| !line.starts_with(heading)).skip(1);
        behind.take_while(|line| line.starts_with(' ')).flat_map(str::split_whitespace).collect::<Vec<_>>()
    };
    let unmet = indented("The following packages have unmet dependencies:").join(" ");
    let complaint = complaints.lines().find_map(|line| line.strip_prefix("E: "));
    let removed = indented("The following packages will be REMOVED:");
    if !unmet.is_empty() {
        Trial::Refused(unmet)
    } else if let Some(complaint) = complaint {
        Trial::Refused(complaint.to_owned())
    } else if !removed.is_empty() {
        Trial::Removes(removed.into_iter().map(ToOwned::to_owned).collect())
    } else if printed.lines().any(|line| line.starts_with("The following held packages will be changed:")) {
        Trial::Held
    } else {
        Trial::Unhindered
    }
}

/// How much would be downloaded for each of several packages that are asked for together, and how many others come along: from a line for each,
/// `'ADDRESS' FILE SIZE HASH` (apt-get(8)). Each has its own size, and the first also what comes along with all of them, so that the sum is that of
/// the one command; how many come along with one of several is only known where none does. What was downloaded before has no line, so that none tell
/// nothing.
pub fn download_of_each(printed: &str, packages: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let lines: Vec<(&str, u64)> = files(printed).collect();
    let is_of = |file: &str, package: &str| file.strip_prefix(package).is_some_and(|rest| rest.starts_with('_'));
    let own = |package: &&str| {
        lines.iter().filter(|(file, _)| is_of(file, package)).fold(0_u64, |sum, (_, size)| sum.saturating_add(*size))
    };
    let further: Vec<u64> =
        lines.iter().filter(|(file, _)| !packages.iter().any(|package| is_of(file, package))).map(|(_, size)| *size).collect();
    let along = (further.is_empty() || packages.len() == 1).then_some(further.len());
    let mut costs: Vec<(Option<u64>, Option<usize>)> = packages.iter().map(|package| (Some(own(package)), along)).collect();
    if lines.is_empty() {
        return vec![(None, None); packages.len()];
    }
    if let Some((Some(first), _)) = costs.first_mut() {
        *first = further.iter().fold(*first, |sum, size| sum.saturating_add(*size));
    }
    costs
}

/// The files that would be downloaded, with their sizes.
fn files(printed: &str) -> impl Iterator<Item = (&str, u64)> {
    printed.lines().filter(|line| line.starts_with('\'')).filter_map(|line| {
        let mut words = line.split(' ').skip(1);
        Some((words.next()?, words.next()?.parse().ok()?))
    })
}

/// What a package that stands for others (`default-jdk`) would bring of them: the one that has the rest of its name, and its version, from a file called
/// `NAME_VERSION_ARCHITECTURE.deb`.
pub fn brought_along(printed: &str, package: &str) -> Option<(String, String)> {
    let rest = package.strip_prefix("default-")?;
    let parts = files(printed).filter_map(|(file, _)| file.split_once('_'));
    let alike =
        parts.filter(|(name, _)| *name != package && name.split('-').any(|word| rest.split('-').any(|part| part == word)));
    let numbered = alike.filter(|(name, _)| name.bytes().any(|byte| byte.is_ascii_digit()));
    let version = |rest: &str| rest.split('_').next().unwrap_or(rest).replace("%3a", ":");
    let mut found: Vec<(String, String)> = numbered.map(|(name, rest)| (name.to_owned(), version(rest))).collect();
    // The whole of what it stands for, before parts of it: `openjdk-17-jdk` before `openjdk-17-jdk-headless`.
    found.sort_by_key(|(name, _)| name.len());
    found.into_iter().next()
}
