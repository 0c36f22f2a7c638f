//! Many machines, with the program as maintainers use it: reports in each form by readers that are not ours, machines beside each other, surveys, and what
//! cannot be read.

use crate::harness::{demonstration, text};
#[cfg(not(windows))]
use build_setup_ready::demo::class;
use build_setup_ready::demo::{GUIDE, MACHINES};
use build_setup_ready::{Described, Preflight};
use rstest::rstest;
use serde_json::Value;
use setup_ready_core::compare::{Side, compare};
#[cfg(not(windows))]
use setup_ready_core::compare::{deciding, verdict_with};
use setup_ready_core::guide;
#[cfg(not(windows))]
use setup_ready_core::observation::Observation;
#[cfg(not(windows))]
use setup_ready_core::selection::Selection;
use setup_ready_core::verdict::Verdict;
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::collections::BTreeMap;
use std::fs;
#[cfg(unix)]
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};
use std::sync::Arc;

fn run(folder: &Path, arguments: &[&str]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
    command
        .args(arguments)
        .current_dir(folder)
        .env_remove("COLUMNS")
        .env("XDG_STATE_HOME", folder.join("state"))
        .output()
        .unwrap()
}

/// The demonstration, with its class.
fn driftbuoy() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let into = folder.path().join("driftbuoy");
    demonstration(&into);
    (folder, into)
}

/// Times and versions of the software are another each time.
fn timeless(text: &str) -> String {
    let moment = regex::Regex::new(r"20\d\d-\d\d-\d\dT\d\d:\d\d:\d\dZ").unwrap();
    moment.replace_all(text, "MOMENT").into_owned()
}

#[rstest]
#[case::compare("compare.txt", "80", &["compare", "machines/ready-workstation.toml", "machines/shared-server.toml", "--role", "shore"], 1)]
#[case::compare_in_a_narrow_terminal("compare-50.txt", "50", &["compare", "machines/ready-workstation.toml", "machines/shared-server.toml", "--role", "shore"], 1)]
#[case::the_odd_one_out("compare-many.txt", "80", &["compare", "machines/clean-debian-laptop.toml", "machines/ready-workstation.toml", "machines/build-container.toml", "--only", "cmake,memory"], 1)]
#[case::the_same("compare-same.txt", "80", &["compare", "class/newcomer-05.recording.json", "class/newcomer-05.recording.json"], 0)]
#[case::compare_as_markdown("compare.md", "80", &["compare", "machines/ready-workstation.toml", "machines/shared-server.toml", "--role", "docs", "--format", "markdown"], 1)]
#[case::survey("survey.txt", "80", &["survey", "class", "--by", "distro", "--what-if", "cmake >= 3.28"], 0)]
#[case::survey_in_a_narrow_terminal("survey-50.txt", "50", &["survey", "class", "--by", "role"], 0)]
#[case::to_paste("report.md", "80", &["preflight", "--machine", "machines/clean-debian-laptop.toml", "--role", "docs", "--format", "markdown"], 1)]
#[case::as_tests("report.tap", "80", &["preflight", "--machine", "machines/clean-debian-laptop.toml", "--role", "docs", "--format", "tap"], 1)]
fn what_is_shown_reads_like_this(#[case] name: &str, #[case] columns: &str, #[case] arguments: &[&str], #[case] status: i32) {
    let (_folder, into) = driftbuoy();
    let output = Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(arguments)
        .current_dir(&into)
        .env("COLUMNS", columns)
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(status), "{}", text(&output.stderr));
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots").join(name);
    assert_data_eq!(timeless(&text(&output.stdout)), Data::read_from(&path, None).raw());
}

