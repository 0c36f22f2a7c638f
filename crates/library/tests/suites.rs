//! The suites that hold the library to what it promises, in one test program: linked once, not once for each.
#![allow(
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stdout,
    clippy::unwrap_used,
    reason = "helpers of tests may be blunt"
)]

mod demo;
mod described_causes;
mod described_fixes;
mod guide_file;
mod guides_of_kinds;
#[cfg(target_os = "linux")]
mod live_linux;
mod places;
mod pool;
mod saved;
mod script_is_text;
// The core has the same file, where this is what it is called.
use setup_ready_core::text::Size;
#[path = "../../core/src/testing/values.rs"]
mod values;
