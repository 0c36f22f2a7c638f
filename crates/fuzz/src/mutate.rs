//! Texts made from others.

use fastrand::Rng;

/// What turns up where readers look for something.
const WORDS: [&str; 48] = [
    "\"",
    "'",
    "[",
    "]",
    "{",
    "}",
    "(",
    ")",
    "=",
    ":",
    ",",
    ".",
    "/",
    "\\",
    "-",
    "--",
    "..",
    "\n",
    "\r\n",
    "\t",
    " ",
    "\u{1b}[31m",
    "\u{202e}",
    "\u{0}",
    "0",
    "-1",
    "18446744073709551616",
    "1e999",
    "99999999999999999999999999",
    "1.2.3-rc.1+b",
    ">= 3, < 4 || 5.*",
    "[[require.x.fix]]\n",
    "[require.y]\n",
    "when = \"linux and not wsl\"\n",
    "\\d+(a|b)*",
    "{path}",
    "{{",
    "$(",
    "`",
    "<<",
    "#",
    "%00",
    "@",
    "~",
    "\u{300}",
    "ß",
    "\u{10ffff}",
    "true",
];

/// A text of the list, changed in a few places.
pub(crate) fn mutated(seeds: &[String], chance: &mut Rng, longest: usize) -> Vec<u8> {
    let mut bytes = chance.choice(seeds).map(|seed| seed.as_bytes().to_vec()).unwrap_or_default();
    // Most readers see short texts: a window of a long one often says more than the whole.
    if bytes.len() > 600 && chance.u8(..) < 200 {
        let start = chance.usize(..bytes.len() - 500);
        bytes = bytes.get(start..start + chance.usize(1..500)).unwrap_or_default().to_vec();
    }
    for _ in 0..chance.usize(1..8) {
        let at = if bytes.is_empty() { 0 } else { chance.usize(..=bytes.len()) };
        let length = chance.usize(..16).min(bytes.len() - at);
        match chance.u8(..9) {
            0 => drop(bytes.drain(at..at + length)),
            1 => insert(&mut bytes, at, chance.choice(WORDS).unwrap_or_default().as_bytes()),
            2 => insert(&mut bytes, at, &[chance.u8(..)]),
            3 => {
                if let Some(byte) = bytes.get_mut(at) {
                    *byte ^= 1 << chance.u8(..8);
                }
            }
            4 => {
                let part = bytes.get(at..at + length).unwrap_or_default().repeat(chance.usize(..40));
                insert(&mut bytes, at, &part);
            }
            5 => {
                let other = chance.choice(seeds).map(String::as_bytes).unwrap_or_default();
                let from = chance.usize(..=other.len());
                let part = other.get(from..(from + chance.usize(..200)).min(other.len())).unwrap_or_default();
                insert(&mut bytes, at, part);
            }
            6 => bytes.truncate(at),
            7 => insert(&mut bytes, at, chance.u64(..).to_string().as_bytes()),
            _ => {
                let word = chance.choice(WORDS).unwrap_or_default().repeat(chance.usize(1..100));
                insert(&mut bytes, at, word.as_bytes());
            }
        }
    }
    bytes.truncate(longest);
    bytes
}

fn insert(bytes: &mut Vec<u8>, at: usize, part: &[u8]) {
    bytes.splice(at..at, part.iter().copied());
}
