//! A sentence of one's own from the facts of a finding: no text of this software is read back.
//!
//! Run it with: `cargo run --example sentence_of_your_own`
#![allow(clippy::print_stdout, reason = "an example prints what it found")]

use build_setup_ready::finding::ToolTrouble;
use build_setup_ready::version::Sign;
use build_setup_ready::{Conclusion, Described, Preflight, Reason, parse_guide};

const GUIDE: &str =
    "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25, < 5\"\n";
const MACHINE: &str =
    "format = 1\n[machine]\nname = \"old-laptop\"\n[[program]]\npath = \"/usr/bin/cmake\"\nprints = \"cmake version 3.22.1\"\n";

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let report = Preflight::new(parse_guide(GUIDE)?).run(&Described::parse(MACHINE)?)?;
    for one in &report.settled {
        let Conclusion::Open(Reason::Tool(tool)) = &one.finding.conclusion else { continue };
        let ToolTrouble::OutOfRange { found, miss } = &tool.trouble else { continue };
        let needed = match miss.nearest.sign() {
            Sign::AtLeast => format!("at least {}", miss.nearest.limit()),
            Sign::Above => format!("more than {}", miss.nearest.limit()),
            Sign::AtMost => format!("at most {}", miss.nearest.limit()),
            Sign::Below => format!("less than {}", miss.nearest.limit()),
            Sign::Equal | Sign::Not => miss.nearest.to_string(),
        };
        println!("{}: found {found}, {needed} is needed", tool.name);
    }
    Ok(())
}
