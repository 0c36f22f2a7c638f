//! What became of a text that is no JSON any more: told so that whoever got it knows what to ask for.

use super::super::read::{RecordingError, short};
use super::detect_format::Foreign;
use serde::de::IgnoredAny;

/// What happened to it, by what it shows.
pub(super) fn damage(text: &str) -> RecordingError {
    if let Some(foreign) = Foreign::by_text(text) {
        return RecordingError::Foreign(foreign);
    }
    let quotes = ['\u{201c}', '\u{201d}', '\u{201e}', '\u{ab}', '\u{bb}'];
    if !text.contains('"') && (text.contains(quotes) || text.contains("&quot;")) {
        return RecordingError::Quotes;
    }
    if text.lines().filter(|line| line.ends_with('=')).count() > 1 {
        return RecordingError::AsMail;
    }
    // Its first line that could be JSON: the beginning of it all, or what only its inner parts look like.
    let is_inner = |line: &str| (line.starts_with('"') && line.contains("\":")) || line.starts_with(['}', ']']);
    let mut at = 0;
    for (number, line) in text.split_inclusive('\n').enumerate() {
        let bare = line.trim_start();
        if bare.starts_with(['{', '[']) {
            return of_beginning(text.get(at..).unwrap_or_default(), number);
        }
        if is_inner(bare) {
            return RecordingError::NoBeginning;
        }
        at += line.len();
    }
    RecordingError::Foreign(Foreign::Shown)
}

/// What is wrong with what begins as it should, behind so many lines.
fn of_beginning(text: &str, before: usize) -> RecordingError {
    match serde_json::from_str::<IgnoredAny>(text) {
        // It is whole, and does not say what it is.
        Ok(_) => RecordingError::Other("it has no format".to_owned()),
        Err(error) => {
            let line = before + error.line();
            if error.to_string().starts_with("control character") {
                RecordingError::BrokenLines(line)
            } else if error.is_eof() {
                RecordingError::CutOff(line)
            } else {
                RecordingError::Changed(line, short(&error))
            }
        }
    }
}
