//! The script of a plan, run by somebody who reads half of it, and what they must then be able to read and to rely on.

mod cases;

use std::process::{Command, Output};

use crate::harness::{Bench, text, without_rights};
use crate::trials;
use cases::{CASES, Case};
use libtest_mimic::Trial;

fn shell(bench: &Bench, before: &[&str], script: &str) -> Output {
    let words: Vec<&str> = before.iter().copied().chain(["setsid", "-w", "sh", "-uc", script]).collect();
    let path = format!("{}:{}", bench.bin().display(), std::env::var("PATH").unwrap());
    let mut command = Command::new(words[0]);
    command.args(&words[1..]).current_dir(bench.project()).stdin(std::process::Stdio::null());
    command
        .env("PATH", path)
        .env("HERE", bench.folder.path())
        .env("BIN", bench.bin())
        .env("HOME", bench.folder.path().join("my home"));
    command.env("SHELL", "/bin/bash").env_remove("CI").output().unwrap()
}

fn wrong(case: &Case) -> Vec<String> {
    let bench = Bench::new(case.guide);
    std::fs::create_dir(bench.folder.path().join("my home")).unwrap();
    let prepared = shell(&bench, &[], &format!("{}\nchown -R 65534:65534 \"$HERE\"", case.before));
    assert!(prepared.status.success(), "{}: {}", case.name, text(&prepared.stderr));
    let rights = without_rights();
    let mut planning = bench.command(&rights, &["plan", "--format", "sh", "--output", "../steps.sh"]);
    planning.env("HOME", bench.folder.path().join("my home")).env("SHELL", "/bin/bash");
    let planned = planning.output().unwrap();
    let script = std::fs::read_to_string(bench.folder.path().join("steps.sh")).unwrap_or_default();
    let done = shell(&bench, if case.as_root { &[] } else { &rights }, case.run);
    let said = format!("{}{}", text(&done.stdout), text(&done.stderr));
    let plain = said.split_whitespace().collect::<Vec<_>>().join(" ");
    let mut wrong = Vec::new();
    if !case.ends.contains(&done.status.code().unwrap_or(-1)) {
        wrong.push(format!("ends with {:?}", done.status.code()));
    }
    wrong.extend(
        case.says.iter().filter(|one| !one.split('|').any(|one| plain.contains(one))).map(|one| format!("does not say {one:?}")),
    );
    wrong.extend(case.never.iter().filter(|one| plain.contains(**one)).map(|one| format!("says {one:?}")));
    let after = shell(&bench, &[], case.after);
    if !after.status.success() {
        wrong.push(format!("afterwards does not hold: {}", case.after));
    }
    if !wrong.is_empty() {
        wrong.push(format!("planned: {:?}\n--- script\n{script}\n--- said\n{said}", planned.status.code()));
    }
    wrong
}

/// A script is safe with whoever runs it.
pub(crate) fn tests() -> Vec<Trial> {
    trials::of("scripted", CASES, 1, |case| case.name, wrong)
}
