//! Drafts of repositories: valid, agreeing with what they were drafted from, and never in the way of a guide.

use crate::harness::{demonstration, text};
use build_setup_ready::demo::{GUIDE, REPOSITORY};
use rstest::rstest;
use serde_json::Value;
use setup_ready_core::draft::{Draft, Standing};
use setup_ready_core::guide;
use setup_ready_core::proofread::{Family, Rule};
use setup_ready_core::statement::requirement_for;
use setup_ready_maintainer::{Proof, Repository};
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

fn repositories() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/repositories")
}

fn copy(from: &Path, to: &Path) {
    fs::create_dir_all(to).unwrap();
    for entry in fs::read_dir(from).unwrap().flatten() {
        let target = to.join(entry.file_name());
        if entry.path().is_dir() { copy(&entry.path(), &target) } else { fs::copy(entry.path(), target).map(drop).unwrap() }
    }
}

fn run(folder: &Path, arguments: &[&str]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
    command.args(arguments).current_dir(folder).env_remove("COLUMNS").output().unwrap()
}

#[rstest]
fn a_draft_is_a_guide_that_agrees_with_its_repository(
    #[values(
        "rust-native",
        "node-web",
        "python-native",
        "go-service",
        "cmake-desktop",
        "meson-library",
        "autotools-tool",
        "java-services",
        "php-ruby-site",
        "dotnet-elixir",
        "monorepo",
        "contradictions"
    )]
    name: &str,
) {
    let folder = tempfile::tempdir().unwrap();
    copy(&repositories().join(name), folder.path());
    let output = run(folder.path(), &["draft"]);
    assert_eq!(output.status.code(), Some(0), "{}", text(&output.stderr));
    let drafted = fs::read_to_string(folder.path().join("setup-guide.toml")).unwrap();
    guide::parse(&drafted).unwrap_or_else(|problems| panic!("{problems}\n{drafted}"));

    // What is left to say of it is what only a person knows, or what the repository itself contradicts.
    let left = Proof::read(&drafted, folder.path(), Repository::DEPTH).remarks;
    let known = [Rule::WhyMissing, Rule::HelpMissing, Rule::FixMissing, Rule::PinsDisagree];
    let wrong: Vec<String> = left
        .iter()
        .filter(|one| !known.contains(&one.rule))
        // A package or library that a person has to judge first is not in force, so it is still remarked on.
        .filter(|one| {
            !(one.rule.family() == Family::Agreement
                && drafted.contains("# Perhaps")
                && one.of.as_ref().is_some_and(|of| is_commented(&drafted, of)))
        })
        .map(|one| format!("{} {:?}: {}", one.rule.id(), one.of, one.message))
        .collect();
    assert!(wrong.is_empty(), "{wrong:#?}\n{drafted}");

    // A second one never takes its place.
    let again = run(folder.path(), &["draft"]);
    assert_eq!(again.status.code(), Some(2));
    assert!(text(&again.stderr).contains("draft --additions"));
    assert_eq!(fs::read_to_string(folder.path().join("setup-guide.toml")).unwrap(), drafted);
}

/// Whether a draft has what is meant only as a comment.
fn is_commented(drafted: &str, of: &str) -> bool {
    let name = of.rsplit(' ').next().unwrap();
    drafted.lines().any(|line| line.starts_with("# ") && line.contains(&format!("\"{name}\"")))
}

#[test]
fn the_draft_of_the_demonstration_holds_two_thirds_of_its_guide_and_is_covered_by_it() {
    let folder = tempfile::tempdir().unwrap();
    for (name, body) in REPOSITORY {
        let path = folder.path().join(name);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, body).unwrap();
    }
    let repository = Repository::read(folder.path(), Repository::DEPTH);
    let shipped = guide::parse(GUIDE).unwrap();
    // What a repository can say: programs, libraries, modules, ports, variables of the example, and what git keeps elsewhere.
    let sayable = [
        "compiler",
        "cmake",
        "ninja",
        "cross-compiler",
        "debugger",
        "python",
        "node",
        "sqlite",
        "pages",
        "pip",
        "environments",
        "settings-reader",
        "sqlite-headers",
        "engine",
        "qemu",
        "checkout",
        "git",
        "region",
        "token",
        "broker-port",
        "shore-port",
    ];
    let draft = Draft::of(&repository.statements);
    let drafted = guide::parse(&setup_ready_maintainer::draft(&draft, "Driftbuoy")).unwrap();
    let said: Vec<&str> = repository
        .statements
        .iter()
        .filter_map(|one| requirement_for(&shipped, one))
        .map(|at| shipped.requirements[at].id.as_str())
        .collect();
    let held = sayable.iter().filter(|id| said.contains(*id)).count();
    assert!(held * 3 >= sayable.len() * 2, "{held} of {}", sayable.len());
    assert!(
        draft.live.iter().all(|one| one.standing == Standing::Live) && drafted.requirements.len() >= 14,
        "{}",
        drafted.requirements.len()
    );
    // And the other way round: nothing firm of it is not in the guide.
    let missing = Draft::additions(&repository.statements, &shipped);
    assert!(missing.live.is_empty() && missing.systems.is_empty(), "{missing:#?}");
}

