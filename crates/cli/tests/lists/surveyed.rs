//! What a survey says: small sets of reports, and what comes of them, counted by hand from the page for users before the answer was looked at.

mod cases;

use crate::harness::{in_folder, text};
use crate::trials;
use cases::{CASES, Case};
use libtest_mimic::Trial;
use serde_json::Value;
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::Path;
use std::process::Output;

const GUIDE: &str = r#"
format = 1
[project]
name = "Buoy"
[role.deck]
[role.shore]
[require.buoy]
tool = "buoyctl"
version = ">= 2"
[require.net]
tool = "netctl"
[[require.net.fix]]
say = "Fetch the net from the quay."
[require.log]
tool = "logctl"
after = ["buoy"]
[require.lamp]
tool = "lampctl"
level = "should"
[require.chart]
tool = "chartctl"
roles = ["shore"]
[require.red]
tool = "redctl"
[require.blue]
tool = "bluectl"
[require.flag]
any_of = ["red", "blue"]
"#;

const TOOLS: [&str; 7] = ["buoy", "net", "log", "lamp", "chart", "red", "blue"];

fn machine(words: &[&str]) -> String {
    let mut versions: BTreeMap<&str, &str> = TOOLS.iter().map(|tool| (*tool, "2.1")).collect();
    let (mut system, mut arch) = ("debian-12", "x86_64");
    for word in words {
        match word.split_once('=') {
            Some(("arch", value)) => arch = value,
            Some((tool, version)) if TOOLS.contains(&tool) => drop(versions.insert(tool, version)),
            None if word.starts_with('-') => drop(versions.remove(&word[1..])),
            None if word.contains('-') || ["windows", "macos"].contains(word) => system = word,
            _ => {}
        }
    }
    let (os, folder, end) = match system {
        "windows" => ("os = \"windows\"\nversion = \"10.0.22631\"\n".to_owned(), r"C:\\tools\\", ".exe"),
        "macos" => ("os = \"macos\"\nversion = \"14.5\"\n".to_owned(), "/usr/local/bin/", ""),
        linux => {
            let (distro, version) = linux.split_once('-').unwrap();
            (
                format!("os = \"linux\"\nversion = \"6.1.0\"\ndistro = \"{distro}\"\ndistro_version = \"{version}\"\n"),
                "/usr/bin/",
                "",
            )
        }
    };
    let mut made = format!(
        "format = 1\nother_ports = \"free\"\npath = [\"{}\"]\n[machine]\nname = \"made-up\"\n[system]\n{os}arch = \"{arch}\"\n[user]\nname = \"mate\"\n",
        folder.trim_end_matches(['\\', '/'])
    );
    for (tool, version) in versions {
        let tells = if version == "stuck" { "never_ends = true".to_owned() } else { format!("prints = \"{tool}ctl {version}\"") };
        let _ = write!(made, "[[program]]\npath = \"{folder}{tool}ctl{end}\"\n{tells}\n");
    }
    made
}

fn run(within: &Path, arguments: &[&str]) -> Output {
    in_folder(within, "200", arguments)
}

