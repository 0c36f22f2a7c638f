//! The version that a file of the project asks for.

pub mod ranges;

use ranges::{exact_or_series, from_npm, from_python};
use setup_ready_core::document;
use setup_ready_core::observation::Pinned;
use setup_ready_core::text::Pattern;
use setup_ready_core::version::Range;

/// The version in a file of the project: what the guide's pattern finds, or where there is none, as the file's own way is known.
pub fn version_in(file: &str, text: &str, tools: &[String], pattern: Option<&str>) -> Pinned {
    match pattern.map(Pattern::new) {
        None => pinned(file, text, tools),
        Some(Ok(pattern)) => found(file, text, &pattern),
        Some(Err(_)) => Pinned::Silent,
    }
}

/// The version that a pattern of the guide finds in a file of the project: its first group, or all that it fits.
fn found(file: &str, text: &str, pattern: &Pattern) -> Pinned {
    let Some(version) = pattern.capture(text) else { return Pinned::Silent };
    let offset = (version.as_ptr() as usize).saturating_sub(text.as_ptr() as usize);
    let place = format!("{file}, line {}", line_number(text, offset));
    let version = version.trim().trim_start_matches('v');
    // Only what is plainly a version is told: a pattern may find anything in any file of the project.
    let plain = |c: char| c.is_ascii_alphanumeric() || "._+-".contains(c);
    let is_version = version.starts_with(|c: char| c.is_ascii_digit()) && version.len() <= LONGEST_VERSION;
    if is_version && version.chars().all(plain) { Pinned::Version(version.to_owned(), place) } else { Pinned::Unreadable(place) }
}

/// No version is longer, and few secrets are shorter.
const LONGEST_VERSION: usize = 16;

/// Which versions of a tool a file of the project asks for. The file's name says how it is read: `rust-toolchain(.toml)`, `Cargo.toml`,
/// `package.json`, `pyproject.toml`, `.python-version`, `.node-version`, `.nvmrc`, `go.mod`, `CMakeLists.txt`; of any other file, the
/// first line that is neither empty nor a comment is the version.
pub fn pinned(file: &str, text: &str, tools: &[String]) -> Pinned {
    let name = file.rsplit(['/', '\\']).next().unwrap_or(file);
    let said = match name {
        "rust-toolchain.toml" => toml(text, &[&["toolchain", "channel"]], rust),
        "rust-toolchain" if text.contains('[') => toml(text, &[&["toolchain", "channel"]], rust),
        "Cargo.toml" => toml(text, &[&["package", "rust-version"], &["workspace", "package", "rust-version"]], at_least),
        "pyproject.toml" => {
            let places: [&[&str]; 2] = [&["project", "requires-python"], &["tool", "poetry", "dependencies", "python"]];
            toml(text, &places, from_python)
        }
        "package.json" => package_json(text, tools),
        "go.mod" => line(text, |line| line.strip_prefix("go ").map(|version| at_least(version.trim()))),
        "CMakeLists.txt" => cmake(text),
        _ => line(text, |line| (!line.is_empty() && !line.starts_with('#')).then(|| exact_or_series(line))),
    };
    match said {
        None => Pinned::Silent,
        Some((number, Some(range))) if range.is_empty() => Pinned::Any(format!("{file}, line {number}")),
        Some((number, range)) => {
            let place = format!("{file}, line {number}");
            match range.filter(|range| Range::parse(range).is_ok()) {
                Some(range) => Pinned::Range(range, place),
                None => Pinned::Unreadable(place),
            }
        }
    }
}

/// The number of a line, and the range there; `None` within where it cannot be read.
type Said = Option<(usize, Option<String>)>;

fn at_least(version: &str) -> Option<String> {
    version.starts_with(|c: char| c.is_ascii_digit()).then(|| format!(">= {version}"))
}

