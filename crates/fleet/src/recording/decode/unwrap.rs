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

/// What every recording and report says.
#[derive(Deserialize)]
struct Format {
    #[serde(rename = "format")]
    _format: IgnoredAny,
}

/// So many braces that are never closed are tried: each may cost the whole text.
const MOST_UNCLOSED: usize = 3;

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
    let mut found: Option<&str> = None;
    let (mut rest, mut unclosed) = (bare.as_str(), 0);
    while let Some(start) = brace(rest) {
        let from = rest.get(start..).unwrap_or_default();
        let mut documents = serde_json::Deserializer::from_str(from).into_iter::<IgnoredAny>();
        let end = match documents.next() {
            Some(Ok(_)) => documents.byte_offset(),
            _ => 0,
        };
        let (document, behind) = from.split_at_checked(end).unwrap_or(("", from));
        rest = behind;
        if end == 0 {
            unclosed += 1;
            rest = from.get(1..).unwrap_or_default();
        } else if serde_json::from_str::<Format>(document).is_ok() {
            if found.is_some() {
                return Freed::Several;
            }
            found = Some(document);
        }
        if unclosed > MOST_UNCLOSED {
            break;
        }
    }
    found.map_or(Freed::None, |document| Freed::One(document.to_owned()))
}

/// Where a line begins with a brace.
fn brace(text: &str) -> Option<usize> {
    if text.starts_with('{') { Some(0) } else { text.find("\n{").map(|at| at + 1) }
}
