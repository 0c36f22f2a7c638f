//! Checks this machine against a guide, and prints what is not met.
//!
//! Run it with: `cargo run --example check_this_machine [GUIDE]`
#![allow(clippy::print_stdout, clippy::print_stderr, reason = "an example prints what it found")]

use build_setup_ready::{GuideFile, Live, Preflight, Verdict};
use std::path::PathBuf;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let path = match std::env::args_os().nth(1) {
        Some(path) => PathBuf::from(path),
        None => GuideFile::find(&std::env::current_dir()?)?,
    };
    let file = GuideFile::load(&path)?;
    let machine = Live::for_guide(&file);
    let report = Preflight::new(&file).run(&machine)?;
    for one in report.settled.iter().filter(|one| one.finding.verdict() != Verdict::Met) {
        println!("{}", report.message(one));
        for fix in one.fixes.iter() {
            println!("  -> {} {}", fix.say, fix.run.join("; "));
        }
    }
    println!("{}: {:?}", file.guide.project.name, report.outcome());
    Ok(())
}
