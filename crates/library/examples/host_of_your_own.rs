//! A host of one's own: whoever can answer questions about a machine can be checked. Here, a fleet's inventory that knows memory and
//! cores and nothing else; what it does not know stays unknown.
//!
//! Run it with: `cargo run --example host_of_your_own`
#![allow(clippy::print_stdout, clippy::print_stderr, reason = "an example prints what it found")]

use build_setup_ready::observation::{CoreState, MemoryState};
use build_setup_ready::{Host, MachineSource, Observation, Preflight, Probe, parse_guide};

struct Inventory {
    name: &'static str,
    gigabytes: u64,
    cores: u64,
}

impl Host for Inventory {
    fn observe(&self, probe: &Probe) -> Observation {
        if *probe == Probe::Memory {
            return Observation::Memory(MemoryState {
                total: self.gigabytes * 1_000_000_000,
                available: None,
                caps: Vec::new(),
                swap: None,
            });
        }
        if *probe == Probe::Cores {
            return Observation::Cores(CoreState { online: self.cores, caps: Vec::new() });
        }
        Observation::NotSupported("the inventory does not list it".to_owned())
    }

    fn source(&self) -> MachineSource {
        MachineSource::Described
    }

    fn name(&self) -> Option<&str> {
        Some(self.name)
    }
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let guide = parse_guide(
        r#"
        format = 1
        [project]
        name = "Driftbuoy"
        [require.memory]
        memory = "4 GB"
        [require.cores]
        cores = 2
        [require.git]
        tool = "git"
        "#,
    )?;
    for machine in [Inventory { name: "bosun", gigabytes: 2, cores: 8 }, Inventory { name: "purser", gigabytes: 16, cores: 4 }] {
        let report = Preflight::new(&guide).run(&machine)?;
        println!("{}: {:?}", machine.name, report.outcome());
        for one in &report.settled {
            println!("  {:8} {}", one.finding.verdict().word(), report.message(one));
        }
    }
    Ok(())
}
