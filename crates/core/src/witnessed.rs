//! What a build was seen to use of a machine, as statements that a guide is compared with: the same comparison as with what a repository says.

use crate::guide::{Guide, Level};
use crate::manager::Manager;
use crate::packages::packages_for;
use crate::prelude::*;
use crate::statement::{Confidence, Place, Provided, Statement, Topic, package_provides, requirement_for};
use alloc::collections::{BTreeMap, BTreeSet};

/// What a build was seen to use.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Seen {
    /// The programs that were started, outside of the project.
    pub programs: BTreeMap<String, Started>,
    /// The files of the system that were read: headers, libraries, modules.
    pub files: BTreeSet<String>,
    /// The ports that were bound.
    pub ports: BTreeSet<u16>,
    /// The addresses of other machines that were asked.
    pub addresses: BTreeSet<String>,
    /// How many bytes the project's folder has grown by.
    pub grown_bytes: u64,
    /// How much memory the largest process had, in bytes.
    pub largest_process_bytes: u64,
}

/// How a program was started.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Started {
    /// How often.
    pub times: usize,
    /// The names of those that started it.
    pub by: BTreeSet<String>,
}

impl Started {
    /// One start more.
    pub fn again(&mut self, by: &str) {
        self.times += 1;
        if self.by.len() < MOST_NAMED {
            self.by.insert(by.to_owned());
        }
    }
}

/// More of those that started a program are not named.
const MOST_NAMED: usize = 3;

/// What a package manager's notes say of what was used.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Owners {
    /// Whose notes they are; none where no manager's are read here.
    pub manager: Option<Manager>,
    /// The package of a file.
    pub of_file: BTreeMap<String, String>,
    /// What each package cannot be without.
    pub brings: BTreeMap<String, BTreeSet<String>>,
    /// The packages that a person asked for, and no other package.
    pub asked_for: BTreeSet<String>,
    /// The packages that every system has.
    pub everywhere: BTreeSet<String>,
    /// The names by which pkg-config knows libraries, by the package that has their description.
    pub descriptions: BTreeMap<String, Vec<String>>,
}

impl Owners {
    /// The packages, with all that they cannot be without. What is only recommended with them is nothing to rely on.
    fn closure(&self, packages: impl IntoIterator<Item = String>) -> BTreeSet<String> {
        let mut found = BTreeSet::new();
        let mut open: Vec<String> = packages.into_iter().collect();
        while let Some(package) = open.pop() {
            if found.insert(package.clone()) {
                open.extend(self.brings.get(&package).into_iter().flatten().filter(|one| !found.contains(*one)).cloned());
            }
        }
        found
    }
}

impl Owners {
    /// Under what name people install a package of which nobody here knows what it brings: one that they asked for and that needs it.
    fn known_as<'o>(&'o self, package: &'o str) -> &'o str {
        let manager = self.manager.unwrap_or(Manager::Apt);
        let unknown = |name: &str| package_provides(manager, name) == Provided::Unknown;
        if self.asked_for.contains(package) || !unknown(package) {
            return package;
        }
        let needs =
            |one: &&String| !self.everywhere.contains(*one) && !unknown(one) && self.closure([(*one).clone()]).contains(package);
        self.asked_for.iter().filter(needs).min_by_key(|one| self.closure([(*one).clone()]).len()).map_or(package, String::as_str)
    }
}

