//! Lists of cases that were written before they were tried: each case is a test with a name.
//! `cargo test --test lists -- at_once` runs a list, and a case's whole name runs it alone.
#![allow(
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stderr,
    clippy::unwrap_used,
    clippy::wildcard_enum_match_arm,
    reason = "helpers of tests may be blunt"
)]

mod arrived;
mod at_once;
#[path = "../bench/mod.rs"]
mod bench;
mod beside;
mod forms;
#[cfg(unix)]
mod meanwhile;
#[cfg(target_os = "linux")]
mod scripted;
mod surveyed;
mod trials;
#[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
mod witness_linux;

fn main() {
    let lists = [
        arrived::tests(),
        at_once::tests(),
        beside::tests(),
        forms::tests(),
        #[cfg(unix)]
        meanwhile::tests(),
        #[cfg(target_os = "linux")]
        scripted::tests(),
        surveyed::tests(),
        #[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
        witness_linux::tests(),
    ];
    trials::run(lists.into_iter().flatten().collect()).exit();
}
