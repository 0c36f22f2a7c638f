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

mod fixes_e2e;
mod fixes_e2e_linux;
mod fixes_proven_linux;
