//! Following builds: each of a list of small ones, written down before anything followed one.

use crate::trials;
use libtest_mimic::Trial;
use serde::Deserialize;
use std::collections::BTreeMap;
use std::os::unix::fs::PermissionsExt;
use std::path::Path;
use std::process::{Command, Stdio};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Case {
    run: Vec<String>,
    /// Of the guide, beside its head.
    #[serde(default)]
    guide: String,
    #[serde(default)]
    files: BTreeMap<String, String>,
    /// Programs in a folder of PATH outside of the project.
    #[serde(default)]
    programs: BTreeMap<String, String>,
    /// A program that is linked with nothing.
    static_program: Option<String>,
    #[serde(default)]
    variables: BTreeMap<String, String>,
    /// What this machine must have for it.
    needs: Option<String>,
    /// What must be said.
    #[serde(default)]
    names: Vec<String>,
    /// What must not be.
    #[serde(default)]
    silent: Vec<String>,
    ends: Option<i32>,
}

fn write(path: &Path, text: &str, mode: u32) {
    std::fs::write(path, text).unwrap();
    std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode)).unwrap();
}

/// The topics of the additions: `tool make`, `library zlib`, `port 7070`.
fn topics(text: &str) -> Vec<String> {
    let mut all = Vec::new();
    for line in text.lines() {
        for key in ["tool", "library", "port", "system_package"] {
            if let Some(value) = line.strip_prefix(&format!("{key} = ")) {
                for name in value.trim_matches(['[', ']']).split(", ") {
                    all.push(format!("{key} {}", name.trim_matches('"')));
                }
            }
        }
    }
    all
}

fn failures(name: &str, case: &Case) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let (project, tools) = (folder.path().join("project"), folder.path().join("tools"));
    std::fs::create_dir(&project).unwrap();
    std::fs::create_dir(&tools).unwrap();
    let guide = format!("format = 1\n[project]\nname = \"Lure\"\n[require.here]\nfolder = \".\"\n{}", case.guide);
    write(&project.join("setup-guide.toml"), &guide, 0o644);
    for (file, text) in &case.files {
        write(&project.join(file), text, 0o755);
    }
    for (program, text) in &case.programs {
        write(&tools.join(program), text, 0o755);
    }
    if let Some(program) = &case.static_program {
        let source = folder.path().join("x.c");
        std::fs::write(&source, "int main(void) { return 0; }\n").unwrap();
        let made = Command::new("cc").args(["-static", "-o"]).arg(tools.join(program)).arg(&source).status().unwrap();
        assert!(made.success());
    }
    let output = Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(["witness", "--"])
        .args(&case.run)
        .current_dir(&project)
        .env("PATH", format!("{}:{}", tools.display(), std::env::var("PATH").unwrap()))
        .envs(&case.variables)
        .stdin(Stdio::null())
        .output()
        .unwrap();
    let (said, told) =
        (String::from_utf8_lossy(&output.stdout).into_owned(), String::from_utf8_lossy(&output.stderr).into_owned());
    let found = topics(&said);
    let mut wrong: Vec<String> = Vec::new();
    for one in case.names.iter().filter(|one| !found.contains(one)) {
        wrong.push(format!("{name}: {one} is not said, but {found:?}\n{told}"));
    }
    for one in case
        .silent
        .iter()
        .filter(|one| found.iter().any(|found| found == *one) || said.contains(&format!("{one} = ")) || told.contains(*one))
    {
        wrong.push(format!("{name}: {one} is said\n{said}{told}"));
    }
    let ends = case.ends.unwrap_or(i32::from(!found.is_empty()));
    if output.status.code() != Some(ends) {
        wrong.push(format!("{name}: it ended with {:?} and not {ends}\n{told}", output.status.code()));
    }
    wrong
}

/// Each build says what it used, and nothing that it did not.
pub(crate) fn tests() -> Vec<Trial> {
    let cases: BTreeMap<String, Case> = toml::from_str(include_str!("witnessed/cases.toml")).unwrap();
    assert!(cases.len() >= 16);
    let test = |(name, case): (String, Case)| {
        let needed = case.needs.iter().map(String::as_str).filter(|path| !Path::new(path).exists());
        let first = case.run.first().map(String::as_str);
        let first = first.filter(|word| !word.starts_with('.') && *word != "no-such-build" && !trials::is_here(word));
        let missing = needed.chain(first).next().map(ToOwned::to_owned);
        let test = trials::test("witnessed", &name.clone(), move || failures(&name, &case));
        trials::ignored_for_want_of(missing, test)
    };
    cases.into_iter().map(test).collect()
}
