#![doc = include_str!("../README.md")]

mod consents;
pub mod demo;
mod state;
mod told;
mod watch;
pub mod write;

// The guide, and what is chosen of it.
pub use setup_ready_core::guide::{Guide, Kind, Level, Requirement, Role, Stage, parse as parse_guide};
pub use setup_ready_core::problem::GuideError;
pub use setup_ready_core::selection::{Consent, Selection};
pub use setup_ready_observe::{GUIDE_FILE, GuideFile, LoadError};

// The machine that is looked at.
pub use setup_ready_core::driver::NotInGuideError;
pub use setup_ready_core::observation::Observation;
pub use setup_ready_core::probe::Probe;
pub use setup_ready_core::report::MachineSource;
pub use setup_ready_observe::{Described, Expectation, Expected, Host, Interrupt, Live, Preflight, Progress};

// What came of it.
pub use setup_ready_core::cause::Cause;
pub use setup_ready_core::finding::{Conclusion, Finding, Reason, Verdict};
pub use setup_ready_core::fix::{Fix, Shell};
pub use setup_ready_core::guide::Then;
pub use setup_ready_core::plan::{Plan, Step};
pub use setup_ready_core::report::{Counts, Outcome, Report, ReportMetadata, ReportProblem};
pub use setup_ready_core::settled::RequirementResult;
pub use setup_ready_core::words::Words;

// Questions before something of the project's is started, and staying until a machine is ready.
pub use consents::{Consents, consent_to};
pub use setup_ready_observe::Ask;
pub use told::{PlaceReportError, read_place_report_file, told};
pub use watch::{Listening, Watch};

/// All values in detail, for those who match on facts, choose by kinds, or answer questions themselves. What is in here grows with each kind.
#[doc(no_inline)]
pub use setup_ready_core::{finding, guide, observation, probe, version};

// No part of the interface: what the command line remembers between two runs, and ends when it is ended itself.
#[doc(hidden)]
pub use setup_ready_observe::state_folder::{UntrustedStateError, state_folder};
#[doc(hidden)]
pub use setup_ready_observe::{ForeignOwner, is_build_server, other_owner, read, read_text};
#[doc(hidden)]
pub use setup_ready_observe::{SUPERVISOR_PID, start_nothing_more};
#[doc(hidden)]
pub use state::{LastResult, Remembered, Stored, WalkPlace, random_id, remembered_id};