/// Channels without a number follow the newest release: any version may be that.
fn rust(channel: &str) -> Option<String> {
    match channel.split('-').next() {
        Some("stable" | "beta" | "nightly") => Some(String::new()),
        _ => exact_or_series(channel),
    }
}

fn line_number(text: &str, offset: usize) -> usize {
    text.bytes().take(offset).filter(|byte| *byte == b'\n').count() + 1
}

/// The first of these places in a TOML file.
fn toml(text: &str, places: &[&[&str]], read: fn(&str) -> Option<String>) -> Said {
    let tree = match document::parse(text) {
        Ok(tree) => tree,
        Err(problems) => {
            let offset = problems.first().map_or(0, |problem| problem.span.start);
            return Some((line_number(text, offset), None));
        }
    };
    places.iter().find_map(|place| {
        let (first, rest) = place.split_first()?;
        let mut value = tree.get_ref().get(*first)?;
        for key in rest {
            value = value.get_ref().get(*key)?;
        }
        Some((line_number(text, value.span().start), value.get_ref().as_str().and_then(read)))
    })
}

/// The first line of which `read` makes something, without its comment.
fn line(text: &str, read: impl Fn(&str) -> Option<Option<String>>) -> Said {
    text.lines().enumerate().find_map(|(number, line)| {
        let line = line.split("//").next().unwrap_or_default().trim_start_matches('\u{feff}').trim();
        read(line).map(|range| (number + 1, range))
    })
}

/// `engines`, and for package installers the field that names one with its version.
fn package_json(text: &str, tools: &[String]) -> Said {
    let Ok(value) = serde_json::from_str::<serde_json::Value>(text) else { return Some((1, None)) };
    let place = |key: &str| line_number(text, text.find(&format!("\"{key}\"")).unwrap_or(0));
    let engines = tools.iter().find_map(|tool| {
        // Some systems call it by another name.
        let key = if tool == "nodejs" { "node" } else { tool };
        let range = value.get("engines")?.get(key)?.as_str()?;
        let after = text.find("\"engines\"").unwrap_or(0);
        let offset = after + text.get(after..)?.find(&format!("\"{key}\"")).unwrap_or(0);
        Some((line_number(text, offset), from_npm(range)))
    });
    engines.or_else(|| {
        let (name, version) = value.get("packageManager")?.as_str()?.split_once('@')?;
        let exact = exact_or_series(version.split('+').next()?);
        tools.iter().any(|tool| tool == name).then(|| (place("packageManager"), exact))
    })
}

/// `cmake_minimum_required(VERSION 3.25...3.30)`: what follows the dots is a policy and no upper end.
fn cmake(text: &str) -> Said {
    // Comments keep their length, so that places stay right.
    let plain: String = text
        .lines()
        .map(|line| line.split_once('#').map_or(line, |(before, _)| before).to_ascii_lowercase())
        .collect::<Vec<_>>()
        .join("\n");
    let start = plain.find("cmake_minimum_required")?;
    let number = plain.get(..start)?.matches('\n').count() + 1;
    let inner = plain.get(start..)?.split_once('(').and_then(|(_, rest)| rest.split_once(')')).map(|(inner, _)| inner);
    let version = inner.and_then(|inner| {
        let mut words = inner.split_whitespace();
        words.find(|word| *word == "version")?;
        words.next()?.split("...").next()
    });
    Some((number, version.and_then(at_least)))
}

#[cfg(test)]
mod tests {
    use super::pinned;
    use rstest::rstest;
    use setup_ready_core::observation::Pinned;

