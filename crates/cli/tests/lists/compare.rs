//! Pairs of machines, and what whoever compares them must be able to read of them.

use std::path::Path;
use std::process::Output;

use serde::Deserialize;

use crate::harness::{in_folder, text};
use crate::trials;
use libtest_mimic::Trial;

/// What a described machine has where a pair does not say otherwise: each table with the words that it begins with.
const ORDINARY: [(&str, &str); 6] = [
    ("[machine]", "name = \"NAME\"\nproject = \"/home/mate/buoy\""),
    ("[system]", "os = \"linux\""),
    ("[user]", "name = \"mate\""),
    ("[memory]", "total = \"8 GB\"\navailable = \"6 GB\""),
    ("[cores]", "online = 8"),
    ("[[filesystem]]", "at = \"/\"\navailable = \"100 GB\""),
];

#[derive(Deserialize)]
struct Pair {
    name: String,
    guide: String,
    one: String,
    other: String,
    says: Vec<String>,
    #[serde(default)]
    never: Vec<String>,
    #[serde(default)]
    not_in_reports: Vec<String>,
    differs: usize,
}

#[derive(Deserialize)]
struct Pairs {
    pair: Vec<Pair>,
}

fn machine(name: &str, said: &str) -> String {
    let has = |table: &str| said.lines().any(|line| line == table);
    let path = if said.starts_with("path = [") { "" } else { "path = [\"/usr/bin\"]\n" };
    let tables = ORDINARY.into_iter().filter(|(table, _)| !has(table));
    let tables: Vec<String> = tables.map(|(table, words)| format!("{table}\n{}", words.replace("NAME", name))).collect();
    format!("format = 1\nother_ports = \"free\"\n{path}{said}\n{}\n", tables.join("\n"))
}

fn run(within: &Path, arguments: &[&str]) -> Output {
    in_folder(within, "200", arguments)
}

/// What is wrong with how two sides are compared.
fn wrong(pair: &Pair, is_reported: bool, output: &Output) -> Vec<String> {
    let said = text(&output.stdout);
    // A line that is broken says the same.
    let said = said.split_whitespace().collect::<Vec<_>>().join(" ");
    let says = pair.says.iter().filter(|words| !is_reported || !pair.not_in_reports.contains(*words));
    let mut wrong: Vec<String> =
        says.filter(|words| !said.contains(*words)).map(|words| format!("does not say {words:?}")).collect();
    wrong.extend(pair.never.iter().filter(|words| said.contains(*words)).map(|words| format!("says {words:?}")));
    let verdicts = match pair.differs {
        0 => "come to the same verdicts".to_owned(),
        1 => "1 verdict differs".to_owned(),
        several => format!("{several} verdicts differ"),
    };
    if !said.contains(&verdicts) {
        wrong.push(format!("not {verdicts:?}"));
    }
    if output.status.code() != Some(i32::from(pair.differs > 0)) {
        wrong.push(format!("{:?} {}", output.status.code(), text(&output.stderr)));
    }
    if !wrong.is_empty() {
        wrong.push(format!("of: {said}"));
    }
    wrong
}

/// What is wrong with how the two of a pair are compared, as described machines and by their reports.
fn wrong_with(pair: &Pair) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    std::fs::write(within.join("setup-guide.toml"), format!("format = 1\n[project]\nname = \"Buoy\"\n{}\n", pair.guide)).unwrap();
    for (name, said) in [("one", &pair.one), ("other", &pair.other)] {
        std::fs::write(within.join(format!("{name}.toml")), machine(name, said)).unwrap();
        let (described, made) = (format!("{name}.toml"), format!("{name}.json"));
        let made = run(within, &["preflight", "--machine", &described, "--format", "json", "--output", &made]);
        assert!(matches!(made.status.code(), Some(0 | 1 | 3)), "{}", text(&made.stderr));
    }
    let sides = [["one.toml", "other.toml"], ["one.json", "other.json"]];
    let wrong = sides.map(|[one, other]| wrong(pair, one.ends_with("json"), &run(within, &["compare", one, other])));
    wrong.concat()
}

/// Whoever compares two machines reads what makes them differ.
pub(crate) fn tests() -> Vec<Trial> {
    let pairs: Pairs = toml::from_str(include_str!("compare/pairs.toml")).unwrap();
    // The engine is the same everywhere, and under Wine each start takes its time.
    let chosen = pairs.pair.into_iter().step_by(if cfg!(windows) { 15 } else { 1 });
    let mut tests: Vec<Trial> =
        chosen.map(|pair| trials::test("beside", &pair.name.clone(), move || wrong_with(&pair))).collect();
    tests.extend(trials::functions!(
        "beside": what_is_pasted_of_a_comparison_has_no_names_in_it_unless_it_is_asked_for,
        what_was_left_out_by_choice_is_no_difference_between_machines,
    ));
    #[cfg(unix)]
    tests.extend(trials::functions!("beside": a_path_in_the_place_of_a_name_is_pasted_without_the_home_folder));
    tests
}

