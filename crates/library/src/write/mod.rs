//! Reports as files: a function per format.

#[cfg(feature = "desk")]
mod comparison;
#[cfg(feature = "desk")]
mod draft;
#[cfg(feature = "desk")]
mod guide_markdown;
mod json;
#[cfg(feature = "desk")]
mod junit;
mod markdown;
#[cfg(feature = "desk")]
mod page;
mod plan;
mod plan_powershell;
mod plan_sh;
#[cfg(feature = "desk")]
mod plots;
#[cfg(feature = "desk")]
mod rehearsals;
#[cfg(feature = "desk")]
mod remarks;
#[cfg(feature = "desk")]
mod report_html;
mod report_markdown;
#[cfg(feature = "desk")]
mod report_sarif;
#[cfg(feature = "desk")]
mod report_tests;
#[cfg(feature = "desk")]
mod sarif;
#[cfg(feature = "desk")]
mod survey;
mod whole;

#[cfg(feature = "desk")]
pub use comparison::{comparison_html, comparison_json, comparison_markdown};
#[cfg(feature = "desk")]
pub use draft::{additions, draft};
#[cfg(feature = "desk")]
pub(crate) use guide_markdown::{BEGIN, END};
#[cfg(feature = "desk")]
pub use guide_markdown::{NoPlace, Placed, guide_markdown, into_text};
#[cfg(feature = "desk")]
pub use page::{PageError, guide_html};
pub use plan::{plan_json, plan_markdown};
pub use plan_powershell::plan_powershell;
pub use plan_sh::plan_sh;
#[cfg(feature = "desk")]
pub use rehearsals::{Rehearsed, rehearsal_html, rehearsal_json, rehearsal_junit, rehearsal_markdown};
#[cfg(feature = "desk")]
pub use remarks::{remarks_json, remarks_sarif};
#[cfg(feature = "desk")]
pub use report_html::html;
pub use report_markdown::markdown;
#[cfg(feature = "desk")]
pub use report_sarif::sarif;
#[cfg(feature = "desk")]
pub use report_tests::{junit, tap};
#[cfg(feature = "desk")]
pub use survey::{survey_html, survey_json};
#[cfg(feature = "desk")]
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
