/// A version that stands in a Java kit's `release` file, where it is no trial release (JEP 223: `JAVA_VERSION` has the number, `JAVA_RUNTIME_VERSION`
/// also what kind of a release it is). `None` for kits that do not say which they are.
pub fn java_release(text: &str) -> Option<&str> {
    let value = |key: &str| {
        text.lines().find_map(|line| line.strip_prefix(key)?.strip_prefix('=').map(|value| value.trim().trim_matches('"')))
    };
    let whole = value("JAVA_RUNTIME_VERSION").or_else(|| value("FULL_VERSION"))?;
    let version = value("JAVA_VERSION").filter(|version| is_plain(version))?;
    let rest = whole.strip_prefix(version)?;
    // `-ea`, `-internal` and the like stand before the number of the build.
    rest.starts_with('+').then_some(version)
}

/// Whether a version is of numbers and points alone.
fn is_plain(version: &str) -> bool {
    let number = |part: &str| !part.is_empty() && part.bytes().all(|byte| byte.is_ascii_digit());
    version.len() <= 40 && version.split('.').all(number)
}

/// The version in the name of a library: `maven-core-3.9.6.jar` for `maven-core`.
pub fn library_release<'n>(file: &'n str, library: &str) -> Option<&'n str> {
    let version = file.strip_prefix(library)?.strip_prefix('-')?.strip_suffix(".jar")?;
    is_plain(version).then_some(version)
}

/// The part of `/var/lib/dpkg/status` about one package (deb-control(5)).
pub fn debian_stanza<'s>(status: &'s str, package: &str) -> Option<&'s str> {
    let line = format!("Package: {package}\n");
    let starts = status.match_indices(line.as_str()).map(|(at, _)| at);
    let start = starts.into_iter().find(|at| *at == 0 || status.get(..*at).is_some_and(|before| before.ends_with("\n\n")))?;
    status.get(start..)?.split("\n\n").next()
}

/// The version of what was packaged, of a package that is installed whole: without Debian's epoch and revision (deb-version(7)). `None` where
/// something else than numbers is left, as behind a mark of repackaging.
pub fn debian_release(stanza: &str) -> Option<&str> {
    let value = |key: &str| stanza.lines().find_map(|line| line.strip_prefix(key)?.strip_prefix(": "));
    if !value("Status")?.ends_with(" ok installed") {
        return None;
    }
    let version = value("Version")?;
    let version = version.split_once(':').map_or(version, |(_, rest)| rest);
    let version = version.rsplit_once('-').map_or(version, |(version, _)| version);
    is_plain(version).then_some(version)
}

/// The MD5 sum that a package's list of sums has for a file.
pub fn debian_sum<'s>(sums: &'s str, path: &str) -> Option<&'s str> {
    let wanted = path.strip_prefix('/')?;
    sums.lines().find_map(|line| line.split_once("  ").filter(|(_, file)| *file == wanted).map(|(sum, _)| sum))
}

/// The module that a short Python script starts: the one thing that it brings in beside what it needs to start it.
pub fn imported_module(script: &str) -> Option<&str> {
    const AROUND: [&str; 5] = ["re", "sys", "os", "importlib", "__future__"];
    let brought = script.lines().filter_map(|line| {
        let mut words = line.split_whitespace();
        match words.next()? {
            "from" | "import" => words.next().map(|module| module.trim_end_matches([',', ';'])),
            _ => None,
        }
    });
    let mut modules = brought.filter(|module| !AROUND.contains(&module.split('.').next().unwrap_or_default()));
    let module = modules.next()?;
    let top = module.split('.').next()?;
    let plain = !top.is_empty() && top.chars().all(|c| c.is_ascii_alphanumeric() || c == '_');
    (plain && modules.all(|other| other.split('.').next() == Some(top))).then_some(top)
}

#[cfg(test)]
mod tests {
    use super::{debian_release, debian_stanza, imported_module, java_release, library_release};
    use rstest::rstest;

    #[rstest]
    #[case::a_release("JAVA_RUNTIME_VERSION=\"17.0.15+6-Debian-1\"\nJAVA_VERSION=\"17.0.15\"\n", Some("17.0.15"))]
    #[case::by_its_whole_version("FULL_VERSION=\"11.0.20+8\"\nJAVA_VERSION=\"11.0.20\"\n", Some("11.0.20"))]
    #[case::a_trial("JAVA_RUNTIME_VERSION=\"22-ea+3\"\nJAVA_VERSION=\"22\"\n", None)]
    #[case::that_does_not_say_what_it_is("JAVA_VERSION=\"22\"\n", None)]
    #[case::two_that_differ("JAVA_RUNTIME_VERSION=\"17.0.1+3\"\nJAVA_VERSION=\"17.0.2\"\n", None)]
    #[case::of_no_numbers("JAVA_RUNTIME_VERSION=\"x+1\"\nJAVA_VERSION=\"x\"\n", None)]
    fn a_kit_says_its_release(#[case] text: &str, #[case] version: Option<&str>) {
        assert_eq!(java_release(text), version);
    }

    #[rstest]
    #[case::installed("Package: gdb\nStatus: install ok installed\nVersion: 1:13.1-3\n", Some("13.1"))]
    #[case::on_hold("Package: gdb\nStatus: hold ok installed\nVersion: 13.1-3+b1\n", Some("13.1"))]
    #[case::half("Package: gdb\nStatus: install ok half-configured\nVersion: 13.1-3\n", None)]
    #[case::removed("Package: gdb\nStatus: deinstall ok config-files\nVersion: 13.1-3\n", None)]
    #[case::repackaged("Package: gdb\nStatus: install ok installed\nVersion: 13.1+dfsg-3\n", None)]
    #[case::native("Package: gdb\nStatus: install ok installed\nVersion: 13.1\n", Some("13.1"))]
    fn a_package_has_the_version_of_what_it_packages(#[case] stanza: &str, #[case] version: Option<&str>) {
        let status = format!("Package: gdb-doc\nVersion: 1\n\n{stanza}\nPackage: z\nDescription: Package: gdb\n");
        assert_eq!(debian_release(debian_stanza(&status, "gdb").unwrap()), version);
    }

    #[rstest]
    #[case::a_release("maven-core-3.9.6.jar", Some("3.9.6"))]
    #[case::a_trial("maven-core-4.0.0-rc-1.jar", None)]
    #[case::another("maven-core-it-3.9.6.jar", None)]
    fn a_library_has_its_release_in_its_name(#[case] file: &str, #[case] version: Option<&str>) {
        assert_eq!(library_release(file, "maven-core"), version);
    }

    #[rstest]
    #[case::as_installers_write_it(
        "#!/x\nimport re\nimport sys\nfrom pip._internal.cli.main import main\nif __name__ == '__main__':\n",
        Some("pip")
    )]
    #[case::two_parts_of_one("import black.a\nfrom black import patched_main\n", Some("black"))]
    #[case::two("from a import b\nfrom c import d\n", None)]
    #[case::nothing("print('7.7.7')\n", None)]
    fn a_script_starts_one_module(#[case] script: &str, #[case] module: Option<&str>) {
        assert_eq!(imported_module(script), module);
    }
}
