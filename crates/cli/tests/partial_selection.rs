//! A check of a part says nothing of the whole: what was left out by a choice is not called ready, by no command and in no form.
//!
//! The first 18 cases were written before anything was done for them, and 6 held.

use crate::harness::{Bench, text};
use rstest::rstest;

/// Needed: `room` and `deck` are met; `there` is met where the file is; `page` needs the network. `lamp` is only recommended, `quay` is for one role,
/// `voyage` needs the running project.
const GUIDE: &str = "[[stage]]\nid = \"first\"\ntitle = \"First\"\n[[stage]]\nid = \"later\"\ntitle = \"Later\"\n[[stage]]\nid = \"running\"\ntitle = \"Running\"\n\
    after_start = true\n[role.crew]\n[role.shore]\n\
    [require.room]\ncores = 1\nstage = \"first\"\n[require.deck]\ncores = 1\nstage = \"first\"\n\
    [require.there]\nfile = \"there\"\nstage = \"later\"\nroles = [\"crew\"]\n[require.lamp]\nfile = \"lamp\"\nlevel = \"should\"\nstage = \"first\"\n\
    [require.quay]\nfile = \"quay\"\nroles = [\"shore\"]\nstage = \"first\"\n[require.voyage]\nfile = \"voyage\"\nstage = \"running\"\n";

const PAGE: &str = "[require.room]\ncores = 1\n[require.page]\nreach = \"http://127.0.0.1:9/\"\nLEVEL\n";

fn bench(page: Option<&str>) -> Bench {
    match page {
        Some(level) => Bench::new(&PAGE.replace("LEVEL", &format!("level = \"{level}\""))),
        None => Bench::new(GUIDE),
    }
}

#[rstest]
#[case::one_of_several(None, &["there"], &["--only", "room"], "ready-in-part", 0)]
#[case::one_of_several_that_is_not_met(None, &[], &["--only", "there"], "not-ready", 1)]
#[case::only_what_is_recommended(None, &["there", "lamp"], &["--only", "lamp"], "ready-in-part", 0)]
#[case::all_that_is_needed(None, &["there"], &["--role", "crew", "--only", "room,deck,there"], "ready", 0)]
#[case::all_that_is_needed_by_another_role_only(None, &["there"], &["--only", "room,deck,there"], "ready-in-part", 0)]
#[case::a_stage(None, &["there", "quay"], &["--stage", "first"], "ready-in-part", 0)]
#[case::a_stage_that_has_all_that_the_role_needs(None, &["quay"], &["--role", "shore", "--stage", "first"], "ready", 0)]
#[case::a_role(None, &["there"], &["--role", "crew"], "ready", 0)]
#[case::all_with_what_runs_later(None, &["there"], &["--role", "crew", "--after-start"], "not-ready", 1)]
#[case::only_what_runs_later(None, &["there", "voyage"], &["--role", "crew", "--after-start", "--stage", "running"], "ready-in-part", 0)]
#[case::without_the_network(Some("must"), &[], &["--offline"], "undecided", 3)]
#[case::without_the_network_where_it_is_only_recommended(Some("should"), &[], &["--offline"], "ready", 0)]
#[case::one_of_several_without_the_network(Some("must"), &[], &["--offline", "--only", "room"], "ready-in-part", 0)]
#[case::only_what_the_network_is_for(Some("must"), &[], &["--offline", "--only", "page"], "undecided", 3)]
fn a_part_is_not_the_whole(
    #[case] page: Option<&str>,
    #[case] files: &[&str],
    #[case] arguments: &[&str],
    #[case] outcome: &str,
    #[case] status: i32,
) {
    let bench = bench(page);
    for name in files {
        bench.file(name, "");
    }
    let (code, report) = bench.report(&[], arguments);
    assert_eq!((report["outcome"].as_str(), code), (Some(outcome), status), "{report:#}");
    let shown = |command: &str, more: &[&str]| {
        let output = bench.run(&[&[command], arguments, more].concat());
        text(&output.stdout).split_whitespace().collect::<Vec<_>>().join(" ")
    };
    let forms =
        [shown("preflight", &[]), shown("plan", &[]), shown("preflight", &["--format", "markdown"]), shown("preflight", &["-q"])];
    let whole = ["READY The one", "READY All", "everything needed is met", ": ready for", ": ready**"];
    let says_whole = |shown: &str| whole.iter().any(|words| shown.replace("NOT READY", "").contains(words));
    if outcome == "ready" {
        assert!(says_whole(&forms[0]) && says_whole(&forms[2]) && says_whole(&forms[3]), "{forms:#?}");
    } else {
        assert!(!forms.iter().any(|shown| says_whole(shown)), "{forms:#?}");
    }
    match outcome {
        "ready-in-part" => assert!(forms[0].contains("READY IN PART") && forms[0].contains("not looked at"), "{}", forms[0]),
        "undecided" => assert!(forms[0].contains("left out by --offline"), "{}", forms[0]),
        _ => {}
    }
}

#[rstest]
#[case::all_of_them("[require.b]\nreach = \"http://127.0.0.1:9/a\"\n", "skipped", "undecided")]
#[case::one_of_them_and_the_other_is_not_met("[require.b]\ntool = \"buoy-nowhere\"\n", "unknown", "undecided")]
#[case::one_of_them_and_the_other_is_met("[require.b]\ncores = 1\n", "met", "ready")]
fn alternatives_that_need_the_network_might_do(#[case] other: &str, #[case] verdict: &str, #[case] outcome: &str) {
    let guide = format!("[require.one]\nany_of = [\"a\", \"b\"]\n[require.a]\nreach = \"http://127.0.0.1:9/\"\n{other}");
    let bench = Bench::new(&guide);
    let (_, report) = bench.report(&[], &["--offline"]);
    assert_eq!(
        (report["requirements"][0]["verdict"].as_str(), report["outcome"].as_str()),
        (Some(verdict), Some(outcome)),
        "{report:#}"
    );
}

