//! Fixes and whole plans, carried out as they are printed, in throwaway roots: `tools/carry-out-fixes` makes these and runs this.
#![cfg(target_os = "linux")]
#![allow(
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stdout,
    clippy::unwrap_used,
    clippy::wildcard_enum_match_arm,
    reason = "helpers of tests may be blunt"
)]

mod carried_out;
mod carried_out_linux;
mod proven_linux;
