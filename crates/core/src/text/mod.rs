//! Text as people write and read it: near words, safe display, sizes, durations, patterns.

mod address;
mod amount;
mod nearest;
mod pattern;
mod sanitised;
mod shell_line;

pub use address::without_credentials;
pub use amount::{AmountError, Size, parse_duration};
pub use nearest::nearest;
pub use pattern::{Pattern, PatternError, PatternSearch};
pub use sanitised::{MOST_ACCENTS, Sanitised};
pub use shell_line::{Flaw, Grammar, ShellLine, is_simple};

use crate::prelude::*;

/// Joins words as a sentence does: `a`, `a and b`, `a, b and c`. Empty for no words.
pub fn join_words<S: AsRef<str>>(words: &[S], conjunction: &str) -> String {
    let words: Vec<&str> = words.iter().map(AsRef::as_ref).collect();
    match words.as_slice() {
        [] => String::new(),
        [only] => (*only).to_owned(),
        [most @ .., last] => format!("{} {conjunction} {last}", most.join(", ")),
    }
}

/// Milliseconds as seconds, for a sentence: `10` or `0.5`.
pub fn seconds(milliseconds: u64) -> String {
    match (milliseconds / 1_000, milliseconds % 1_000) {
        (whole, 0) => whole.to_string(),
        (whole, part) => format!("{whole}.{}", part / 100),
    }
}
/// A title as the start of a sentence; names of programs are never changed so.
pub fn capitalised(title: &str) -> String {
    let mut letters = title.chars();
    letters.next().map(|first| first.to_uppercase().chain(letters).collect()).unwrap_or_default()
}

/// The text without ECMA-48 control sequences: some programs colour even what goes into a pipe.
pub(crate) fn without_escapes(text: &str) -> String {
    if !text.contains('\u{1b}') {
        return text.to_owned();
    }
    let mut plain = String::with_capacity(text.len());
    let mut rest = text;
    while let Some((front, sequence)) = rest.split_once('\u{1b}') {
        plain.push_str(front);
        rest = match sequence.strip_prefix('[') {
            Some(parameters) => parameters.split_once(|c: char| ('@'..='~').contains(&c)).map_or("", |(_, after)| after),
            None => sequence,
        };
    }
    plain.push_str(rest);
    plain
}

/// The nearest place at or before `at`, in bytes, at which a text can be cut.
pub fn floor_char_boundary(text: &str, at: usize) -> usize {
    (0..=at.min(text.len())).rev().find(|place| text.is_char_boundary(*place)).unwrap_or(0)
}
