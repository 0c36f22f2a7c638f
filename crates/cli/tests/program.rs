//! The program as people and scripts use it: words, formats, exit statuses, mistakes.

use crate::harness::{Bench, demonstration, text};
use rstest::rstest;
use serde_json::Value;
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::path::Path;

fn snapshot(name: &str) -> Data {
    Data::read_from(&Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots").join(name), None)
}

fn demo() -> Bench {
    let bench = Bench::new("[require.unused]\ncores = 1\n");
    demonstration(&bench.project().join("sea"));
    bench
}

#[rstest]
#[case::laptop_for_firmware("laptop-80.txt", "80", &["--machine", "sea/machines/clean-debian-laptop.toml", "--role", "firmware"], 1)]
#[case::laptop_narrow("laptop-50.txt", "50", &["--machine", "sea/machines/clean-debian-laptop.toml", "--role", "firmware"], 1)]
#[case::server_plain_and_verbose("server-verbose.txt", "80", &["--machine", "sea/machines/shared-server.toml", "--role", "shore", "--plain", "-v"], 1)]
#[case::ready_for_nothing("ready-for-nothing.txt", "80", &["--machine", "sea/machines/ready-workstation.toml", "--role", "shore", "--only", "cmake"], 0)]
#[case::workstation_quiet("workstation-quiet.txt", "80", &["--machine", "sea/machines/ready-workstation.toml", "-q"], 0)]
fn reports_read_like_this(#[case] name: &str, #[case] columns: &str, #[case] arguments: &[&str], #[case] status: i32) {
    let bench = demo();
    let shown = report(&bench, columns, arguments, status);
    assert_eq!(too_wide(&shown, columns), Vec::<&str>::new());
    assert_data_eq!(shown, snapshot(name));
}

fn report(bench: &Bench, columns: &str, arguments: &[&str], status: i32) -> String {
    let mut all = vec!["preflight", "--guide", "sea"];
    all.extend(arguments);
    let output = bench.command(&[], &all).env("COLUMNS", columns).output().unwrap();
    assert_eq!(output.status.code(), Some(status));
    text(&output.stdout)
}

/// Commands are copied as they stand; everything else fits.
fn too_wide<'t>(shown: &'t str, columns: &str) -> Vec<&'t str> {
    let width: usize = columns.parse().unwrap();
    let commands = ["setup-ready ", "sudo ", "echo ", "printf ", "winget ", "[Environment]::", "Add-Content "];
    let copied = |line: &str| commands.iter().any(|command| line.trim_start().starts_with(command));
    shown.lines().filter(|line| line.chars().count() > width && !copied(line)).collect()
}

#[rstest]
fn the_machines_of_the_demonstration_read_like_this(
    #[values(
        ("build-container", 1),
        ("clean-debian-laptop", 1),
        ("linux-inside-windows", 1),
        ("old-macbook", 1),
        ("ready-workstation", 0),
        ("shared-server", 1),
        ("workshop-windows-pc", 1)
    )]
    machine: (&str, i32),
    #[values("60", "80", "120")] columns: &str,
) {
    let ((name, status), bench) = (machine, demo());
    let file = format!("sea/machines/{name}.toml");
    let plain = report(&bench, columns, &["--machine", &file], status);
    // Compared as they are: paths of the machine that is described are none of the one that compares.
    assert_eq!(too_wide(&plain, columns), Vec::<&str>::new());
    assert_data_eq!(plain.clone(), snapshot(&format!("machines/{name}-{columns}.txt")).raw());

    let coloured = report(&bench, columns, &["--machine", &file, "--color", "always"], status);
    assert_eq!(anstream::adapter::strip_str(&coloured).to_string(), plain, "colour changes nothing but colour");
    // An escape stands here as a sign that an editor shows.
    assert_data_eq!(coloured.replace('\u{1b}', "\u{241b}"), snapshot(&format!("machines/{name}-{columns}-coloured.txt")).raw());
}

