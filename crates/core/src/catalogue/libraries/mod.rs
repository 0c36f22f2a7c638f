//! What is known about common libraries: how they are found, and which packages bring them.
//!
//! The rows are `data/libraries.csv`, sorted by the name that pkg-config knows. `version` says how a library's version is told: `same` as everybody
//! tells it, `other` than its releases do, `none` nowhere on some system. `cmake` is its name for `find_package`. Then its package with each manager;
//! nothing where there is none. `tools/libraries-of-debian` holds the packages of apt against Debian's own lists of files.

#![allow(clippy::indexing_slicing, reason = "carried out when this is built, where a mistake is no program")]

use crate::manager::Manager;
use crate::prelude::*;

/// The managers whose packages a row names, in its order.
pub const MANAGERS: [Manager; 6] = [Manager::Apt, Manager::Dnf, Manager::Pacman, Manager::Apk, Manager::Zypper, Manager::Brew];

/// How the version of a library is told.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Numbering {
    /// Its pkg-config file says the version that everybody names.
    Of,
    /// Its pkg-config file counts otherwise than its releases do: `FreeType` 2.12 says 24.
    OtherThan,
    /// It has no pkg-config file on every system.
    Without,
}

/// The rows, below the names of their columns.
const LINES: &str = include_str!("../../../data/libraries.csv").split_at(HEADING.len()).1;

/// The names of the columns.
const HEADING: &str = "pkg-config,version,cmake,apt,dnf,pacman,apk,zypper,brew\n";

/// How many libraries are known.
const COUNT: usize = starts_of_lines().1;

/// Where each line begins.
static STARTS: [u16; COUNT] = {
    let (all, _) = starts_of_lines();
    let (mut starts, mut at) = ([0; COUNT], 0);
    while at < COUNT {
        starts[at] = all[at];
        at += 1;
    }
    starts
};

/// Where lines begin, and how many there are.
#[allow(clippy::cast_possible_truncation, reason = "the text is shorter than that")]
const fn starts_of_lines() -> ([u16; 1_024], usize) {
    let (mut starts, mut count, mut at) = ([0; 1_024], 0, 0);
    let bytes = LINES.as_bytes();
    assert!(bytes.len() < u16::MAX as usize);
    while at < bytes.len() {
        starts[count] = at as u16;
        count += 1;
        while bytes[at] != b'\n' {
            at += 1;
        }
        at += 1;
    }
    (starts, count)
}

/// A library that is known.
#[derive(Debug, Clone, Copy)]
pub struct KnownLibrary {
    /// The name that pkg-config knows.
    pub name: &'static str,
    /// How its version is told.
    pub numbering: Numbering,
    /// What `find_package` calls it; nothing where it does not.
    found_as: &'static str,
    packages: &'static str,
}

impl KnownLibrary {
    fn of(line: &'static str) -> Option<Self> {
        let mut parts = line.splitn(4, ',');
        let (name, numbering, found_as, packages) = (parts.next()?, parts.next()?, parts.next()?, parts.next()?);
        let numbering = match numbering {
            "other" => Numbering::OtherThan,
            "none" => Numbering::Without,
            _ => Numbering::Of,
        };
        Some(Self { name, numbering, found_as, packages })
    }

    /// Its packages, for the managers that have one.
    pub fn packages(self) -> impl Iterator<Item = (Manager, &'static str)> {
        MANAGERS.into_iter().zip(self.packages.split(',')).filter(|(_, package)| !package.is_empty())
    }
}

/// Every library that is known.
pub fn all() -> impl Iterator<Item = KnownLibrary> {
    LINES.lines().filter_map(KnownLibrary::of)
}

fn line(start: u16) -> &'static str {
    LINES.get(usize::from(start)..).and_then(|rest| rest.lines().next()).unwrap_or_default()
}

/// The library with this name in pkg-config.
pub fn named(name: &str) -> Option<KnownLibrary> {
    let of = |start: &u16| line(*start).split(',').next().unwrap_or_default();
    let at = STARTS.binary_search_by(|start| of(start).cmp(name)).ok()?;
    STARTS.get(at).and_then(|start| KnownLibrary::of(line(*start)))
}

/// The library that `find_package` calls so.
pub fn found_as(name: &str) -> Option<KnownLibrary> {
    all().find(|one| !one.found_as.is_empty() && one.found_as.eq_ignore_ascii_case(name))
}

/// The library that a package brings; where it brings several, the one that people mean by it.
pub fn package_provides(manager: Manager, package: &str) -> Option<KnownLibrary> {
    if !MANAGERS.contains(&manager) || package.contains(',') || package.is_empty() {
        return None;
    }
    let plain = |text: &str| text.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_ascii_lowercase();
    let wanted = plain(package);
    let lines = LINES.lines().filter(|line| line.contains(package)).filter_map(KnownLibrary::of);
    let all = lines.filter(|one| one.packages().any(|(of, name)| of == manager && name == package));
    // What other build systems have a name for is what people mean; else what the package is called after.
    all.min_by_key(|one| (one.found_as.is_empty(), !wanted.contains(&plain(one.name)), one.name.len()))
}

#[cfg(test)]
mod tests {
    use super::{MANAGERS, all, found_as, named, package_provides};
    use crate::manager::Manager::{self, Apk, Apt, Brew, Dnf, Pacman};
    use crate::prelude::*;
    use rstest::rstest;

    #[test]
    fn rows_are_sorted_and_each_is_found_by_its_names() {
        assert!(include_str!("../../../data/libraries.csv").starts_with(super::HEADING));
        let rows: Vec<_> = all().collect();
        assert!(rows.len() >= 250 && rows.is_sorted_by(|a, b| a.name < b.name));
        for row in rows {
            assert_eq!(named(row.name).map(|one| one.name), Some(row.name));
            assert!(row.found_as.is_empty() || found_as(row.found_as).is_some());
        }
        assert!(named("").is_none() && named("buoy").is_none());
        assert!(all().all(|one| one.packages().count() >= 2) && MANAGERS.len() == 6);
    }

    #[rstest]
    #[case::of_debian(Apt, "libcairo2-dev", Some("cairo"))]
    #[case::of_fedora(Dnf, "cairo-devel", Some("cairo"))]
    #[case::of_arch(Pacman, "cairo", Some("cairo"))]
    #[case::of_alpine(Apk, "openssl-dev", Some("openssl"))]
    #[case::on_a_mac(Brew, "sqlite", Some("sqlite3"))]
    #[case::with_several_in_it(Apt, "libglib2.0-dev", Some("glib-2.0"))]
    #[case::of_another_manager(Dnf, "libcairo2-dev", None)]
    fn a_package_is_known_for_its_library(#[case] manager: Manager, #[case] package: &str, #[case] library: Option<&str>) {
        assert_eq!(package_provides(manager, package).map(|one| one.name), library);
    }
}
