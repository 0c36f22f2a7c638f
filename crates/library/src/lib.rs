#![doc = include_str!("../README.md")]

mod consents;
pub mod demo;
mod described;
mod encoding;
mod guide_file;
mod host;
mod live;
mod notice;
mod owner;
mod preflight;
mod proof;
// No part of the interface: the readers of other systems are used there only, and fuzz targets call them all.
#[doc(hidden)]
pub mod read;
mod recording;
mod rehearsing;
mod repository;
mod run;
#[cfg(feature = "schema")]
pub mod schema;
mod side;
mod state;
mod surveying;
mod told;
mod watch;
#[cfg(windows)]
mod windows_calls;
mod witness;
pub mod write;

pub use consents::{Consents, consent_to};
pub use described::{Described, Expectation, Expected};
pub use guide_file::{GUIDE_FILE, GuideFile, LoadError, read_text};
pub use host::{Host, Interrupt};
pub use live::{Ask, Live, is_build_server};
pub use owner::{OtherUser, other_owner};
pub use preflight::{Preflight, Progress};
pub use proof::Proof;
pub use recording::compared_for_others;
pub use recording::{Foreign, NotRecording, is_recorded_file, is_surveyed_file, read_recording, recorded_name, recording};
pub use recording::{Recorded, record, record_with};
pub use rehearsing::{Matrix, NewExpectation, NotRewritten, Performance, Rehearsal, Rewritten, expectation};
#[doc(hidden)]
pub use repository::statements_of;
pub use repository::{FileRemark, Repository};
#[doc(hidden)]
pub use run::{KEPT_BY, start_nothing_more};
pub use setup_ready_core::recording::{Chosen, Commands, Recording};
pub use setup_ready_core::{
    advice, cause, compare, consent, draft, driver, elsewhere, finding, fix, guide, known, manager, observation, outline, plan,
    privacy, probe, problem, proofread, rehearsal, report, script, selection, settled, statement, survey, text, verdict, version,
    witnessed, words,
};
use setup_ready_core::{catalogue, document};
pub use side::{NoSide, side_in_file, side_of};
pub use state::{LastResult, NotOwn, Remembered, Stored, WalkPlace, random_id, remembered_id, state_folder};
pub use surveying::{Broken, PassedOver, RowForm, Surveyed, Surveying, Written, rows, surveyed_text};
pub use told::{ToldError, told, told_in_file};
pub use watch::{Listening, Watch};
pub use witness::{WitnessError, Witnessed, witness};
