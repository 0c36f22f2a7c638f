/// A distribution among installed packages of Python, by the name of its note there.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NotedDistribution {
    /// Its name, in the plain form.
    pub name: String,
    /// Whether the note is one of an installed package, and not a link to a working copy.
    pub installed: bool,
}

/// The plain form of a distribution's name (the packaging standard on names, first in PEP 503).
pub fn plain_name(name: &str) -> String {
    let mut plain = String::with_capacity(name.len());
    for c in name.chars() {
        match c {
            '-' | '_' | '.' if plain.ends_with('-') => {}
            '-' | '_' | '.' => plain.push('-'),
            _ => plain.push(c.to_ascii_lowercase()),
        }
    }
    plain
}

/// The distribution that a file or folder among the installed packages is the note of, by its name.
pub fn noted_distribution(file: &str) -> Option<NotedDistribution> {
    let (stem, kind) = file.rsplit_once('.')?;
    let installed = match kind {
        "dist-info" | "egg-info" => true,
        "egg-link" | "egg" => false,
        _ => return None,
    };
    // The version, and in older notes the interpreter's, stand behind the name.
    let behind = |(at, _): &(usize, &str)| stem.get(at + 1..).is_some_and(|rest| rest.starts_with(|c: char| c.is_ascii_digit()));
    let end = stem.match_indices('-').find(behind).map_or(stem.len(), |(at, _)| at);
    Some(NotedDistribution { name: plain_name(stem.get(..end)?), installed })
}

/// The distributions that another one needs on this system with an interpreter of this release (`3.11`), in the plain form: from its core metadata, or the older
/// list of requirements. What is only needed elsewhere or for an extra is left out where that can be told.
pub fn needed_distributions(note: &str, release: &str, is_older_list: bool) -> Vec<String> {
    let header = |line: &str| line.strip_prefix("Requires-Dist:").map(ToOwned::to_owned);
    let lines: Vec<String> = if is_older_list {
        note.lines().take_while(|line| !line.starts_with('[')).map(ToOwned::to_owned).collect()
    } else {
        note.lines().take_while(|line| !line.is_empty()).filter_map(header).collect()
    };
    lines.iter().filter_map(|line| needed(line.trim(), release)).collect()
}

fn needed(line: &str, release: &str) -> Option<String> {
    let (what, marker) = line.split_once(';').unwrap_or((line, ""));
    let name: String = what.trim().chars().take_while(|c| c.is_ascii_alphanumeric() || "-_.".contains(*c)).collect();
    let elsewhere = super::python_marker::holds(marker, |comparison| compare(comparison, release)) == Some(false);
    (!name.is_empty() && !elsewhere).then(|| plain_name(&name))
}

/// Whether one comparison of a condition holds here; `None` where that is not known.
fn compare((name, sign, value): (&str, &str, &str), release: &str) -> Option<bool> {
    match name {
        // Nobody asked for any.
        "extra" => Some(sign == "!="),
        "python_version" => {
            let (own, wanted) = (series(release)?, series(value)?);
            match sign {
                "<" => Some(own < wanted),
                "<=" => Some(own <= wanted),
                ">" => Some(own > wanted),
                ">=" => Some(own >= wanted),
                "==" => Some(own == wanted),
                "!=" => Some(own != wanted),
                _ => None,
            }
        }
        // The third number is not known: only what differs before it is.
        "python_full_version" => {
            let (own, wanted) = (series(release)?, series(value)?);
            match sign {
                "<" | "<=" if own != wanted => Some(own < wanted),
                ">" | ">=" if own != wanted => Some(own > wanted),
                _ => None,
            }
        }
        "sys_platform" | "platform_system" | "os_name" => {
            let here = if cfg!(windows) {
                ["win32", "Windows", "nt"]
            } else if cfg!(target_os = "macos") {
                ["darwin", "Darwin", "posix"]
            } else {
                ["linux", "Linux", "posix"]
            };
            match sign {
                "==" => Some(here.contains(&value)),
                "!=" => Some(!here.contains(&value)),
                _ => None,
            }
        }
        _ => None,
    }
}

fn series(version: &str) -> Option<(u32, u32)> {
    let mut parts = version.split('.');
    Some((parts.next()?.parse().ok()?, parts.next()?.parse().ok()?))
}

