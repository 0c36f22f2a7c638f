//! The plan by itself: read by what reads such things, and carried out.

use crate::harness::{Bench, demonstration, text};
#[cfg(unix)]
use build_setup_ready::demo::MACHINES;
use serde_json::Value;
use snapbox::IntoData;
use snapbox::assert_data_eq;
use snapbox::data::Data;
#[cfg(unix)]
use std::os::unix::fs::{PermissionsExt, symlink};
use std::path::Path;
fn demo() -> Bench {
    let bench = Bench::new("[require.unused]\ncores = 1\n");
    demonstration(&bench.project().join("sea"));
    bench
}

fn snapshot(name: &str) -> Data {
    Data::read_from(&Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots").join(name), None)
}

#[test]
fn a_plan_reads_like_this() {
    let bench = demo();
    let plan = |format: &str| {
        let machine = "sea/machines/shared-server.toml";
        text(&bench.run(&["plan", "--guide", "sea", "--machine", machine, "--role", "firmware", "--format", format]).stdout)
    };
    assert_data_eq!(plan("sh").raw(), snapshot("plan.sh").raw());
    assert_data_eq!(plan("markdown").raw(), snapshot("plan.md").raw());
    let json: Value = serde_json::from_str(&plan("json")).unwrap();
    assert_eq!((json["outcome"].as_str(), json["role"].as_str()), (Some("not-ready"), Some("firmware")));
    assert!(json["plan"]["steps"].as_array().unwrap().len() > 3);
}

#[test]
fn a_script_for_windows_reads_like_this() {
    let bench = demo();
    let script = |machine: &str| {
        let machine = format!("sea/machines/{machine}.toml");
        text(&bench.run(&["plan", "--guide", "sea", "--machine", &machine, "--role", "shore", "--format", "powershell"]).stdout)
    };
    assert_data_eq!(script("workshop-windows-pc").raw(), snapshot("plan.ps1").raw());
    // Of a machine whose shell is another one, nothing in it does anything.
    let other = script("clean-debian-laptop");
    let steps = other.split_once("\n# 1.").unwrap().1;
    assert!(
        steps.lines().skip(1).all(|line| line.is_empty() || line.starts_with('#') || line.starts_with("Write-Host '")),
        "{steps}"
    );
}

/// The script of a plan for each machine of the demonstration, read by a program that must have nothing to say against it.
#[cfg(unix)]
#[rstest::rstest]
#[case::a_shell("sh", &["-n"])]
#[ignore = "needs shellcheck"]
#[case::shellcheck("shellcheck", &["--severity=style", "--exclude=SC1091,SC2016"])]
fn a_script_of_every_machine_is_one_that_shells_read(#[case] reader: &str, #[case] options: &[&str]) {
    let bench = demo();
    for machine in MACHINES {
        let file = format!("sea/machines/{}.toml", machine.name);
        let output = bench.run(&["plan", "--guide", "sea", "--machine", &file, "--format", "sh", "--output", "steps.sh"]);
        assert!(matches!(output.status.code(), Some(0 | 1)), "{}", text(&output.stderr));
        let read = bench.wrapped(reader, &[options, &["steps.sh"]].concat()).output().unwrap();
        assert!(read.status.success(), "{}: {}", machine.name, text(&read.stdout));
    }
}

#[test]
#[cfg(unix)]
fn a_script_that_is_carried_out_makes_ready() {
    let held = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let port = held.local_addr().unwrap().port();
    let bench = Bench::new(&format!(
        "[require.folder]\nfolder = \"sea charts/north\"\n[require.key]\nfile = \"it's a key\"\nmode = \"600\"\n[require.program]\nfile = \"-run\"\nexecutable = true
         [require.link]\nfolder = \"link\"\n[require.other]\nfolder = \"$HOME\"\n[require.gone]\nfile = \"old\"\nexpect = \"absent\"
         [require.port]\nport = {port}\naddress = \"127.0.0.1\"\nset_by = {{ variable = \"BUOY_PORT\", env_file = \".env\" }}
         [require.branch]\ncheckout = \"copy\"\nbranch = \"tide\"\n"
    ));
    let project = bench.project();
    for (name, mode) in [("it's a key", 0o644), ("-run", 0o644), ("$HOME", 0o644), ("old", 0o644)] {
        std::fs::set_permissions(bench.file(name, ""), std::fs::Permissions::from_mode(mode)).unwrap();
    }
    symlink("nowhere", project.join("link")).unwrap();
    std::fs::create_dir(project.join("copy")).unwrap();
    let git = |arguments: &[&str]| {
        let who = ["-C", "copy", "-c", "user.name=x", "-c", "user.email=x@driftbuoy.example"];
        assert!(bench.wrapped("git", &[&who, arguments].concat()).output().unwrap().status.success());
    };
    git(&["init", "-q", "-b", "main"]);
    git(&["commit", "-q", "--allow-empty", "-m", "first"]);
    git(&["branch", "tide"]);
    let (status, before) = bench.report(&[], &[]);
    assert_eq!((status, &before["counts"]["unmet"]), (1, &Value::from(8)), "{before:#}");
    assert_eq!(bench.run(&["plan", "--format", "sh", "--output", "steps.sh"]).status.code(), Some(1));
    let done = bench.wrapped("sh", &["steps.sh"]).output().unwrap();
    assert!(done.status.success(), "{}", text(&done.stderr));
    let (status, after) = bench.report(&[], &[]);
    assert_eq!((status, &after["counts"]["met"]), (0, &Value::from(8)), "{after:#}");
}

#[test]
fn a_strangers_words_do_not_leave_their_comments() {
    let bench = Bench::new(
        "[require.x]\ncores = 9999\ntitle = \"a\\nrm -rf ~\"\n[[require.x.fix]]\nsay = \"b\\ntouch ran # `c`\"\ncaution = \"d\\ntouch ran\"\nadmin = true\n",
    );
    let script = text(&bench.run(&["plan", "--format", "sh"]).stdout);
    assert!(
        script[script.find("\n# 1.").unwrap()..].lines().all(|line| ["", ")", "at=''"].contains(&line)
            || ["#", "printf '%s\\n' 'Now ", "ask_person 1 'For you, step 1: ", "if [ -n \"$left\" ]; then printf "]
                .iter()
                .any(|start| line.starts_with(start))),
        "{script}"
    );
    #[cfg(unix)]
    assert!(bench.wrapped("sh", &["-c", &script]).status().unwrap().success());
    assert!(!bench.project().join("ran").exists());
}

/// A download tool, what it fetches, what that brings, and what that makes possible.
const LAYERS: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\n[role.fitter]\nabout = \"fitter\"\n[role.writer]\nabout = \"writer\"
[require.fetcher]\ntool = \"curl\"\nroles = [\"fitter\"]
[require.manager]\ntool = \"buoyup\"\nafter = [\"fetcher\"]\nroles = [\"fitter\"]\n[[require.manager.fix]]\nsay = \"Fetch the manager.\"
run = [\"curl -sSfo buoyup.sh https://driftbuoy.example/buoyup.sh\", \"sh buoyup.sh\"]\ndownload = \"20 MB\"\ntakes = \"1 min\"
[require.compiler]\ntool = \"buoycc\"\nversion = \">= 3\"\nafter = [\"manager\"]\nroles = [\"fitter\"]\n[[require.compiler.fix]]\nsay = \"Let the manager bring the compiler.\"
run = [\"buoyup add buoycc\"]\ndownload = \"300 MB\"\ntakes = \"2 min\"
[require.build]\ncommand = [\"buoycc\", \"--probe\"]\nafter = [\"compiler\"]\nroles = [\"fitter\"]
[require.desk]\ncores = 1\n";
const OLD_LAPTOP: &str = "format = 1\n[machine]\nname = \"old-laptop\"\n[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n[cores]\nonline = 4\n[user]\nname = \"skipper\"\nelevate = \"sudo\"
admin = ADMIN\nshell = \"bash\"\n[candidates.apt]\ncurl = { version = \"7.88.1\", download = \"2 MB\" }\n";

#[test]
fn a_plan_of_three_layers_is_shown_whole_with_one_sum() {
    let bench = Bench::with_guide(LAYERS);
    bench.file("m.toml", &OLD_LAPTOP.replace("ADMIN", "true"));
    let shown = text(&bench.run(&["preflight", "--machine", "m.toml"]).stdout);
    let at = |words: &str| shown.find(words).unwrap_or_else(|| panic!("{words} is not in {shown}"));
    assert!(at("sudo apt-get install curl") < at("sh buoyup.sh") && at("sh buoyup.sh") < at("buoyup add buoycc"), "{shown}");
    assert_eq!(shown.matches("after that, most likely").count(), 2, "{shown}");
    at("In all: 322 MB to download, 3 min");
    at("Waits for it, and was not checked yet: buoyup, buoycc and");
    at("It has worked if `buoycc --version` says a version that is >= 3.");
    // For one role it is ready all the same, and that is said.
    at("For one role alone: ready for writer; not ready for fitter.");
    let (_, report) = bench.report(&[], &["--machine", "m.toml"]);
    assert_eq!(report["roles"][1], serde_json::json!({ "id": "writer", "outcome": "ready" }));
}

#[test]
fn what_only_an_administrator_can_do_is_one_text_to_send() {
    let bench = Bench::with_guide(LAYERS);
    bench.file("m.toml", &OLD_LAPTOP.replace("ADMIN", "false"));
    let plan = |format: &str| text(&bench.run(&["plan", "--machine", "m.toml", "--role", "fitter", "--format", format]).stdout);
    let json: Value = serde_json::from_str(&plan("json")).unwrap();
    let lines = [
        "To get this machine ready for Driftbuoy for the user skipper, please do this:",
        "- Install curl.",
        "    sudo apt-get install curl",
    ];
    assert_eq!(json["plan"]["request"], serde_json::json!(lines));
    assert!(plan("text").replace('\n', " ").contains("else send this"), "{}", plan("text"));
    let script = plan("sh");
    assert!(
        script.contains(
            "ask_person 1 'For whoever looks after this machine, step 1: Install curl.' '    sudo apt-get install curl'"
        ),
        "{script}"
    );
    assert!(script.contains("check again: setup-ready preflight --role fitter"), "{script}");
}

#[test]
fn where_there_is_nothing_to_do_the_plan_says_so_and_what_then() {
    let ready = Bench::new("[require.room]\ncores = 1\n");
    assert_eq!(text(&ready.run(&["plan"]).stdout), "There is nothing to do: everything needed is met.\n");
    let left_out = Bench::new("[require.page]\nreach = \"http://127.0.0.1:9/\"\n");
    let shown = text(&left_out.run(&["plan", "--offline"]).stdout);
    assert!(!shown.contains("When that is done") && shown.contains("nothing to do"), "{shown}");
}