#[test]
fn what_moves_in_the_repository_fails_a_build_servers_run() {
    let folder = tempfile::tempdir().unwrap();
    let sea = folder.path().join("sea");
    demonstration(&sea);
    assert_eq!(run(&sea, &["proofread"]).status.code(), Some(0));
    assert_eq!(run(&sea, &["draft", "--additions"]).status.code(), Some(0));

    let lists = fs::read_to_string(sea.join("CMakeLists.txt")).unwrap();
    fs::write(sea.join("CMakeLists.txt"), lists.replace("VERSION 3.25", "VERSION 3.28") + "find_package(ZLIB REQUIRED)\n")
        .unwrap();
    let output = run(&sea, &["proofread", "--format", "json"]);
    assert_eq!(output.status.code(), Some(1));
    let told: Value = serde_json::from_slice(&output.stdout).unwrap();
    let rules: Vec<&str> = told["remarks"].as_array().unwrap().iter().map(|one| one["rule"].as_str().unwrap()).collect();
    assert_eq!(rules, ["pinned-unlisted", "pin-exceeded"]);

    let output = run(&sea, &["draft", "--additions"]);
    assert_eq!(output.status.code(), Some(1));
    let written = text(&output.stdout);
    assert!(written.contains("library = \"zlib\"") && !written.contains("cmake"), "{written}");
    // Put behind the guide, and the pin corrected, all is well again.
    let guide = fs::read_to_string(sea.join("setup-guide.toml")).unwrap();
    let whole = format!(
        "{}\n{}",
        guide.replace("version = \">= 3.25, < 5\"", "version = \">= 3.28, < 5\""),
        written.replace("# why = \"\"", "why = \"Charts are packed with it.\"\nroles = [\"firmware\"]")
    );
    fs::write(sea.join("setup-guide.toml"), whole).unwrap();
    let output = run(&sea, &["proofread"]);
    assert_eq!(output.status.code(), Some(0), "{}", text(&output.stdout));
}

#[cfg(unix)]
#[test]
fn a_repository_that_means_harm_says_little_and_stops_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let outside = tempfile::tempdir().unwrap();
    fs::write(outside.path().join("go.mod"), "module secret.example/x\n\ngo 1.99\n").unwrap();
    let at = |name: &str| folder.path().join(name);
    // Large, linked out, no text, a device's name, and one that is right.
    fs::File::create(at("package.json")).unwrap().set_len(1 << 30).unwrap();
    std::os::unix::fs::symlink(outside.path().join("go.mod"), at("go.mod")).unwrap();
    std::os::unix::fs::symlink(outside.path(), at("linked")).unwrap();
    fs::write(at("Cargo.toml"), [0xff, 0xfe, 0x00, 0x9f]).unwrap();
    let made = Command::new("mkfifo").arg(at("Dockerfile")).status().unwrap();
    assert!(made.success());
    fs::write(at("Makefile"), "all:\n\t$(shell touch ran)\n\tgit describe\x1b]0;x\x07\n").unwrap();
    fs::write(at(".nvmrc"), "20\n").unwrap();
    let repository = Repository::read(folder.path(), Repository::DEPTH);
    let said: Vec<String> = repository.statements.iter().map(ToString::to_string).collect();
    assert!(
        said.contains(&".nvmrc:1  pinned  tool node 20.*".to_owned())
            && said.iter().all(|one| !one.contains("1.99") && !one.contains('\x1b')),
        "{said:?}"
    );
    let remarks: Vec<String> = repository.remarks.iter().map(|one| format!("{} {}", one.place, one.reason)).collect();
    assert_eq!(
        remarks,
        ["Cargo.toml:1 it is not UTF-8 text", "package.json:1 it has 1073741824 bytes; at most 4194304 are read"]
    );
    assert!(!at("ran").exists());
}

#[test]
fn what_a_repository_ignores_says_nothing() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join(".gitignore"), "local/\n").unwrap();
    for (name, body) in [
        ("local/go.mod", "go 1.1\n"),
        ("sub/go.mod", "go 1.2\n"),
        ("node_modules/x/package.json", "{\"engines\": {\"node\": \"1\"}}"),
        ("sub/deep/go.mod", "go 1.3\n"),
    ] {
        let path = folder.path().join(name);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, body).unwrap();
    }
    let said =
        |depth| Repository::read(folder.path(), depth).statements.iter().map(|one| one.place.to_string()).collect::<Vec<_>>();
    assert_eq!(
        (said(1), said(2)),
        (vec!["sub/go.mod:1".to_owned()], vec!["sub/deep/go.mod:1".to_owned(), "sub/go.mod:1".to_owned()])
    );
}

