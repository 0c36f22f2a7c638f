//! What was put around a document on its way is taken off again: fences, greetings, prompts, marks of quoting, blanks that became hard.

use serde::Deserialize;
use serde::de::IgnoredAny;

/// What a text holds besides what is around it.
pub(super) enum Freed {
    /// One document.
    One(String),
    /// More than one.
    Several,
    /// None that is whole.
    None,
}

/// What every recording and report says first.
#[derive(Deserialize)]
struct Format {
    #[serde(rename = "format")]
    _format: IgnoredAny,
}

/// Looks for a document that begins a line.
///
/// Within a document no line begins inside a string (RFC 8259: a string holds no raw line end), so that what stands before a line's first mark can be taken
/// off without changing what is said.
pub(super) fn freed(text: &str) -> Freed {
    let mut bare = String::with_capacity(text.len());
    for line in text.lines() {
        bare.push_str(line.trim_start_matches(|c: char| c.is_whitespace() || matches!(c, '>' | '\u{200b}' | '\u{feff}')));
        bare.push('\n');
    }
    let Some(start) = beginning(&bare) else { return Freed::None };
    let rest = bare.get(start..).unwrap_or_default();
    let mut documents = serde_json::Deserializer::from_str(rest).into_iter::<Format>();
    if !matches!(documents.next(), Some(Ok(_))) {
        return Freed::None;
    }
    let (document, behind) = rest.split_at(documents.byte_offset());
    if beginning(behind).is_some() { Freed::Several } else { Freed::One(document.to_owned()) }
}

/// Where a line begins with a document: a brace, and the word that all of them begin with, or that ends the line.
pub(super) fn beginning(text: &str) -> Option<usize> {
    let mut at = 0;
    let mut lines = text.split_inclusive('\n').peekable();
    while let Some(line) = lines.next() {
        if let Some(within) = line.trim_start().strip_prefix('{') {
            let first = if within.trim().is_empty() { lines.peek().copied().unwrap_or_default() } else { within };
            if first.trim_start().starts_with("\"format\"") {
                return Some(at);
            }
        }
        at += line.len();
    }
    None
}
