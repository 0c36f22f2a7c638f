//! Many machines: surveys, recordings, comparisons, and the texts that are replaced in what is sent.

use crate::{Row, fastest, milliseconds, ratio, time};
use build_setup_ready::demo::{GUIDE, class};
use build_setup_ready::{Described, GuideFile, Preflight, write};
use serde::de::IgnoredAny;
use setup_ready_core::compare::{Side, compare};
use setup_ready_core::guide;
use setup_ready_core::privacy::Replacer;
use setup_ready_fleet::{Surveying, record};
use std::sync::Arc;
use std::time::Duration;

const RUNS: usize = 5;

/// Reports of a made-up class, one a line.
fn lines(count: usize) -> String {
    let guide = Arc::new(guide::parse(GUIDE).unwrap());
    let made: Vec<String> = class(7, 100)
        .into_iter()
        .map(|newcomer| {
            let report = Preflight::new(Arc::clone(&guide)).run(&Described::parse(&newcomer.machine).unwrap()).unwrap();
            let mut pretty = Vec::new();
            write::json(&report, &mut pretty).unwrap();
            String::from_utf8(pretty).unwrap().lines().map(str::trim_start).collect::<String>() + "\n"
        })
        .collect();
    made.iter().cycle().take(count).cloned().collect()
}

fn best(mut call: impl FnMut()) -> Duration {
    fastest(&(0..RUNS).map(|_| time(&mut call)).collect::<Vec<_>>())
}

pub(crate) fn rows() -> Vec<Row> {
    let row = |what: &str, ours: Duration, other: Duration, target: f64| Row {
        what: what.to_owned(),
        ours: milliseconds(ours),
        other: milliseconds(other),
        ratio: ratio(ours, other),
        target,
    };
    let folder = tempfile::tempdir().unwrap();
    let survey = |name: &str, text: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, text).unwrap();
        best(|| {
            let surveying = Surveying { paths: vec![path.clone()], jobs: Some(1), ..Surveying::default() };
            assert!(surveying.read(&|_| {}).survey.reports > 100);
        })
    };
    let (large, small) = (lines(2_000), lines(500));
    let (ours, ours_small) = (survey("large.ndjson", &large), survey("small.ndjson", &small));
    let alone = best(|| {
        for line in large.lines() {
            assert!(serde_json::from_str::<IgnoredAny>(line).is_ok());
        }
    });

    let path = folder.path().join("setup-guide.toml");
    std::fs::write(&path, GUIDE).unwrap();
    let file = GuideFile::load(&path).unwrap();
    let machines: Vec<Described> = class(7, 2).iter().map(|one| Described::parse(&one.machine).unwrap()).collect();
    let reports: Vec<_> = machines.iter().map(|machine| Preflight::new(Arc::clone(&file.guide)).run(machine).unwrap()).collect();
    let preflight = best(|| {
        for machine in &machines {
            assert!(Preflight::new(Arc::clone(&file.guide)).run(machine).is_ok());
        }
    });
    let recorded = best(|| {
        for report in &reports {
            assert!(record(report, &file).is_ok());
        }
    });
    let sides: Vec<Side> = reports.iter().zip(["one", "other"]).map(|(report, name)| Side::of(name, report)).collect();
    let compared = best(|| assert!(!compare(Some(&file.guide), &sides).differences.is_empty()));

    let mut rows = vec![
        row("2,000 reports surveyed on one core, against serde_json alone passing over each", ours, alone, 2.5),
        row("the same, against 500", ours, ours_small, 4.6),
        row("two machines recorded, replaced and assessed again, against assessing them", recorded, preflight, 1.5),
        row("two machines compared, with what decides each difference, against assessing them", compared, preflight, 0.5),
    ];
    rows.extend(shapes());
    rows
}

/// Texts whose shape could make replacing grow faster than they do.
fn shapes() -> impl Iterator<Item = Row> {
    let all = [
        ("names", "marisol "),
        ("folders of people", "/home/a "),
        ("addresses", "10.1.2.3:"),
        ("colons", "a:"),
        ("dashes and digits", "1-"),
        ("keys", "token="),
        ("equals signs", "=="),
        ("one long word", "aB3"),
        ("blocks that are never closed", "-----BEGIN "),
        ("shares", "\\\\a\\b "),
        ("mail", "a@b.example,"),
        ("tildes", "~a/"),
    ];
    all.into_iter().map(|(name, part)| {
        let run = |bytes: usize| {
            let text = part.repeat(bytes / part.len());
            best(|| {
                let mut replacer = Replacer::for_guide(GUIDE);
                replacer.user("marisol");
                replacer.home("/srv/people/marisol");
                replacer.host("tern-wing-7.lab.harbour.example");
                assert!(!replacer.text(&text).is_empty());
            })
        };
        let (large, small) = (run(1_000_000), run(100_000));
        Row {
            what: format!("replacing what is private in 1 MB of {name}, against 100 kB"),
            ours: milliseconds(large),
            other: milliseconds(small),
            ratio: ratio(large, small),
            target: 13.0,
        }
    })
}
