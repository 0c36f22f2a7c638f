//! Reports and plans as files: a function per format.

mod json;
#[doc(hidden)]
pub mod markdown;
#[doc(hidden)]
pub mod plan;
mod plan_powershell;
mod plan_sh;
mod whole;

#[doc(hidden)]
pub use json::write_json;
pub use plan::{Invocations, plan_json, plan_markdown};
pub use plan_powershell::plan_powershell;
pub use plan_sh::plan_sh;
pub use whole::write_whole_as_made;
pub use whole::{Readers, no_more_files, write_whole};

use setup_ready_core::report::Report;
use std::io::{self, Write};

/// Writes a report as JSON, version 1, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn json(report: &Report, mut writer: impl Write) -> io::Result<()> {
    write_json(report, &mut writer)?;
    writer.write_all(b"\n")
}