#[test]
fn the_demonstration_reads_like_this_and_writes_only_where_it_says() {
    let bench = Bench::new("[require.unused]\ncores = 1\n");
    let output = bench.run(&["demo", "--into", "sea"]);
    assert_eq!(output.status.code(), Some(0));
    assert_data_eq!(text(&output.stdout), snapshot("demo.txt"));
    assert_eq!(std::fs::read_dir(bench.project()).unwrap().count(), 2);
    let again = bench.run(&["demo", "--into", "sea"]);
    assert_eq!(again.status.code(), Some(4));
    assert!(text(&again.stderr).contains("sea cannot be written"));
}

#[rstest]
#[case::a_cause("explain-cause.txt", &["explain", "virt-firmware-off", "--guide", "sea"])]
#[case::a_requirement("explain-requirement.txt", &["explain", "cmake", "--guide", "sea", "--machine", "sea/machines/shared-server.toml"])]
#[case::the_list("explain-list.txt", &["explain", "--guide", "sea"])]
#[case::help("help.txt", &["--help"])]
#[case::help_of_preflight("help-preflight.txt", &["preflight", "--help"])]
fn words_are_explained_like_this(#[case] name: &str, #[case] arguments: &[&str]) {
    let bench = demo();
    let output = bench.run(arguments);
    assert_eq!(output.status.code(), Some(0));
    assert_data_eq!(text(&output.stdout), snapshot(name));
}

#[test]
fn mistakes_in_a_guide_are_shown_with_their_places() {
    let bench = Bench::new(
        "[require.cmake]\ntool = \"cmake\"\nverison = \">= 3.25\"\n[require.charts]\ndisk = \"12 gigs\"\nat = \"~\"\n[require.port]\nport = 7070
         stage = \"machin\"\nwhen = \"linux and macso\"\n[require.evil]\ntool = \"git\"\ntitle = 5\n\"\\u001B[31m\" = 1\n",
    );
    let output = bench.run(&["preflight"]);
    assert_eq!((output.status.code(), output.stdout.len()), (Some(2), 0));
    let shown = text(&output.stderr);
    assert!(!shown.contains('\u{1b}'));
    assert_data_eq!(shown, snapshot("mistakes.txt"));
}

#[rstest]
#[case::not_utf8(&b"format = 1\nname = \"\xff\"\n"[..], "line 2 holds the byte 0xff")]
#[case::not_toml(b"format = 1\n[project\n", "this is not TOML")]
#[case::another_format(b"format = 3\n", "format 3 is not known")]
#[case::empty(b"", "must start with `format = 1`")]
fn what_is_no_guide_is_refused(#[case] guide: &[u8], #[case] part: &str) {
    let output = Bench::with_guide(guide).run(&["preflight"]);
    assert_eq!(output.status.code(), Some(2));
    assert!(text(&output.stderr).contains(part), "{}", text(&output.stderr));
}

#[test]
fn guides_that_are_too_large_or_not_there_are_refused_with_the_reason() {
    let bench = Bench::with_guide(vec![b' '; 50_000_000]);
    let output = bench.run(&["preflight"]);
    assert_eq!(output.status.code(), Some(2));
    let shown = text(&output.stderr).split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(shown.contains("larger than 4194304 bytes, which is the most that is read"), "{shown}");
    std::fs::remove_file(bench.project().join("setup-guide.toml")).unwrap();
    let output = bench.run(&["preflight"]);
    assert_eq!(output.status.code(), Some(2));
    assert!(text(&output.stderr).contains("there is no setup-guide.toml in"));
    assert_eq!(bench.run(&["explain", "port-held"]).status.code(), Some(0), "a cause needs no guide");
}

#[rstest]
#[case::a_role(&["preflight", "--role", "firmwre"], "Did you mean firmware?")]
#[case::a_requirement(&["preflight", "--only", "cmaek"], "Did you mean cmake?")]
#[case::a_word_to_explain(&["explain", "tool-too-odl"], "Did you mean tool-too-old?")]
#[case::a_command(&["prefligth"], "preflight")]
#[case::an_option(&["preflight", "--rol", "x"], "--role")]
#[case::a_time(&["preflight", "--time-limit", "10"], "is not a unit here")]
#[case::a_machine_that_is_not_there(&["preflight", "--machine", "nowhere.toml"], "nowhere.toml cannot be read")]
fn a_wrong_word_gets_the_nearest_right_one(#[case] arguments: &[&str], #[case] part: &str) {
    let bench = demo();
    let mut all = arguments.to_vec();
    all.extend(["--guide", "sea"]);
    let output = bench.run(&all);
    assert_eq!(output.status.code(), Some(2));
    assert!(text(&output.stderr).contains(part), "{}", text(&output.stderr));
}

