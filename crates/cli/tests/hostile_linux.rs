//! Attempts to do harm: each is a project, a guide, a program or a machine that must fail to. The lists in `hostile/` were written from
//! the documents, before the code that holds them. `HOSTILE_PROGRAM` has another program judged, `HOSTILE_ONLY` chooses by name.
#![cfg(target_os = "linux")]
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

use attempt::{Attempt, Class};
use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

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

/// Most attempts wait more than they compute.
const WORKERS: usize = 8;

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

fn is_here(program: &str) -> bool {
    std::env::split_paths(&std::env::var_os("PATH").unwrap_or_default()).any(|folder| folder.join(program).is_file())
}

/// What became of one: held, left out for a reason, or how it got through.
enum Outcome {
    Held,
    LeftOut(&'static str),
    Through(Vec<String>),
}

fn outcome(attempt: &Attempt) -> Outcome {
    let root = std::process::Command::new("id").arg("-u").output().is_ok_and(|output| output.stdout == b"0\n");
    if attempt.needs.as_deref() == Some("root") && !root {
        return Outcome::LeftOut("the administrator");
    }
    // What attempts are made with may not be here; CI has it all.
    for (word, program) in MADE_WITH {
        if attempt.mentions(word) && !is_here(program) {
            return Outcome::LeftOut(program);
        }
    }
    let failures = attempt.make(&suite()).failures();
    if failures.is_empty() { Outcome::Held } else { Outcome::Through(failures) }
}

/// The page for users says what is tried, and how often.
#[test]
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

/// Both keep the machine busy, and say less beside each other.
static ONE_AT_A_TIME: Mutex<()> = Mutex::new(());

/// At random moments of each signal: no child is left, no half file, and the terminal is as it was.
#[test]
fn no_moment_leaves_anything() {
    let _alone = ONE_AT_A_TIME.lock();
    if !is_here("python3") || !is_here("perl") {
        eprintln!("left out: for want of python3 or perl");
        return;
    }
    let program = std::env::var("HOSTILE_PROGRAM").unwrap_or_else(|_| env!("CARGO_BIN_EXE_setup-ready").to_owned());
    let seed = std::process::id().to_string();
    let output =
        std::process::Command::new("python3").arg(suite().join("moments.py")).args([&program, "100", &seed]).output().unwrap();
    assert!(output.status.success(), "{}{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
}

#[test]
fn no_attempt_does_harm() {
    let _alone = ONE_AT_A_TIME.lock();
    let classes = classes();
    let only = std::env::var("HOSTILE_ONLY").ok();
    let all: Vec<(usize, &String, &Attempt)> = classes
        .iter()
        .enumerate()
        .flat_map(|(number, class)| class.attempt.iter().map(move |(name, attempt)| (number, name, attempt)))
        .filter(|(_, name, _)| only.as_ref().is_none_or(|only| name.contains(only.as_str())))
        .collect();
    let (next, done) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
    std::thread::scope(|scope| {
        for _ in 0..WORKERS {
            scope.spawn(|| {
                while let Some((number, name, attempt)) = all.get(next.fetch_add(1, Ordering::Relaxed)) {
                    let clock = std::time::Instant::now();
                    let outcome = outcome(attempt);
                    if clock.elapsed().as_secs() >= 5 {
                        eprintln!("{name}: {} s", clock.elapsed().as_secs());
                    }
                    done.lock().unwrap().push((*number, *name, outcome));
                }
            });
        }
    });
    let done = done.into_inner().unwrap();
    let mut text = String::new();
    let (mut held, mut through) = (0, 0);
    for (number, class) in classes.iter().enumerate() {
        let of_class: Vec<_> = done.iter().filter(|(of, ..)| *of == number).collect();
        let count = of_class.iter().filter(|(_, _, outcome)| matches!(outcome, Outcome::Held)).count();
        held += count;
        writeln!(text, "{}: {count} of {} held", class.title, of_class.len()).unwrap();
        for (_, name, outcome) in of_class {
            match outcome {
                Outcome::Held => {}
                Outcome::LeftOut(why) => writeln!(text, "  {name}: left out, for want of {why}").unwrap(),
                Outcome::Through(how) => {
                    through += 1;
                    writeln!(text, "  {name}: {}", how.join("; ")).unwrap();
                }
            }
        }
    }
    eprintln!("{text}{held} of {} attempts held", done.len());
    assert_eq!(through, 0, "{through} attempts got through");
}
