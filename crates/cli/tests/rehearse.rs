//! Rehearsing and rendering, with the program as maintainers use it.

use crate::harness::{demonstration, text};
use build_setup_ready::demo::{GUIDE, REPOSITORY};
use rstest::rstest;
use serde_json::Value;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide;
use setup_ready_core::rehearsal::End;
use setup_ready_maintainer::Rehearsal;
use setup_ready_maintainer::{Rehearsed, guide_html, rehearsal_html, rehearsal_junit};
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::collections::BTreeSet;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

/// The project of the demonstration, in a folder.
fn driftbuoy() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let into = folder.path().join("driftbuoy");
    demonstration(&into);
    (folder, into)
}

fn run(folder: &Path, arguments: &[&str]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
    command.args(arguments).current_dir(folder).env_remove("COLUMNS").output().unwrap()
}

fn snapshot(name: &str, found: &str) {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots").join(name);
    assert_data_eq!(found.to_owned(), Data::read_from(&path, None).raw());
}

fn small(body: &str) -> String {
    format!("format = 1\n[project]\nname = \"Lure\"\n{body}\n")
}

/// The list was written before anything made a machine.
#[test]
fn the_ways_to_fail_are_those_that_people_would_list() {
    let list = fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/rehearsals/ways.txt")).unwrap();
    let guide = guide::parse(GUIDE).unwrap();
    let ways = Rehearsal::new(&guide, Path::new(".")).ways(&|_| {});
    let found: BTreeSet<String> = ways
        .ways
        .iter()
        .map(|way| format!("{} {} {}", guide.requirements[way.requirement].id, way.system.word(), way.cause.word()))
        .collect();
    let mut wrong = Vec::new();
    for line in list.lines().filter(|line| !line.is_empty() && !line.starts_with('#')) {
        match line.strip_prefix("not ") {
            Some(way) if found.contains(way) => wrong.push(line),
            None if !found.contains(line) => wrong.push(line),
            _ => {}
        }
    }
    assert!(wrong.is_empty(), "{} of {} lines: {wrong:#?}", wrong.len(), list.lines().count());
    assert_eq!((ways.count(End::Nothing), ways.untried.len()), (0, 0), "{}", ways.summary());
    assert!(ways.ways.len() > 500, "{}", ways.summary());
}

