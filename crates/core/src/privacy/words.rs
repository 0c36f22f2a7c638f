//! Words of a text: where one begins and ends, and a name replaced wherever it stands as one.

use crate::prelude::*;
use core::fmt::Write as _;

/// A name of so many letters is the same with a number behind it: `marisol2`.
const NUMBERED: usize = 4;

pub(super) fn is_word(c: char) -> bool {
    c.is_alphanumeric()
}

/// A text cut into runs of characters of one class and runs of others, in turn; the flag says which.
pub(super) fn runs(text: &str, class: impl Fn(char) -> bool) -> impl Iterator<Item = (bool, &str)> {
    let mut rest = text;
    core::iter::from_fn(move || {
        let first = rest.chars().next()?;
        let inside = class(first);
        let end = rest.find(|c| class(c) != inside).unwrap_or(rest.len());
        let (run, after) = rest.split_at_checked(end)?;
        rest = after;
        Some((inside, run))
    })
}

/// The last bytes of a text, at most so many: what stands before something is looked at no further back, or a long text takes its square.
pub(super) fn tail(text: &str, most: usize) -> &str {
    let start = (text.len().saturating_sub(most)..=text.len()).find(|at| text.is_char_boundary(*at)).unwrap_or(text.len());
    text.get(start..).unwrap_or_default()
}

/// The first bytes of a text, at most so many, for the same reason.
pub(super) fn head(text: &str, most: usize) -> &str {
    let end = (0..=most.min(text.len())).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0);
    text.get(..end).unwrap_or_default()
}

/// A text in small letters, and where in the text each of its bytes comes from.
struct Lowered {
    text: String,
    /// Empty where all letters take one byte, in either size.
    from: Vec<usize>,
}

impl Lowered {
    fn of(text: &str) -> Self {
        if text.is_ascii() {
            return Self { text: text.to_ascii_lowercase(), from: Vec::new() };
        }
        let (mut lower, mut from) = (String::with_capacity(text.len()), Vec::with_capacity(text.len() + 1));
        for (at, letter) in text.char_indices() {
            lower.extend(letter.to_lowercase());
            from.resize(lower.len(), at);
        }
        from.push(text.len());
        Self { text: lower, from }
    }

    fn place(&self, at: usize) -> usize {
        self.from.get(at).copied().unwrap_or(at)
    }
}

/// A text with a name replaced wherever it stands as a word, or as a path with whatever lies below it. The name is in small letters.
pub(super) fn instead_of(text: &str, lower: &str, instead: &str, path: bool) -> String {
    let lowered = Lowered::of(text);
    if lower.is_empty() || !lowered.text.contains(lower) {
        return text.to_owned();
    }
    let numbered = lower.chars().count() >= NUMBERED && !lower.ends_with(|c: char| c.is_ascii_digit());
    let mut out = String::with_capacity(text.len());
    let mut from = 0;
    for (at, _) in lowered.text.match_indices(lower) {
        let end = at + lower.len();
        let before = lowered.text.get(..at).and_then(|before| before.chars().next_back());
        let rest = lowered.text.get(end..).unwrap_or_default();
        let after = rest.chars().next();
        let is_end = |after: Option<char>| !after.is_some_and(is_word);
        let (begins, ends) = if path {
            (before.is_none_or(|c| !is_word(c) && c != '.'), after.is_none_or(|c| !is_word(c) && !"-_".contains(c)))
        } else {
            let behind = || rest.trim_start_matches(|c: char| c.is_ascii_digit()).chars().next();
            (!before.is_some_and(is_word), is_end(after) || (numbered && is_end(behind())))
        };
        let (start, stop) = (lowered.place(at), lowered.place(end));
        // A letter that becomes two small ones is not cut.
        if begins && ends && start >= from {
            out.push_str(text.get(from..start).unwrap_or_default());
            out.push_str(instead);
            from = stop;
        }
    }
    out.push_str(text.get(from..).unwrap_or_default());
    out
}

/// How a path is written in an address of a file (RFC 3986), where that is another way.
pub(super) fn in_address(path: &str) -> Option<String> {
    let is_plain = |byte: u8| byte.is_ascii_alphanumeric() || b"-._~/:\\".contains(&byte);
    if path.bytes().all(is_plain) {
        return None;
    }
    let mut written = String::new();
    for byte in path.bytes() {
        if is_plain(byte) {
            written.push(char::from(byte));
        } else {
            let _ = write!(written, "%{byte:02x}");
        }
    }
    Some(written)
}
