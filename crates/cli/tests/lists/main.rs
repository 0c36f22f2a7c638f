//! Lists of cases that were written before they were tried: each case is a test with a name.
//! `cargo test --test lists -- multi_fault_plans` runs a list, and a case's whole name runs it alone.
#![allow(
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stderr,
    clippy::unwrap_used,
    clippy::wildcard_enum_match_arm,
    reason = "helpers of tests may be blunt"
)]

mod compare;
mod forms;
#[path = "../harness/mod.rs"]
mod harness;
#[cfg(unix)]
mod interactive_sessions;
mod multi_fault_plans;
#[cfg(target_os = "linux")]
mod plan_script;
mod recording_transport;
mod surveyed;
mod trials;
#[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
mod witness_linux;

fn main() {
    let lists = [
        recording_transport::tests(),
        multi_fault_plans::tests(),
        compare::tests(),
        forms::tests(),
        #[cfg(unix)]
        interactive_sessions::tests(),
        #[cfg(target_os = "linux")]
        plan_script::tests(),
        surveyed::tests(),
        #[cfg(all(target_os = "linux", any(target_arch = "x86_64", target_arch = "aarch64")))]
        witness_linux::tests(),
    ];
    trials::run(lists.into_iter().flatten().collect()).exit();
}