#[test]
fn each_form_of_a_report_is_read_by_readers_that_are_not_ours() {
    let (_folder, into) = driftbuoy();
    let machine = "machines/shared-server.toml";
    let forms = ["junit=r.xml", "tap=r.tap", "markdown=r.md", "html=r.html", "sarif=r.sarif", "json=r.json"];
    let mut arguments = vec!["preflight", "--machine", machine, "-q"];
    for form in &forms {
        arguments.extend(["--also", form]);
    }
    let output = run(&into, &arguments);
    assert_eq!(output.status.code(), Some(1), "{}", text(&output.stderr));
    let read = |name: &str| fs::read_to_string(into.join(name)).unwrap();
    let report: Value = serde_json::from_str(&read("r.json")).unwrap();
    let counting = || report["requirements"].as_array().unwrap().iter().filter(|one| one["is_alternative"] == false);
    let count = |verdict: &str, must: bool| {
        counting().filter(|one| one["verdict"] == verdict && (!must || one["level"] == "must")).count()
    };

    let parsed = junit_parser::from_reader(read("r.xml").as_bytes()).unwrap();
    let numbers = [parsed.tests, parsed.failures, parsed.errors];
    let counted = [counting().count(), count("unmet", true), count("unknown", false)].map(|count| u64::try_from(count).unwrap());
    assert_eq!(numbers, counted);
    let other = quick_junit::Report::deserialize_from_str(&read("r.xml")).unwrap();
    assert_eq!(other.test_suites.iter().map(|suite| suite.test_cases.len()).sum::<usize>(), counting().count());

    let prove = Command::new("prove").args(["--exec", "cat", "-v", "r.tap"]).current_dir(&into).output();
    if let Ok(prove) = prove {
        let said = text(&prove.stdout);
        assert!(
            !said.contains("Parse errors") && said.contains(&format!("Tests={}", counting().count())),
            "{said}{}",
            text(&prove.stderr)
        );
    }

    let schema: Value = serde_json::from_str(include_str!("schemas/sarif-2.1.0.json")).unwrap();
    let sarif: Value = serde_json::from_str(&read("r.sarif")).unwrap();
    let complaints: Vec<String> =
        jsonschema::validator_for(&schema).unwrap().iter_errors(&sarif).map(|error| error.to_string()).collect();
    assert!(complaints.is_empty(), "{complaints:#?}");
    let guide_text = fs::read_to_string(into.join("setup-guide.toml")).unwrap();
    let results = sarif["runs"][0]["results"].as_array().unwrap();
    assert_eq!(results.len(), count("unmet", false) + count("unknown", false));
    for one in results {
        let line = one["locations"][0]["physicalLocation"]["region"]["startLine"].as_u64().unwrap();
        let id = one["message"]["text"].as_str().unwrap().split(':').next().unwrap();
        assert_eq!(guide_text.lines().nth(usize::try_from(line).unwrap() - 1).unwrap(), format!("[require.{id}]"));
    }

    // Markdown: each command is in a block, whole, and nothing became markup.
    let mut html = String::new();
    let markdown = read("r.md");
    pulldown_cmark::html::push_html(&mut html, pulldown_cmark::Parser::new(&markdown));
    assert!(html.contains("<pre><code>") && !html.contains("<em>") && !html.contains("<a "), "{html}");
    assert!(!markdown.contains("mate"), "the person is not in it");
    // The page is XML too, but for its doctype and empty elements.
    let page = read("r.html");
    assert!(!page.contains("mate") && page.contains("Copy"), "the person is not in it");
    let with_names = text(&run(&into, &["preflight", "--machine", machine, "--format", "markdown", "--with-names"]).stdout);
    assert!(with_names.contains("/home/mate"), "{with_names}");
}

/// Pairs of made-up machines, and those of the demonstration.
#[cfg(not(windows))]
fn pairs() -> Vec<(String, String)> {
    let mut machines: Vec<String> = MACHINES.iter().map(|machine| machine.text.to_owned()).collect();
    machines.extend(class(11, 12).into_iter().map(|newcomer| newcomer.machine));
    let mut pairs = Vec::new();
    for (at, one) in machines.iter().enumerate() {
        pairs.extend(machines.iter().skip(at + 1).step_by(5).map(|other| (one.clone(), other.clone())));
    }
    pairs
}