#[test]
fn what_cannot_be_found_out_makes_it_undecided() {
    let output = Bench::new("[require.x]\ncommand = [\"ls\"]\n").run(&["preflight", "-q"]);
    assert_eq!(output.status.code(), Some(3));
    assert!(text(&output.stdout).starts_with("UNDECIDED"));
}

#[test]
fn json_has_the_fields_that_scripts_rely_on() {
    let bench = demo();
    let machine = "sea/machines/shared-server.toml";
    let (status, report) = bench.report(&[], &["--guide", "sea", "--machine", machine, "--role", "shore"]);
    assert_eq!(status, 1);
    let has = |value: &Value, keys: &[&str]| {
        let missing: Vec<&&str> = keys.iter().filter(|key| value.get(**key).is_none()).collect();
        assert!(missing.is_empty(), "{missing:?} in {value}");
    };
    let top = [
        "format",
        "software",
        "project",
        "guide",
        "machine",
        "role",
        "started",
        "elapsed_ms",
        "outcome",
        "counts",
        "requirements",
        "plan",
    ];
    has(&report, &top);
    has(&report["guide"], &["path", "sha256"]);
    has(&report["machine"], &["source", "name", "os", "os_version", "distro", "distro_version", "arch", "flags"]);
    has(&report["counts"], &["met", "unmet", "unknown", "blocked", "skipped"]);
    has(&report["plan"], &["steps", "download_bytes", "takes_s", "then"]);
    let keys = [
        "id",
        "stage",
        "kind",
        "level",
        "title",
        "verdict",
        "cause",
        "found",
        "wanted",
        "message",
        "why",
        "evidence",
        "blocked_by",
        "fixes",
        "elapsed_ms",
    ];
    for one in report["requirements"].as_array().unwrap() {
        has(one, &keys);
        one["evidence"].as_array().unwrap().iter().for_each(|seen| has(seen, &["asked", "saw"]));
        let keys = ["say", "run", "admin", "then", "caution", "download_bytes", "takes_s", "source"];
        one["fixes"].as_array().unwrap().iter().for_each(|fix| has(fix, &keys));
    }
    report["plan"]["steps"].as_array().unwrap().iter().for_each(|step| has(step, &["say", "run", "settles", "admin", "then"]));
    assert_eq!(report["format"], 1);
    assert_eq!(report["guide"]["sha256"].as_str().unwrap().len(), 64);
    assert_eq!((report["machine"]["source"].as_str(), report["machine"]["distro"].as_str()), (Some("described"), Some("ubuntu")));
    assert_eq!((report["role"].as_str(), report["outcome"].as_str()), (Some("shore"), Some("not-ready")));
    let started = report["started"].as_str().unwrap();
    assert!(started.len() == 20 && started.ends_with('Z'), "{started}");
}

#[test]
fn a_result_goes_whole_into_a_file_and_colour_only_where_it_is_wanted() {
    let bench = demo();
    let machine = ["preflight", "--guide", "sea", "--machine", "sea/machines/ready-workstation.toml"];
    let with = |more: &[&str]| bench.run(&[&machine[..], more].concat());
    assert_eq!(with(&["--output", "report.txt"]).stdout.len(), 0);
    assert!(std::fs::read_to_string(bench.project().join("report.txt")).unwrap().contains("READY"));
    assert_eq!(with(&["--output", "nowhere/report.txt"]).status.code(), Some(4));
    assert!(!text(&with(&[]).stdout).contains('\u{1b}'));
    assert!(text(&with(&["--color", "always"]).stdout).contains("\u{1b}["));
    assert!(text(&bench.run(&["completions", "bash"]).stdout).contains("setup-ready"));
}

