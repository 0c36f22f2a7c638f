//! A report from another place where the work goes on, taken along.

use serde_json::Value;
use setup_ready_core::elsewhere::PlaceReport;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::Guide;
use setup_ready_observe::GuideFile;
use setup_ready_observe::encoding::Utf16;
use std::io::Read;
use std::path::Path;

/// The largest report that is taken along, in bytes. One of 10,000 requirements has some 20 MB.
const LARGEST_REPORT: u64 = 64 << 20;

/// Why a report cannot be taken along.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum PlaceReportError {
    /// It cannot be read.
    #[error("it cannot be read: {0}")]
    Unreadable(String),
    /// It is larger than is read.
    #[error("it has more than {LARGEST_REPORT} bytes, which is the most that is read")]
    TooLarge,
    /// It is no report.
    #[error("it is not a report in JSON, whole and as it was written")]
    NoReport,
    /// It is of another guide.
    #[error("it is about another guide, or another state of it: check there again, with the same guide")]
    OtherGuide,
    /// It is of another place.
    #[error("it was made {}, not in `{wanted}`: make it there, and say there that it is `{wanted}`", .made.as_ref().map_or_else(|| "in no place of the guide".to_owned(), |place| format!("in `{place}`")))]
    OtherPlace {
        /// Where it was made, where it says so.
        made: Option<String>,
        /// The place that it should be from.
        wanted: String,
    },
}

/// Reads a file with a report in JSON of what was found in a place of a guide.
///
/// # Errors
/// When it cannot be read, is too large, is no report, or is of another guide or place.
pub fn read_place_report_file(path: &Path, file: &GuideFile, place: usize) -> Result<PlaceReport, PlaceReportError> {
    let unreadable = |error: std::io::Error| PlaceReportError::Unreadable(error.to_string());
    let opened = std::fs::File::open(path).map_err(unreadable)?;
    let mut text = Vec::new();
    opened.take(LARGEST_REPORT + 1).read_to_end(&mut text).map_err(unreadable)?;
    if text.len() as u64 > LARGEST_REPORT {
        return Err(PlaceReportError::TooLarge);
    }
    // Some shells of Windows write what they pass on in another encoding, with a mark before it.
    let text = match Utf16::of(&text) {
        Some(order) => order.text(&text),
        None => String::from_utf8(text).ok(),
    };
    let text =
        text.ok_or_else(|| PlaceReportError::Unreadable("it is not UTF-8 text; have it written with --output".to_owned()))?;
    told(text.trim_start_matches('\u{feff}'), (&file.guide, &file.sha256), place)
}

/// Reads a report in JSON of what was found in a place of this guide, whose text has this SHA-256 in hexadecimal digits.
///
/// What it left out is not taken for met, unless it is for other machines.
///
/// # Errors
/// When it is no report, of another guide, or of another place.
pub fn told(text: &str, (guide, sha256): (&Guide, &str), place: usize) -> Result<PlaceReport, PlaceReportError> {
    let report: Value = serde_json::from_str(text).map_err(|_| PlaceReportError::NoReport)?;
    let requirements = report.get("requirements").and_then(Value::as_array).ok_or(PlaceReportError::NoReport)?;
    if report.pointer("/guide/sha256").and_then(Value::as_str) != Some(sha256) {
        return Err(PlaceReportError::OtherGuide);
    }
    let wanted = guide.places.get(place).map(|place| place.id.clone()).unwrap_or_default();
    let made = report.get("place").and_then(Value::as_str).map(|made| made.chars().take(80).collect::<String>());
    if made.as_deref() != Some(wanted.as_str()) {
        return Err(PlaceReportError::OtherPlace { made, wanted });
    }
    let verdict = |one: &Value| {
        let index = guide.find(one.get("id")?.as_str()?)?;
        let left_out = one.pointer("/facts/left_out").and_then(Value::as_str);
        let verdict = Verdict::from_word(one.get("verdict")?.as_str()?)?;
        let counts = verdict != Verdict::Skipped || matches!(left_out, Some("other-machine" | "no-alternative"));
        if !counts {
            return None;
        }
        Some((index, verdict))
    };
    let started = report.get("started").and_then(Value::as_str).map(|started| started.chars().take(40).collect());
    Ok(PlaceReport::new(place, requirements.iter().filter_map(verdict), started))
}