/// With the deciding facts of the one, the other comes to the same; and each of them is needed for that. The engine is the same everywhere, and under
/// Wine this takes minutes.
#[cfg(not(windows))]
#[test]
fn the_deciding_facts_decide_and_none_of_them_can_be_left_out() {
    let guide = Arc::new(guide::parse(GUIDE).unwrap());
    let (mut decided, mut facts) = (0, 0);
    for (one, other) in pairs() {
        let report = |text: &str| {
            let machine = Described::parse(text).unwrap();
            Preflight::new(Arc::clone(&guide)).run(&machine).unwrap()
        };
        let (one, other) = (report(&one), report(&other));
        for (index, requirement) in guide.requirements.iter().enumerate() {
            let verdict =
                |report: &setup_ready_core::report::Report| report.settled_at(index).map(|settled| settled.finding.verdict());
            if verdict(&one) == verdict(&other) {
                continue;
            }
            let found = deciding(&guide, index, (&one.known, &one.selection), (&other.known, &other.selection));
            let found = found.unwrap_or_else(|| panic!("{}: nothing decides it", requirement.id));
            // By itself, or among all that was chosen: whichever differs at all.
            let alone = Selection { only: vec![index], ..other.selection.clone() };
            let comes = |selection: &Selection, exchanged: &[_]| {
                verdict_with(&guide, index, (&one.known, &other.known), selection, exchanged).unwrap().0
            };
            let by_itself = |report: &setup_ready_core::report::Report| {
                verdict_with(&guide, index, (&report.known, &report.known), &alone, &[]).unwrap().0
            };
            let selection = if by_itself(&one) == by_itself(&other) { other.selection.clone() } else { alone.clone() };
            let wanted = if by_itself(&one) == by_itself(&other) { verdict(&one).unwrap() } else { by_itself(&one) };
            assert_eq!(comes(&selection, &found), wanted, "{}", requirement.id);
            for left_out in 0..found.len() {
                let mut fewer = found.clone();
                fewer.remove(left_out);
                assert_ne!(comes(&selection, &fewer), wanted, "{}: {} is not needed", requirement.id, found[left_out]);
            }
            decided += 1;
            facts += found.len();
        }
    }
    assert!(decided > 150, "{decided} differences");
    assert!(facts < decided * 2, "few facts suffice: {facts} for {decided}");
}

/// Values that are a little different at one place of an answer, with the way to that place.
#[cfg(not(windows))]
fn a_little_different(value: &Value, way: &str, made: &mut Vec<(String, Value)>) {
    let mut with = |new: Value| made.push((way.to_owned(), new));
    match value {
        Value::Bool(holds) => with(Value::Bool(!holds)),
        Value::Number(number) => with(Value::from(number.as_i64().unwrap_or(0) + 1)),
        Value::String(text) => with(Value::from(format!("{text}.1"))),
        Value::Null => {}
        Value::Array(list) => {
            for (at, one) in list.iter().enumerate() {
                let mut inside = Vec::new();
                a_little_different(one, &format!("{way}/*"), &mut inside);
                made.extend(inside.into_iter().map(|(way, new)| {
                    let mut changed = list.clone();
                    changed[at] = new;
                    (way, Value::Array(changed))
                }));
            }
        }
        Value::Object(table) => {
            for (key, one) in table {
                let mut inside = Vec::new();
                a_little_different(one, &format!("{way}/{key}"), &mut inside);
                made.extend(inside.into_iter().map(|(way, new)| {
                    let mut changed = table.clone();
                    changed.insert(key.clone(), new);
                    (way, Value::Object(changed))
                }));
            }
        }
    }
}