#[rstest]
#[case::everything(&[], &["early", "late", "running", "docs"], 4)]
#[case::one_stage_and_what_it_waits_for(&["--stage", "second"], &["early", "late"], 2)]
#[case::one_requirement_and_what_it_waits_for(&["--only", "late"], &["early", "late"], 2)]
#[case::several(&["--only", "early,docs"], &["early", "docs"], 2)]
#[case::also_what_must_be_running(&["--after-start"], &["early", "late", "running", "docs"], 4)]
#[case::one_role(&["--role", "shore"], &["early", "late", "running", "docs"], 4)]
fn only_what_is_asked_for_is_checked(#[case] arguments: &[&str], #[case] ids: &[&str], #[case] count: usize) {
    let bench = Bench::new(
        "[role.shore]\n[role.docs]\n[[stage]]\nid = \"first\"\n[[stage]]\nid = \"second\"\n[[stage]]\nid = \"third\"\nafter_start = true
         [require.early]\nstage = \"first\"\ntool = \"buoy-nowhere\"\n[require.late]\nstage = \"second\"\ncores = 1\nafter = [\"early\"]
         [require.running]\nstage = \"third\"\ncores = 1\n[require.docs]\nstage = \"first\"\ncores = 1\nroles = [\"docs\"]\n",
    );
    let (_, report) = bench.report(&[], arguments);
    let found: Vec<&str> = report["requirements"].as_array().unwrap().iter().map(|one| one["id"].as_str().unwrap()).collect();
    assert_eq!((found.as_slice(), found.len()), (ids, count));
    let verdict = |id: &str| {
        report["requirements"].as_array().unwrap().iter().find(|one| one["id"] == id).map(|one| one["verdict"].clone())
    };
    if let Some(running) = verdict("running") {
        assert_eq!(running, if arguments.contains(&"--after-start") { "met" } else { "skipped" });
    }
    if let Some(docs) = verdict("docs") {
        assert_eq!(docs, if arguments.contains(&"shore") { "skipped" } else { "met" });
    }
    if let (Some(late), true) = (verdict("late"), found.contains(&"early")) {
        assert_eq!(late, "blocked");
    }
}

#[cfg(unix)]
#[rstest]
#[case::of_bash("bash", &["bash", "-n"])]
#[ignore = "needs zsh"]
#[case::of_zsh("zsh", &["zsh", "-n"])]
#[ignore = "needs fish"]
#[case::of_fish("fish", &["fish", "--no-execute"])]
fn completions_are_read_by_their_shell(#[case] shell: &str, #[case] checker: &[&str]) {
    let bench = Bench::new("[require.unused]\ncores = 1\n");
    let output = bench.run(&["completions", shell, "--output", "completion"]);
    assert_eq!((output.status.code(), output.stdout.len()), (Some(0), 0));
    let script = bench.project().join("completion");
    assert!(std::fs::read_to_string(&script).unwrap().contains("preflight"));
    let checked = std::process::Command::new(checker[0]).args(&checker[1..]).arg(&script).output().unwrap();
    assert!(checked.status.success(), "{checked:?}");
}

#[test]
fn every_cause_has_a_page_and_explaining_looks_at_the_machine_now() {
    let bench = demo();
    for cause in setup_ready_core::cause::Cause::ALL.iter().step_by(7) {
        let output = bench.run(&["explain", cause.word()]);
        assert_eq!(output.status.code(), Some(0));
        let shown = text(&output.stdout).split_whitespace().collect::<Vec<_>>().join(" ");
        assert!(
            shown.starts_with(cause.word()) && shown.contains(cause.page().meaning) && shown.contains(cause.page().cure),
            "{shown}"
        );
    }
    let explain = |machine: &str, id: &str| {
        let machine = format!("sea/machines/{machine}.toml");
        text(&bench.run(&["explain", id, "--guide", "sea", "--machine", &machine]).stdout)
            .split_whitespace()
            .collect::<Vec<_>>()
            .join(" ")
    };
    assert!(explain("old-macbook", "compiler").contains("It was not started. (tool-placeholder)"));
    assert!(explain("old-macbook", "compiler").contains("xcode-select --install"));
    assert!(explain("workshop-windows-pc", "shore-port").contains("SHORE_PORT=7071"));
    assert!(explain("linux-inside-windows", "node").contains("No version is set for command node (tool-unselected)"));
}
