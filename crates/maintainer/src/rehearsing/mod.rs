//! Rehearsing a guide: on described machines, and on machines that are made to fail in each way that newcomers can.

#![allow(clippy::wildcard_enum_match_arm, reason = "whatever is not named cannot be made, or need not be")]
#![allow(clippy::too_many_lines, reason = "an arm for each kind")]

mod base;
mod done;
mod expectations;
mod machine_builder;
mod made;
mod matrix;
mod met;
mod sample;
mod ways;

pub(crate) use base::new_machine;
pub use expectations::{NewExpectation, NotRewritten, Rewritten, expectation};
pub use matrix::{Matrix, Performance};
pub use ways::Rehearsal;
