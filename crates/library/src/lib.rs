#![doc = include_str!("../README.md")]

mod consents;
pub mod demo;
mod state;
mod told;
mod watch;
pub mod write;

pub use consents::{Consents, consent_to};
pub use setup_ready_core::{
    advice, cause, consent, elsewhere, finding, fix, guide, known, observation, plan, probe, problem, report, selection, settled,
    text, verdict, version, words,
};
#[doc(hidden)]
pub use setup_ready_observe::read;
pub use setup_ready_observe::state_folder::{UntrustedStateError, state_folder};
pub use setup_ready_observe::{
    Ask, Described, Expectation, Expected, ForeignOwner, GUIDE_FILE, GuideFile, Host, Interrupt, Live, LoadError, Preflight,
    Progress, is_build_server, other_owner, read_text,
};
#[doc(hidden)]
pub use setup_ready_observe::{SUPERVISOR_PID, start_nothing_more};
pub use state::{LastResult, Remembered, Stored, WalkPlace, random_id, remembered_id};
pub use told::{PlaceReportError, read_place_report_file, told};
pub use watch::{Listening, Watch};
