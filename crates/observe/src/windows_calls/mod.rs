//! The calls into Windows that the standard library does not have: the only module with unsafe code. Each function asks one thing, gives owned
//! values, and keeps no pointer beyond its call.
#![allow(unsafe_code, reason = "the system's interface is in C; each block says why it is sound")]

mod account;
mod machine;
mod network;
mod place;
mod process;
mod service;

pub(crate) use account::{account_name, database_groups, groups, has_account, is_elevated, open_to, owner};
pub(crate) use machine::{caps, has_feature, memory};
pub(crate) use network::listeners;
pub(crate) use place::{is_read_only, room, volume};
pub(crate) use process::{Job, open_no_windows_of_errors, processes, resume};
pub(crate) use service::is_running;

use std::os::windows::ffi::OsStrExt;

fn wide(text: &std::ffi::OsStr) -> Vec<u16> {
    text.encode_wide().chain([0]).collect()
}

/// A text up to its end mark.
fn narrow(text: &[u16]) -> String {
    String::from_utf16_lossy(text.split(|unit| *unit == 0).next().unwrap_or_default())
}
