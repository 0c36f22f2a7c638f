//! Who may know whom within a crate, read from the `use` lines.

use rstest::rstest;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// The files of a crate by their module paths, without tests.
fn modules(of: &str) -> BTreeMap<String, String> {
    fn walk(folder: &Path, at: &str, found: &mut BTreeMap<String, String>) {
        for entry in std::fs::read_dir(folder).unwrap().flatten() {
            let path = entry.path();
            let stem = path.file_stem().unwrap().to_string_lossy().into_owned();
            let name = if at.is_empty() { stem.clone() } else { format!("{at}::{stem}") };
            if path.is_dir() {
                walk(&path, &name, found);
            } else if !["tests", "testing", "lib"].contains(&stem.as_str()) && !at.ends_with("tests") && !at.ends_with("testing")
            {
                let text = std::fs::read_to_string(&path).unwrap();
                let text = text.split("#[cfg(test)]\nmod ").next().unwrap().to_owned();
                found.insert(if stem == "mod" { at.to_owned() } else { name }, text);
            }
        }
    }
    let root: PathBuf = Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(of).join("src");
    let mut found = BTreeMap::new();
    walk(&root, "", &mut found);
    found
}

/// What a `use` names: each leaf with its whole path.
fn leaves(tree: &str, before: &str, found: &mut Vec<String>) {
    let tree = tree.trim();
    if let Some((path, list)) = tree.split_once('{') {
        let inner = list.trim_end().strip_suffix('}').unwrap_or_else(|| panic!("{tree}"));
        let (mut depth, mut start) = (0, 0);
        for (at, c) in inner.char_indices().chain([(inner.len(), ',')]) {
            match c {
                '{' => depth += 1,
                '}' => depth -= 1,
                ',' if depth == 0 => {
                    let part = &inner[start..at];
                    if !part.trim().is_empty() {
                        leaves(part, &format!("{before}{}", path.trim()), found);
                    }
                    start = at + 1;
                }
                _ => {}
            }
        }
    } else {
        found.push(format!("{before}{}", tree.split(" as ").next().unwrap().trim()));
    }
}

/// The `use` lines of a file: what is only shown on (`pub use`), and what the file itself knows.
fn uses(text: &str) -> (Vec<String>, Vec<String>) {
    let (mut shown, mut known) = (Vec::new(), Vec::new());
    let code = text.lines().filter(|line| !line.trim_start().starts_with("//")).collect::<Vec<_>>().join("\n");
    let mut rest = code.as_str();
    while let Some(at) = rest.find("use ") {
        let line_start = rest[..at].rfind('\n').map_or(0, |start| start + 1);
        let before = rest[line_start..at].trim();
        let end = rest[at..].find(';').map_or(rest.len(), |end| at + end);
        let is_shown = before == "pub" || (before.starts_with("pub(") && before.ends_with(')'));
        if before.is_empty() || is_shown {
            leaves(&rest[at + 4..end], "", if is_shown { &mut shown } else { &mut known });
            rest = &rest[end..];
        } else {
            rest = &rest[at + 4..];
        }
    }
    // Paths that stand in the code without a `use`.
    let paths = code.split("crate::").skip(1);
    known.extend(paths.map(|rest| {
        let path: String = rest.chars().take_while(|c| c.is_alphanumeric() || *c == '_' || *c == ':').collect();
        format!("crate::{path}")
    }));
    // A path that ends there goes on in a list, whose leaves are known already.
    known.retain(|path| !path.ends_with("::"));
    (shown, known)
}

/// Which file a path leads to, through the doors of folders to where the name is.
fn resolve(path: &str, from: &str, modules: &BTreeMap<String, String>) -> Option<String> {
    let above = |module: &str| module.rsplit_once("::").map_or(String::new(), |(above, _)| above.to_owned());
    let whole = if let Some(rest) = path.strip_prefix("crate::") {
        rest.to_owned()
    } else if let Some(rest) = path.strip_prefix("super::") {
        let mut base = above(from);
        let mut rest = rest;
        while let Some(further) = rest.strip_prefix("super::") {
            base = above(&base);
            rest = further;
        }
        format!("{base}::{rest}").trim_start_matches("::").to_owned()
    } else {
        let first = path.split("::").next().unwrap();
        let child = format!("{from}::{first}");
        if !modules.contains_key(&child) {
            return None;
        }
        format!("{from}::{path}")
    };
    let mut file = whole.trim_end_matches(':').to_owned();
    while !modules.contains_key(&file) {
        file.truncate(file.rfind("::")?);
    }
    let name = whole[file.len()..].trim_start_matches("::").split("::").next().unwrap_or_default().to_owned();
    // A door that only shows a name on is passed through.
    let (shown, _) = uses(&modules[&file]);
    if let Some(on) = shown.iter().find(|shown| shown.rsplit("::").next() == Some(name.as_str()))
        && !name.is_empty()
        && let Some(behind) = resolve(on, &file, modules)
        && behind != file
    {
        return Some(behind);
    }
    Some(file)
}

