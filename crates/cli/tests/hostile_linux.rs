//! Attempts to do harm: each is a project, a guide, a program or a machine that must fail to. The lists in `hostile/` were written from
//! the documents, before the code that holds them. Each is a test: `cargo test --test harm -- attempts::its-name`. `HOSTILE_PROGRAM` has another
//! program judged, `HOSTILE_SHOWN` shows what it said.
#![allow(
    clippy::unwrap_used,
    clippy::panic,
    clippy::print_stderr,
    clippy::similar_names,
    reason = "helpers of tests may be blunt"
)]

#[path = "hostile/attempt.rs"]
mod attempt;
#[path = "hostile/judge.rs"]
mod judge;
#[path = "hostile/large.rs"]
mod large;

use crate::trials::{self, is_here};
use attempt::{Attempt, Class};
use libtest_mimic::Trial;
use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::sync::RwLock;

fn suite() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/hostile")
}

fn classes() -> Vec<Class> {
    let mut files: Vec<_> = std::fs::read_dir(suite()).unwrap().map(|entry| entry.unwrap().path()).collect();
    files.retain(|file| file.extension().is_some_and(|extension| extension == "toml"));
    files.sort();
    files
        .iter()
        .map(|file| {
            toml::from_str(&std::fs::read_to_string(file).unwrap()).unwrap_or_else(|error| panic!("{}: {error}", file.display()))
        })
        .collect()
}

/// Programs that attempts are made with, by the words in them.
const MADE_WITH: [(&str, &str); 13] = [
    ("", "bash"),
    ("opened", "strace"),
    ("at_terminal", "script"),
    ("perl", "perl"),
    ("node", "node"),
    ("cc -", "cc"),
    ("unshare", "unshare"),
    ("setpriv", "setpriv"),
    ("git", "git"),
    ("repository", "git"),
    ("python3", "python3"),
    ("hold", "python3"),
    ("serve", "python3"),
];

/// What an attempt is made with and is not here.
fn missing(attempt: &Attempt) -> Option<String> {
    if attempt.needs.as_deref() == Some("root") && !rustix::process::geteuid().is_root() {
        return Some("the administrator".to_owned());
    }
    let missing = MADE_WITH.into_iter().find(|(word, program)| attempt.mentions(word) && !is_here(program));
    missing.map(|(_, program)| program.to_owned())
}

/// The page for users says what is tried, and how often.
fn the_table_of_attempts_is_fresh() {
    let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/trust.md");
    let text = std::fs::read_to_string(&page).unwrap();
    let (before, rest) = text.split_once("| what is tried | attempts |\n").unwrap();
    let (_, after) = rest.split_once("<!-- end -->").unwrap();
    let rows = classes().iter().fold(String::new(), |mut rows, class| {
        writeln!(rows, "| **{}.** {} | {} |", class.title, class.harm, class.attempt.len()).unwrap();
        rows
    });
    let fresh = format!("{before}| what is tried | attempts |\n| --- | --- |\n{rows}<!-- end -->{after}");
    if std::env::var("SNAPSHOTS").is_ok_and(|word| word == "overwrite") {
        std::fs::write(&page, &fresh).unwrap();
    } else {
        assert_eq!(text, fresh, "docs/trust.md is not fresh: SNAPSHOTS=overwrite cargo test");
    }
}

/// Moments are of a signal, and say less where attempts keep the machine busy.
static MACHINE: RwLock<()> = RwLock::new(());

/// At random moments of each signal: no child is left, no half file, and the terminal is as it was.
fn no_moment_leaves_anything() {
    let _alone = MACHINE.write();
    let program = std::env::var("HOSTILE_PROGRAM").unwrap_or_else(|_| env!("CARGO_BIN_EXE_setup-ready").to_owned());
    let seed = std::process::id().to_string();
    let output =
        std::process::Command::new("python3").arg(suite().join("moments.py")).args([&program, "100", &seed]).output().unwrap();
    assert!(output.status.success(), "{}{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
}

/// Runs those that were asked for, and ends the program.
pub(crate) fn run() {
    let mut tests = trials::functions!("page": the_table_of_attempts_is_fresh);
    let moments = trials::functions!("moments": no_moment_leaves_anything);
    let missing_here = ["python3", "perl"].into_iter().find(|program| !is_here(program));
    tests.extend(moments.into_iter().map(|test| trials::ignored_for_want_of(missing_here.map(ToOwned::to_owned), test)));
    for (name, attempt) in classes().into_iter().flat_map(|class| class.attempt) {
        let missing = missing(&attempt);
        let test = Trial::test(format!("attempts::{name}"), move || {
            let _beside_others = MACHINE.read();
            let failures = attempt.make(&suite()).failures();
            if failures.is_empty() { Ok(()) } else { Err(failures.join("\n    ").into()) }
        });
        tests.push(trials::ignored_for_want_of(missing, test));
    }
    trials::run(tests).exit();
}
