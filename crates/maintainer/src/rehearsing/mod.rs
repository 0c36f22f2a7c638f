//! Rehearsing a guide: on described machines, and on machines that are made to fail in each way that newcomers can.

#![allow(clippy::wildcard_enum_match_arm, reason = "whatever is not named cannot be made, or need not be")]
#![allow(clippy::too_many_lines, reason = "an arm for each kind")]

mod apply_fix;
mod baseline;
mod expectations;
mod faults;
mod machine_builder;
mod matrix;
mod sample;
mod satisfy;
mod ways;

pub(crate) use baseline::new_machine;
pub use expectations::{NewExpectation, RewriteError, Rewritten, expectation};
pub use matrix::{Matrix, Performance};
pub use ways::Rehearsal;
