//! What else people send: archives, pictures, pages. Told by its first bytes, since names are changed as easily.

use std::fmt;

/// What a file is, where it is no text that a recording could be in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Foreign {
    /// An archive, which is unpacked by whoever got it.
    Archive(&'static str),
    /// Compressed, otherwise than with gzip.
    Compressed(&'static str),
    /// A picture, or a document for people.
    Drawn(&'static str),
    /// A report in a form that is not read again.
    Form(&'static str),
    /// Words, as a terminal shows them.
    Shown,
}

impl Foreign {
    /// By the first bytes, which each of these formats has by its specification.
    pub(crate) fn by_first_bytes(bytes: &[u8]) -> Option<Self> {
        const BEGINNINGS: [(&[u8], Foreign); 13] = [
            (b"PK\x03\x04", Foreign::Archive("zip")),
            (b"7z\xbc\xaf\x27\x1c", Foreign::Archive("7z")),
            (b"Rar!\x1a\x07", Foreign::Archive("rar")),
            (b"\xfd7zXZ\0", Foreign::Compressed("xz")),
            (b"\x28\xb5\x2f\xfd", Foreign::Compressed("zstd")),
            (b"BZh", Foreign::Compressed("bzip2")),
            (b"\x89PNG\r\n", Foreign::Drawn("picture")),
            (b"\xff\xd8\xff", Foreign::Drawn("picture")),
            (b"GIF8", Foreign::Drawn("picture")),
            (b"RIFF", Foreign::Drawn("picture")),
            (b"%PDF-", Foreign::Drawn("PDF document")),
            (b"{\\rtf", Foreign::Drawn("document of a word processor")),
            (b"\xd0\xcf\x11\xe0", Foreign::Drawn("document of a word processor")),
        ];
        // The header of tar says what it is behind the name (POSIX.1-1988).
        if bytes.get(257..262) == Some(b"ustar") {
            return Some(Self::Archive("tar"));
        }
        BEGINNINGS.iter().find(|(beginning, _)| bytes.starts_with(beginning)).map(|(_, foreign)| *foreign)
    }

    /// By how a text begins.
    pub(super) fn by_text(text: &str) -> Option<Self> {
        let beginning: String = text.trim_start().chars().take(64).collect::<String>().to_ascii_lowercase();
        let begins = |words: &[&str]| words.iter().any(|word| beginning.starts_with(word));
        if begins(&["<!doctype html", "<html"]) {
            return Some(Self::Form("an HTML page"));
        }
        if begins(&["<?xml", "<testsuite"]) {
            return Some(Self::Form("XML"));
        }
        begins(&["tap version"]).then_some(Self::Form("a list for readers of TAP"))
    }
}

impl fmt::Display for Foreign {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let ask = "ask for the file that `setup-ready record` writes";
        match self {
            Self::Archive(kind) => write!(f, "it is a {kind} archive; unpack it, and name what was in it"),
            Self::Compressed(by) => {
                write!(f, "it is compressed with {by}; unpack it first (only what gzip made is read as it is)")
            }
            Self::Drawn(what) => write!(f, "it is a {what}, which only people can read; {ask}"),
            Self::Form(what) => write!(f, "it is {what}, which is made for others to read; {ask}"),
            Self::Shown => {
                write!(f, "it is text for people, and nothing in it is as `setup-ready` writes it for programs; {ask}")
            }
        }
    }
}
