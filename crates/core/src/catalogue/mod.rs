//! What is known about common tools: how they say their version, and which package brings them.
//!
//! A guide's own `args`, `pattern` and `packages` win over it.

mod harmful;
mod index;
pub mod libraries;
mod records;
mod rows;

pub use harmful::is_never_started;
pub use records::{Record, Source, records};

use crate::version::Asked;

/// What is known about one tool.
#[derive(Debug, Clone, Copy)]
pub struct Row {
    /// The program's name.
    pub name: &'static str,
    /// Other names under which some systems have the same program.
    pub aliases: &'static [&'static str],
    /// The arguments that make it say its version, and nothing else.
    pub args: &'static [&'static str],
    /// What stands before its version, where that is not its name; empty otherwise.
    pub says: &'static str,
    /// Its package for each package manager.
    pub packages: &'static [(&'static str, &'static str)],
    /// How it starts.
    pub start: Start,
}

/// How a tool starts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Start {
    /// In a few milliseconds.
    Quick,
    /// An interpreter or a virtual machine reads much before it answers.
    Slow,
}

/// The arguments with which a program may be started without anybody's consent: those of its row, or `--version` alone. Words such as `version` are for
/// rows only, since to other programs they may name a file or an action.
pub fn version_arguments(name: &str) -> &'static [&'static str] {
    find(name).map_or(&["--version"], |row| row.args)
}

/// The row of a tool, by its name or by its name without a version behind it (`python3.12`, `gcc-13`).
pub fn find(name: &str) -> Option<&'static Row> {
    index::row(name).or_else(|| {
        let exact = |name: &str| index::row(name).filter(|row| row.name == name);
        let stem = name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.' || c == '-');
        if stem.len() == name.len() {
            return None;
        }
        // `python3.12` is a `python3`.
        name.get(..stem.len() + 1).and_then(exact).or_else(|| exact(stem))
    })
}

/// Every tool that is known.
pub fn all() -> &'static [Row] {
    rows::ROWS
}

/// Whether a tool of just this name is known.
pub fn has(name: &str) -> bool {
    find(name).is_some_and(|row| row.name == name || row.aliases.contains(&name))
}

/// How a tool of this name is asked for its version, with what is known of it.
pub fn asked(name: &str) -> Asked<'_> {
    match find(name) {
        // A longer name has the row of a shorter one: that is one more name of it.
        Some(row) if row.name == name || row.aliases.contains(&name) => {
            Asked { known_as: row.name, aliases: row.aliases, says: row.says, known: true, ..Asked::of(name) }
        }
        Some(row) => Asked { known_as: row.name, aliases: row.aliases, says: row.says, ..Asked::of(name) },
        None => Asked::of(name),
    }
}

/// The other names of a tool that is called so, in the order in which they are worth a try.
pub fn other_names(name: &str) -> impl Iterator<Item = &'static str> {
    let row = find(name).filter(|row| row.name == name || row.aliases.contains(&name));
    row.into_iter()
        .flat_map(|row| core::iter::once(row.name).chain(row.aliases.iter().copied()))
        .filter(move |other| *other != name)
}

#[cfg(test)]
mod tests {
    use super::{Start, find, rows::ROWS};
    use crate::prelude::*;
    use rstest::rstest;

    #[test]
    fn rows_are_sorted_and_make_sense() {
        assert!(ROWS.len() >= 120);
        assert!(ROWS.is_sorted_by(|a, b| a.name < b.name));
        let managers = ["apt", "dnf", "zypper", "pacman", "apk", "brew", "port", "winget", "scoop", "choco"];
        for row in ROWS {
            assert!(
                !row.args.is_empty() && row.args.iter().all(|argument| !argument.contains(char::is_whitespace)),
                "{}",
                row.name
            );
            assert!(
                row.packages.iter().all(|(manager, package)| managers.contains(manager) && !package.is_empty()),
                "{}",
                row.name
            );
            assert!(!row.aliases.contains(&row.name), "{}", row.name);
            let mut names: Vec<&str> = row.packages.iter().map(|(manager, _)| *manager).collect();
            names.sort_unstable();
            names.dedup();
            assert_eq!(names.len(), row.packages.len(), "{}", row.name);
        }
    }

    #[rstest]
    #[case::by_name("cmake", Some("cmake"))]
    #[case::with_a_version_behind("gcc-13", Some("gcc"))]
    #[case::with_a_longer_version_behind("python3.12", Some("python3"))]
    #[case::whose_name_ends_in_a_digit("sqlite3", Some("sqlite3"))]
    #[case::under_another_name("nodejs", Some("node"))]
    #[case::nothing_like_it("buoyctl", None)]
    fn tools_are_found_by_name(#[case] name: &str, #[case] row: Option<&str>) {
        assert_eq!(find(name).map(|row| row.name), row);
    }

    #[test]
    fn slow_tools_are_known() {
        assert_eq!(find("npm").unwrap().start, Start::Slow);
        assert_eq!(find("ninja").unwrap().start, Start::Quick);
    }
}