fn graph(modules: &BTreeMap<String, String>) -> BTreeMap<String, BTreeSet<String>> {
    let of = |(module, text): (&String, &String)| {
        let known = uses(text).1;
        let to = known.iter().filter_map(|path| resolve(path, module, modules)).filter(|to| to != module);
        (module.clone(), to.collect())
    };
    modules.iter().map(of).collect()
}

/// The groups of files that know each other in a ring (Tarjan 1972, by hand: who reaches whom both ways).
fn circles(graph: &BTreeMap<String, BTreeSet<String>>) -> Vec<Vec<String>> {
    let reach = |start: &String| {
        let mut seen = BTreeSet::new();
        let mut open = vec![start.clone()];
        while let Some(at) = open.pop() {
            for next in graph.get(&at).into_iter().flatten() {
                if seen.insert(next.clone()) {
                    open.push(next.clone());
                }
            }
        }
        seen
    };
    let all: BTreeMap<&String, BTreeSet<String>> = graph.keys().map(|key| (key, reach(key))).collect();
    let mut found: BTreeSet<Vec<String>> = BTreeSet::new();
    for (key, reached) in &all {
        let ring: Vec<String> =
            reached.iter().filter(|other| all.get(other).is_some_and(|back| back.contains(*key))).cloned().collect();
        if ring.len() > 1 {
            found.insert(ring);
        }
    }
    found.into_iter().collect()
}

#[rstest]
#[case::core("core")]
#[case::observe("observe")]
#[case::library("library")]
#[case::forms("forms")]
#[case::fleet("fleet")]
#[case::maintainer("maintainer")]
#[case::cli("cli")]
fn no_more_than_two_files_know_each_other_in_a_ring(#[case] of: &str) {
    let modules = modules(of);
    assert!(modules.len() > 4, "{}", modules.len());
    let long: Vec<Vec<String>> = circles(&graph(&modules)).into_iter().filter(|ring| ring.len() > 2).collect();
    assert!(long.is_empty(), "{long:#?}");
}

#[test]
fn every_crate_is_walked_and_the_walk_really_follows() {
    let crates = std::fs::read_dir(Path::new(env!("CARGO_MANIFEST_DIR")).join("..")).unwrap().flatten().count();
    assert_eq!(crates, 8, "a new crate needs a row above; the eighth is for fuzzing");
    // The driver knows the assessments, which know the probes.
    let graph = graph(&modules("core"));
    assert!(graph["driver"].contains("assess") && graph["kinds::port::assess"].contains("probe"));
}

#[test]
fn nothing_that_decides_reads_or_writes_sentences() {
    let graph = graph(&modules("core"));
    for (module, known) in &graph {
        let decides = ["assess", "fix", "finding", "plan", "driver", "inquiry", "ledger", "settled"];
        let of_kind = module.strip_prefix("kinds::").and_then(|rest| rest.split_once("::"));
        let kind_decides = of_kind.is_some_and(|(_, file)| file != "words" && file != "script");
        if kind_decides || decides.iter().any(|room| module == room || module.starts_with(&format!("{room}::"))) {
            let sentences: Vec<&String> = known.iter().filter(|one| one.starts_with("words")).collect();
            assert!(sentences.is_empty(), "{module} knows {sentences:?}");
        }
    }
}

/// The texts of a file, without comments and without what stands behind its tests' head.
fn texts(source: &str) -> Vec<&str> {
    let code = source.lines().filter(|line| !line.trim_start().starts_with("//"));
    code.flat_map(|line| line.split('"').skip(1).step_by(2)).collect()
}

#[rstest]
#[case::core("core")]
#[case::observe("observe")]
#[case::library("library")]
fn no_text_below_the_command_line_names_what_is_typed_there(#[case] of: &str) {
    let help = |words: &[&str]| {
        let output = std::process::Command::new(env!("CARGO_BIN_EXE_setup-ready")).args(words).output().unwrap();
        String::from_utf8(output.stdout).unwrap()
    };
    let listed = help(&["--help"]);
    let is_word = |c: char| c.is_ascii_lowercase() || c == '-';
    let commands: Vec<&str> = listed
        .lines()
        .filter_map(|line| line.strip_prefix("  ")?.split_whitespace().next())
        .filter(|word| word.chars().all(is_word))
        .collect();
    assert!(commands.contains(&"preflight") && commands.contains(&"draft"), "{listed}");
    // Options that other programs have as well say nothing of ours.
    let common = ["--help", "--version", "--offline", "--format", "--output", "--only", "--quiet", "--plain", "--id"];
    let helps = help(&["preflight", "--help"]);
    let options: BTreeSet<&str> = helps
        .split(|c: char| !is_word(c))
        .filter(|word| word.starts_with("--") && word.len() > 3 && !common.contains(word))
        .collect();
    assert!(options.contains("--allow-commands") && options.contains("--time-limit"), "{options:?}");
    let mut wrong = Vec::new();
    for (module, source) in modules(of) {
        for text in texts(&source) {
            let named = text.split(|c: char| !is_word(c)).any(|word| options.contains(word));
            let typed = commands.iter().any(|command| text.contains(&format!("setup-ready {command}")));
            if named || typed {
                wrong.push(format!("{module}: {text}"));
            }
        }
    }
    assert!(wrong.is_empty(), "say what is meant, and let the command line add how it is done there: {wrong:#?}");
}