/// Whatever a verdict may rest on can be seen where two answers stand side by side: nobody reads `8 GB` beside `8 GB`.
#[cfg(not(windows))]
#[test]
fn two_answers_that_differ_are_shown_to_differ() {
    let guide = Arc::new(guide::parse(GUIDE).unwrap());
    let (mut tried, mut alike) = (0, BTreeMap::new());
    for machine in MACHINES {
        let known = Preflight::new(Arc::clone(&guide)).run(&Described::parse(machine.text).unwrap()).unwrap().known;
        for answer in known.iter() {
            let mut made = Vec::new();
            a_little_different(&serde_json::to_value(&*answer.observation).unwrap(), "", &mut made);
            for (way, changed) in made {
                let Ok(changed) = serde_json::from_value::<Observation>(changed) else { continue };
                if changed == *answer.observation {
                    continue;
                }
                tried += 1;
                let (one, other) = answer.observation.apart(&changed);
                // The last resort, which nobody should have to read.
                if one == other || one == format!("{:?}", answer.observation) {
                    alike.insert(way, one);
                }
            }
        }
    }
    assert!(tried > 1_000, "{tried} answers");
    assert!(alike.is_empty(), "{alike:#?}");
}

#[test]
fn reports_alone_are_compared_by_what_they_say() {
    let (_folder, into) = driftbuoy();
    for name in ["shared-server", "ready-workstation"] {
        run(
            &into,
            &[
                "preflight",
                "--machine",
                &format!("machines/{name}.toml"),
                "--format",
                "json",
                "--output",
                &format!("{name}.json"),
            ],
        );
    }
    let elsewhere = tempfile::tempdir().unwrap();
    let file = |name: &str| into.join(name).display().to_string();
    let output =
        run(elsewhere.path(), &["compare", &file("shared-server.json"), &file("ready-workstation.json"), "--format", "json"]);
    assert_eq!(output.status.code(), Some(1), "{}", text(&output.stderr));
    let found: Value = serde_json::from_slice(&output.stdout).unwrap();
    let sqlite = found["differences"].as_array().unwrap().iter().find(|one| one["id"] == "sqlite").unwrap();
    assert_eq!(
        (sqlite["certain"].as_bool(), sqlite["deciding"][0]["asked"].as_str()),
        (Some(false), Some("/usr/bin/sqlite3 --version"))
    );
}

/// One machine's two recordings under a corrected guide: what nobody asked is unknown, what changed is judged anew.
#[test]
fn another_range_costs_what_assessing_again_says() {
    let (_folder, into) = driftbuoy();
    let survey = |arguments: &[&str]| -> Value {
        let output = run(&into, &[&["survey", "class", "--format", "json"], arguments].concat());
        assert_eq!(output.status.code(), Some(0), "{}", text(&output.stderr));
        serde_json::from_slice(&output.stdout).unwrap()
    };
    let asked = survey(&["--what-if", "cmake >= 3.28"]);
    let guide_text = fs::read_to_string(into.join("setup-guide.toml")).unwrap();
    fs::write(into.join("setup-guide.toml"), guide_text.replace("version = \">= 3.25, < 5\"", "version = \">= 3.28\"")).unwrap();
    let later = survey(&[]);
    let unmet = |survey: &Value| {
        survey["stops"].as_array().unwrap().iter().find(|one| one["requirement"] == "cmake").unwrap()["machines"]["count"]
            .as_u64()
            .unwrap()
    };
    assert_eq!(unmet(&later) - unmet(&asked), asked["what_if"]["lost"].as_u64().unwrap());
    assert_eq!(asked["what_if"]["not_met_already"].as_u64().unwrap(), unmet(&asked));
}

#[rstest]
#[case::rehearsed_beside_described_ones(&["rehearse", "--machine", "class/newcomer-01.recording.json", "--machine", "machines/shared-server.toml"], 0, "newcomer-01")]
#[case::expecting_nothing(&["rehearse", "--expect", "--machine", "class/newcomer-01.recording.json"], 2, "is a recording")]
#[case::explained(&["explain", "cmake", "--machine", "class/newcomer-01.recording.json"], 0, "cmake")]
#[case::planned(&["plan", "--machine", "class/newcomer-01.recording.json"], 1, "Install cmake")]
#[case::not_walked_through(&["walk", "--machine", "class/newcomer-01.recording.json"], 2, "stays as it is")]
fn recordings_are_taken_where_described_machines_are(#[case] arguments: &[&str], #[case] status: i32, #[case] says: &str) {
    let (_folder, into) = driftbuoy();
    let output = run(&into, arguments);
    let said = text(&output.stdout) + &text(&output.stderr);
    assert_eq!(output.status.code(), Some(status), "{said}");
    assert!(said.contains(says), "{said}");
}