#[test]
fn what_was_open_last_time_is_not_all() {
    let bench = Bench::new("[require.room]\ncores = 1\n[require.there]\nfile = \"there\"\n");
    assert_eq!(bench.run(&["preflight"]).status.code(), Some(1));
    bench.file("there", "");
    let output = bench.run(&["preflight", "--again"]);
    let shown = text(&output.stdout);
    assert!(output.status.success() && shown.contains("READY IN PART") && shown.contains("1 more"), "{shown}");
    assert!(text(&bench.run(&["preflight"]).stdout).contains("READY  All 2 needed things are met."));
}

mod surveyed {
    use super::{Bench, GUIDE};
    use serde_json::Value;

    fn survey(bench: &Bench) -> Value {
        serde_json::from_slice(&bench.run(&["survey", "sent", "--format", "json"]).stdout).unwrap()
    }

    fn send(bench: &Bench, name: &str, arguments: &[&str]) {
        std::fs::create_dir_all(bench.project().join("sent")).unwrap();
        let file = format!("sent/{name}.json");
        bench.run(&[&["preflight", "--format", "json", "--output", &file], arguments].concat());
    }

    #[test]
    fn a_part_makes_no_machine_ready() {
        let bench = Bench::new(GUIDE);
        send(&bench, "part", &["--only", "room"]);
        send(&bench, "whole", &["--role", "crew"]);
        let counts = survey(&bench);
        assert_eq!(
            (&counts["machines"], &counts["ready"], &counts["not_ready"], &counts["in_part"]),
            (&2.into(), &0.into(), &1.into(), &1.into())
        );
        assert_eq!(
            counts["summary"],
            "0 of 2 machines are ready (0 %), 1 not ready, 1 looked at in part. What stops most is there: 1 of 1."
        );
    }

    #[test]
    fn a_part_is_put_to_what_was_known_of_the_same_machine() {
        let bench = Bench::new("[require.room]\ncores = 1\n[require.there]\nfile = \"there\"\n[require.quay]\nfile = \"quay\"\n");
        let sent = |name: &str, arguments: &[&str]| {
            send(&bench, name, &[&["--id"], arguments].concat());
            // The times of reports have seconds.
            let path = bench.project().join(format!("sent/{name}.json"));
            let text = std::fs::read_to_string(&path).unwrap();
            let mut report: Value = serde_json::from_str(&text).unwrap();
            report["started"] = format!("2026-11-2{name}T10:00:00Z").into();
            std::fs::write(path, report.to_string()).unwrap();
        };
        sent("1", &[]);
        bench.file("there", "");
        sent("2", &["--only", "there"]);
        let after_one = survey(&bench);
        assert_eq!((&after_one["machines"], &after_one["not_ready"], &after_one["in_part"]), (&1.into(), &1.into(), &0.into()));
        assert_eq!(after_one["stops"][0]["requirement"], "quay");
        bench.file("quay", "");
        sent("3", &["--again"]);
        let after_all = survey(&bench);
        assert_eq!(
            (&after_all["machines"], &after_all["ready"], &after_all["stops"]),
            (&1.into(), &1.into(), &serde_json::json!([]))
        );
        let helped =
            after_all["advised"].as_array().unwrap().iter().map(|one| one["met_next"]["count"].as_u64().unwrap()).sum::<u64>();
        assert_eq!(helped, 2);
    }

    #[test]
    fn what_was_left_out_for_the_network_is_not_made_up_for_by_a_part() {
        let bench = Bench::new("[require.there]\nfile = \"there\"\n[require.page]\nreach = \"http://127.0.0.1:9/\"\n");
        send(&bench, "1", &["--id", "--offline"]);
        bench.file("there", "");
        let path = bench.project().join("sent/1.json");
        let text = std::fs::read_to_string(&path).unwrap();
        let mut first: Value = serde_json::from_str(&text).unwrap();
        first["started"] = "2026-11-21T10:00:00Z".into();
        std::fs::write(path, first.to_string()).unwrap();
        send(&bench, "2", &["--id", "--only", "there"]);
        let counts = survey(&bench);
        assert_eq!((&counts["machines"], &counts["ready"], &counts["undecided"]), (&1.into(), &0.into(), &1.into()));
    }

    #[test]
    fn a_recording_of_a_part_comes_to_the_same() {
        let bench = Bench::new(GUIDE);
        bench.run(&["record", "--yes", "--only", "room", "--output", "part.recording.json"]);
        let output = bench.run(&["preflight", "--machine", "part.recording.json", "--format", "json"]);
        let report: Value = serde_json::from_slice(&output.stdout).unwrap();
        assert_eq!(report["outcome"], "ready-in-part", "{report:#}");
        // What only one of them was asked for is no difference.
        bench.run(&["record", "--yes", "--output", "whole.recording.json"]);
        let output = bench.run(&["compare", "part.recording.json", "whole.recording.json"]);
        assert_eq!(output.status.code(), Some(0), "{}", super::text(&output.stdout));
    }
}
