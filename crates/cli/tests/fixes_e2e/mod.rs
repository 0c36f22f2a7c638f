//! A throwaway root, a person at its terminal, and what they are judged by.
#![allow(
    unreachable_pub,
    clippy::struct_excessive_bools,
    clippy::too_many_lines,
    dead_code,
    reason = "helpers of tests may be blunt"
)]

pub(crate) mod newcomer;
pub(crate) mod proof;
pub(crate) mod root;
pub(crate) mod terminal;
