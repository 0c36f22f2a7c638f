//! 10,000 requirements on a described machine: read, assess, plan, write as JSON, against the `toml` crate alone reading the same file.

use crate::{Row, fastest, milliseconds, ratio, time};
use build_setup_ready::{Described, Preflight, write};
use setup_ready_core::guide;
use std::fmt::Write;
use std::process::Command;
use std::time::Duration;

const RUNS: usize = 9;

/// A guide of as many requirements, of the six kinds, half of them met.
fn guide_text(count: usize) -> String {
    let mut text =
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[[stage]]\nid = \"machine\"\ntitle = \"Your machine\"\n".to_owned();
    for index in 0..count {
        let _ = writeln!(text, "\n[require.thing-{index}]\nstage = \"machine\"");
        let _ = match index % 8 {
            0..=4 => writeln!(
                text,
                "tool = \"tool-{}\"\nversion = \">= {}.{}, < 90\"\npackages = {{ apt = \"tool-{index}\", dnf = \"tool-{index}\", brew = \"tool-{index}\" }}",
                index % 2_000,
                index % 7,
                index % 11
            ),
            5 => writeln!(
                text,
                "port = {}\nset_by = {{ variable = \"PORT_{index}\", env_file = \".env\" }}",
                1_024 + index % 60_000
            ),
            6 => writeln!(text, "disk = \"{} kB\"\nat = \"place/{index}\"", index % 90 + 1),
            _ => writeln!(text, "memory = \"{} MB\"\nlevel = \"should\"", index % 9_000 + 1),
        };
        let _ = writeln!(text, "why = \"Part {index} of the project cannot be built or tried out without it.\"");
    }
    text
}

fn machine_text() -> String {
    let mut text = "format = 1\nother_ports = \"free\"\n[machine]\nname = \"large\"\n[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n\
                    [user]\nname = \"skipper\"\nelevate = \"sudo\"\nadmin = true\n[memory]\ntotal = \"8 GB\"\n[[filesystem]]\nat = \"/\"\navailable = \"900 GB\"\n"
        .to_owned();
    for index in 0..2_000 {
        let _ = writeln!(text, "[[program]]\npath = \"/usr/bin/tool-{index}\"\nprints = \"tool-{index} version 3.{index}\"");
    }
    text
}

fn whole(guide: &str, machine: &Described) -> usize {
    let guide = guide::parse(guide).unwrap();
    let report = Preflight::new(&guide).run(machine).unwrap();
    let mut json = Vec::new();
    write::json(&report, &mut json).unwrap();
    json.len()
}

fn tree(guide: &str) -> usize {
    guide.parse::<toml::Table>().unwrap().len()
}

pub(crate) fn rows() -> Vec<Row> {
    let machine = Described::parse(&machine_text()).unwrap();
    let (large, small) = (guide_text(10_000), guide_text(1_000));
    let [mut ours, mut theirs, mut ours_small] = [(); 3].map(|()| Vec::with_capacity(RUNS));
    for _ in 0..RUNS {
        ours.push(time(|| assert!(whole(&large, &machine) > 1_000_000)));
        theirs.push(time(|| assert!(tree(&large) > 2)));
        ours_small.push(time(|| assert!(whole(&small, &machine) > 100_000)));
    }
    let [ours, theirs, ours_small] = [ours, theirs, ours_small].map(|times| fastest(&times));
    let row = |what: &str, other: Duration, target: f64| Row {
        what: what.to_owned(),
        ours: milliseconds(ours),
        other: milliseconds(other),
        ratio: ratio(ours, other),
        target,
    };
    let (memory, memory_of_toml, idle) = (peak("child-whole"), peak("child-toml"), peak("child-idle"));
    vec![
        row("10,000 requirements read, assessed, planned, written as JSON, against the toml crate alone: time", theirs, 2.5),
        row("the same, against 1,000 requirements", ours_small, 11.0),
        Row {
            what: "the same, against the toml crate alone: peak memory above an idle process".to_owned(),
            ours: format!("{} kB", memory - idle),
            other: format!("{} kB", memory_of_toml - idle),
            ratio: (memory - idle) / (memory_of_toml - idle).max(1.0),
            target: 2.0,
        },
    ]
    .into_iter()
    .chain(unmet())
    .collect()
}

/// A machine that has none of it.
const BARE: &str = "format = 1\n[machine]\nname = \"bare\"\n[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n[user]\nname = \"skipper\"\nelevate = \"sudo\"\nadmin = true\n";

fn unmet_text(count: usize) -> String {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for index in 0..count {
        let _ = writeln!(text, "[require.c{index}]\ntool = \"t{index}\"\nversion = \">= 3\"\nwhy = \"Part {index} needs it.\"");
    }
    text
}

/// All unmet: the time, the peak memory, and the JSON.
fn unmet() -> Vec<Row> {
    let machine = Described::parse(BARE).unwrap();
    let text = unmet_text(10_000);
    let [mut ours, mut theirs] = [(); 2].map(|()| Vec::with_capacity(RUNS));
    for _ in 0..RUNS {
        ours.push(time(|| assert!(whole(&text, &machine) > 1_000_000)));
        theirs.push(time(|| assert!(tree(&text) > 2)));
    }
    let (ours, theirs) = (fastest(&ours), fastest(&theirs));
    let megabytes = |what: &str, size: f64, target: f64| Row {
        what: format!("10,000 all unmet: {what} (MB)"),
        ours: format!("{size:.1} MB"),
        other: String::new(),
        ratio: size,
        target,
    };
    #[allow(clippy::cast_precision_loss, reason = "a size in a table")]
    let json = whole(&text, &machine) as f64 / 1e6;
    vec![
        Row {
            what: "10,000 all unmet, against the toml crate alone: time".to_owned(),
            ours: milliseconds(ours),
            other: milliseconds(theirs),
            ratio: ratio(ours, theirs),
            target: 5.0,
        },
        megabytes("peak memory of the process", peak("child-unmet") * 1.024 / 1e3, 80.0),
        megabytes("the JSON", json, 25.0),
    ]
}

/// The peak memory of a child process of this benchmark, in kilobytes (`VmHWM` of proc(5)).
fn peak(mode: &str) -> f64 {
    let output = Command::new(std::env::current_exe().unwrap()).args([mode, "10000"]).output().unwrap();
    String::from_utf8(output.stdout).unwrap().trim().parse().unwrap()
}

pub(crate) fn child(mode: &str, count: usize) {
    let text = guide_text(count);
    let machine = Described::parse(&machine_text()).unwrap();
    let bare = Described::parse(BARE).unwrap();
    let done = match mode {
        // As the program does it: what is written is not kept.
        "child-unmet" => {
            let report = Preflight::new(guide::parse(&unmet_text(count)).unwrap()).run(&bare).unwrap();
            write::json(&report, std::io::sink()).unwrap();
            count
        }
        "child-whole" => whole(&text, &machine),
        "child-toml" => tree(&text),
        _ => text.len(),
    };
    assert!(done > 0);
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let line = status.lines().find_map(|line| line.strip_prefix("VmHWM:")).unwrap();
    println!("{}", line.trim().trim_end_matches("kB").trim());
}
