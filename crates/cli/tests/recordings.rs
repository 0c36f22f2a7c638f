//! Recordings: what must not be in one, and what must come of one again. The list of private things was written before there was a recording.

use build_setup_ready::demo::{GUIDE, MACHINES};
use build_setup_ready::write::json;
use build_setup_ready::{Described, GuideFile, Live, Preflight};
use rstest::rstest;
use serde_json::Value;
use setup_ready_core::privacy::Replacer;
use setup_ready_core::report::Report;
use setup_ready_core::selection::Selection;
use setup_ready_fleet::recording_json;
use setup_ready_fleet::{record, record_with, recording};
use setup_ready_forms::markdown;
use std::fmt::Write as _;
use std::path::Path;
use std::sync::Arc;

const ASKED: &str = "format = 1
[project]
name = \"Driftbuoy\"
[require.cmake]
tool = \"cmake\"
[require.port]
port = 7070
[require.charts]
folder = \"charts\"
owner = \"me\"
[require.kvm]
group = \"kvm\"
[require.lab]
subnet = \"10.77.0.0/24\"
[require.files]
reach = \"https://files.driftbuoy.example\"
";

fn guide_file(text: &str) -> (tempfile::TempDir, GuideFile) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("setup-guide.toml");
    std::fs::write(&path, text).unwrap();
    let file = GuideFile::load(&path).unwrap();
    (folder, file)
}

fn as_text(write: impl FnOnce(&mut Vec<u8>)) -> String {
    let mut bytes = Vec::new();
    write(&mut bytes);
    String::from_utf8(bytes).unwrap()
}

/// A machine on which something private is planted, and a replacer that knows what the machine itself would tell it.
fn planted(plant: &toml::Table) -> (String, Replacer) {
    let text = |key: &str| plant.get(key).map(|value| value.as_str().unwrap().to_owned());
    // What JSON writes for a text, TOML reads.
    let toml = |text: &str| serde_json::to_string(text).unwrap();
    let user = text("user").unwrap_or_else(|| "mate".to_owned());
    let home = text("home").unwrap_or_else(|| format!("/home/{user}"));
    let mut replacer = Replacer::for_guide(ASKED);
    replacer.user(&user);
    replacer.home(&home);
    if let Some(name) = text("host") {
        replacer.host(&name);
    }
    if let Some(name) = text("full-name") {
        replacer.full_name(&name);
    }
    if let Some(name) = text("folder") {
        replacer.project(&name);
    }
    let groups: Vec<String> = match plant.get("group") {
        Some(groups) => groups.as_array().unwrap().iter().map(|group| group.as_str().unwrap().to_owned()).collect(),
        None => vec![user.clone()],
    };
    let project = text("folder").unwrap_or_else(|| format!("{home}/driftbuoy"));
    let path = text("path").unwrap_or_else(|| "/usr/bin/cmake".to_owned());
    let above = path.rsplit_once('/').unwrap().0;
    let mut machine = format!(
        "format = 1\nother_ports = \"free\"\npath = [{}]\n[machine]\nname = \"m\"\nproject = {}\n[system]\nos = \"linux\"\ndistro = \"debian\"\ndistro_version = \"12\"\nmanagers = [\"apt\"]\n",
        toml(above),
        toml(&project)
    );
    let _ = writeln!(
        machine,
        "[user]\nname = {}\nhome = {}\nroot = {}\ngroups = {}",
        toml(&user),
        toml(&home),
        user == "root",
        serde_json::to_string(&groups).unwrap()
    );
    let output = text("output").unwrap_or_else(|| "cmake version 3.28.1".to_owned());
    let _ = writeln!(machine, "[[program]]\npath = {}\nprints = {}", toml(&path), toml(&output));
    if let Some(holder) = plant.get("holder").and_then(toml::Value::as_table) {
        let of =
            |key: &str| holder.get(key).map(|value| format!("{key} = {}\n", toml(value.as_str().unwrap()))).unwrap_or_default();
        let _ = writeln!(machine, "[[port]]\nport = 7070\nholder = \"serve\"\n{}{}", of("user"), of("command"));
    }
    let owner = text("owner").map(|owner| format!("owner = {}\n", toml(&owner))).unwrap_or_default();
    let _ = writeln!(machine, "[[folder]]\npath = \"charts\"\n{owner}");
    let link = text("link").unwrap_or_else(|| "eth0".to_owned());
    let network = text("network").map(|network| format!("\"{link} {network}\"")).unwrap_or_default();
    let proxy = text("proxy").map(|proxy| format!("system_proxy = {}\n", toml(&proxy))).unwrap_or_default();
    let _ = writeln!(
        machine,
        "[network]\nonline = true\nnetworks = [{network}]\n{proxy}[[site]]\nurl = \"https://files.driftbuoy.example\"\nfails = \"no-answer\""
    );
    (machine, replacer)
}