/// Every cause is made on some machine, or it is said why not.
#[test]
fn every_cause_of_the_registry_is_made_somewhere() {
    let kinds = "systems = [\"linux\", \"macos\", \"windows\"]\n\
        [require.tool]\ntool = \"chartctl\"\nversion = \">= 2, != 2.5, < 4\"\n[require.no-tool]\ntool = \"oldctl\"\nexpect = \"absent\"\n\
        [require.port]\nport = 70\nset_by = { variable = \"PORT\" }\naddress = \"127.0.0.1\"\n[require.disk]\ndisk = \"2 GB\"\ninodes = 100\n\
        [require.more-disk]\ndisk = \"3 GB\"\nat = \"~/charts\"\n[require.memory]\nmemory = \"4 GB\"\nfree = true\n[require.swap]\nswap = \"2 GB\"\n\
        [require.cores]\ncores = 4\n[require.virtual]\nvirtualization = \"usable\"\n\
        [require.system]\nsystem = { linux = \">= 5, < 9\", macos = \">= 12\", windows = \">= 10\" }\nedition = [\"pro\"]\narch = [\"x86_64\", \"aarch64\"]\ndistro = [\"debian\"]\n\
        [require.file]\nfile = \"keys/buoy\"\nmode = \"600\"\nowner = \"me\"\nwritable = true\ncontains = \"MODE=\"\n[require.script]\nfile = \"run.sh\"\nexecutable = true\n\
        [require.no-file]\nfile = \"old\"\nexpect = \"absent\"\n[require.folder]\nfolder = \"charts\"\n[require.variable]\nvariable = \"REGION\"\nmatches = \"^(north|south)$\"\n\
        [require.no-variable]\nvariable = \"OLD\"\nexpect = \"absent\"\n[require.kit]\nvariable = \"CHART_HOME\"\nof = \"tool\"\n[require.group]\ngroup = \"dialout\"\n\
        [require.rights]\nrights = \"admin\"\n[require.socket]\nsocket = \"/run/engine.sock\"\n[require.device]\ndevice = \"/dev/ttyUSB0\"\n\
        [require.service]\nservice = \"localhost:7071\"\nhttp = \"/\"\ncontains = \"Buoy\"\n[require.reach]\nreach = \"https://files.driftbuoy.example\"\n\
        [require.clock]\nclock = \"1 min\"\nby = \"https://files.driftbuoy.example\"\n[require.name]\nhostname = \"shore.test\"\npoints_to = \"127.0.0.1\"\n\
        [require.net]\nsubnet = \"10.77.0.0/24\"\n[require.watches]\nlimit = \"file-watches\"\nat_least = 65536\n[require.links]\nlimit = \"symbolic-links\"\n\
        [require.library]\nlibrary = \"cairo\"\nversion = \">= 1.10, < 2\"\n[require.python]\ntool = \"python3\"\n[require.module]\nmodule = \"yaml\"\nof = \"python\"\nversion = \">= 5, < 7\"\n\
        [require.headers]\nheaders = \"python\"\n[require.package]\nsystem_package = { apt = \"fonts-noto\" }\n[require.kernel]\nkernel_module = \"vcan\"\n\
        [require.locale]\nlocale = \"de_DE.UTF-8\"\nutf8 = true\n[require.setting]\nsetting = \"user.email\"\nmatches = \"@\"\n\
        [require.copy]\ncheckout = \".\"\nbranch = \"main\"\nsubmodules = true\nlarge_files = true\nhistory = \"full\"\ntags = true\nline_ends = \"lf\"\nclean = true\n\
        [require.command]\ncommand = [\"pagectl\", \"check\"]\nmatches = \"fine\"\n[require.either]\nany_of = [\"left\", \"right\"]\n[require.left]\ntool = \"leftctl\"\n[require.right]\ntool = \"rightctl\"";
    let guide = guide::parse(&small(kinds)).unwrap_or_else(|problems| panic!("{problems}"));
    let ways = Rehearsal::new(&guide, Path::new(".")).ways(&|_| {});
    let made: BTreeSet<Cause> = ways.ways.iter().map(|way| way.cause).collect();
    // What no description has words for, or what is the trouble of another requirement or of whoever looks.
    let without = [
        "tool-unselected",
        "path-barred",
        "path-not-readable",
        "path-read-only",
        "path-no-execution",
        "path-cannot-start",
        "variable-line-ends",
        "variable-leads-nowhere",
        "service-other-holder",
        "reach-no-names",
        "checkout-unfinished",
        "checkout-not-mine",
        // A locale has it in its name: one that is wanted so cannot be met.
        "locale-encoding",
        "command-no-consent",
        "could-not-look",
        "value-unfit",
        "not-supported-here",
        "waits-for",
        "condition-unknown",
    ];
    let missing: Vec<&str> = Cause::ALL
        .iter()
        .filter(|cause| !made.contains(cause))
        .map(|cause| cause.word())
        .filter(|word| !without.contains(word))
        .collect();
    let needless: Vec<&&str> = without.iter().filter(|word| made.iter().any(|cause| cause.word() == **word)).collect();
    let untried: Vec<String> = ways
        .untried
        .iter()
        .map(|one| format!("{} {:?}: {}", guide.requirements[one.requirement].id, one.system, one.reason))
        .collect();
    assert!(
        missing.is_empty() && needless.is_empty(),
        "not made: {missing:?}; made after all: {needless:?}; untried: {untried:#?}"
    );
}

#[test]
fn the_machines_of_the_demonstration_are_rehearsed() {
    let (_keep, folder) = driftbuoy();
    let output = run(&folder, &["rehearse"]);
    assert_eq!(output.status.code(), Some(0), "{}", text(&output.stderr));
    snapshot("rehearse.txt", &text(&output.stdout));
    let output = run(&folder, &["rehearse", "--failures"]);
    assert_eq!(output.status.code(), Some(0));
    snapshot("rehearse-failures.txt", &text(&output.stdout));
    // What differs stands first and ends with 1; written into the file, it is as expected again.
    let machine = folder.join("machines/ready-workstation.toml");
    let other = fs::read_to_string(&machine).unwrap().replace("cmake = { verdict = \"met\" }", "cmake = { verdict = \"unmet\" }");
    fs::write(&machine, &other).unwrap();
    let output = run(&folder, &["rehearse"]);
    assert_eq!(output.status.code(), Some(1));
    assert!(text(&output.stdout).contains("- cmake is expected to be unmet and is met"), "{}", text(&output.stdout));
    let output = run(&folder, &["rehearse", "--expect"]);
    assert_eq!((output.status.code(), fs::read_to_string(&machine).unwrap() == other), (Some(1), true));
    assert!(
        text(&output.stdout).contains("- cmake = { verdict = \"unmet\" }\n  + cmake = { verdict = \"met\" }"),
        "{}",
        text(&output.stdout)
    );
    assert_eq!(run(&folder, &["rehearse", "--expect", "--write"]).status.code(), Some(0));
    assert_eq!(run(&folder, &["rehearse"]).status.code(), Some(0));
}

