//! The deciding half of Build Setup Ready.
//!
//! One idea carries it: *assessing a requirement is a pure function from what is known to either a finding
//! or the next questions*. This crate therefore touches no file, process, network, clock, environment or
//! terminal; it is `no_std`, so the compiler refuses. Whoever embeds it answers [`probe::Probe`]s.
//!
//! ```
//! use setup_ready_core::{driver::Driver, guide, observation::Observation, probe::Probe, selection::Selection};
//!
//! let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
//! let mut driver = Driver::new(&guide, Selection::default()).unwrap();
//! while let Some(probe) = driver.next_probe() {
//!     // A real host would look; here every question gets the same honest answer.
//!     driver.answer(&probe, Observation::CouldNotLook("this example has no machine".into()));
//! }
//! assert_eq!(driver.finish().settled.first().unwrap().finding.cause().unwrap().word(), "could-not-look");
//! ```
#![no_std]
#![forbid(unsafe_code)]

extern crate alloc;
#[cfg(test)]
extern crate std;

pub mod advice;
mod assess;
mod assessment;
// No part of the interface: a test holds it against what real tools print.
#[doc(hidden)]
pub mod catalogue;
pub mod cause;
pub mod compare;
mod condition;
pub mod consent;
// No part of the interface: `build-setup-ready` reads its own files with it.
#[doc(hidden)]
pub mod document;
pub mod draft;
pub mod driver;
pub mod elsewhere;
pub mod finding;
pub mod fix;
pub mod guide;
mod guide_ports;
mod inquiry;
pub(crate) mod kinds;
pub mod known;
mod ledger;
pub mod manager;
pub mod observation;
pub mod outline;
// No part of the interface: `build-setup-ready` makes machines with it.
#[doc(hidden)]
pub mod packages;
pub mod plan;
pub mod privacy;
pub mod probe;
pub mod problem;
pub mod proofread;
pub mod recording;
pub mod rehearsal;
pub mod report;
#[cfg(feature = "schema")]
mod schema;
pub mod script;
pub mod selection;
pub mod settled;
pub mod statement;
pub mod survey;
#[cfg(test)]
mod testing;
pub mod text;
pub mod verdict;
pub mod version;
pub mod witnessed;
pub mod words;

/// What `std`'s prelude would bring.
mod prelude {
    pub(crate) use alloc::borrow::ToOwned;
    pub(crate) use alloc::boxed::Box;
    pub(crate) use alloc::format;
    pub(crate) use alloc::string::{String, ToString};
    pub(crate) use alloc::sync::Arc;
    pub(crate) use alloc::vec;
    pub(crate) use alloc::vec::Vec;
}