#[test]
fn none_of_the_private_things_is_in_a_recording_and_what_verdicts_rest_on_is() {
    let (_folder, file) = guide_file(ASKED);
    let mut wrong = Vec::new();
    let lists = [include_str!("recordings/planted.toml"), include_str!("recordings/planted-again.toml")];
    let lists = lists.map(|list| list.parse::<toml::Table>().unwrap());
    for (list, sort) in lists.iter().flat_map(|list| [(list, "private"), (list, "kept")]) {
        for case in list[sort].as_array().unwrap() {
            let name = case["name"].as_str().unwrap();
            let (machine, replacer) = planted(case["plant"].as_table().unwrap());
            let machine = Described::parse(&machine).unwrap_or_else(|mistakes| panic!("{name}: {mistakes}\n{machine}"));
            let report = Preflight::new(Arc::clone(&file.guide)).run(&machine).unwrap();
            let recorded = record_with(&report, &file, &replacer).unwrap();
            if !recorded.differing.is_empty() {
                wrong.push(format!("{name}: judged otherwise: {:?}", recorded.differing));
            }
            // The unit of a holder cannot be described: its text is replaced by itself.
            let mut replacer = recorded.replacer.clone();
            let unit = case["plant"]
                .get("holder")
                .and_then(|holder| holder.get("unit"))
                .map(|unit| replacer.text(unit.as_str().unwrap()));
            let texts = [
                as_text(|out| recording_json(&recorded.recording, out).unwrap()) + &unit.unwrap_or_default(),
                as_text(|out| markdown(&recorded.report, out).unwrap()),
                as_text(|out| json(&recorded.report, out).unwrap()),
            ];
            let words = |key: &str| -> Vec<&str> {
                case.get(key)
                    .map(|words| words.as_array().unwrap().iter().filter_map(toml::Value::as_str).collect())
                    .unwrap_or_default()
            };
            for (what, text) in ["recording", "markdown", "report"].iter().zip(&texts) {
                // What is known to stay is listed as that, until it is gone too.
                let stays = case.get("stays").is_some();
                if stays && *what != "recording" {
                    continue;
                }
                wrong.extend(
                    words("gone")
                        .iter()
                        .filter(|gone| text.contains(**gone) != stays)
                        .map(|gone| format!("{name}: {gone} is {} the {what}", if stays { "no more in" } else { "in" })),
                );
            }
            wrong.extend(
                words("keeps").iter().filter(|kept| !texts[0].contains(**kept)).map(|kept| format!("{name}: {kept} is gone")),
            );
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// A report without what is another each time, its texts as others may see them.
fn seen_by_others(report: &Report, replacer: &mut Replacer) -> Value {
    fn change(value: &mut Value, replacer: &mut Replacer) {
        match value {
            Value::String(text) => *text = replacer.text(text),
            Value::Array(list) => list.iter_mut().for_each(|value| change(value, replacer)),
            Value::Object(table) => table.values_mut().for_each(|value| change(value, replacer)),
            Value::Null | Value::Bool(_) | Value::Number(_) => {}
        }
    }
    let mut value: Value = serde_json::from_str(&as_text(|out| json(report, out).unwrap())).unwrap();
    change(&mut value, replacer);
    let machine = value["machine"].as_object_mut().unwrap();
    machine.remove("source");
    machine.remove("name");
    value
}

#[rstest]
#[case::for_everyone(None)]
#[case::for_a_role(Some(1))]
fn every_described_machine_comes_to_the_same_from_its_recording(#[case] role: Option<usize>) {
    let (_folder, file) = guide_file(GUIDE);
    for machine in MACHINES {
        let described = Described::parse(machine.text).unwrap();
        let selection = Selection { role, after_start: true, ..Selection::default() };
        let preflight = || Preflight::new(Arc::clone(&file.guide)).guide_source("setup-guide.toml", file.sha256.clone());
        let first = preflight().select(selection).run(&described).unwrap();
        let recorded = record(&first, &file).unwrap();
        assert_eq!(recorded.differing, Vec::<String>::new(), "{}", machine.name);
        let text = as_text(|out| recording_json(&recorded.recording, out).unwrap());
        let read = recording(&text).unwrap();
        assert_eq!(read.answers.passed_over(), 0);
        // Nothing is chosen again: the recording knows what was.
        let again = preflight().run(&read).unwrap();
        let mut replacer = recorded.replacer;
        let (first, again) = (seen_by_others(&first, &mut replacer.clone()), seen_by_others(&again, &mut replacer));
        assert_eq!(again, first, "{}", machine.name);
    }
}

/// This machine, whatever it is: all that comes of the recording is what came of it, but for what was replaced.
#[rstest]
#[case::for_the_demonstration(GUIDE)]
#[case::for_our_own_project(include_str!("../../../setup-guide.toml"))]
fn this_machine_comes_to_the_same_from_its_recording(#[case] guide: &str) {
    let (_folder, file) = guide_file(guide);
    let preflight = || Preflight::new(Arc::clone(&file.guide)).guide_source("setup-guide.toml", file.sha256.clone());
    let selection = Selection { offline: true, ..Selection::default() };
    let first = preflight().select(selection).run(&Live::for_guide(&file)).unwrap();
    let recorded = record(&first, &file).unwrap();
    assert_eq!(recorded.differing, Vec::<String>::new());
    let read = recording(&as_text(|out| recording_json(&recorded.recording, out).unwrap())).unwrap();
    let again = preflight().run(&read).unwrap();
    let mut replacer = recorded.replacer;
    let (first, again) = (seen_by_others(&first, &mut replacer.clone()), seen_by_others(&again, &mut replacer));
    assert_eq!(again, first);
}

#[test]
fn a_question_that_nobody_asked_then_is_unknown_and_says_so() {
    let (_folder, file) = guide_file("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n");
    let machine = Described::parse("format = 1\n[machine]\nname = \"m\"\n[cores]\nonline = 8\n").unwrap();
    let report = Preflight::new(Arc::clone(&file.guide)).run(&machine).unwrap();
    let recorded = record(&report, &file).unwrap().recording;
    let (_other, corrected) = guide_file(
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 16\n[require.ninja]\ntool = \"ninja\"\n",
    );
    let again = Preflight::new(Arc::clone(&corrected.guide)).run(&recorded).unwrap();
    let said: Vec<String> = again.settled.iter().map(|one| again.message(one)).collect();
    assert_eq!(said[0], "This machine has 8 processor cores, and 16 are needed.");
    assert!(said[1].contains("not in the recording; ask for a new one"), "{said:?}");
}

/// What is called alike without its names gets nobody else's answer: it is unknown, and that is told before it is sent.
#[test]
fn two_things_that_look_alike_without_their_names_are_unknown() {
    let (_folder, file) = guide_file(
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.one]\nfile = \"/opt/a?token=first\"\n[require.other]\nfile = \"/opt/a?token=second\"\n",
    );
    let machine = "format = 1\n[machine]\nname = \"m\"\n[[file]]\npath = \"/opt/a?token=first\"\n";
    let report = Preflight::new(Arc::clone(&file.guide)).run(&Described::parse(machine).unwrap()).unwrap();
    // The guide says these words; of another one nothing is known here.
    let recorded = record_with(&report, &file, &Replacer::for_guide("")).unwrap();
    let words: Vec<&str> = recorded.report.settled.iter().map(|one| one.finding.verdict().word()).collect();
    assert_eq!(words, ["unknown", "unknown"], "{:?}", recorded.differing);
    assert_eq!(recorded.differing, ["one", "other"]);
}

/// Recordings of versions that were given away stay readable, and come to the same.
#[test]
fn recordings_that_are_kept_come_to_what_they_came_to() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/recordings/kept");
    let (_folder, file) = guide_file(&std::fs::read_to_string(folder.join("setup-guide.toml")).unwrap());
    let mut found = String::new();
    for name in ["laptop", "server", "windows"] {
        let text = std::fs::read_to_string(folder.join(format!("{name}.recording.json"))).unwrap();
        let recording = recording(&text).unwrap();
        assert_eq!(recording.answers.passed_over(), 0, "{name}");
        let report = Preflight::new(Arc::clone(&file.guide)).run(&recording).unwrap();
        let _ = writeln!(found, "{name}: {:?}", report.outcome());
        for one in report.counting() {
            let cause = one.finding.cause().map(setup_ready_core::cause::Cause::word).unwrap_or_default();
            let _ = writeln!(found, "  {} {} {cause}", report.requirement(one).unwrap().id, one.finding.verdict().word());
        }
    }
    snapbox::assert_data_eq!(found, snapbox::file!("recordings/kept/verdicts.txt").raw());
}

/// The real program, as a person of a machine that is called something, with a tool that tells all it knows.
#[cfg(target_os = "linux")]
#[test]
fn a_real_machine_tells_nothing_of_its_person() {
    use std::os::unix::fs::PermissionsExt;
    use std::process::Command;
    let folder = tempfile::tempdir().unwrap();
    let home = folder.path().join("people/m47");
    let project = home.join("customers/harbour/driftbuoy");
    let bin = home.join("bin");
    std::fs::create_dir_all(&project).unwrap();
    std::fs::create_dir_all(&bin).unwrap();
    std::fs::write(project.join("setup-guide.toml"), "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.chartctl]\ntool = \"chartctl\"\nversion = \">= 2\"\n[require.keys]\nfolder = \"keys\"\n").unwrap();
    let said = format!(
        "chartctl 3.2.1 for marisol@harbour.example on tern-wing-7 ({}) token=sk-kelp-forest-99 via 10.41.7.93:8080 card 9c:b6:d0:1f:e2:47",
        project.display()
    );
    let tool = bin.join("chartctl");
    std::fs::write(&tool, format!("#!/bin/sh\necho '{said}'\n")).unwrap();
    std::fs::set_permissions(&tool, std::fs::Permissions::from_mode(0o755)).unwrap();
    let run = |arguments: &[&str]| {
        let path = format!("{}:{}", bin.display(), std::env::var("PATH").unwrap());
        let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
        command
            .args(arguments)
            .current_dir(&project)
            .env("PATH", path)
            .env("HOME", &home)
            .env("USER", "marisol")
            .env("HOSTNAME", "tern-wing-7");
        command.env("XDG_STATE_HOME", folder.path().join("state")).output().unwrap()
    };
    let without = run(&["record", "--output", "mine.recording.json"]);
    assert_eq!(without.status.code(), Some(2), "nobody is there to be asked");
    let output = run(&["record", "--yes", "--output", "mine.recording.json"]);
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let told = String::from_utf8(output.stderr).unwrap();
    assert!(told.contains("their home folder") && told.contains("setup-ready preflight --machine mine.recording.json"), "{told}");
    let text = std::fs::read_to_string(project.join("mine.recording.json")).unwrap();
    let page = String::from_utf8(run(&["preflight", "--format", "markdown"]).stdout).unwrap();
    for gone in [
        "marisol",
        "m47",
        "customers",
        "tern-wing-7",
        "kelp",
        "10.41.7.93",
        "9c:b6",
        "harbour.example",
        &*folder.path().display().to_string(),
    ] {
        assert!(!text.to_lowercase().contains(gone), "{gone} is in the recording:\n{text}");
        assert!(!page.to_lowercase().contains(gone), "{gone} is in what is pasted:\n{page}");
    }
    assert!(text.contains("chartctl 3.2.1 for"), "{text}");
    let verdicts = |arguments: &[&str]| {
        let report: Value = serde_json::from_slice(&run(arguments).stdout).unwrap();
        report["requirements"]
            .as_array()
            .unwrap()
            .iter()
            .map(|one| (one["verdict"].clone(), one["cause"].clone()))
            .collect::<Vec<_>>()
    };
    let here = verdicts(&["preflight", "--format", "json"]);
    assert_eq!(verdicts(&["preflight", "--machine", "mine.recording.json", "--format", "json"]), here);
    assert_eq!(here[0].0, "met");
}