#[cfg(unix)]
#[test]
fn reports_come_in_files_in_lines_compressed_and_through_a_pipe() {
    let (_folder, into) = driftbuoy();
    fs::create_dir(into.join("sent")).unwrap();
    let mut lines: Vec<u8> = Vec::new();
    for machine in MACHINES {
        let (name, file) = (machine.name, format!("machines/{}.toml", machine.name));
        let written = run(&into, &["preflight", "--machine", &file, "--format", "json"]);
        fs::write(into.join("sent").join(format!("{name}.json")), &written.stdout).unwrap();
        let value: Value = serde_json::from_slice(&written.stdout).unwrap();
        writeln!(lines, "{value}").unwrap();
    }
    let count = |paths: &[&str], input: Option<&[u8]>| {
        let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
        command
            .args(["survey", "--format", "json"])
            .args(paths)
            .current_dir(&into)
            .stdin(std::process::Stdio::piped())
            .stdout(std::process::Stdio::piped());
        let mut child = command.spawn().unwrap();
        child.stdin.take().unwrap().write_all(input.unwrap_or_default()).unwrap();
        let output = child.wait_with_output().unwrap();
        assert_eq!(output.status.code(), Some(0), "{paths:?}");
        let mut found: Value = serde_json::from_slice(&output.stdout).unwrap();
        found.as_object_mut().unwrap().remove("days");
        found
    };
    let folder = count(&["sent"], None);
    assert_eq!(folder["reports"], 7);
    assert_eq!(count(&["-"], Some(&lines)), folder);
    fs::write(into.join("all.ndjson"), &lines).unwrap();
    assert!(Command::new("gzip").arg("all.ndjson").current_dir(&into).status().unwrap().success());
    assert_eq!(count(&["all.ndjson.gz"], None), folder);
    assert_eq!(count(&["all.ndjson.gz", "--jobs", "1"], None), folder);
}

