//! What a survey says: small sets of reports, and what comes of them, counted by hand from the page for users before the answer was looked at.

use super::bench::text;
use serde_json::Value;
use std::collections::BTreeMap;
use std::path::Path;
use std::process::{Command, Output};

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

/// Some reports, each in words: whose (`-` without an id), when, and what differs from a ready Debian 12 machine on which all is checked.
/// `-net` is missing, `net=1.9` has that version, `net=stuck` never ends. Then what comes of them, in the words of [`short`].
struct Case {
    name: &'static str,
    sent: &'static [&'static str],
    asked: &'static [&'static str],
    wants: &'static [(&'static str, &'static str)],
    says: &'static [&'static str],
    lacks: &'static [&'static str],
    status: i32,
}

const NONE: Case = Case { name: "", sent: &[], asked: &[], wants: &[], says: &[], lacks: &[], status: 0 };

const CASES: &[Case] = &[
    Case {
        name: "two without an id are two machines",
        sent: &["- 03-02", "- 03-03 -net"],
        wants: &[("machines", "2"), ("ready", "1"), ("not_ready", "1"), ("told_apart", "0"), ("stops", "net 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "the newest of a machine counts",
        sent: &["anna 03-02 -net", "anna 03-09"],
        wants: &[("reports", "2"), ("machines", "1"), ("told_apart", "1"), ("ready", "1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "the newest of a machine counts, whatever its file is called",
        sent: &["anna 03-09", "anna 03-02 -net"],
        wants: &[("machines", "1"), ("ready", "1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "what was ready once and is not any more is not ready",
        sent: &["anna 03-02", "anna 03-09 -net"],
        wants: &[("machines", "1"), ("ready", "0"), ("not_ready", "1"), ("stops", "net 1/1 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "two ids that differ in their letters' size are two machines",
        sent: &["anna 03-02", "ANNA 03-09 -net"],
        wants: &[("machines", "2"), ("told_apart", "2"), ("ready", "1")],
        ..NONE
    },
    Case {
        name: "an empty id is none",
        sent: &["empty 03-02", "empty 03-09 -net"],
        wants: &[("machines", "2"), ("told_apart", "0"), ("ready", "1")],
        ..NONE
    },
    Case {
        name: "in a week the newest of each machine counts, and in each week anew",
        sent: &["anna 03-02 -net", "anna 03-04", "anna 03-10 -net", "bert 03-08 -net"],
        wants: &[("weeks", "2026-W10 1/2, 2026-W11 0/1"), ("ready", "0"), ("days", "2026-03-02, 2026-03-10")],
        ..NONE
    },
    Case {
        name: "weeks at the turn of a year",
        sent: &["a 2025-12-28", "b 2025-12-29", "c 2026-01-01", "d 2026-01-04", "e 2026-01-05"],
        wants: &[("weeks", "2025-W52 1/1, 2026-W01 3/3, 2026-W02 1/1")],
        ..NONE
    },
    Case {
        name: "a year with 53 weeks",
        sent: &["a 2020-12-27", "b 2020-12-31", "c 2021-01-03", "d 2021-01-04"],
        wants: &[("weeks", "2020-W52 1/1, 2020-W53 2/2, 2021-W01 1/1")],
        ..NONE
    },
    Case {
        name: "what waits for another stops nobody by itself",
        sent: &["- 03-02 -buoy", "- 03-03"],
        wants: &[("stops", "buoy 1/2 tool-missing 1"), ("unknown", "")],
        ..NONE
    },
    Case {
        name: "what another role needs is asked of those in it alone",
        sent: &["- 03-02 -chart role=deck", "- 03-03 -chart role=shore", "- 03-04 role=shore"],
        wants: &[("ready", "2"), ("stops", "chart 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "what is recommended stops nobody",
        sent: &["- 03-02 -lamp", "- 03-03"],
        wants: &[("ready", "2"), ("stops", ""), ("recommended", "lamp 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "what nobody could find out",
        sent: &["- 03-02 net=stuck", "- 03-03"],
        wants: &[("ready", "1"), ("not_ready", "0"), ("undecided", "1"), ("stops", ""), ("unknown ids", "net 1/2")],
        says: &["1 undecided"],
        ..NONE
    },
    Case {
        name: "one thing not met and another not found out is not ready",
        sent: &["- 03-02 net=stuck -chart"],
        wants: &[("not_ready", "1"), ("undecided", "0"), ("stops", "chart 1/1 tool-missing 1"), ("unknown ids", "net 1/1")],
        ..NONE
    },
    Case {
        name: "causes are told apart, the commonest first",
        sent: &["- 03-02 -buoy", "- 03-03 buoy=1.9", "- 03-04 -buoy", "- 03-05"],
        wants: &[("stops", "buoy 3/4 tool-missing 2, tool-too-old 1")],
        says: &["tool-missing 2, tool-too-old 1"],
        ..NONE
    },
    Case {
        name: "what stops most comes first, whatever the guide's order",
        sent: &["- 03-02 -chart", "- 03-03 -chart", "- 03-04 -net"],
        wants: &[("stops", "chart 2/3 tool-missing 2; net 1/3 tool-missing 1")],
        says: &["What stops most is chart: 2 of 3."],
        ..NONE
    },
    Case {
        name: "one of several that do is enough, and the other stops nobody",
        sent: &["- 03-02 -red", "- 03-03 -blue", "- 03-04 -red -blue"],
        wants: &[("ready", "2"), ("stops", "flag 1/3 none-of 1"), ("unknown", "")],
        ..NONE
    },
    Case {
        name: "versions stand in the order of versions, and one that is too old counts",
        sent: &[
            "- 03-02 buoy=2.10",
            "- 03-03 buoy=2.9",
            "- 03-04 buoy=2.9",
            "- 03-05 buoy=3.0.0-rc1",
            "- 03-06 buoy=3.0.0",
            "- 03-07 buoy=1.9",
        ],
        wants: &[("tools.buoy", "1.9 on 1, 2.9 on 2, 2.10 on 1, 3.0.0-rc1 on 1, 3.0.0 on 1")],
        ..NONE
    },
    Case {
        name: "a version is the newest of each machine",
        sent: &["anna 03-02 buoy=2.1", "anna 03-09 buoy=2.5", "bert 03-03 buoy=2.1"],
        wants: &[("tools.buoy", "2.1 on 1, 2.5 on 1")],
        ..NONE
    },
    Case {
        name: "by system",
        sent: &["- 03-02", "- 03-03 windows -net", "- 03-04 windows", "- 03-05 macos"],
        asked: &["--by", "system"],
        wants: &[("groups", "linux 1/1; macos 1/1; windows 1/2 net")],
        ..NONE
    },
    Case {
        name: "by distribution",
        sent: &[
            "- 03-02 debian-11 -net",
            "- 03-03 debian-12",
            "- 03-04 ubuntu-22.04",
            "- 03-05 windows",
            "- 03-06 debian-12 -net",
        ],
        asked: &["--by", "distro"],
        wants: &[("groups", "debian 11 0/1 net; debian 12 1/2 net; ubuntu 22.04 1/1; windows 1/1")],
        ..NONE
    },
    Case {
        name: "by processor",
        sent: &["- 03-02", "- 03-03 arch=aarch64 -net"],
        asked: &["--by", "arch"],
        wants: &[("groups", "aarch64 0/1 net; x86_64 1/1")],
        ..NONE
    },
    Case {
        name: "by role, those without one by themselves",
        sent: &["- 03-02 role=deck", "- 03-03 role=shore -chart", "- 03-04"],
        asked: &["--by", "role"],
        wants: &[("group count", "3"), ("ready", "2")],
        says: &["deck", "shore", "no role"],
        ..NONE
    },
    Case {
        name: "a machine that was set up anew counts as what it is now",
        sent: &["anna 03-02 debian-11 -net", "anna 03-09 debian-12"],
        asked: &["--by", "distro"],
        wants: &[("machines", "1"), ("groups", "debian 12 1/1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "a fix that was followed by it being met",
        sent: &["anna 03-02 -net", "anna 03-09"],
        wants: &[("advised", "net tool-missing 1/1")],
        says: &["Fetch the net from the quay."],
        ..NONE
    },
    Case {
        name: "a fix that was followed by nothing",
        sent: &["anna 03-02 -net", "anna 03-09 -net"],
        wants: &[("advised", "net tool-missing 0/1")],
        ..NONE
    },
    Case {
        name: "a fix that helped the second time",
        sent: &["anna 03-02 -net", "anna 03-09 -net", "anna 03-16"],
        wants: &[("advised", "net tool-missing 1/2")],
        ..NONE
    },
    Case {
        name: "a fix of which the next report says nothing",
        sent: &["anna 03-02 -net", "anna 03-09 only=buoy"],
        wants: &[("advised", ""), ("machines", "1"), ("not_ready", "1"), ("stops", "net 1/1 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "a fix whose machine cannot be told from others",
        sent: &["- 03-02 -net", "- 03-09"],
        wants: &[("advised", ""), ("machines", "2")],
        ..NONE
    },
    Case {
        name: "a fix after which the tool never ends did not help",
        sent: &["anna 03-02 -net", "anna 03-09 net=stuck"],
        wants: &[("advised", "net tool-missing 0/1"), ("undecided", "1")],
        ..NONE
    },
    Case {
        name: "a part of a machine without an id",
        sent: &["- 03-02 only=net", "- 03-03"],
        wants: &[("machines", "2"), ("ready", "1"), ("in_part", "1")],
        ..NONE
    },
    Case {
        name: "a part is put to the whole before it",
        sent: &["anna 03-02 -net", "anna 03-03 only=net"],
        wants: &[("machines", "1"), ("ready", "1"), ("in_part", "0"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "a moment still to come is never the newest",
        sent: &["anna 2099-01-01", "anna 03-02 -net"],
        wants: &[
            ("machines", "1"),
            ("not_ready", "1"),
            ("ahead", "1"),
            ("weeks", "2026-W10 0/1"),
            ("days", "2026-03-02, 2026-03-02"),
        ],
        ..NONE
    },
    Case {
        name: "a report of another project is named, and the others go on",
        sent: &["- 03-02", "- 03-03 project=Kelp"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "Kelp"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report of a later form is named",
        sent: &["- 03-02", "- 03-03 format=2"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "later"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report with a verdict that this version does not know is named",
        sent: &["- 03-02", "- 03-03 verdict=mostly"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "mostly"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report that says ready with something needed not met",
        sent: &["- 03-02", "- 03-03 -net outcome=ready"],
        wants: &[("machines", "1"), ("ready", "1"), ("broken", "1")],
        says: &["02.json"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report that was sent twice is one",
        sent: &["- 03-02 -net", "- 03-03", "same"],
        wants: &[("machines", "2"), ("ready", "1"), ("stops", "net 1/2 tool-missing 1")],
        says: &["twice"],
        ..NONE
    },
    Case {
        name: "a recording is assessed with the guide as it is now, a report stays as it was",
        sent: &["- 03-02 buoy=2.1 as=recording", "- 03-03 buoy=2.1", "- 03-04 buoy=3.4 as=recording", "now \">= 2\" => \">= 3\""],
        wants: &[("ready", "2"), ("stops", "buoy 1/3 tool-too-old 1")],
        ..NONE
    },
    Case {
        name: "what the guide asks for since a recording was made is not known of it",
        sent: &["- 03-02 as=recording", "now lampctl => hornctl"],
        wants: &[("unknown ids", "lamp 1/1")],
        ..NONE
    },
    Case {
        name: "a recording and a report of the same machine are one machine",
        sent: &["anna 03-02 -net as=recording", "anna 03-09"],
        wants: &[("machines", "1"), ("ready", "1"), ("recordings", "1"), ("reports", "2"), ("advised", "net tool-missing 1/1")],
        ..NONE
    },
    Case {
        name: "reports made with different guides are said to be",
        sent: &["- 03-02", "- 03-03 guide=other"],
        wants: &[("guides", "2")],
        says: &["2 versions of the guide"],
        ..NONE
    },
    Case {
        name: "one machine is told as one",
        sent: &["- 03-02"],
        says: &["1 of 1 machine is ready"],
        lacks: &["1 of 1 machines", "What stops most"],
        ..NONE
    },
    Case {
        name: "nearly all is not all",
        sent: &["199 - 03-02", "- 03-03 -net"],
        wants: &[("machines", "200"), ("ready", "199"), ("percent", "99")],
        lacks: &["(100 %)"],
        ..NONE
    },
    Case {
        name: "one of many is not none",
        sent: &["250 - 03-02 -net", "- 03-03"],
        wants: &[("machines", "251"), ("ready", "1"), ("percent", "1")],
        lacks: &["(0 %)"],
        ..NONE
    },
    Case {
        name: "what somebody made up in a report does nothing in a table",
        sent: &[
            "- 03-02 found==HYPERLINK(1)",
            "- 03-03 found=+1+1",
            "- 03-04 found=@SUM(1)",
            "- 03-05 found=-2+3",
            "- 03-06 title==1+1",
        ],
        wants: &[("machines", "5"), ("formulas", "0")],
        ..NONE
    },
    Case {
        name: "what somebody made up in a report does nothing in a terminal or on a page",
        sent: &[
            "- 03-02 found=1.0\u{1b}[31m",
            "- 03-03 -net say=<script>alert(1)</script>\u{1b}]0;x\u{7}",
            "anna 03-04 -net say=<b>x</b>",
            "anna 03-05",
        ],
        wants: &[("machines", "3")],
        lacks: &["\u{1b}", "\u{7}"],
        ..NONE
    },
    Case { name: "where nothing can be read", sent: &["- 03-02 format=2"], says: &["01.json"], status: 2, ..NONE },
    Case {
        name: "an interrupted preflight is one of which not all is known",
        sent: &["- 03-02 interrupted", "- 03-03"],
        wants: &[("ready", "1"), ("undecided", "1"), ("not_ready", "0")],
        ..NONE
    },
    Case {
        name: "ready here is not ready",
        sent: &["- 03-02 outcome=ready-here", "- 03-03"],
        wants: &[("ready", "1"), ("ready_here", "1"), ("not_ready", "0"), ("undecided", "0")],
        ..NONE
    },
    Case {
        name: "a question of another minimum, by the newest of each machine",
        sent: &["anna 03-02 buoy=2.1", "anna 03-09 buoy=3.1", "bert 03-03 buoy=2.1", "carl 03-04 buoy=1.9"],
        asked: &["--what-if", "buoy >= 3"],
        wants: &[("what_if", "stays 1, lost 1")],
        ..NONE
    },
];

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
        made.push_str(&format!("[[program]]\npath = \"{folder}{tool}ctl{end}\"\n{tells}\n"));
    }
    made
}

fn run(within: &Path, arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(arguments)
        .env("COLUMNS", "200")
        .env_remove("CI")
        .current_dir(within)
        .output()
        .unwrap()
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
            "what_if" => format!("stays {}, lost {}", value["stay"], value["lost"]),
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
    let narrow = Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(["survey", "sent"])
        .env("COLUMNS", "50")
        .current_dir(within)
        .output()
        .unwrap();
    let narrow = text(&narrow.stdout);
    wrong.extend(narrow.lines().filter(|line| line.chars().count() > 50).map(|line| format!("too wide: {line}")));
    wrong
}

#[test]
fn a_survey_says_what_was_counted_by_hand() {
    let only = std::env::var("SURVEYED_ONLY").unwrap_or_default();
    let chosen: Vec<&Case> = CASES.iter().filter(|case| case.name.contains(&only)).collect();
    let failed: Vec<String> = chosen
        .iter()
        .filter_map(|case| {
            let wrong = wrong(case);
            (!wrong.is_empty()).then(|| format!("{}\n    {}", case.name, wrong.join("\n    ")))
        })
        .collect();
    assert!(failed.is_empty(), "{} of {} held\n  {}", chosen.len() - failed.len(), chosen.len(), failed.join("\n  "));
}