/// The utilities of POSIX (IEEE Std 1003.1), and what systems have beside them without being asked.
const OF_EVERY_SYSTEM: [&str; 118] = [
    "[",
    "arch",
    "awk",
    "base64",
    "basename",
    "bc",
    "bunzip2",
    "bzip2",
    "c99",
    "cat",
    "chgrp",
    "chmod",
    "chown",
    "cksum",
    "clear",
    "cmp",
    "comm",
    "cp",
    "csplit",
    "cut",
    "date",
    "dash",
    "dc",
    "dd",
    "df",
    "diff",
    "dirname",
    "du",
    "echo",
    "ed",
    "egrep",
    "env",
    "expand",
    "expr",
    "false",
    "fgrep",
    "file",
    "find",
    "fmt",
    "fold",
    "gawk",
    "getconf",
    "getent",
    "getopt",
    "grep",
    "groups",
    "gunzip",
    "gzip",
    "head",
    "hostname",
    "id",
    "install",
    "join",
    "kill",
    "ldconfig",
    "ldd",
    "less",
    "link",
    "ln",
    "locale",
    "logname",
    "ls",
    "lscpu",
    "mawk",
    "md5sum",
    "mkdir",
    "mkfifo",
    "mknod",
    "mktemp",
    "more",
    "mv",
    "nice",
    "nl",
    "nohup",
    "nproc",
    "od",
    "paste",
    "patch",
    "pathchk",
    "pr",
    "printenv",
    "printf",
    "ps",
    "pwd",
    "readlink",
    "realpath",
    "renice",
    "rm",
    "rmdir",
    "sed",
    "seq",
    "sh",
    "sha256sum",
    "sleep",
    "sort",
    "split",
    "stat",
    "stty",
    "sync",
    "tail",
    "tar",
    "tee",
    "test",
    "time",
    "touch",
    "tr",
    "true",
    "tty",
    "uname",
    "uniq",
    "unlink",
    "uptime",
    "wc",
    "who",
    "xargs",
    "xz",
    "yes",
    "zcat",
];

/// A build's use of the machine as statements, without what every system has, and without what comes along with what the guide or another statement names.
pub fn statements(seen: &Seen, owners: &Owners, guide: &Guide) -> Vec<Statement> {
    beside(seen, owners, Some(guide))
}

/// The requirements that the guide only recommends, or leaves to choice, though the build used them: their indexes, each with what was seen.
pub fn understated(seen: &Seen, owners: &Owners, guide: &Guide) -> Vec<(usize, String)> {
    let mut found: BTreeMap<usize, String> = BTreeMap::new();
    for statement in beside(seen, owners, None) {
        let Some(index) = requirement_for(guide, &statement) else { continue };
        if guide.requirements.get(index).is_some_and(|one| one.level != Level::Must && !one.alternative) {
            found.entry(index).or_insert_with(|| statement.place.file.to_string());
        }
    }
    found.into_iter().collect()
}

/// What was used beside what a guide names.
fn beside(seen: &Seen, owners: &Owners, guide: Option<&Guide>) -> Vec<Statement> {
    let name = |path: &str| path.rsplit('/').next().unwrap_or(path).to_owned();
    let plain = |path: &str| OF_EVERY_SYSTEM.contains(&name(path).as_str());
    let named: Vec<String> = guide
        .iter()
        .flat_map(|guide| &guide.requirements)
        .flat_map(|one| packages_for(&one.subject, owners.manager.as_slice()))
        .map(|(_, package)| package)
        .collect();
    let covered = owners.closure(named);
    // What was used of each package: programs first, since they say most.
    let mut used: BTreeMap<&str, Used> = BTreeMap::new();
    let mut all = Vec::new();
    for (path, started) in seen.programs.iter().filter(|(path, _)| !plain(path)) {
        match owners.of_file.get(path) {
            // An interpreter that many systems lack may be one of this one's own parts.
            Some(package) if owners.everywhere.contains(package) && name(path) != "perl" => {}
            Some(package) => used.entry(package).or_default().programs.push((name(path), started)),
            None => all.push(statement(Topic::Tool(name(path)), started_words(started))),
        }
    }
    for path in &seen.files {
        if let Some(package) = owners.of_file.get(path).filter(|package| !owners.everywhere.contains(*package)) {
            used.entry(owners.known_as(package)).or_default().files.push(path);
        }
    }
    // What comes along with another that was used is folded into that.
    let packages: Vec<&str> = used.keys().copied().collect();
    for (at, package) in packages.iter().enumerate() {
        let Some(one) = used.get(package) else { continue };
        // A program that was started stands for itself beside what is only read; it may be folded into another program's.
        let as_firm = |other: &&str| one.programs.is_empty() || used.get(*other).is_some_and(|other| !other.programs.is_empty());
        let along =
            |other: &&str| *other != *package && as_firm(other) && owners.closure([(*other).to_owned()]).contains(*package);
        let mutual = |other: &&str| owners.closure([(*package).to_owned()]).contains(*other);
        let folded = packages.iter().enumerate().any(|(of, other)| along(other) && (!mutual(other) || of < at));
        if covered.contains(*package) || folded {
            continue;
        }
        all.extend(of_package(package, one, owners, guide));
    }
    for port in &seen.ports {
        all.push(statement(Topic::Port(*port), "bound while it was built".to_owned()));
    }
    all
}

