//! What pacman prints (pacman(8)), and what it notes of each installed package.

use setup_ready_core::observation::Candidate;

/// A package as far as it matters for what excludes what.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct PacmanPackage {
    /// Its name.
    pub name: String,
    /// What it stands for beside itself.
    pub provides: Vec<String>,
    /// What it cannot be installed beside.
    pub conflicts: Vec<String>,
}

/// Blocks of fields, one for each repository that has the package: the first is taken.
pub(super) fn candidate(package: &str, printed: &str) -> Option<Candidate> {
    let block = printed.lines().skip_while(|line| field(line) != Some(("Name", package))).skip(1);
    let version = block.take_while(|line| !line.is_empty()).find_map(|line| field(line).filter(|(key, _)| *key == "Version"));
    version.map(|(_, version)| Candidate::Version(version.into()))
}

fn field(line: &str) -> Option<(&str, &str)> {
    let (key, value) = line.split_once(':')?;
    (!line.starts_with(' ')).then(|| (key.trim(), value.trim()))
}

/// Why it cannot be installed.
pub fn pacman_refusal(printed: &str, complaints: &str) -> Option<String> {
    let lines = || printed.lines().chain(complaints.lines()).map(str::trim);
    let reason = lines().find_map(|line| line.strip_prefix(":: "));
    let complaint = || lines().find_map(|line| line.strip_prefix("error: target not found: "));
    reason.map(ToOwned::to_owned).or_else(|| complaint().map(|name| format!("{name} is not in its lists")))
}

/// How much would be downloaded for each, the first with all that comes along, and how many others do.
pub fn pacman_costs(printed: &str, names: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let line = |line: &str| {
        let (name, size) = line.split_once(' ')?;
        Some((name.to_owned(), size.trim().parse().ok()?))
    };
    super::costs(&printed.lines().filter_map(line).collect::<Vec<_>>(), names)
}

/// The packages that `pacman -Si` tells of.
pub fn pacman_offers(printed: &str) -> Vec<PacmanPackage> {
    let mut packages: Vec<PacmanPackage> = Vec::new();
    for (key, value) in printed.lines().filter_map(field) {
        if key == "Name" {
            packages.push(PacmanPackage { name: value.to_owned(), ..PacmanPackage::default() });
        }
        let Some(package) = packages.last_mut() else { continue };
        let words = || value.split_whitespace().filter(|word| *word != "None").map(ToOwned::to_owned);
        match key {
            "Provides" => package.provides.extend(words()),
            "Conflicts With" => package.conflicts.extend(words()),
            _ => {}
        }
    }
    packages
}

/// An installed package, from the manager's note of it: headings between `%`, a line each below (its `desc` file).
pub fn pacman_installed(note: &str) -> PacmanPackage {
    let under = |heading: &str| -> Vec<String> {
        let lines = note.lines().skip_while(|line| *line != heading).skip(1);
        lines.take_while(|line| !line.is_empty()).map(ToOwned::to_owned).collect()
    };
    PacmanPackage {
        name: under("%NAME%").pop().unwrap_or_default(),
        provides: under("%PROVIDES%"),
        conflicts: under("%CONFLICTS%"),
    }
}

/// The package that would have to go for these to come: one that is installed and excluded. What is excluded in some versions only is left to the
/// manager, which asks.
pub fn pacman_conflict(coming: &[PacmanPackage], installed: &[PacmanPackage]) -> Option<String> {
    let excludes = |one: &PacmanPackage, other: &PacmanPackage| {
        let provided = other.provides.iter().map(|provided| provided.split('=').next().unwrap_or(provided));
        let names: Vec<&str> = core::iter::once(other.name.as_str()).chain(provided).collect();
        one.name != other.name && one.conflicts.iter().any(|conflict| names.contains(&conflict.as_str()))
    };
    let clash = |one: &PacmanPackage, other: &PacmanPackage| excludes(one, other) || excludes(other, one);
    let replaced = |name: &str| coming.iter().any(|one| one.name == name);
    let others = || installed.iter().filter(|other| !replaced(&other.name)).chain(coming);
    coming.iter().find_map(|one| others().find(|other| clash(one, other))).map(|other| other.name.clone())
}
