//! What is known of a machine can be saved, and assessed again: the same to the byte.

use build_setup_ready::demo::{GUIDE, MACHINES};
use build_setup_ready::{Described, Host, Preflight, write};
use setup_ready_core::guide;
use setup_ready_core::known::Known;
use setup_ready_core::observation::Observation;
use setup_ready_core::probe::Probe;
use setup_ready_core::report::{MachineSource, Report};
use setup_ready_core::selection::Selection;

/// A machine of which only what was saved is known.
struct Saved<'k> {
    known: &'k Known,
    name: &'k str,
}

impl Host for Saved<'_> {
    fn observe(&self, probe: &Probe) -> Observation {
        match self.known.get(probe) {
            Some(answer) => (*answer.observation).clone(),
            None => panic!("nobody asked that then: {probe}"),
        }
    }

    fn source(&self) -> MachineSource {
        MachineSource::Described
    }

    fn name(&self) -> Option<&str> {
        Some(self.name)
    }
}

/// A report without what is another each time.
fn timeless(mut report: Report) -> String {
    report.frame.started.clear();
    let mut text = Vec::new();
    write::json(&report, &mut text).unwrap();
    let text = String::from_utf8(text).unwrap();
    text.lines().filter(|line| !line.contains("\"elapsed_ms\"")).collect::<Vec<_>>().join("\n")
}

#[test]
fn what_was_saved_of_a_machine_gives_the_same_report_again() {
    let guide = guide::parse(GUIDE).unwrap();
    for machine in MACHINES {
        for role in [None, Some(0), Some(1), Some(2)] {
            let described = Described::parse(machine.text).unwrap();
            let preflight = || Preflight::new(&guide).select(Selection { role, after_start: true, ..Selection::default() });
            let first = preflight().run(&described).unwrap();
            let saved = serde_json::to_string(&first.known).unwrap();
            let known: Known = serde_json::from_str(&saved).unwrap();
            assert_eq!((known.len(), known.passed_over()), (first.known.len(), 0));
            assert_eq!(serde_json::to_string(&known).unwrap(), saved, "{}", machine.name);
            let again = preflight().run(&Saved { known: &known, name: machine.name }).unwrap();
            assert_eq!(timeless(again), timeless(first), "{}", machine.name);
        }
    }
}
