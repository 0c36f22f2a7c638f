//! What comes first and what waits, and what was open last time: the real program, on every system.

use crate::harness::{Bench, essence, of, text};
use serde_json::Value;

#[test]
fn what_five_wait_for_comes_first_and_the_rest_of_the_way_is_shown_behind_it() {
    let fetcher = "[require.fetcher]\ntool = \"buoy-fetch\"\npackages = { apt = \"buoy-fetch\", dnf = \"buoy-fetch\" }\n";
    let waiting = ["charts", "maps", "radio", "sounds", "tides"]
        .map(|name| format!("[require.{name}]\nfolder = \"{name}\"\nafter = [\"fetcher\"]\n"));
    let bench = Bench::new(&format!("{fetcher}{}", waiting.concat()));
    let (status, report) = bench.report(&[], &[]);
    assert_eq!((status, &report["counts"]["unmet"], &report["counts"]["blocked"]), (1, &Value::from(1), &Value::from(5)));
    assert_eq!(essence(&report, "tides").1, "waits-for");
    let presumed: Vec<_> = report["plan"]["steps"].as_array().unwrap().iter().map(|step| step["presumed"] == true).collect();
    assert_eq!(presumed, [false, true, true, true, true, true]);
    let shown = text(&bench.run(&["preflight"]).stdout).split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(shown.contains("Waits for it, and was not checked yet: folder charts, folder maps, folder radio, folder"), "{shown}");
    assert!(
        shown.contains("NOT READY Of 6 needed things, 1 is not met and 5 are waiting for others. 6 things to do."),
        "{shown}"
    );
}

#[test]
fn what_must_come_first_is_known_without_being_said() {
    let bench = Bench::new(
        "[require.python]\ntool = \"buoy-python\"\n[require.module]\ncommand = [\"buoy-python\", \"-c\", \"import serial\"]
         [require.broker]\ntool = \"buoy-broker\"\n[require.port]\nport = 47883\nheld_ok = [\"buoy-broker\"]\n[require.service]\nservice = \"localhost:47883\"
         [require.old]\ntool = \"buoy-old\"\nversion = \">= 2\"\n[require.runs]\ncommand = [\"buoy-old\"]\n",
    );
    bench.program("buoy-old", "echo 1.0");
    let (_, report) = bench.report(&[], &["--allow-commands"]);
    let waits = |id: &str| (essence(&report, id).1, of(&report, id)["blocked_by"][0].as_str().map(ToOwned::to_owned));
    assert_eq!(waits("module"), ("waits-for".to_owned(), Some("python".to_owned())));
    assert_eq!(waits("service"), ("waits-for".to_owned(), Some("broker".to_owned())));
    // A program that is too old can still be asked.
    assert_eq!((essence(&report, "old").1.as_str(), essence(&report, "runs").0.as_str()), ("tool-too-old", "met"));
}

#[test]
fn alternatives_speak_through_what_asks_for_them() {
    let body = |tool: &str| {
        format!(
            "[require.engine]\nsocket = \"nowhere.sock\"\n[require.sim]\ntool = \"{tool}\"
             [[require.sim.fix]]\nsay = \"Unpack the simulator.\"\nrun = \"unpack sim\"\n[require.either]\nany_of = [\"engine\", \"sim\"]\n"
        )
    };
    let bench = Bench::new(&body("buoy-sim"));
    let (status, report) = bench.report(&[], &[]);
    assert_eq!((status, essence(&report, "either").1.as_str()), (1, "none-of"));
    // The cheapest way out is the one that is planned, and only that.
    let steps = report["plan"]["steps"].as_array().unwrap();
    assert_eq!((steps.len(), &steps[0]["run"][0], &steps[0]["settles"][0]), (1, &"unpack sim".into(), &"either".into()));
    assert_eq!(of(&report, "either")["alternatives"], serde_json::json!(["sim", "engine"]));
    assert_eq!((&report["counts"]["unmet"], &of(&report, "engine")["is_alternative"]), (&Value::from(1), &Value::from(true)));
    bench.program("buoy-sim", "echo 1.0");
    let (status, report) = bench.report(&[], &[]);
    assert_eq!((status, report["outcome"].as_str(), essence(&report, "either").0.as_str()), (0, Some("ready"), "met"));
}

#[test]
fn what_was_open_last_time_is_checked_again() {
    let bench = Bench::new(
        "[role.crew]\n[role.guest]\n[require.hull]\nfolder = \"hull\"\n[require.mast]\nfolder = \"mast\"\nafter = [\"hull\"]\nroles = [\"crew\"]
         [require.room]\ncores = 1\n[require.guest]\nfolder = \"guest\"\nroles = [\"guest\"]\n",
    );
    let ids = |report: &Value| -> Vec<String> {
        report["requirements"].as_array().unwrap().iter().map(|one| one["id"].as_str().unwrap().to_owned()).collect()
    };
    // Nothing is remembered yet, so everything is looked at.
    let (_, report) = bench.report(&[], &["--again", "--role", "crew"]);
    assert_eq!(ids(&report).len(), 4);
    std::fs::create_dir(bench.project().join("hull")).unwrap();
    let (status, report) = bench.report(&[], &["--again"]);
    assert_eq!((status, ids(&report), report["role"].as_str()), (1, vec!["hull".to_owned(), "mast".to_owned()], Some("crew")));
    std::fs::create_dir(bench.project().join("mast")).unwrap();
    // What was asked for by name changes nothing of what is remembered.
    bench.report(&[], &["--only", "room"]);
    let (status, report) = bench.report(&[], &["--again"]);
    assert_eq!((status, ids(&report)), (0, vec!["hull".to_owned(), "mast".to_owned()]));
    let output = bench.run(&["preflight", "--again", "--role", "crew"]);
    assert!(text(&output.stderr).contains("nothing was open last time, so everything is checked"));
    // The project's folder holds nothing of it.
    assert_eq!(std::fs::read_dir(bench.project()).unwrap().count(), 3);
}
