//! Use inside a project's own build task: before a long build starts, say in one line what would make it fail, and stop.
//!
//! Run it with: `cargo run --example inside_a_build_task`
#![allow(clippy::print_stdout, clippy::print_stderr, reason = "an example prints what it found")]

use build_setup_ready::finding::Verdict;
use build_setup_ready::guide::Kind;
use build_setup_ready::report::Outcome;
use build_setup_ready::selection::Selection;
use build_setup_ready::{GuideFile, Live, Preflight};
use std::process::ExitCode;
use std::sync::Arc;

fn main() -> ExitCode {
    match ready_to_build() {
        Ok(true) => {
            println!("building ...");
            ExitCode::SUCCESS
        }
        Ok(false) => ExitCode::FAILURE,
        Err(error) => {
            eprintln!("the setup guide cannot be used: {error}");
            ExitCode::from(2)
        }
    }
}

fn ready_to_build() -> Result<bool, Box<dyn std::error::Error>> {
    let file = GuideFile::load(&GuideFile::find(&std::env::current_dir()?)?)?;
    // Only what the build itself needs; the rest is for people.
    let only = file
        .guide
        .requirements
        .iter()
        .enumerate()
        .filter(|(_, one)| one.subject.kind() == Kind::Tool)
        .map(|(index, _)| index)
        .collect();
    let report = Preflight::new(Arc::clone(&file.guide))
        .select(Selection { only, ..Selection::default() })
        .run(&Live::for_guide(&file))?;
    for one in report.settled.iter().filter(|one| one.finding.verdict() == Verdict::Unmet) {
        eprintln!("not ready: {}", report.message(one));
    }
    Ok(report.outcome() != Outcome::NotReady)
}
