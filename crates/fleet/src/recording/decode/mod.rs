//! What arrives is seldom what was sent: shells write another encoding, mails quote, chats put fences around it, packers pack it.
//!
//! What still says the same is read. Of the rest it is told what became of it, since "not JSON" helps nobody who did not write it.

mod damage;
mod detect_format;
mod unwrap;

pub use detect_format::Foreign;

use super::read::{LARGEST, RecordingError};
use flate2::read::MultiGzDecoder;
use serde::de::IgnoredAny;
use setup_ready_observe::encoding::Utf16;
use std::borrow::Cow;
use std::io::{self, Read};

/// The first bytes of what is compressed with gzip (RFC 1952).
pub(crate) const GZIP: [u8; 2] = [0x1f, 0x8b];

/// The text in what was read of a file, whatever encoding it is in; what is compressed is unpacked, once.
pub(super) fn text_of(bytes: Vec<u8>) -> Result<String, RecordingError> {
    let bytes = if bytes.starts_with(&GZIP) { unpacked(&bytes)? } else { bytes };
    if let Some(foreign) = Foreign::by_first_bytes(&bytes) {
        return Err(RecordingError::Foreign(foreign));
    }
    match Utf16::of(&bytes) {
        Some(order) => order.text(&bytes).ok_or(RecordingError::NotUtf8),
        None => String::from_utf8(bytes).map_err(|_| RecordingError::NotUtf8),
    }
}

/// What is unpacked as it is read; where that cannot be done, it is said what became of it.
pub(crate) struct Unpacked<R>(MultiGzDecoder<R>);

impl<R: Read> Unpacked<R> {
    pub(crate) fn new(packed: R) -> Self {
        Self(MultiGzDecoder::new(packed))
    }
}

impl<R: Read> Read for Unpacked<R> {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        let told = |error: io::Error| {
            if error.kind() == io::ErrorKind::Interrupted { error } else { io::Error::other(RecordingError::Unpacking(error)) }
        };
        self.0.read(into).map_err(told)
    }
}

fn unpacked(bytes: &[u8]) -> Result<Vec<u8>, RecordingError> {
    let mut unpacked = Vec::new();
    MultiGzDecoder::new(bytes).take(LARGEST + 1).read_to_end(&mut unpacked).map_err(RecordingError::Unpacking)?;
    if unpacked.len() as u64 > LARGEST { Err(RecordingError::TooLarge) } else { Ok(unpacked) }
}

/// The one JSON document in a text: all of it, or what is left without what was put around it.
///
/// # Errors
/// What became of it on its way.
pub(crate) fn sound(text: &str) -> Result<Cow<'_, str>, RecordingError> {
    let text = text.trim_start_matches('\u{feff}');
    if text.trim().is_empty() {
        return Err(RecordingError::Empty);
    }
    match serde_json::from_str::<IgnoredAny>(text) {
        Ok(_) => Ok(Cow::Borrowed(text)),
        Err(_) => match unwrap::freed(text) {
            unwrap::Freed::One(text) => Ok(Cow::Owned(text)),
            unwrap::Freed::Several => Err(RecordingError::Several),
            unwrap::Freed::None => Err(damage::damage(text)),
        },
    }
}

/// Whether what a file begins with speaks for a recording or a report, or for what became of one, and not for a described machine, which is TOML.
pub(super) fn is_sent(beginning: &[u8]) -> bool {
    if beginning.starts_with(&GZIP) || Foreign::by_first_bytes(beginning).is_some() || Utf16::of(beginning).is_some() {
        return true;
    }
    let text = String::from_utf8_lossy(beginning);
    if Foreign::by_text(&text).is_some() {
        return true;
    }
    // A table, or a key with its value (TOML v1.0.0).
    let is_toml = |line: &str| {
        let key = |c: char| c.is_ascii_alphanumeric() || "_-.\"".contains(c);
        let table = line.strip_prefix('[').and_then(|rest| rest.split(']').next());
        let assigned = line.split_once('=').map(|(before, _)| before.trim_end());
        [table, assigned].into_iter().flatten().any(|before| !before.is_empty() && before.chars().all(key))
    };
    !text.lines().any(|line| is_toml(line.trim()))
}

#[cfg(test)]
mod tests {
    use super::{sound, text_of};
    use proptest::prelude::{Strategy, any, prop_assert_eq, prop_oneof, proptest};

    const DOCUMENT: &str = "{\n  \"format\": 1,\n  \"said\": \"> a\u{a0}b\",\n  \"all\": [\n    { \"format\": 2 }\n  ]\n}";

    fn quoted(mark: &str) -> String {
        format!("{mark}{}", DOCUMENT.replace('\n', &format!("\n{mark}")))
    }

    proptest! {
        #[test]
        fn what_is_put_around_a_document_changes_nothing_in_it(
            before in "[^{]{0,80}",
            mark in prop_oneof!["", "> ", "> > ", "\u{a0}\u{a0}", "\t"].prop_map(|mark: String| mark),
            behind in "[^{]{0,80}",
        ) {
            let text = format!("{before}\n{}\n{behind}", quoted(&mark));
            let found = sound(&text).map_err(|problem| problem.to_string());
            let value = found.and_then(|found| serde_json::from_str::<serde_json::Value>(&found).map_err(|error| error.to_string()));
            prop_assert_eq!(value, Ok(serde_json::from_str::<serde_json::Value>(DOCUMENT).unwrap()));
        }

        #[test]
        fn any_text_comes_out_of_utf_16_as_it_went_in(text in any::<String>()) {
            let bytes = |order: fn(u16) -> [u8; 2]| format!("\u{feff}{text}").encode_utf16().flat_map(order).collect::<Vec<u8>>();
            for bytes in [bytes(u16::to_le_bytes), bytes(u16::to_be_bytes)] {
                // A text that begins with a zero looks like four bytes a letter, which nothing writes.
                if !text.starts_with('\0') {
                    prop_assert_eq!(text_of(bytes).map_err(|problem| problem.to_string()), Ok(text.clone()));
                }
            }
        }

        #[test]
        fn no_bytes_are_too_odd(bytes in proptest::collection::vec(any::<u8>(), 0..400)) {
            let _ = text_of(bytes.clone()).map(|text| sound(&text).map(|sound| sound.len()));
            let _ = text_of([&[0x1f, 0x8b][..], &bytes].concat());
        }
    }
}