/// Whether a `.pth` file may change where packages come from: lines that begin with `import` are carried out before anything else (the manual of `site`). One
/// that only uses the interpreter's own modules, and nothing by which packages are found, changes nothing.
pub fn paths_are_changed(pth: &str) -> bool {
    const OWN: [&str; 5] = ["os", "re", "sys", "types", "_virtualenv"];
    const WAYS: [&str; 8] = ["path", "meta_path", "path_hooks", "addsitedir", "modules", "importlib", "__import__", "finder"];
    let changes = |line: &str| {
        let (brought, rest) = line.split_once(';').unwrap_or((line, ""));
        let brought = brought.trim().trim_start_matches("import").split(',').map(str::trim).all(|module| OWN.contains(&module));
        // The one of the tools that install packages is known.
        let rest = rest.replace("os.path", "").replace("__import__('_distutils_hack').add_shim()", "").to_lowercase();
        !brought || WAYS.iter().any(|way| rest.contains(&format!("sys.{way}")) || (*way != "path" && rest.contains(way)))
    };
    pth.lines().filter(|line| line.starts_with("import ") || line.starts_with("import\t")).any(changes)
}

#[cfg(test)]
mod tests {
    use super::{needed_distributions, noted_distribution, paths_are_changed};
    use rstest::rstest;

    #[rstest]
    #[case::a_wheel("meson-1.5.1.dist-info", Some(("meson", true)))]
    #[case::a_name_with_a_dash("pip_tools-7.4.1.dist-info", Some(("pip-tools", true)))]
    #[case::an_older_one("pip-23.0.1-py3.11.egg-info", Some(("pip", true)))]
    #[case::without_a_version("Cython.egg-info", Some(("cython", true)))]
    #[case::a_working_copy("meson.egg-link", Some(("meson", false)))]
    #[case::a_package("mesonbuild", None)]
    fn a_note_names_its_distribution(#[case] file: &str, #[case] noted: Option<(&str, bool)>) {
        let found = noted_distribution(file);
        assert_eq!(found.as_ref().map(|found| (found.name.as_str(), found.installed)), noted);
    }

    #[rstest]
    #[case::plain("click >=8.0.0", &["click"])]
    #[case::for_an_older_interpreter("tomli>=1.1 ; python_version < \"3.11\"", &[])]
    #[case::for_this_one("typing_extensions ; python_version < \"3.13\"", &["typing-extensions"])]
    #[case::for_an_extra("aiohttp ; extra == 'd'", &[])]
    #[case::for_another_system("colorama ; sys_platform == \"buoyos\"", &[])]
    #[case::of_two_parts("a ; python_version < \"3\" and extra == 'd'", &[])]
    #[case::in_brackets("a ; (sys_platform == 'win32' and implementation_name == 'pypy') and extra == 'd'", &[])]
    #[case::either("a ; python_version >= \"3.8\" or extra == 'd'", &["a"])]
    #[case::that_is_not_known("a ; implementation_name == 'cpython'", &["a"])]
    #[case::that_is_not_understood("a ; ((", &["a"])]
    fn what_is_needed_here_is_told_from_what_is_not(#[case] line: &str, #[case] needed: &[&str]) {
        let note = format!("Name: x\nRequires-Dist: {line}\n\nRequires-Dist: prose\n");
        assert_eq!(needed_distributions(&note, "3.11", false), needed);
        assert_eq!(needed_distributions(&format!("{line}\n[extra]\nmore\n"), "3.11", true), needed);
    }

    #[rstest]
    #[case::further_folders("/opt/src\n", false)]
    #[case::an_installers("import os; __import__('_distutils_hack').add_shim();\n", false)]
    #[case::something_else("import os; exec('import certifi; print(os.path.isfile(certifi.where()))')\n", false)]
    #[case::a_folder_before_all("import sys; sys.path.insert(0, '/opt/src')\n", true)]
    #[case::a_finder("import __editable___buoy_finder; __editable___buoy_finder.install()\n", true)]
    fn what_changes_where_packages_come_from_is_seen(#[case] pth: &str, #[case] changed: bool) {
        assert_eq!(paths_are_changed(pth), changed);
    }
}