    #[rstest]
    #[case::rust_toolchain("rust-toolchain.toml", "[toolchain]\nchannel = \"1.95.0\"\n", "rustc", "= 1.95.0", 2)]
    #[case::rust_toolchain_in_its_older_form("rust-toolchain", "1.95\n", "rustc", "1.95.*", 1)]
    #[case::cargo("Cargo.toml", "[package]\nname = \"buoy\"\nrust-version = \"1.85\"\n", "cargo", ">= 1.85", 3)]
    #[case::cargo_workspace("core/Cargo.toml", "[workspace.package]\nrust-version = \"1.85\"\n", "cargo", ">= 1.85", 2)]
    #[case::package(
        "package.json",
        "{\n \"name\": \"node\",\n \"engines\": {\n  \"node\": \"^20.1\"\n }\n}",
        "node",
        ">= 20.1, < 21",
        4
    )]
    #[case::package_under_another_name("package.json", "{\"engines\":{\"node\":\">=20\"}}", "nodejs", ">= 20", 1)]
    #[case::package_manager("package.json", "{\n\"packageManager\": \"pnpm@9.1.0+sha512.aa\"}", "pnpm", "= 9.1.0", 2)]
    #[case::pyproject("pyproject.toml", "[project]\nrequires-python = \">=3.11,<4\"\n", "python3", ">= 3.11, < 4", 2)]
    #[case::python_version(".python-version", "# ours\n3.11\n", "python3", "3.11.*", 2)]
    #[case::node_version(".node-version", "v20.11.0\n", "node", "= 20.11.0", 1)]
    #[case::go("go.mod", "module buoy.example/shore\n\ngo 1.22 // at least\n", "go", ">= 1.22", 3)]
    #[case::cmake(
        "CMakeLists.txt",
        "# cmake_minimum_required(VERSION 2.8)\nCMake_Minimum_Required(\n  VERSION 3.25...3.30 FATAL_ERROR)\n",
        "cmake",
        ">= 3.25",
        2
    )]
    #[case::any_other_file("ninja.version", "1.11.1\n", "ninja", "= 1.11.1", 1)]
    fn a_files_version_is_read_with_its_line(
        #[case] file: &str,
        #[case] text: &str,
        #[case] tool: &str,
        #[case] range: &str,
        #[case] line: usize,
    ) {
        let place = format!("{file}, line {line}");
        assert_eq!(pinned(file, text, &[tool.to_owned()]), Pinned::Range(range.to_owned(), place));
    }

    #[rstest]
    #[case::another_tool("package.json", "{\"engines\":{\"node\":\"20\"}}", "npm")]
    #[case::no_such_key("Cargo.toml", "[package]\nname = \"buoy\"\n", "cargo")]
    #[case::only_comments(".node-version", "# later\n\n", "node")]
    fn a_file_that_does_not_say_is_silent(#[case] file: &str, #[case] text: &str, #[case] tool: &str) {
        assert_eq!(pinned(file, text, &[tool.to_owned()]), Pinned::Silent);
    }

    #[rstest]
    #[case::the_newest("rust-toolchain.toml", "[toolchain]\nchannel = \"stable\"\n", "rustc", "rust-toolchain.toml, line 2")]
    #[case::anything("package.json", "{\"engines\":{\"node\":\"*\"}}", "node", "package.json, line 1")]
    fn a_file_may_ask_for_any_version(#[case] file: &str, #[case] text: &str, #[case] tool: &str, #[case] place: &str) {
        assert_eq!(pinned(file, text, &[tool.to_owned()]), Pinned::Any(place.to_owned()));
    }

    #[rstest]
    #[case::words(".node-version", "lts/iron\n", ".node-version, line 1")]
    #[case::broken_toml("Cargo.toml", "[package\n", "Cargo.toml, line 1")]
    #[case::broken_json("package.json", "{", "package.json, line 1")]
    #[case::a_variable("CMakeLists.txt", "\ncmake_minimum_required(VERSION ${V})\n", "CMakeLists.txt, line 2")]
    fn what_cannot_be_read_is_said_with_its_place(#[case] file: &str, #[case] text: &str, #[case] place: &str) {
        assert_eq!(pinned(file, text, &["node".to_owned()]), Pinned::Unreadable(place.to_owned()));
    }
}