#[rstest]
#[case::no_machine_beside(&["rehearse"], 2, "there is no described machine in")]
#[case::write_without_expect(&["rehearse", "--write"], 2, "--expect")]
#[case::machines_and_failures(&["rehearse", "--failures", "--machine", "x.toml"], 2, "cannot be used with")]
#[case::a_machine_that_is_not_there(&["rehearse", "--machine", "x.toml"], 2, "x.toml")]
#[case::a_page_into_a_file(&["render", "html", "--into", "x.html"], 2, "only markdown goes into another file")]
#[case::nothing_to_verify(&["render", "sh", "--verify"], 2, "there is nothing to verify")]
#[case::a_stale_script(&["render", "sh", "--verify", "--output", "no-such.sh"], 1, "no-such.sh is stale")]
#[case::nothing_to_follow(&["witness"], 2, "COMMAND")]
fn wrong_use_is_told(#[case] arguments: &[&str], #[case] status: i32, #[case] says: &str) {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("setup-guide.toml"), small("[require.git]\ntool = \"git\"")).unwrap();
    let output = run(folder.path(), arguments);
    assert_eq!(output.status.code(), Some(status), "{}", text(&output.stderr));
    assert!(text(&output.stderr).contains(says), "{}", text(&output.stderr));
}

#[test]
fn a_guide_with_a_gap_ends_in_nothing_and_says_where() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("setup-guide.toml"), small("systems = [\"windows\"]\n[require.chartctl]\ntool = \"chartctl\""))
        .unwrap();
    let output = run(folder.path(), &["rehearse", "--failures", "--format", "json"]);
    assert_eq!(output.status.code(), Some(1));
    let said: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(said["groups"][0]["end"], "nothing");
    assert_eq!(said["groups"][0]["ways"][0]["cause"], "tool-missing");
    let output = run(folder.path(), &["rehearse", "--failures", "--format", "junit"]);
    let junit = text(&output.stdout);
    let tree = roxmltree::Document::parse(&junit).unwrap();
    let failed: Vec<&str> = tree
        .descendants()
        .filter(|node| node.has_tag_name("testcase") && node.children().any(|child| child.has_tag_name("failure")))
        .filter_map(|node| node.attribute("name"))
        .collect();
    assert_eq!(failed, ["windows tool-missing"]);
}

#[test]
fn what_a_stranger_wrote_is_text_in_every_form() {
    let body = "[require.x]\ntool = \"git\"\ntitle = \"<script>alert(1)</script> & <!-- x\"\nwhy = \"](javascript:x) `rm` | {{ 7 * 7 }}\"\ndocs = \"https://a.example/?q=<b>\"";
    let guide = guide::parse(&small(body)).unwrap();
    let html = guide_html(&guide).unwrap();
    assert!(!html.contains("<script>alert") && html.contains("&lt;script&gt;alert(1)") && html.contains("{{ 7 * 7 }}"));
    assert_eq!(html.matches("<script").count(), 1, "only ours");
    // Nothing is fetched: what is named is only followed by a person.
    for fetched in [" src=", "@import", "url(", "<link rel=\"stylesheet"] {
        assert!(!html.contains(fetched), "{fetched}");
    }
    let ways = Rehearsal::new(&guide, Path::new(".")).ways(&|_| {});
    assert!(roxmltree::Document::parse(&rehearsal_junit(Rehearsed::Failures(&guide, &ways))).is_ok());
    assert!(!rehearsal_html(Rehearsed::Failures(&guide, &ways)).unwrap().contains("<script"));
}

#[test]
fn markdown_is_kept_true_between_its_marks() {
    let (_keep, folder) = driftbuoy();
    let file = folder.join("CONTRIBUTING.md");
    // As it was before the demonstration's maintainer put the guide into it.
    let before = REPOSITORY.iter().find(|(name, _)| *name == "CONTRIBUTING.md").unwrap().1;
    fs::write(&file, before).unwrap();
    assert_eq!(
        run(&folder, &["render", "markdown", "--into", "CONTRIBUTING.md", "--verify"]).status.code(),
        Some(1),
        "it has no marks yet"
    );
    assert_eq!(run(&folder, &["render", "markdown", "--into", "CONTRIBUTING.md"]).status.code(), Some(0));
    let with = fs::read_to_string(&file).unwrap();
    assert!(with.starts_with(before), "all else stays");
    snapshot("render-markdown.txt", with.strip_prefix(before).unwrap());
    assert_eq!(run(&folder, &["render", "markdown", "--into", "CONTRIBUTING.md", "--verify"]).status.code(), Some(0));
    let guide = folder.join("setup-guide.toml");
    fs::write(&guide, fs::read_to_string(&guide).unwrap().replace(">= 3.25, < 5", ">= 3.28, < 5")).unwrap();
    let output = run(&folder, &["render", "markdown", "--into", "CONTRIBUTING.md", "--verify"]);
    assert_eq!(output.status.code(), Some(1));
    assert!(text(&output.stderr).contains("CONTRIBUTING.md is stale"));
    assert_eq!(fs::read_to_string(&file).unwrap(), with, "nothing is written");
    // Marks that say nothing of where are told, and nothing is lost.
    fs::write(&file, with.replace("<!-- setup guide: end -->", "")).unwrap();
    assert_eq!(run(&folder, &["render", "markdown", "--into", "CONTRIBUTING.md"]).status.code(), Some(2));
}