#[test]
fn remarks_as_sarif_are_valid_by_its_schema() {
    let schema: Value = serde_json::from_str(
        &fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/schemas/sarif-2.1.0.json")).unwrap(),
    )
    .unwrap();
    let validator = jsonschema::validator_for(&schema).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let bad = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.go]\ntool = \"go\"\nversion = \">= 1.18\" # ä\n[require.upload]\nvariable = \"BUOY_TOKEN\"\n";
    for guide in [bad, "format = 1\n[project]\nnam = \"Driftbuoy\"\n"] {
        fs::write(folder.path().join("setup-guide.toml"), guide).unwrap();
        fs::write(folder.path().join("go.mod"), "module shore.example/station\n\ngo 1.22\n").unwrap();
        let output = run(folder.path(), &["proofread", "--format", "sarif"]);
        assert_eq!(output.status.code(), Some(1), "{}", text(&output.stderr));
        let written: Value = serde_json::from_slice(&output.stdout).unwrap();
        let complaints: Vec<String> =
            validator.iter_errors(&written).map(|error| format!("{}: {error}", error.instance_path)).collect();
        assert!(complaints.is_empty(), "{complaints:#?}");
        assert!(!written["runs"][0]["results"].as_array().unwrap().is_empty());
        if guide == bad {
            let results = written["runs"][0]["results"].as_array().unwrap();
            let fixed = results.iter().filter(|one| one.get("fixes").is_some()).count();
            assert_eq!((fixed, &results[0]["locations"][0]["physicalLocation"]["region"]["startLine"]), (2, &Value::from(5)));
        }
    }
}

#[rstest]
#[case::the_end_of_a_draft("draft-end.txt", "80", &["draft", "sea", "--output", "drafted.toml"], 0)]
#[case::in_a_narrow_terminal("draft-end-50.txt", "50", &["draft", "sea", "--output", "drafted.toml"], 0)]
#[case::remarks("proofread.txt", "80", &["proofread", "--guide", "moved"], 1)]
#[case::remarks_in_a_narrow_terminal("proofread-50.txt", "50", &["proofread", "--guide", "moved", "--plain"], 1)]
#[case::what_was_corrected("proofread-corrected.txt", "80", &["proofread", "--guide", "moved", "--correct"], 1)]
#[case::the_page_of_a_rule("explain-rule.txt", "80", &["explain", "port-moved"], 0)]
#[case::what_is_said("statements.txt", "80", &["draft", "sea", "--statements"], 0)]
fn it_reads_like_this(#[case] name: &str, #[case] columns: &str, #[case] arguments: &[&str], #[case] status: i32) {
    let folder = tempfile::tempdir().unwrap();
    demonstration(&folder.path().join("sea"));
    demonstration(&folder.path().join("moved"));
    let change = |file: &str, from: &str, to: &str| {
        let path = folder.path().join("moved").join(file);
        let text = fs::read_to_string(&path).unwrap();
        assert!(text.contains(from), "{from}");
        fs::write(path, text.replacen(from, to, 1)).unwrap();
    };
    change("CMakeLists.txt", "VERSION 3.25", "VERSION 3.28");
    change(
        "setup-guide.toml",
        "  run = \"apt-get install python3-venv\"\n  admin = true\n",
        "  run = \"sudo apt-get install python3-venv\"\n",
    );
    change("setup-guide.toml", "secret = true\n", "");
    change("setup-guide.toml", "why = \"The presets build with it.\"", "why = \"You need ninja.\"");
    let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
    let output = command.args(arguments).current_dir(folder.path()).env("COLUMNS", columns).output().unwrap();
    assert_eq!(output.status.code(), Some(status), "{}", text(&output.stderr));
    let shown = text(&output.stdout);
    let width: usize = columns.parse().unwrap();
    // Commands and lines of a file are copied as they stand.
    let copied = |line: &str| {
        name == "statements.txt"
            || name == "explain-rule.txt"
            || line.trim_start().starts_with("setup-ready ")
            || line.contains('|')
            || line.contains('│')
    };
    let wide: Vec<&str> = shown.lines().filter(|line| line.chars().count() > width && !copied(line)).collect();
    assert!(wide.is_empty(), "{wide:#?}");
    assert_data_eq!(shown, Data::read_from(&Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots").join(name), None));
}