/// One report as it was sent, made by the program of a described machine, with what no described machine has put into it.
fn sent(within: &Path, line: &str, second: usize) -> Value {
    let words: Vec<&str> = line.split(' ').collect();
    let (who, when, rest) = (words[0], words[1], &words[2..]);
    let chosen = |key: &str| rest.iter().find_map(|word| word.strip_prefix(key)?.strip_prefix('='));
    std::fs::write(within.join("machine.toml"), machine(rest)).unwrap();
    let mut arguments = vec!["--machine", "machine.toml", "--output", "made.json"];
    for (key, option) in [("role", "--role"), ("only", "--only")] {
        arguments.extend(chosen(key).into_iter().flat_map(|value| [option, value]));
    }
    let recording = chosen("as") == Some("recording");
    arguments.splice(0..0, if recording { ["record", "--yes", "-q"] } else { ["preflight", "--format", "json"] });
    let output = run(within, &arguments);
    let made = std::fs::read_to_string(within.join("made.json"));
    let mut made: Value = serde_json::from_str(&made.unwrap_or_else(|_| panic!("{line}: {}", text(&output.stderr)))).unwrap();
    std::fs::remove_file(within.join("made.json")).unwrap();
    let day = if when.len() == 5 { format!("2026-{when}") } else { when.to_owned() };
    made[if recording { "recorded" } else { "started" }] = format!("{day}T10:{:02}:{:02}Z", second / 60, second % 60).into();
    let id = if who == "empty" { "" } else { who };
    let place = if recording { &mut made } else { &mut made["machine"] };
    place["id"] = if who == "-" { Value::Null } else { id.into() };
    for word in rest {
        let net = |made: &mut Value, key: &str, value: Value| {
            let all = made["requirements"].as_array_mut().unwrap();
            all.iter_mut().find(|one| one["id"] == "net").unwrap()[key] = value;
        };
        match word.split_once('=') {
            Some((key @ ("project" | "outcome"), value)) => made[key] = value.into(),
            Some(("format", value)) => made["format"] = value.parse::<u32>().unwrap().into(),
            Some(("guide", value)) => made["guide"]["sha256"] = value.into(),
            Some((key @ ("verdict" | "found" | "title"), value)) => net(&mut made, key, value.into()),
            Some(("say", value)) => {
                let all = made["requirements"].as_array_mut().unwrap();
                all.iter_mut().find(|one| one["id"] == "net").unwrap()["fixes"][0]["say"] = value.into();
            }
            None if *word == "interrupted" => {
                made["interrupted"] = true.into();
                made["outcome"] = "undecided".into();
                net(&mut made, "verdict", "unknown".into());
                net(&mut made, "cause", "interrupted".into());
            }
            _ => {}
        }
    }
    made
}

/// The figures of a survey, each in a line that can be counted by hand.
fn short(survey: &Value) -> BTreeMap<String, String> {
    let list = |value: &Value| value.as_array().cloned().unwrap_or_default();
    let word = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    let share = |value: &Value| format!("{}/{}", value["count"], value["of"]);
    let joined =
        |value: &Value, with: &str, one: &dyn Fn(&Value) -> String| list(value).iter().map(one).collect::<Vec<_>>().join(with);
    let counted = |value: &Value, name: &str| joined(value, ", ", &|one| format!("{} {}", word(&one[name]), one["count"]));
    let stop =
        |one: &Value| format!("{} {} {}", word(&one["requirement"]), share(&one["machines"]), counted(&one["causes"], "cause"));
    let mut made = BTreeMap::new();
    for (key, value) in survey.as_object().unwrap() {
        let told = match key.as_str() {
            "stops" | "recommended" | "unknown" => joined(value, "; ", &stop),
            "weeks" => joined(value, ", ", &|one| format!("{} {}", word(&one["week"]), share(&one["ready"]))),
            "days" => joined(value, ", ", &word),
            "groups" => joined(value, "; ", &|one| {
                let stop = one["stop"]["requirement"].as_str().map(|id| format!(" {id}")).unwrap_or_default();
                format!("{} {}{stop}", word(&one["name"]), share(&one["ready"]))
            }),
            "advised" => joined(value, "; ", &|one| {
                format!("{} {} {}", word(&one["requirement"]), word(&one["cause"]), share(&one["met_next"]))
            }),
            "what_if" => format!("stays {}, lost {}", value["stays"], value["lost"]),
            _ => word(value),
        };
        made.insert(key.clone(), told);
    }
    made.insert(
        "unknown ids".to_owned(),
        joined(&survey["unknown"], "; ", &|one| format!("{} {}", word(&one["requirement"]), share(&one["machines"]))),
    );
    made.insert("group count".to_owned(), list(&survey["groups"]).len().to_string());
    let percent = word(&survey["summary"]).split_once('(').and_then(|(_, rest)| Some(rest.split_once(" %")?.0.to_owned()));
    made.insert("percent".to_owned(), percent.unwrap_or_default());
    for tool in list(&survey["tools"]) {
        let spread = joined(&tool["versions"], ", ", &|one| format!("{} on {}", word(&one["version"]), one["count"]));
        made.insert(format!("tools.{}", word(&tool["requirement"])), spread);
    }
    made
}

