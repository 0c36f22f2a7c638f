//! Reading a recording: somebody else's text, bounded, and told by name where it cannot be used.

use super::decode::{Foreign, is_sent, sound, text_of};
use serde::Deserialize;
use serde::de::IgnoredAny;
use setup_ready_core::recording::{FORMAT, Recording};
use std::borrow::Cow;
use std::fs::File;
use std::io::Read;
use std::path::Path;

/// The largest recording or report that is read, in bytes. One of 10,000 requirements has some 20 MB.
pub(crate) const LARGEST: u64 = 64 << 20;

/// Why a file is no recording that can be used.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum RecordingError {
    /// It cannot be read.
    #[error("it cannot be read: {0}")]
    Unreadable(std::io::Error),
    /// It is a folder, a pipe, a device.
    #[error("it is not a file")]
    NotAFile,
    /// It is larger than is read.
    #[error("it is larger than {LARGEST} bytes, which is the most that is read")]
    TooLarge,
    /// It is in no encoding that is read.
    #[error("it is not UTF-8 text: something saved it in another encoding on its way; ask for the file itself, attached")]
    NotUtf8,
    /// It is an archive, a picture, a page.
    #[error("{0}")]
    Foreign(Foreign),
    /// It is compressed, and cannot be unpacked.
    #[error("it is compressed with gzip, and cut off or damaged ({0}); ask for the whole file")]
    Unpacking(std::io::Error),
    /// Its quotation marks became others.
    #[error(
        "its quotation marks were replaced on its way, as word processors, chats and web pages do; ask for the file itself, attached"
    )]
    Quotes,
    /// A text goes on in the next line, or what it went on with is gone.
    #[error(
        "a text in it ends with its line, at line {0}: lines were broken on its way, or some are missing; ask for the whole file, attached"
    )]
    BrokenLines(usize),
    /// It is in the form in which mails are carried (RFC 2045).
    #[error(
        "it is as mails are carried (quoted-printable), and not as they are read; save what is attached, or ask for it to be attached"
    )]
    AsMail,
    /// It begins in the middle.
    #[error("its beginning is missing; ask for the whole file")]
    NoBeginning,
    /// There is more than one in it.
    #[error("it holds more than one; each needs a file of its own, or a line of its own where many are surveyed")]
    Several,
    /// Something in it is no JSON any more.
    #[error("it was changed on its way: at line {0} it is not as it was written ({1}); ask for the whole file, attached")]
    Changed(usize, String),
    /// It is a report.
    #[error("it is a report, which says what came out and not what was seen; ask for the file that `setup-ready record` writes")]
    Report,
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
    /// It is a report of which parts are missing, or changed.
    #[error("it is a report that was changed on its way, or of which a part is missing: {0}; ask for the whole file")]
    Damaged(String),
    /// Requirements are missing in it.
    #[error("it is not whole: it counts {0} requirements and holds {1}; ask for the whole file")]
    Incomplete(u64, u64),
    /// A later version of the software wrote it.
    #[error("it has format {0}, which a newer setup-ready writes; this one reads format {FORMAT}")]
    Later(u64),
}

/// A file that holds a recording.
///
/// # Errors
/// When it cannot be read or used, and why.
pub fn read_recording(path: &Path) -> Result<Recording, RecordingError> {
    recording(&read_bounded(path)?)
}

/// The text of a file of bounded size.
pub(crate) fn read_bounded(path: &Path) -> Result<String, RecordingError> {
    let known = path.metadata().map_err(RecordingError::Unreadable)?;
    if !known.is_file() {
        return Err(RecordingError::NotAFile);
    }
    if known.len() > LARGEST {
        return Err(RecordingError::TooLarge);
    }
    let mut bytes = Vec::new();
    let opened = File::open(path).map_err(RecordingError::Unreadable)?;
    opened.take(LARGEST + 1).read_to_end(&mut bytes).map_err(RecordingError::Unreadable)?;
    if bytes.len() as u64 > LARGEST {
        return Err(RecordingError::TooLarge);
    }
    text_of(bytes)
}

/// What every format says.
#[derive(Deserialize)]
struct Head {
    format: Option<u64>,
    answers: Option<IgnoredAny>,
    outcome: Option<IgnoredAny>,
}

/// A recording from its text.
///
/// # Errors
/// When it cannot be used, and why.
pub fn recording(text: &str) -> Result<Recording, RecordingError> {
    let reason = |error: serde_json::Error| RecordingError::Other(short(&error));
    let (head, text): (Head, Cow<'_, str>) = if let Ok(head) = serde_json::from_str(text) {
        (head, Cow::Borrowed(text))
    } else {
        let sound = sound(text)?;
        (serde_json::from_str(&sound).map_err(reason)?, sound)
    };
    match (head.format, head.answers, head.outcome) {
        (Some(format), ..) if format > u64::from(FORMAT) => Err(RecordingError::Later(format)),
        (Some(_), Some(_), _) => serde_json::from_str(&text).map_err(reason),
        (Some(_), None, Some(_)) => Err(RecordingError::Report),
        _ => Err(RecordingError::Other("it has no answers".to_owned())),
    }
}

/// What is wrong with a text, as far as it fits into a sentence.
pub(crate) fn short(error: &serde_json::Error) -> String {
    error.to_string().chars().take(200).collect()
}

/// How much of a file is looked at to tell what it is meant to be, in bytes.
const BEGINNING: u64 = 1 << 16;

/// Whether a file is meant to be a recording or a report, and not a described machine: by what it begins with, unless its name says it.
pub fn is_recorded_file(path: &Path) -> bool {
    let has_end = |end: &str| path.extension().is_some_and(|known| known.eq_ignore_ascii_case(end));
    if has_end("json") {
        return true;
    }
    let mut beginning = Vec::new();
    // What is no file can only be read once.
    let is_read = path.is_file()
        && File::open(path).is_ok_and(|file| file.take(BEGINNING).read_to_end(&mut beginning).is_ok_and(|read| read > 0));
    let bare = beginning.strip_prefix(b"\xef\xbb\xbf").unwrap_or(&beginning);
    is_read && (bare.trim_ascii_start().starts_with(b"{") || (!has_end("toml") && is_sent(bare)))
}

/// Whether a file of this name is read where a folder is surveyed: `.json`, `.ndjson` or `.jsonl`, also with `.gz` behind it.
pub fn is_surveyed_file(path: &Path) -> bool {
    let name = path.file_name().map(|name| name.to_string_lossy().to_ascii_lowercase()).unwrap_or_default();
    let plain = name.strip_suffix(".gz").unwrap_or(&name);
    [".json", ".ndjson", ".jsonl"].iter().any(|end| plain.ends_with(end))
}

/// What a machine is called by its file: `mine` for `mine.recording.json`, in whatever it was packed and however it was called since.
pub fn recorded_name(path: &Path) -> String {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    let mut bare = name.as_str();
    for end in [".gz", ".txt", ".ndjson", ".jsonl", ".json", ".recording"] {
        bare = bare.strip_suffix(end).filter(|bare| !bare.is_empty()).unwrap_or(bare);
    }
    bare.to_owned()
}
