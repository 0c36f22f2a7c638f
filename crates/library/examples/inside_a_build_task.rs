//! Use inside a project's own build task: before a long build starts, say in a line each what would make it fail, and stop.
//!
//! Run it with: `cargo run --example inside_a_build_task`
#![allow(clippy::print_stdout, clippy::print_stderr, reason = "an example prints what it found")]

use build_setup_ready::{GuideFile, Kind, Live, Preflight, Selection};
use std::process::ExitCode;

fn main() -> ExitCode {
    match ready_to_build() {
        Ok(0) => {
            println!("building ...");
            ExitCode::SUCCESS
        }
        Ok(status) => ExitCode::from(status),
        Err(error) => {
            eprintln!("the setup guide cannot be used: {error}");
            ExitCode::from(2)
        }
    }
}

/// The exit status: 0 where the build can start.
fn ready_to_build() -> Result<u8, Box<dyn std::error::Error>> {
    let file = GuideFile::load(&GuideFile::find(&std::env::current_dir()?)?)?;
    // Only what the build itself needs; the rest is for people.
    let tools = file.guide.requirements.iter().enumerate().filter(|(_, one)| one.subject.kind() == Kind::Tool);
    let selection = Selection { only: tools.map(|(index, _)| index).collect(), ..Selection::default() };
    let report = Preflight::new(&file).select(selection).run(&Live::for_guide(&file))?;
    for problem in report.problems() {
        eprintln!("not ready: {}", problem.message);
        if let Some(fix) = problem.fix {
            eprintln!("  {}", fix.say);
            fix.run.iter().for_each(|command| eprintln!("    {command}"));
        }
    }
    Ok(report.outcome().exit_status())
}
