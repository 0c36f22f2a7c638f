//! Recordings, comparisons and surveys for others to read: a function per form.

mod comparison;
mod survey;

pub use comparison::{comparison_html, comparison_json, comparison_markdown};
pub use survey::{survey_html, survey_json};

use build_setup_ready::write::write_json;
use setup_ready_core::recording::Recording;
use std::io::{self, Write};

/// Writes a recording as JSON, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn recording_json(recording: &Recording, mut writer: impl Write) -> io::Result<()> {
    // By way of a tree, which is there for replacing anyway: a form of its own for each question and answer would make the program larger.
    write_json(&serde_json::to_value(recording)?, &mut writer)?;
    writer.write_all(b"\n")
}
