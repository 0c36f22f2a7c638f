//! Reports as files: a function per format.

mod comparison;
mod draft;
mod guide_markdown;
mod json;
mod junit;
mod markdown;
mod page;
mod plan;
mod plan_powershell;
mod plan_sh;
mod plots;
mod rehearsals;
mod remarks;
mod report_html;
mod report_markdown;
mod report_sarif;
mod report_tests;
mod sarif;
mod survey;
mod whole;

pub use comparison::{comparison_html, comparison_json, comparison_markdown};
pub use draft::{additions, draft};
pub(crate) use guide_markdown::{BEGIN, END};
pub use guide_markdown::{NoPlace, Placed, guide_markdown, into_text};
pub use page::{PageError, guide_html};
pub use plan::{plan_json, plan_markdown};
pub use plan_powershell::plan_powershell;
pub use plan_sh::plan_sh;
pub use rehearsals::{Rehearsed, rehearsal_html, rehearsal_json, rehearsal_junit, rehearsal_markdown};
pub use remarks::{remarks_json, remarks_sarif};
pub use report_html::html;
pub use report_markdown::markdown;
pub use report_sarif::sarif;
pub use report_tests::{junit, tap};
pub use survey::{survey_html, survey_json};
pub use whole::write_whole_as_made;
pub use whole::{Readers, no_more_files, write_whole};

use crate::Recording;
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

/// Writes a recording as JSON, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn recording_json(recording: &Recording, mut writer: impl Write) -> io::Result<()> {
    // By way of a tree, which is there for replacing anyway: a form of its own for each question and answer would make the program larger.
    write_json(&serde_json::to_value(recording)?, &mut writer)?;
    writer.write_all(b"\n")
}
