use crate::observation::Candidate;

/// How a package manager is asked what it would install, without the package's name: the program, its arguments before the name, and what
/// comes behind it. Each only looks at what it has already fetched where it can.
pub fn candidate_question(manager: &str) -> Option<(&'static str, &'static [&'static str], &'static [&'static str])> {
    Some(match manager {
        "apt" => ("apt-cache", &["policy", "--"], &[]),
        "dnf" => ("dnf", &["--quiet", "--cacheonly", "repoquery", "--latest-limit=1", "--queryformat=%{version}\n", "--"], &[]),
        "zypper" => ("zypper", &["--non-interactive", "--no-refresh", "--quiet", "info", "--"], &[]),
        "pacman" => ("pacman", &["-Si", "--"], &[]),
        "apk" => ("apk", &["search", "--exact", "--"], &[]),
        "brew" => ("brew", &["info", "--json=v2", "--"], &[]),
        "port" => ("port", &["-q", "info", "--line", "--version"], &[]),
        "winget" => ("winget", &["show", "--exact", "--disable-interactivity", "--id"], &[]),
        "scoop" => ("scoop", &["info"], &[]),
        "choco" => ("choco", &["search", "--exact", "--limit-output"], &[]),
        _ => return None,
    })
}

/// What a package manager's answer says; `None` where it says nothing that can be read.
pub fn candidate(manager: &str, package: &str, printed: &str) -> Option<Candidate> {
    let field = |name: &str| {
        let value = |line: &str| {
            let (key, value) = line.split_once(':')?;
            (key.trim() == name).then(|| value.trim().to_owned())
        };
        printed.lines().find_map(value).filter(|value| !value.is_empty())
    };
    let version = match manager {
        // A package that is not known is passed over in silence.
        "apt" if printed.trim().is_empty() => return Some(Candidate::Absent),
        "apt" => match field("Candidate")? {
            none if none == "(none)" => return Some(Candidate::Absent),
            version => Some(version),
        },
        "dnf" | "port" => printed.lines().map(str::trim).rfind(|line| !line.is_empty()).map(ToOwned::to_owned),
        "apk" => printed.lines().find_map(|line| {
            // Another package may have a longer name.
            let version = line.trim().strip_prefix(package)?.strip_prefix('-')?;
            version.starts_with(|c: char| c.is_ascii_digit()).then(|| version.to_owned())
        }),
        "brew" => {
            let value: serde_json::Value = serde_json::from_str(printed).ok()?;
            let formula = value.get("formulae").and_then(|all| all.get(0)?.get("versions")?.get("stable")?.as_str());
            formula.or_else(|| value.get("casks")?.get(0)?.get("version")?.as_str()).map(ToOwned::to_owned)
        }
        "choco" => printed.lines().find_map(|line| Some(line.trim().strip_prefix(package)?.strip_prefix('|')?.to_owned())),
        _ => field("Version"),
    };
    // Where the manager ended well and has no line for it, it has no such package.
    let silent = matches!(manager, "dnf" | "apk" | "choco") && version.is_none();
    let usable = |version: &String| version.starts_with(|c: char| c.is_ascii_digit()) || version.starts_with('v');
    if silent { Some(Candidate::Absent) } else { version.filter(usable).map(Candidate::Version) }
}

#[cfg(test)]
mod tests {
    use super::{candidate, candidate_question};
    use crate::guide::vocabulary::MANAGERS;
    use crate::observation::Candidate;
    use rstest::rstest;

    #[rstest]
    #[case::apt(
        "apt",
        "cmake:\n  Installed: (none)\n  Candidate: 3.25.1-1\n  Version table:\n     3.25.1-1 500\n",
        Some("3.25.1-1")
    )]
    #[case::apt_with_an_epoch("apt", "git:\n  Installed: (none)\n  Candidate: 1:2.39.5-0+deb12u2\n", Some("1:2.39.5-0+deb12u2"))]
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
        assert_eq!(candidate(manager, "cmake", printed), version.map(|version| Candidate::Version(version.to_owned())));
    }

    #[rstest]
    #[case::apt_in_silence("apt", "")]
    #[case::apt_without_one("apt", "cmake:\n  Installed: (none)\n  Candidate: (none)\n")]
    #[case::dnf("dnf", "")]
    #[case::apk_with_a_longer_name("apk", "cmake-doc-3.29.3-r0\n")]
    fn a_package_that_is_not_known_is_absent(#[case] manager: &str, #[case] printed: &str) {
        assert_eq!(candidate(manager, "cmake", printed), Some(Candidate::Absent));
    }

    #[test]
    fn every_manager_that_a_guide_may_name_can_be_asked() {
        assert!(MANAGERS.iter().all(|manager| candidate_question(manager).is_some()));
    }
}