/// What was used of one package.
#[derive(Default)]
struct Used<'s> {
    programs: Vec<(String, &'s Started)>,
    files: Vec<&'s String>,
}

/// What a package that was used is, in the words of requirements.
fn of_package(package: &str, used: &Used<'_>, owners: &Owners, guide: Option<&Guide>) -> Vec<Statement> {
    let manager = owners.manager.unwrap_or(Manager::Apt);
    let words = match (used.programs.first(), used.files.first()) {
        (Some((_, started)), _) => started_words(started),
        (None, Some(file)) if used.files.len() == 1 => format!("read {file}"),
        (None, Some(file)) => format!("read {file} and {} more", used.files.len() - 1),
        (None, None) => return Vec::new(),
    };
    let with_package = |topic: Topic, words: &str| {
        let mut one = statement(topic, words.to_owned());
        one.package = Some((manager, package.to_owned()));
        one
    };
    let mut topics: Vec<Topic> = match package_provides(manager, package) {
        Provided::Topics(topics) => topics,
        Provided::Nothing => return Vec::new(),
        Provided::Unknown if !used.programs.is_empty() => {
            used.programs.iter().map(|(name, _)| Topic::Tool(name.clone())).collect()
        }
        Provided::Unknown => {
            owners.descriptions.get(package).into_iter().flatten().take(1).map(|name| Topic::Library(name.clone())).collect()
        }
    };
    // Where the guide speaks of all that already, it is the package itself that it does not name.
    let spoken =
        |topic: &Topic| guide.is_some_and(|guide| requirement_for(guide, &statement(topic.clone(), String::new())).is_some());
    if topics.is_empty() || topics.iter().all(spoken) {
        topics = vec![Topic::Package(manager, package.to_owned())];
    }
    topics.into_iter().map(|topic| with_package(topic, &words)).collect()
}

fn started_words(started: &Started) -> String {
    let by: Vec<&String> = started.by.iter().collect();
    let times = match started.times {
        1 => "once".to_owned(),
        2 => "twice".to_owned(),
        several => format!("{several} times"),
    };
    format!("started by {}, {times}", crate::text::join_words(&by, "and"))
}

fn statement(topic: Topic, words: String) -> Statement {
    Statement::new(topic, Confidence::Pinned, Place { file: words.into(), line: 0, item: String::new() })
}

#[cfg(test)]
mod tests {
    use super::{Owners, Seen, Started, statements};
    use crate::guide;
    use crate::manager::Manager;
    use crate::prelude::*;
    use rstest::rstest;

    fn seen(programs: &[&str], files: &[&str]) -> Seen {
        let mut started = Started::default();
        started.again("make");
        Seen {
            programs: programs.iter().map(|path| ((*path).to_owned(), started.clone())).collect(),
            files: files.iter().map(|path| (*path).to_owned()).collect(),
            ..Seen::default()
        }
    }