/// What is not as it must be, of one case.
fn wrong(case: &Case) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    std::fs::write(within.join("setup-guide.toml"), GUIDE).unwrap();
    std::fs::create_dir(within.join("sent")).unwrap();
    let (mut files, mut count): (Vec<String>, usize) = (Vec::new(), 0);
    let mut last = String::new();
    for line in case.sent {
        if let Some(change) = line.strip_prefix("now ") {
            let (before, after) = change.split_once(" => ").unwrap();
            std::fs::write(within.join("setup-guide.toml"), GUIDE.replace(before, after)).unwrap();
            continue;
        }
        let (times, line) = match line.split_once(' ') {
            Some((times, rest)) if times.parse::<usize>().is_ok() => (times.parse().unwrap(), rest),
            _ => (1, *line),
        };
        let mut made = if line == "same" { Value::Null } else { sent(within, line, 0) };
        for _ in 0..times {
            count += 1;
            if line != "same" {
                let key = if made.get("recorded").is_some() { "recorded" } else { "started" };
                let day = made[key].as_str().unwrap()[..10].to_owned();
                made[key] = format!("{day}T10:{:02}:{:02}Z", count / 60, count % 60).into();
                last = made.to_string();
            }
            files.push(format!("sent/{count:02}.json"));
            std::fs::write(within.join(files.last().unwrap()), &last).unwrap();
        }
    }
    let survey = |given: &[&str], more: &[&str]| run(within, &[&["survey"], given, case.asked, more].concat());
    let mut wrong = Vec::new();
    let (whole, told) = (survey(&["sent"], &["--format", "json"]), survey(&["sent"], &["-v"]));
    let told = text(&told.stdout) + &text(&told.stderr);
    if whole.status.code() != Some(case.status) {
        wrong.push(format!("status {:?}: {}", whole.status.code(), text(&whole.stderr)));
    }
    wrong.extend(case.says.iter().filter(|says| !told.contains(**says)).map(|says| format!("does not say {says:?}: {told}")));
    wrong.extend(case.lacks.iter().filter(|lacks| told.contains(**lacks)).map(|lacks| format!("says {lacks:?}: {told}")));
    let page = text(&survey(&["sent"], &["--format", "html"]).stdout);
    wrong.extend(
        ["<script", "<b>x", "\u{1b}"].iter().filter(|part| page.contains(**part)).map(|part| format!("the page has {part:?}")),
    );
    if case.status == 2 {
        return wrong;
    }
    let mut figures = short(&serde_json::from_slice(&whole.stdout).unwrap());
    let table = text(&survey(&["sent"], &["--format", "csv"]).stdout);
    let cells = table.lines().flat_map(|line| line.split(',')).map(|cell| cell.trim_start_matches('"'));
    figures.insert("formulas".to_owned(), cells.filter(|cell| cell.starts_with(['=', '+', '-', '@'])).count().to_string());
    for (key, want) in case.wants {
        let got = figures.get(*key).map_or("nothing", String::as_str);
        if got != *want {
            wrong.push(format!("{key}: {got:?} in place of {want:?}"));
        }
    }
    // The order of files, the number of threads and what they lie in change nothing.
    let reversed: Vec<&str> = files.iter().rev().map(String::as_str).collect();
    let lines: String = files.iter().map(|file| std::fs::read_to_string(within.join(file)).unwrap() + "\n").collect();
    std::fs::write(within.join("all.ndjson"), lines).unwrap();
    let one_thread = ["--format", "json", "--jobs", "1"];
    for (what, other) in [("reversed", survey(&reversed, &one_thread)), ("in lines", survey(&["all.ndjson"], &one_thread))] {
        let mut other: Value = serde_json::from_slice(&other.stdout).unwrap_or_default();
        let mut whole: Value = serde_json::from_slice(&whole.stdout).unwrap();
        for one in [&mut other, &mut whole] {
            if let Some(fields) = one.as_object_mut() {
                fields.remove("broken_named");
            }
        }
        if other != whole {
            wrong.push(format!("{what} it is something else: {other}"));
        }
    }
    let narrow = in_folder(within, "50", &["survey", "sent"]);
    let narrow = text(&narrow.stdout);
    wrong.extend(narrow.lines().filter(|line| line.chars().count() > 50).map(|line| format!("too wide: {line}")));
    wrong
}

/// A survey says what was counted by hand.
pub(crate) fn tests() -> Vec<Trial> {
    trials::of("surveyed", CASES, 12, |case| case.name, wrong)
}
