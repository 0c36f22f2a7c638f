//! What another minimum would cost: eight machines, and what comes of a question, counted by hand before the answer was looked at.

use std::path::Path;
use std::process::Output;

use serde_json::Value;

use super::harness::{in_folder, text};

const GUIDE: &str = r#"
format = 1
[project]
name = "Buoy"
[require.cmake]
tool = "cmake"
version = ">= 3.25"
[require.memory]
memory = "8 GB"
[require.cores]
cores = 4
[require.room]
disk = "20 GB"
[require.files]
limit = "open-files"
at_least = 4096
[require.python]
tool = "python3"
[require.reader]
module = "yaml"
of = "python"
version = ">= 5"
[require.storage]
library = "sqlite3"
version = ">= 3.40"
[require.page]
port = 7070
"#;

/// What each machine has: cmake, memory, cores, room, open files, the module, the library.
const MACHINES: [[&str; 7]; 8] = [
    ["3.22.1", "4 GB", "2", "15 GB", "1024", "3.13", "3.37.2"],
    ["3.25.0", "8 GB", "4", "25 GB", "[1024, 65536]", "5.1", "3.40.1"],
    ["3.27.9", "8.2 GB", "4", "30 GB", "4096", "6.0.1", "3.45.1"],
    ["3.28.1", "15.9 GB", "8", "50 GB", "65536", "6.0.2", "3.46.1"],
    ["3.30.0-rc1", "16 GB", "8", "50 GB", "\"unlimited\"", "", ""],
    ["4.0.2", "32 GB", "16", "100 GB", "65536", "6.0.2", "3.46.1"],
    ["", "64 GB", "16", "200 GB", "8192", "6.0.2", "3.46.1"],
    // It has much memory, and a limit of 6 GB; its cmake never ends.
    ["stuck", "128 GB", "1", "500 GB", "", "6.0.2", "3.46.1"],
];

/// A question; then how many would stay, be lost, be open, not be met as they are not now, and be met that are not now.
const QUESTIONS: [(&str, [u64; 5]); 27] = [
    ("cmake >= 3.28", [3, 2, 0, 3, 0]),
    ("cmake >= 3.25", [5, 0, 0, 3, 0]),
    ("cmake >= 3.20", [5, 0, 0, 2, 1]),
    ("cmake>=3.20", [5, 0, 0, 2, 1]),
    ("cmake < 4", [4, 1, 0, 2, 1]),
    ("cmake >= 3.28, < 4", [2, 3, 0, 3, 0]),
    ("cmake >= 3.30", [1, 4, 0, 3, 0]),
    ("cmake >= 99", [0, 5, 0, 3, 0]),
    ("python3 >= 3.12", [0, 8, 0, 0, 0]),
    ("python >= 3.11", [8, 0, 0, 0, 0]),
    ("memory >= 16 GB", [3, 3, 0, 2, 0]),
    ("memory >= 16GB", [3, 3, 0, 2, 0]),
    ("memory >= 16 GiB", [2, 4, 0, 2, 0]),
    ("memory >= 4 GB", [6, 0, 0, 0, 2]),
    ("memory >= 8 GB", [6, 0, 0, 2, 0]),
    ("cores >= 8", [4, 2, 0, 2, 0]),
    ("cores >= 2", [6, 0, 0, 1, 1]),
    ("cores >= 1", [6, 0, 0, 0, 2]),
    ("room >= 60 GB", [3, 4, 0, 1, 0]),
    ("room >= 10 GB", [7, 0, 0, 0, 1]),
    ("files >= 8192", [4, 1, 0, 3, 0]),
    ("files >= 1024", [5, 0, 0, 1, 2]),
    ("open-files >= 8192", [4, 1, 0, 3, 0]),
    ("reader >= 6", [5, 1, 0, 2, 0]),
    ("reader >= 3", [6, 0, 0, 1, 1]),
    ("storage >= 3.45", [5, 1, 0, 2, 0]),
    ("storage < 3.46", [2, 4, 0, 1, 1]),
];

/// What is no question, and what must be said of it.
const NO_QUESTIONS: [(&str, &[&str]); 14] = [
    ("", &["cmake >= 3.28"]),
    ("cmake", &["cmake >= 3.28"]),
    (">= 3", &["names no requirement"]),
    ("cmake >=", &["cmake >= 3.28"]),
    ("cmake >= banana", &["banana"]),
    ("cmake >= 16 GB", &["cmake", "version"]),
    ("cmacke >= 3.28", &["cmacke", "Did you mean cmake?"]),
    ("nothing >= 3", &["nothing", "cmake", "memory"]),
    ("page >= 3", &["page", "cmake", "memory"]),
    ("memory >= banana", &["memory >= 16 GB"]),
    ("memory >= 16", &["memory >= 16 GB"]),
    ("memory < 16 GB", &["memory >= 16 GB"]),
    ("cores >= 8 GB", &["cores >= 8"]),
    ("files >= 3.28", &["files >= 8192"]),
];

fn run(within: &Path, arguments: &[&str]) -> Output {
    in_folder(within, "80", arguments)
}