/// What is pasted has nobody's names in it; what stays here has.
fn what_is_pasted_of_a_comparison_has_no_names_in_it_unless_it_is_asked_for() {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    let guide = "format = 1\n[project]\nname = \"Buoy\"\n[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25\"\n[require.page]\nport = 7070\n";
    std::fs::write(within.join("setup-guide.toml"), guide).unwrap();
    let program = |path: &str, prints: &str| {
        format!("path = [\"/home/oskar/bin\"]\n[[program]]\npath = \"{path}\"\nprints = \"{prints}\"\n")
    };
    let port = "[[port]]\nport = 7070\nholder = \"lighthouse\"\nuser = \"ragnhild\"\n";
    let one = machine("one", &program("/home/oskar/bin/cmake", "cmake version 3.28.1, told to oskar@harbour.example"));
    let other =
        machine("other", &(program("/home/oskar/bin/cmake", "cmake version 3.10.2, told to oskar@harbour.example") + port));
    std::fs::write(within.join("one.toml"), one).unwrap();
    std::fs::write(within.join("other.toml"), other).unwrap();
    for name in ["one", "other"] {
        run(
            within,
            &["preflight", "--machine", &format!("{name}.toml"), "--format", "json", "--output", &format!("{name}.json")],
        );
    }
    for [one, other] in [["one.toml", "other.toml"], ["one.json", "other.json"]] {
        for form in ["markdown", "html"] {
            let told = |more: &[&str]| {
                let output = run(within, &[&["compare", one, other, "--format", form], more].concat());
                assert_eq!(output.status.code(), Some(1), "{}", text(&output.stderr));
                text(&output.stdout)
            };
            let (pasted, kept) = (told(&[]), told(&["--with-names"]));
            for name in ["oskar", "ragnhild", "harbour.example"] {
                assert!(!pasted.contains(name), "{form} of {one} holds {name}: {pasted}");
                assert!(kept.contains(name), "{form} of {one} lacks {name}: {kept}");
            }
            assert!(pasted.contains("3.10.2") && pasted.contains("3.28.1"), "{pasted}");
        }
    }
}

/// Two that are called alike get their paths, and these tell whose they are.
#[cfg(unix)]
fn a_path_in_the_place_of_a_name_is_pasted_without_the_home_folder() {
    let folder = tempfile::tempdir().unwrap();
    let home = folder.path().join("oskar");
    let file = |name: &str| home.join(name).join("m.recording.json").display().to_string();
    std::fs::create_dir_all(home.join("class")).unwrap();
    std::fs::create_dir_all(home.join("mine")).unwrap();
    std::fs::write(home.join("setup-guide.toml"), "format = 1\n[project]\nname = \"Buoy\"\n[require.room]\ncores = 4\n").unwrap();
    for (name, cores) in [("class", 2), ("mine", 8)] {
        std::fs::write(home.join("m.toml"), machine("m", &format!("[cores]\nonline = {cores}"))).unwrap();
        run(&home, &["record", "--machine", "m.toml", "--yes", "--output", &file(name)]);
    }
    let (one, other) = (file("class"), file("mine"));
    let told = |more: &[&str]| {
        let mut command = std::process::Command::new(env!("CARGO_BIN_EXE_setup-ready"));
        command.args(["compare", &one, &other, "--format"]).args(more).current_dir(&home);
        text(&command.env("HOME", &home).env("USER", "oskar").output().unwrap().stdout)
    };
    assert!(told(&["json"]).contains("oskar"), "what stays here has its paths");
    let pasted = told(&["html"]);
    assert!(!pasted.contains("oskar") && pasted.contains("mine") && pasted.contains("m.recording.json"), "{pasted}");
}

/// What one was not asked for is nothing in which two machines differ.
fn what_was_left_out_by_choice_is_no_difference_between_machines() {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    let guide = "format = 1\n[project]\nname = \"Buoy\"\n[role.shore]\nabout = \"a\"\n[role.docs]\nabout = \"b\"\n\
         [require.cmake]\ntool = \"cmake\"\nroles = [\"shore\"]\n[require.room]\ncores = 4\n[require.pen]\ntool = \"pen\"\nroles = [\"docs\"]\n\
         [require.files]\nreach = \"https://files.example\"\n";
    std::fs::write(within.join("setup-guide.toml"), guide).unwrap();
    for (name, role) in [("one", "shore"), ("other", "docs"), ("third", "docs")] {
        let told = "[[site]]\nurl = \"https://files.example\"\n";
        let cmake = "[[program]]\npath = \"/usr/bin/cmake\"\nprints = \"cmake version 3.28.1\"\n";
        std::fs::write(within.join(format!("{name}.toml")), machine(name, &format!("{told}{cmake}"))).unwrap();
        let (described, made) = (format!("{name}.toml"), format!("{name}.json"));
        let mut all = vec!["preflight", "--machine", &described, "--role", role, "--format", "json", "--output", &made];
        if name == "third" {
            all.push("--offline");
        }
        run(within, &all);
    }
    let said = |one: &str, other: &str| {
        let output = run(within, &["compare", one, other]);
        (output.status.code(), text(&output.stdout).split_whitespace().collect::<Vec<_>>().join(" "))
    };
    let roles = "Checked on some only cmake and pen 2 machines come to the same verdicts: 2 are equal, 0 differ within what the guide \
                 asks for, and 2 were checked on some only.";
    assert_eq!(said("one.json", "other.json"), (Some(0), roles.to_owned()));
    let offline = "Checked on some only files 2 machines come to the same verdicts: 2 are equal, 0 differ within what the guide asks \
                   for, and 1 was checked on some only.";
    assert_eq!(said("other.json", "third.json"), (Some(0), offline.to_owned()));
}