    fn owners() -> Owners {
        let pairs = |all: &[(&str, &str)]| all.iter().map(|(a, b)| ((*a).to_owned(), (*b).to_owned())).collect();
        Owners {
            manager: Some(Manager::Apt),
            of_file: pairs(&[
                ("/usr/bin/gcc", "gcc"),
                ("/usr/bin/as", "binutils"),
                ("/usr/bin/perl", "perl-base"),
                ("/usr/bin/bash", "bash"),
                ("/usr/include/cairo/cairo.h", "libcairo2-dev"),
                ("/usr/include/pixman.h", "libpixman-1-dev"),
                ("/usr/share/charts/world.map", "charts-data"),
                ("/usr/include/odd.h", "libodd-dev"),
                ("/usr/include/python3.11/Python.h", "libpython3.11-dev"),
            ]),
            brings: [("gcc", "binutils"), ("libcairo2-dev", "libpixman-1-dev"), ("python3-dev", "libpython3.11-dev")]
                .iter()
                .map(|(a, b)| ((*a).to_owned(), core::iter::once((*b).to_owned()).collect()))
                .collect(),
            asked_for: core::iter::once("python3-dev".to_owned()).collect(),
            everywhere: ["perl-base", "bash"].iter().map(|one| (*one).to_owned()).collect(),
            descriptions: core::iter::once(("libodd-dev".to_owned(), vec!["odd-2".to_owned()])).collect(),
        }
    }

    #[test]
    fn what_is_only_recommended_and_was_used_is_told() {
        let text = "format = 1\n[project]\nname = \"X\"\n[require.cc]\ntool = \"gcc\"\nlevel = \"should\"\n[require.make]\ntool = \"make\"\nlevel = \"may\"\n";
        let guide = guide::parse(text).unwrap();
        let found = super::understated(&seen(&["/usr/bin/gcc"], &[]), &owners(), &guide);
        assert_eq!(found, [(0, "started by make, once".to_owned())]);
    }

    #[rstest]
    #[case::a_program_brings_its_parts("", &["/usr/bin/gcc", "/usr/bin/as"], &[], &["tool gcc"])]
    #[case::what_the_guide_names("[require.cc]\ntool = [\"cc\", \"gcc\"]\n", &["/usr/bin/gcc", "/usr/bin/as"], &[], &[])]
    #[case::every_system_has_a_shell("", &["/usr/bin/bash", "/usr/bin/sed"], &[], &[])]
    #[case::not_every_system_has_perl("", &["/usr/bin/perl"], &[], &["tool perl"])]
    #[case::a_program_of_no_package("", &["/opt/charts/bin/chartctl"], &[], &["tool chartctl"])]
    #[case::a_header_is_its_library("", &[], &["/usr/include/cairo/cairo.h", "/usr/include/pixman.h"], &["library cairo"])]
    #[case::a_library_that_only_its_own_file_names("", &[], &["/usr/include/odd.h"], &["library odd-2"])]
    #[case::a_part_is_what_people_ask_for("", &[], &["/usr/include/python3.11/Python.h"], &["headers python"])]
    #[case::data_is_its_package("", &[], &["/usr/share/charts/world.map"], &["package apt charts-data"])]
    #[case::a_library_of_the_guide("[require.cairo]\nlibrary = \"cairo\"\n", &[], &["/usr/include/cairo/cairo.h", "/usr/include/pixman.h"], &[])]
    fn a_build_says_what_the_guide_lacks(
        #[case] more: &str,
        #[case] programs: &[&str],
        #[case] files: &[&str],
        #[case] wanted: &[&str],
    ) {
        let guide =
            guide::parse(&format!("format = 1\n[project]\nname = \"X\"\n[require.here]\nfolder = \".\"\n{more}")).unwrap();
        let found: Vec<String> =
            statements(&seen(programs, files), &owners(), &guide).iter().map(|one| one.topic.to_string()).collect();
        assert_eq!(found, wanted);
    }
}
