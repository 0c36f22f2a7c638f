//! A recording as a host: whatever can be done with a machine that is described can be done with it.

use crate::host::Host;
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::Observation;
use setup_ready_core::probe::Probe;
use setup_ready_core::recording::Recording;
use setup_ready_core::report::MachineSource;
use setup_ready_core::selection::Selection;

/// What is said of a question that nobody asked when it was recorded.
const NOT_ASKED: &str = "it is not in the recording; ask for a new one";

impl Host for Recording {
    fn observe(&self, probe: &Probe) -> Observation {
        match self.answers.get(probe) {
            Some(answer) => (*answer.observation).clone(),
            None => Observation::CouldNotLook(NOT_ASKED.to_owned()),
        }
    }

    fn selection(&self, guide: &Guide, selection: Selection) -> Selection {
        self.chosen.select(selection, guide)
    }

    fn elapsed_ms_of(&self, probe: &Probe) -> Option<u64> {
        self.answers.get(probe).map(|answer| answer.elapsed_ms)
    }

    fn recorded_at(&self) -> Option<(&str, u64)> {
        Some((&self.recorded, self.elapsed_ms))
    }

    fn source(&self) -> MachineSource {
        MachineSource::Recording
    }

    fn id(&self) -> Option<&str> {
        self.id.as_deref()
    }

    fn name(&self) -> Option<&str> {
        self.machine.as_deref()
    }
}