fn machine(at: usize, [cmake, memory, cores, room, files, reader, storage]: [&str; 7]) -> String {
    let mut text = format!(
        "format = 1\nother_ports = \"free\"\npath = [\"/usr/bin\"]\n[machine]\nname = \"m{at}\"\n[system]\nos = \"linux\"\n\
         [user]\nname = \"mate\"\n[memory]\ntotal = \"{memory}\"\n[cores]\nonline = {cores}\n[[filesystem]]\nat = \"/\"\navailable = \"{room}\"\n\
         [[program]]\npath = \"/usr/bin/python3\"\nprints = \"Python 3.11.4\"\n"
    );
    let mut add = |part: String| text.push_str(&part);
    match cmake {
        "" => {}
        "stuck" => {
            add("[[program]]\npath = \"/usr/bin/cmake\"\nnever_ends = true\n".to_owned());
            add("[[memory.cap]]\nby = \"the control group /user.slice\"\namount = \"6 GB\"\n".to_owned());
        }
        version => add(format!("[[program]]\npath = \"/usr/bin/cmake\"\nprints = \"cmake version {version}\"\n")),
    }
    if !files.is_empty() {
        add(format!("[limits]\nopen-files = {files}\n"));
    }
    if !reader.is_empty() {
        add(format!("[[module]]\nof = \"python\"\nname = \"yaml\"\nversion = \"{reader}\"\n"));
    }
    if !storage.is_empty() {
        add(format!("[[library]]\nname = \"sqlite3\"\nversion = \"{storage}\"\n"));
    }
    text
}

/// A report does not say which needs lie on one disk: what fits by itself may not fit with the others.
#[test]
fn of_several_needs_on_a_disk_a_report_alone_promises_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    let guide = "format = 1\n[project]\nname = \"Buoy\"\n[require.room]\ndisk = \"5 GB\"\n[require.charts]\ndisk = \"5 GB\"\nat = \"~/charts\"\n";
    std::fs::write(within.join("setup-guide.toml"), guide).unwrap();
    std::fs::write(within.join("m.toml"), machine(0, ["", "4 GB", "2", "30 GB", "", "", ""])).unwrap();
    run(within, &["preflight", "--machine", "m.toml", "--format", "json", "--output", "m.json"]);
    run(within, &["record", "--machine", "m.toml", "--yes", "--output", "m.recording.json"]);
    let came = |file: &str| -> Value {
        let output = run(within, &["survey", file, "--what-if", "room >= 28 GB", "--format", "json"]);
        serde_json::from_slice(&output.stdout).unwrap()
    };
    assert_eq!(came("m.recording.json")["what_if"]["lost"], 1);
    assert_eq!((&came("m.json")["what_if"]["unknown"], &came("m.json")["what_if"]["stays"]), (&1.into(), &0.into()));
}

#[test]
fn another_minimum_costs_what_is_counted_by_hand() {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    std::fs::write(within.join("setup-guide.toml"), GUIDE).unwrap();
    for kind in ["reports", "recordings"] {
        std::fs::create_dir(within.join(kind)).unwrap();
    }
    for (at, has) in MACHINES.into_iter().enumerate() {
        let described = format!("m{at}.toml");
        std::fs::write(within.join(&described), machine(at, has)).unwrap();
        let (report, recording) = (format!("reports/m{at}.json"), format!("recordings/m{at}.recording.json"));
        let made = run(within, &["preflight", "--machine", &described, "--format", "json", "--output", &report]);
        assert!(matches!(made.status.code(), Some(0 | 1 | 3)), "{}", text(&made.stderr));
        let made = run(within, &["record", "--machine", &described, "--yes", "--output", &recording]);
        assert!(made.status.success(), "{}", text(&made.stderr));
    }
    let mut wrong = Vec::new();
    // The engine is the same everywhere, and under Wine each start takes its time.
    for (question, wanted) in QUESTIONS.into_iter().step_by(if cfg!(windows) { 10 } else { 1 }) {
        for kind in ["reports", "recordings"] {
            let output = run(within, &["survey", kind, "--what-if", question, "--format", "json"]);
            let came: Value = serde_json::from_slice(&output.stdout).unwrap_or(Value::Null);
            let came = ["stays", "lost", "unknown", "not_met_already", "gained"].map(|key| came["what_if"][key].as_u64());
            if came != wanted.map(Some) {
                wrong.push(format!("{question} of {kind}: {came:?}, not {wanted:?} {}", text(&output.stderr)));
            }
        }
    }
    for (question, words) in NO_QUESTIONS {
        let output = run(within, &["survey", "reports", "--what-if", question]);
        let said = text(&output.stderr);
        let missing: Vec<_> = words.iter().filter(|words| !said.contains(**words)).collect();
        if output.status.code() != Some(2) || !missing.is_empty() {
            wrong.push(format!("{question:?}: {:?}, lacks {missing:?}: {said}", output.status.code()));
        }
    }
    let all = 2 * QUESTIONS.len() + NO_QUESTIONS.len();
    assert!(wrong.is_empty(), "{} of {all} hold:\n{}", all - wrong.len(), wrong.join("\n"));
}
