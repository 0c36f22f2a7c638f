//! Rehearsing a guide: on described machines, and on machines that are made to fail in each way that newcomers can.

mod base;
mod done;
mod expectations;
mod made;
mod matrix;
mod met;
mod sample;
mod sketch;
mod ways;

pub(crate) use base::new_machine;
pub use expectations::{NewExpectation, NotRewritten, Rewritten, expectation};
pub use matrix::{Matrix, Performance};
pub use ways::Rehearsal;
