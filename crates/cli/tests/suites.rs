//! The suites that hold the program to what it promises, in one test program: linked once, not once for each.
#![allow(
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stderr,
    clippy::print_stdout,
    clippy::unwrap_used,
    clippy::wildcard_enum_match_arm,
    reason = "helpers of tests may be blunt"
)]

mod architecture;
mod corpus_replay;
mod docs;
mod draft;
#[cfg(windows)]
mod fixes_e2e_windows;
mod formats_and_survey;
mod harness;
#[cfg(target_os = "linux")]
mod live_components_linux;
#[cfg(target_os = "linux")]
mod live_linux;
#[cfg(target_os = "linux")]
mod live_network_linux;
#[cfg(windows)]
mod live_network_windows;
mod live_order;
#[cfg(target_os = "linux")]
mod live_order_linux;
#[cfg(target_os = "linux")]
mod live_purposes_linux;
#[cfg(target_os = "linux")]
mod live_records_linux;
#[cfg(target_os = "linux")]
mod live_stand_ins_linux;
#[cfg(windows)]
mod live_system_windows;
#[cfg(target_os = "linux")]
mod live_tools_linux;
#[cfg(windows)]
mod live_windows;
#[cfg(target_os = "linux")]
mod live_workspace_linux;
mod partial_selection;
mod plans;
mod program;
mod proofread;
mod recordings;
mod rehearse;
mod repositories;
mod schemas;
#[cfg(target_os = "linux")]
mod script_linux;
mod walk_and_watch;
mod what_if;
