//! Checks a machine against a project's setup guide, explains each failure, and plans what to do about it.
//!
//! ```
//! use build_setup_ready::{Described, Preflight, guide};
//!
//! let guide = guide::parse(r#"
//!     format = 1
//!     [project]
//!     name = "Driftbuoy"
//!     [require.cmake]
//!     tool = "cmake"
//!     version = ">= 3.25, < 5"
//!     why = "The firmware image is described with presets that older releases do not read."
//! "#).unwrap();
//!
//! // Any machine will do: this one (`Live`), a described one, or a `Host` of your own.
//! let machine = Described::parse(r#"
//!     format = 1
//!     [machine]
//!     name = "old-laptop"
//!     [[program]]
//!     path = "/usr/bin/cmake"
//!     prints = "cmake version 3.22.1"
//! "#).unwrap();
//!
//! let report = Preflight::new(&guide).run(&machine).unwrap();
//! let finding = &report.settled[0].finding;
//! assert_eq!(finding.message, "cmake 3.22.1 is older than 3.25, which this project needs.");
//! ```
//!
//! The deciding half is the crate [`setup_ready_core`], re-exported here.

mod consents;
pub mod demo;
mod described;
mod guide_file;
mod host;
mod live;
mod preflight;
pub mod read;
pub mod repository;
pub mod run;
pub mod schema;
mod state;
mod watch;
#[cfg(windows)]
mod windows_calls;
pub mod write;

pub use consents::Consents;
pub use described::{Described, Expected};
pub use guide_file::{GUIDE_FILE, GuideFile, LoadError, read_text};
pub use host::{Host, Interrupt};
pub use live::Live;
pub use preflight::{Preflight, Progress};
pub use setup_ready_core::assess::{OFFLINE, wanted};
pub use setup_ready_core::{
    cause, condition, consent, document, driver, finding, fix, guide, inquiry, known, manager, observation, plan, probe, problem,
    report, text, version,
};
pub use state::{LastResult, Memory, Remembered, WalkPlace, state_folder};
pub use watch::Watch;
