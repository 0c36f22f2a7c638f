//! Reading a recording: somebody else's text, bounded, and told by name where it cannot be used.

use serde::Deserialize;
use setup_ready_core::recording::{FORMAT, Recording};
use std::fs::File;
use std::io::Read;
use std::path::Path;

/// The largest recording or report that is read, in bytes. One of 10,000 requirements has some 20 MB.
pub(crate) const LARGEST: u64 = 64 << 20;

/// Why a file is no recording that can be used.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum NotRecording {
    /// It cannot be read.
    #[error("it cannot be read: {0}")]
    Unreadable(std::io::Error),
    /// It is a folder, a pipe, a device.
    #[error("it is not a file")]
    NotAFile,
    /// It is larger than is read.
    #[error("it is larger than {LARGEST} bytes, which is the most that is read")]
    TooLarge,
    /// It is not UTF-8.
    #[error("it is not UTF-8 text; have it written with --output")]
    NotUtf8,
    /// There is nothing in it.
    #[error("it is empty")]
    Empty,
    /// It ends too early.
    #[error("it is cut off: it ends in the middle, at line {0}; ask for the whole file")]
    CutOff(usize),
    /// It is something else.
    #[error("it is not a recording as `setup-ready record` writes it: {0}")]
    Other(String),
    /// It is neither a recording nor a report.
    #[error("it is not a report as `setup-ready preflight --format json` writes it: {0}")]
    NoReport(String),
    /// It says that the machine is ready, and that something needed is not met.
    #[error("it says that the machine is ready and that {0} is not met, so somebody changed it; ask for a new one")]
    Contradiction(String),
    /// A later version of the software wrote it.
    #[error("it has format {0}, which a newer setup-ready writes; this one reads format {FORMAT}")]
    Later(u64),
}

/// A file that holds a recording.
///
/// # Errors
/// When it cannot be read or used, and why.
pub fn read_recording(path: &Path) -> Result<Recording, NotRecording> {
    recording(&read_bounded(path)?)
}

/// The text of a file of bounded size.
pub(crate) fn read_bounded(path: &Path) -> Result<String, NotRecording> {
    let known = path.metadata().map_err(NotRecording::Unreadable)?;
    if !known.is_file() {
        return Err(NotRecording::NotAFile);
    }
    if known.len() > LARGEST {
        return Err(NotRecording::TooLarge);
    }
    let mut bytes = Vec::new();
    let opened = File::open(path).map_err(NotRecording::Unreadable)?;
    opened.take(LARGEST + 1).read_to_end(&mut bytes).map_err(NotRecording::Unreadable)?;
    if bytes.len() as u64 > LARGEST {
        return Err(NotRecording::TooLarge);
    }
    String::from_utf8(bytes).map_err(|_| NotRecording::NotUtf8)
}

/// What every format says.
#[derive(Deserialize)]
struct Head {
    format: Option<u64>,
    answers: Option<serde::de::IgnoredAny>,
}

/// A recording from its text.
///
/// # Errors
/// When it cannot be used, and why.
pub fn recording(text: &str) -> Result<Recording, NotRecording> {
    let text = text.trim_start_matches('\u{feff}');
    if text.trim().is_empty() {
        return Err(NotRecording::Empty);
    }
    let head: Head = serde_json::from_str(text).map_err(|error| reason(&error))?;
    match (head.format, head.answers) {
        (Some(format), _) if format > u64::from(FORMAT) => Err(NotRecording::Later(format)),
        (Some(_), Some(_)) => serde_json::from_str(text).map_err(|error| reason(&error)),
        _ => Err(NotRecording::Other("it has no answers".to_owned())),
    }
}

fn reason(error: &serde_json::Error) -> NotRecording {
    if error.is_eof() {
        NotRecording::CutOff(error.line())
    } else {
        NotRecording::Other(error.to_string().chars().take(200).collect())
    }
}

/// Whether a file is meant to be a recording or a report, and not a described machine: by its name.
pub fn is_json_file(path: &Path) -> bool {
    path.extension().is_some_and(|end| end.eq_ignore_ascii_case("json"))
}

/// Whether a file of this name is read where a folder is surveyed: `.json`, `.ndjson` or `.jsonl`, also with `.gz` behind it.
pub fn is_surveyed_file(path: &Path) -> bool {
    let name = path.file_name().map(|name| name.to_string_lossy().to_ascii_lowercase()).unwrap_or_default();
    let plain = name.strip_suffix(".gz").unwrap_or(&name);
    [".json", ".ndjson", ".jsonl"].iter().any(|end| plain.ends_with(end))
}
