//! Reports as files: a function per format.

mod plan;
mod whole;

pub use plan::{plan_json, plan_markdown, plan_sh};
pub use whole::{Readers, write_whole};

use crate::report::Report;
use std::io::{self, Write};

/// Writes a report as JSON, version 1, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn json(report: &Report, mut writer: impl Write) -> io::Result<()> {
    serde_json::to_writer_pretty(&mut writer, report)?;
    writer.write_all(b"\n")
}
