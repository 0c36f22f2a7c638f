//! Recordings: what a preflight observed, without what is private, in a file. A recording is a [`Host`]: whatever can be done with a machine that is
//! described can be done with it.

mod arrived;
mod compared;
mod own;
mod private;
mod read;

pub use arrived::Foreign;
pub use compared::compared_for_others;
pub use private::{Recorded, record, record_with};
pub use read::{NotRecording, is_recorded_file, is_surveyed_file, read_recording, recorded_name, recording};

use crate::guide::Guide;
use crate::host::Host;
use crate::observation::Observation;
use crate::probe::Probe;
use crate::report::MachineSource;
use crate::selection::Selection;
use setup_ready_core::recording::Recording;

pub(crate) use arrived::{GZIP, Unpacked, sound};
pub(crate) use own::own_names;
pub(crate) use read::{LARGEST, read_bounded, short};

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

    fn took_ms(&self, probe: &Probe) -> Option<u64> {
        self.answers.get(probe).map(|answer| answer.elapsed_ms)
    }

    fn took_place(&self) -> Option<(&str, u64)> {
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
