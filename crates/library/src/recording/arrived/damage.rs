//! What became of a text that is no JSON any more: told so that whoever got it knows what to ask for.

use super::super::read::NotRecording;
use super::foreign::Foreign;
use super::freed::beginning;

/// What happened to it, by what it shows.
pub(super) fn damage(text: &str, error: &serde_json::Error) -> NotRecording {
    if let Some(foreign) = Foreign::by_text(text) {
        return NotRecording::Foreign(foreign);
    }
    let begins = text.trim_start().starts_with(['{', '[']);
    let quotes = ['\u{201c}', '\u{201d}', '\u{201e}', '\u{ab}', '\u{bb}'];
    if !text.contains('"') && (text.contains(quotes) || text.contains("&quot;")) {
        return NotRecording::Quotes;
    }
    if text.lines().filter(|line| line.ends_with('=')).count() > 1 {
        return NotRecording::AsMail;
    }
    if error.to_string().starts_with("control character") {
        return NotRecording::BrokenLines(error.line());
    }
    if begins && error.is_eof() {
        return NotRecording::CutOff(error.line());
    }
    if begins || beginning(text).is_some() {
        return NotRecording::Changed(error.line(), error.to_string().chars().take(200).collect());
    }
    // What only the inner parts of it look like.
    let is_key = |line: &str| line.trim_start().starts_with('"') && line.contains("\":");
    if text.lines().any(is_key) { NotRecording::NoBeginning } else { NotRecording::Foreign(Foreign::Shown) }
}
