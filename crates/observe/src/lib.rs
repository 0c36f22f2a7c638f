#![doc = include_str!("../README.md")]

mod described;
#[doc(hidden)]
pub mod encoding;
mod guide_file;
mod host;
mod live;
#[doc(hidden)]
pub mod notice;
mod owner;
#[doc(hidden)]
pub mod pinned;
mod preflight;
// No part of the interface: the readers of other systems are used there only, and fuzz targets call them all.
#[doc(hidden)]
pub mod read;
mod recorded;
mod run;
#[doc(hidden)]
pub mod state_folder;
#[cfg(windows)]
mod windows_calls;

#[cfg(feature = "schema")]
#[doc(hidden)]
pub use described::vocabulary;
pub use described::{Described, Expectation, Expected};
pub use guide_file::{GUIDE_FILE, GuideFile, LoadError, read_text};
#[doc(hidden)]
pub use guide_file::{hex, read_from};
pub use host::{Host, Interrupt};
pub use live::{Ask, Live, is_build_server};
pub use owner::{ForeignOwner, other_owner};
pub use preflight::{Preflight, Progress};
#[doc(hidden)]
pub use run::{SUPERVISOR_PID, start_nothing_more};
