use crate::manager::Manager;
use crate::observation::{Candidate, ManagerState, Offered};

/// How a package manager is asked about a package, whose name stands between.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CandidateQuestion {
    /// The program.
    pub program: &'static str,
    /// Its arguments before the package's name.
    pub before: &'static [&'static str],
    /// Those behind it.
    pub after: &'static [&'static str],
}

/// How a package manager is asked what it would install. Each only looks at what it has already fetched where it can.
pub fn candidate_question(manager: Manager) -> CandidateQuestion {
    let (program, before): (&'static str, &'static [&'static str]) = match manager {
        // Its own package is asked for too: what is known of it tells whether any list was fetched.
        Manager::Apt => ("apt-cache", &["policy", "--", "apt"]),
        Manager::Dnf => ("dnf", &["--quiet", "--cacheonly", "repoquery", "--latest-limit=1", "--queryformat=%{version}\n", "--"]),
        Manager::Zypper => ("zypper", &["--non-interactive", "--no-refresh", "--quiet", "info", "--"]),
        Manager::Pacman => ("pacman", &["-Si", "--"]),
        Manager::Apk => ("apk", &["search", "--exact", "--"]),
        Manager::Brew => ("brew", &["info", "--json=v2", "--"]),
        Manager::Port => ("port", &["-q", "info", "--line", "--version"]),
        Manager::Winget => ("winget", &["show", "--exact", "--disable-interactivity", "--id"]),
        Manager::Scoop => ("scoop", &["info"]),
        Manager::Choco => ("choco", &["search", "--exact", "--limit-output"]),
    };
    CandidateQuestion { program, before, after: &[] }
}

/// What a package manager's answer says; `None` where it says nothing that can be read.
pub fn candidate(manager: Manager, package: &str, printed: &str) -> Option<Candidate> {
    let field = |name: &str| {
        let value = |line: &str| {
            let (key, value) = line.split_once(':')?;
            (key.trim() == name).then(|| value.trim().to_owned())
        };
        printed.lines().find_map(value).filter(|value| !value.is_empty())
    };
    let version = match manager {
        Manager::Apt => return apt(package, printed),
        Manager::Dnf | Manager::Port => printed.lines().map(str::trim).rfind(|line| !line.is_empty()).map(ToOwned::to_owned),
        Manager::Apk => printed.lines().find_map(|line| {
            // Another package may have a longer name.
            let version = line.trim().strip_prefix(package)?.strip_prefix('-')?;
            version.starts_with(|c: char| c.is_ascii_digit()).then(|| version.to_owned())
        }),
        Manager::Brew => {
            let value: serde_json::Value = serde_json::from_str(printed).ok()?;
            let formula = value.get("formulae").and_then(|all| all.get(0)?.get("versions")?.get("stable")?.as_str());
            formula.or_else(|| value.get("casks")?.get(0)?.get("version")?.as_str()).map(ToOwned::to_owned)
        }
        Manager::Choco => printed.lines().find_map(|line| Some(line.trim().strip_prefix(package)?.strip_prefix('|')?.to_owned())),
        Manager::Zypper | Manager::Pacman | Manager::Winget | Manager::Scoop => field("Version"),
    };
    // Where the manager ended well and has no line for it, it has no such package.
    let silent = matches!(manager, Manager::Dnf | Manager::Apk | Manager::Choco) && version.is_none();
    let usable = |version: &String| version.starts_with(|c: char| c.is_ascii_digit()) || version.starts_with('v');
    if silent {
        Some(Candidate::Absent)
    } else {
        version.filter(usable).map(|version| Candidate::Version(version.as_str().into()))
    }
}

/// The paragraphs of `apt-cache policy`, one for each package. One that is not known is passed over in silence.
fn apt(package: &str, printed: &str) -> Option<Candidate> {
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

/// How a package manager is asked what it would download for a package, up to the package's name; nothing is downloaded by asking.
pub fn download_question(manager: Manager) -> Option<(&'static str, &'static [&'static str])> {
    (manager == Manager::Apt).then_some(("apt-get", &["install", "--print-uris", "-q", "--"]))
}

/// What apt-get says of an installation that it does not carry out: why it is not possible, what it would remove, and whether something is half installed.
/// Its words are those of the C locale.
pub fn simulated(offered: &mut Offered, printed: &str, complaints: &str) {
    let lines = || printed.lines().chain(complaints.lines());
    if lines().any(|line| line.contains("--fix-broken")) {
        offered.manager = ManagerState::Broken;
        return;
    }
    let indented = |heading: &str| {
        let behind = printed.lines().skip_while(|line| !line.starts_with(heading)).skip(1);
        behind.take_while(|line| line.starts_with(' ')).map(str::trim).collect::<Vec<_>>().join(" ")
    };
    offered.removes = indented("The following packages will be REMOVED:").split_whitespace().map(ToOwned::to_owned).collect();
    let unmet = indented("The following packages have unmet dependencies:");
    let words = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ");
    let complaint = || complaints.lines().find_map(|line| line.strip_prefix("E: ")).map(ToOwned::to_owned);
    offered.hindered = if unmet.is_empty() { complaint() } else { Some(words(&unmet)) };
}

/// How much would be downloaded for each of several packages that are asked for together, and how many others come along: from a line for each,
/// `'ADDRESS' FILE SIZE HASH` (apt-get(8)). Each has its own size, and the first also what comes along with all of them, so that the sum is that of
/// the one command; how many come along with one of several is only known where none does. What was downloaded before has no line, so that none tell
/// nothing.
pub fn download_of_each(printed: &str, packages: &[&str]) -> Vec<(Option<u64>, Option<usize>)> {
    let lines: Vec<(&str, u64)> = printed
        .lines()
        .filter(|line| line.starts_with('\''))
        .filter_map(|line| {
            let mut words = line.split(' ').skip(1);
            Some((words.next()?, words.next()?.parse().ok()?))
        })
        .collect();
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

#[cfg(test)]
mod tests {
    use super::{candidate, download_of_each, simulated};
    use crate::manager::Manager;
    use crate::observation::{Candidate, ManagerState, Offered};
    use rstest::rstest;

    #[rstest]
    #[case::apt(
        "apt",
        "apt:\n  Candidate: 2.6.1\ncmake:\n  Installed: (none)\n  Candidate: 3.25.1-1\n  Version table:\n     3.25.1-1 500\n",
        Some("3.25.1-1")
    )]
    #[case::apt_with_an_epoch(
        "apt",
        "cmake:\n  Installed: (none)\n  Candidate: 1:2.39.5-0+deb12u2\n",
        Some("1:2.39.5-0+deb12u2")
    )]
    #[case::dnf("dnf", "3.30.5\n", Some("3.30.5"))]
    #[case::zypper(
        "zypper",
        "Information for package cmake:\n---\nRepository     : Main\nName           : cmake\nVersion        : 3.31.5-1.1\n",
        Some("3.31.5-1.1")
    )]
    #[case::pacman("pacman", "Repository      : extra\nName            : cmake\nVersion         : 3.31.3-1\n", Some("3.31.3-1"))]
    #[case::apk("apk", "cmake-3.29.3-r0\n", Some("3.29.3-r0"))]
    #[case::brew(
        "brew",
        "{\"formulae\":[{\"name\":\"cmake\",\"versions\":{\"stable\":\"3.31.2\"}}],\"casks\":[]}",
        Some("3.31.2")
    )]
    #[case::port("port", "3.31.7\n", Some("3.31.7"))]
    #[case::winget("winget", "Found CMake [Kitware.CMake]\nVersion: 3.31.2\nPublisher: Kitware\n", Some("3.31.2"))]
    #[case::scoop("scoop", "\nName        : cmake\nVersion     : 3.31.2\n", Some("3.31.2"))]
    #[case::choco("choco", "cmake|3.31.2\n", Some("3.31.2"))]
    fn candidates_are_read_in_every_managers_words(#[case] manager: &str, #[case] printed: &str, #[case] version: Option<&str>) {
        assert_eq!(
            candidate(Manager::from_word(manager).unwrap(), "cmake", printed),
            version.map(|version| Candidate::Version(version.into()))
        );
    }

    #[rstest]
    #[case::apt_in_silence(
        "apt",
        "apt:\n  Candidate: 2.6.1\n  Version table:\n        500 https://driftbuoy.example/ stable/main amd64 Packages\n"
    )]
    #[case::apt_without_one("apt", "apt:\n        500 file:/srv ./ Packages\ncmake:\n  Installed: (none)\n  Candidate: (none)\n")]
    #[case::dnf("dnf", "")]
    #[case::apk_with_a_longer_name("apk", "cmake-doc-3.29.3-r0\n")]
    fn a_package_that_is_not_known_is_absent(#[case] manager: &str, #[case] printed: &str) {
        assert_eq!(candidate(Manager::from_word(manager).unwrap(), "cmake", printed), Some(Candidate::Absent));
    }

    #[rstest]
    #[case::in_silence(
        "apt:\n  Installed: 2.6.1\n  Candidate: 2.6.1\n  Version table:\n *** 2.6.1 100\n        100 /var/lib/dpkg/status\n"
    )]
    #[case::known_by_a_dependency("apt:\n  Candidate: 2.6.1\n        100 /var/lib/dpkg/status\ncmake:\n  Candidate: (none)\n")]
    fn without_a_list_nothing_is_known_of_a_package(#[case] printed: &str) {
        assert_eq!(candidate(Manager::Apt, "cmake", printed), Some(Candidate::Unlisted));
    }

    #[rstest]
    #[case::impossible("The following packages have unmet dependencies:\n helmview : Depends: tiller but it is not installable\n", "E: Unable to correct problems, you have held broken packages.\n", (Some("helmview : Depends: tiller but it is not installable"), "", ManagerState::Ready))]
    #[case::at_a_price("The following packages will be REMOVED:\n  tree\n  rope\nThe following NEW packages will be installed:\n  helmtree\n", "", (None, "tree rope", ManagerState::Ready))]
    #[case::half_installed("You might want to run 'apt --fix-broken install' to correct these.\n", "E: Unmet dependencies.\n", (None, "", ManagerState::Broken))]
    #[case::refused("", "E: Held packages were changed and -y was used without --allow-change-held-packages.\n", (Some("Held packages were changed and -y was used without --allow-change-held-packages."), "", ManagerState::Ready))]
    #[case::as_usual("The following NEW packages will be installed:\n  jq\n'file:/srv/jq.deb' jq.deb 63984 MD5Sum:0\n", "", (None, "", ManagerState::Ready))]
    fn what_an_installation_would_do_is_read(
        #[case] printed: &str,
        #[case] complaints: &str,
        #[case] (hindered, removed, state): (Option<&str>, &str, ManagerState),
    ) {
        let mut offered = Offered::from("1.0");
        simulated(&mut offered, printed, complaints);
        assert_eq!(
            (offered.hindered.as_deref(), offered.removes.join(" "), offered.manager),
            (hindered, removed.to_owned(), state)
        );
    }

    #[rstest]
    #[case::with_what_comes_along("'a' jq_1_amd64.deb 10 x\n'b' libjq1_1_amd64.deb 5 x\n'c' tree_2_amd64.deb 3 x\n", &[(Some(15), None), (Some(3), None)])]
    #[case::each_alone("'a' jq_1_amd64.deb 10 x\n'c' tree_2_amd64.deb 3 x\n", &[(Some(10), Some(0)), (Some(3), Some(0))])]
    #[case::downloaded_before("", &[(None, None), (None, None)])]
    fn the_sum_of_several_is_that_of_one_command(#[case] printed: &str, #[case] costs: &[(Option<u64>, Option<usize>)]) {
        assert_eq!(download_of_each(printed, &["jq", "tree"]), costs);
    }

    #[rstest]
    #[case::alone("'file:/srv/jq_1_amd64.deb' jq_1_amd64.deb 52500 SHA256:0\n", (Some(52_500), Some(0)))]
    #[case::with_another("'a' jq_1_all.deb 10 \n'b' libjq_1_all.deb 5 MD5Sum:0\n", (Some(15), Some(1)))]
    #[case::more_than_there_can_be("'a' jq_1_all.deb 18446744073709551615 \n'b' b.deb 5 \n", (Some(u64::MAX), Some(1)))]
    fn what_would_be_downloaded_is_summed(#[case] printed: &str, #[case] expected: (Option<u64>, Option<usize>)) {
        assert_eq!(download_of_each(printed, &["jq"]), [expected]);
    }
}
