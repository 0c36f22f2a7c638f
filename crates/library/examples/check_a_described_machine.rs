//! Checks a machine that only a file describes: this is how a guide is tried on machines that its maintainer does not have.
//!
//! Run it with: `cargo run --example check_a_described_machine`
#![allow(clippy::print_stdout, clippy::print_stderr, reason = "an example prints what it found")]

use build_setup_ready::{Described, Preflight, demo, parse_guide};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let guide = parse_guide(demo::GUIDE)?;
    for shipped in demo::MACHINES {
        let machine = Described::parse(shipped.text)?;
        let report = Preflight::new(&guide).run(&machine)?;
        let counts = report.counts();
        println!("{}: {:?}, {} met, {} not met", machine.machine_name(), report.outcome(), counts.met, counts.unmet);
        // What the description expects makes it a test of the guide.
        for difference in machine.differences(&report) {
            println!("  {difference}");
        }
    }
    Ok(())
}
