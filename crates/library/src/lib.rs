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
//! assert_eq!(report.message(&report.settled[0]), "cmake 3.22.1 is older than 3.25, which this project needs.");
//! // The facts are there as values too.
//! let found = report.settled[0].finding.version().unwrap();
//! assert_eq!(found.text(), "3.22.1");
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
// No part of the interface: the readers of other systems are used there only, and fuzz targets call them all.
#[doc(hidden)]
pub mod read;
mod repository;
mod run;
#[cfg(feature = "schema")]
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
pub use setup_ready_core::{
    cause, condition, consent, document, driver, finding, fix, guide, inquiry, known, manager, observation, plan, probe, problem,
    report, selection, settled, text, version, words,
};
pub use state::{LastResult, Remembered, Stored, WalkPlace, state_folder};
pub use watch::Watch;