/// The list was written before anything read them. Each is named, and the others go on.
#[cfg(unix)]
#[test]
fn what_cannot_be_used_is_named_with_the_reason_and_the_others_go_on() {
    let list: toml::Table = include_str!("recordings/bad.toml").parse().unwrap();
    let (_folder, into) = driftbuoy();
    let good = fs::read_to_string(into.join("class/newcomer-01.recording.json")).unwrap();
    let report = text(&run(&into, &["preflight", "--machine", "machines/shared-server.toml", "--format", "json"]).stdout);
    for case in list["bad"].as_array().unwrap() {
        let (name, does) = (case["name"].as_str().unwrap(), case["does"].as_str().unwrap());
        for (sort, whole) in [("recording", &good), ("report", &report)] {
            let folder = into.join("sent");
            let _ = fs::remove_dir_all(&folder);
            fs::create_dir(&folder).unwrap();
            fs::write(folder.join("a-good-one.json"), whole).unwrap();
            let path = folder.join("bad.json");
            match does.split_once(": ").map_or(does, |(word, _)| word) {
                "keep the first half" => fs::write(&path, &whole[..whole.len() / 2]).unwrap(),
                "format = 9" => fs::write(&path, whole.replacen("\"format\": 1", "\"format\": 9", 1)).unwrap(),
                "project = Tidepool" => fs::write(&path, whole.replacen("Driftbuoy", "Tidepool", 1)).unwrap(),
                "nothing in it" => fs::write(&path, "").unwrap(),
                "text" => fs::write(&path, does.split_once(": ").unwrap().1).unwrap(),
                "nest 100000" => fs::write(&path, format!("{{\"format\":1,\"answers\":{}", "[".repeat(100_000))).unwrap(),
                "bytes ff fe 00" => fs::write(&path, [0xff, 0xfe, 0]).unwrap(),
                "a gigabyte of blanks" => fs::File::create(&path).unwrap().set_len(1 << 30).unwrap(),
                "fifo" => assert!(Command::new("mkfifo").arg(&path).status().unwrap().success()),
                "missing" => {}
                "escapes" => {
                    fs::write(
                        &path,
                        whole
                            .replace("3.25.1", "\\u001b[31m3.25.1")
                            .replace("newcomer-01", "\\u202eold")
                            .replace("shared-server", "\\u202eserver"),
                    )
                    .unwrap();
                }
                other => panic!("{other}"),
            }
            let says = |output: &Output, what: &str| {
                let said = text(&output.stdout) + &text(&output.stderr);
                assert!(
                    !said.contains('\u{1b}') && !said.contains('\u{202e}') && !said.contains("panicked"),
                    "{name}, {what}: {said}"
                );
                let words = case["says"].as_array().unwrap().iter().map(|word| word.as_str().unwrap());
                let words: Vec<&str> = words.filter(|word| !said.contains(word)).collect();
                assert!(words.is_empty(), "{name} ({sort}), {what}: nothing of {words:?} in\n{said}");
                if does != "escapes" {
                    assert!(said.contains("bad.json"), "{name}, {what}: its name is not said\n{said}");
                }
            };
            says(&run(&into, &["compare", "sent/bad.json", "machines/shared-server.toml"]), "compare");
            if sort == "recording" {
                says(&run(&into, &["preflight", "--machine", "sent/bad.json"]), "preflight");
            }
            if does == "fifo" || does == "missing" {
                says(&run(&into, &["survey", "sent/a-good-one.json", "sent/bad.json"]), "survey");
                continue;
            }
            let survey = run(&into, &["survey", "sent"]);
            says(&survey, "survey");
            // Two recordings of one machine, by their id, are one machine.
            let machines =
                if does == "escapes" && sort == "report" { "of 2 machines are ready" } else { "of 1 machine is ready" };
            assert!(text(&survey.stdout).contains(machines), "{name}: {}", text(&survey.stdout));
        }
    }
}

#[cfg(unix)]
#[test]
fn a_full_disk_leaves_no_half_file() {
    let (_folder, into) = driftbuoy();
    for (arguments, code) in [
        (&["survey", "class", "--format", "rows", "--output", "/dev/full"][..], 4),
        (&["preflight", "--machine", "machines/shared-server.toml", "--also", "junit=no/such/r.xml"], 4),
    ] {
        let output = run(&into, arguments);
        assert_eq!(output.status.code(), Some(code), "{arguments:?}: {}", text(&output.stderr));
        assert!(text(&output.stderr).contains("cannot be written"), "{}", text(&output.stderr));
    }
    let left: Vec<_> =
        fs::read_dir(&into).unwrap().flatten().filter(|entry| entry.file_name().to_string_lossy().contains(".part")).collect();
    assert!(left.is_empty(), "{left:?}");
}

/// What the same machines come to does not depend on how they are named or in which order they come.
#[test]
fn the_order_of_sides_changes_no_difference() {
    let guide = guide::parse(GUIDE).unwrap();
    let shared = Arc::new(guide.clone());
    let side = |at: usize| {
        let machine = Described::parse(MACHINES[at].text).unwrap();
        Side::of(MACHINES[at].name, &Preflight::new(Arc::clone(&shared)).run(&machine).unwrap())
    };
    let differing = |order: [usize; 3]| -> BTreeMap<String, Vec<(Verdict, usize)>> {
        let found = compare(Some(&guide), &order.map(side));
        let groups = |one: &setup_ready_core::compare::Difference| {
            let mut groups: Vec<_> = one.groups.iter().map(|group| (group.verdict, group.sides.len())).collect();
            groups.sort();
            groups
        };
        found.differences.iter().map(|one| (one.id.clone(), groups(one))).collect()
    };
    assert_eq!(differing([0, 1, 3]), differing([3, 0, 1]));
}
