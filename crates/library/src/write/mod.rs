//! Reports as files: a function per format.

mod json;
mod plan;
mod plan_powershell;
mod whole;

pub use plan::{plan_json, plan_markdown, plan_sh};
pub use plan_powershell::plan_powershell;
pub use whole::{Readers, no_more_files, write_whole};

use crate::report::Report;
use json::write_json;
use std::io::{self, Write};

/// Writes a report as JSON, version 1, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn json(report: &Report, mut writer: impl Write) -> io::Result<()> {
    write_json(report, &mut writer)?;
    writer.write_all(b"\n")
}
