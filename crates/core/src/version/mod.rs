//! Versions of real tools: read, ordered, matched against ranges, found in what programs print.
//!
//! Tools do not agree on what a version looks like. The families that are ordered here, each with the rule:
//!
//! | family | rule |
//! | --- | --- |
//! | `3.25`, `2023.10.31`, `v20.20.2` | numbers from left to right; trailing zeros do not count; a `v` in front is dropped |
//! | `1.8.0_352` | an underscore before a number is one more number |
//! | `1.1.1w`, `2024a`, `59c` | letters directly after the last number are later releases; `z` is before `za` |
//! | `9.0p1`, `2.4.3-patch2` | patch words (`p`, `pl`, `patch`, `post`, `sp`, `u`, `update`) are after the release |
//! | `3.11.7rc1`, `1.0.0-alpha.2`, `0.9-dev` | words of preparation are before the release, in the order dev, alpha, beta, milestone, pre, rc |
//! | `17.0.15+6` | a number after `+` is a build: later than none, unless a range's bound names no build |
//! | `2.47.3.windows.1`, `7.0.20r163906` | a vendor's word, or an `r` with a number directly behind, starts a build, as above |
//! | `4.4.0.fc8d0ec215ee` | seven hexadecimal digits or more, with letters, are a commit's name, which is ignored |
//! | `12.2.0-14+deb12u1` | a hyphen before a number starts a distribution's revision, which is ignored |
//! | `r1.2`, `R14B04` | an `r` in front is a numbering of its own, not comparable with plain numbers |
//!
//! An unknown word (`1.0-foo`) cannot be ranked against the same release without it: the answer is *unknown*, never a guess.
//! The pre-release order follows Semantic Versioning 2.0.0 item 11 and PEP 440.

mod between;
mod find;
mod named;
mod names;
mod range;

pub use find::{Found, find, refuses};
pub use named::number_behind;
pub use names::Asked;
pub use range::{Bound, Mismatch, Range, RangeError, RangeMatch, RangePosition, Sign};

use crate::prelude::*;
use core::cmp::Ordering;
use core::fmt::{self, Display};

/// A tool's version, as written and as understood.
///
/// ```
/// use setup_ready_core::version::Version;
///
/// let version = |text| Version::parse(text).unwrap();
/// assert!(version("1.1.1w") > version("1.1.1") && version("3.12.0rc1") < version("3.12"));
/// // Another numbering cannot be compared: nobody guesses.
/// assert_eq!(version("r1.2").compare(&version("1.2")), None);
/// ```
#[derive(Debug, Clone)]
pub struct Version {
    text: String,
    scheme: Scheme,
    release: Vec<u64>,
    qualifier: Qualifier,
    build: Vec<Component>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Scheme {
    Plain,
    /// An `r` in front of the first number.
    Revision,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Qualifier {
    Before(Vec<Component>),
    Exact,
    After(Vec<Component>),
    Unranked(String),
}

/// Numbers are before words, as in Semantic Versioning; words by stage, then length, then letters.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
enum Component {
    Number(u64),
    Word { stage: u8, length: usize, text: String },
}

/// The text is not a version.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("`{0}` is not a version; a version starts with a number, as in `3.25` or `v20.1`")]
#[non_exhaustive]
pub struct VersionError(pub String);

const STAGES: [(&str, u8); 15] = [
    ("dev", 1),
    ("snapshot", 1),
    ("nightly", 1),
    ("canary", 1),
    ("a", 2),
    ("alpha", 2),
    ("b", 3),
    ("beta", 3),
    ("m", 4),
    ("milestone", 4),
    ("pre", 5),
    ("preview", 5),
    ("c", 6),
    ("rc", 6),
    ("cr", 6),
];
const PATCHES: [&str; 7] = ["p", "pl", "patch", "post", "sp", "u", "update"];
const VENDORS: [&str; 12] =
    ["windows", "mingw", "msvc", "cygwin", "darwin", "apple", "linux", "debian", "ubuntu", "el", "fc", "amzn"];
const FINALS: [&str; 5] = ["final", "ga", "release", "stable", "lts"];
const LONGEST: usize = 128;

impl Version {
    /// Reads one version and nothing else.
    ///
    /// # Errors
    /// When the text does not start with a number (after `v` or `r`), is longer than 128 characters, or holds a number above 2^64.
    pub fn parse(text: &str) -> Result<Self, VersionError> {
        let text = text.trim();
        let refused = || VersionError(text.chars().take(40).collect());
        if text.len() > LONGEST {
            return Err(refused());
        }
        let (scheme, rest) = match text.as_bytes() {
            [b'v' | b'V', b'0'..=b'9', ..] => (Scheme::Plain, text.get(1..).unwrap_or("")),
            [b'r' | b'R', b'0'..=b'9', ..] => (Scheme::Revision, text.get(1..).unwrap_or("")),
            _ => (Scheme::Plain, text),
        };
        let (mut release, tail) = numbers(rest).ok_or_else(refused)?;
        while release.last() == Some(&0) {
            release.pop();
        }
        let (qualifier, build) = read_tail(tail, scheme).ok_or_else(refused)?;
        Ok(Self { text: text.to_owned(), scheme, release, qualifier, build })
    }

    /// The version as it was written.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The order of two versions; none where they cannot be compared (another numbering, an unknown word).
    pub fn compare(&self, other: &Self) -> Option<Ordering> {
        let order = self.compare_without_build(other)?;
        Some(order.then_with(|| self.build.cmp(&other.build)))
    }

    /// The order of versions in a list, in which each has a place: [`Version::compare`], and where that has none, plain numbering first, words that
    /// cannot be ranked behind the release, and then the letters.
    pub fn compare_listed(&self, other: &Self) -> Ordering {
        let key = |one: &Self| (one.scheme == Scheme::Revision, one.qualifier.rank().unwrap_or(u8::MAX));
        let pieces = |one: &Self| match &one.qualifier {
            Qualifier::Before(pieces) | Qualifier::After(pieces) => pieces.clone(),
            Qualifier::Exact | Qualifier::Unranked(_) => Vec::new(),
        };
        let ((numbering, rank), (others_numbering, others_rank)) = (key(self), key(other));
        numbering
            .cmp(&others_numbering)
            .then_with(|| self.release.cmp(&other.release))
            .then_with(|| rank.cmp(&others_rank))
            .then_with(|| pieces(self).cmp(&pieces(other)))
            .then_with(|| self.build.cmp(&other.build))
            .then_with(|| self.text.cmp(&other.text))
    }

    fn compare_without_build(&self, other: &Self) -> Option<Ordering> {
        if self.scheme != other.scheme {
            return None;
        }
        match self.release.cmp(&other.release) {
            Ordering::Equal => self.qualifier.compare(&other.qualifier),
            order @ (Ordering::Less | Ordering::Greater) => Some(order),
        }
    }

    /// As [`Version::compare`], but a build counts only where `bound` names one.
    fn compare_to_bound(&self, bound: &Self) -> Option<Ordering> {
        if bound.build.is_empty() { self.compare_without_build(bound) } else { self.compare(bound) }
    }

    /// Nothing but zeros, as where nobody has set a version.
    fn is_nothing(&self) -> bool {
        self.release.is_empty() && self.is_plain()
    }

    /// Nothing but numbers.
    fn is_plain(&self) -> bool {
        self.qualifier == Qualifier::Exact && self.build.is_empty()
    }

    fn is_pre_release(&self) -> bool {
        matches!(self.qualifier, Qualifier::Before(_))
    }
}

impl PartialEq for Version {
    fn eq(&self, other: &Self) -> bool {
        self.compare(other) == Some(Ordering::Equal)
    }
}

impl PartialOrd for Version {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        self.compare(other)
    }
}

impl serde::Serialize for Version {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(&self.text)
    }
}

impl Display for Version {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.text)
    }
}

impl Qualifier {
    fn rank(&self) -> Option<u8> {
        match self {
            Self::Before(_) => Some(0),
            Self::Exact => Some(1),
            Self::After(_) => Some(2),
            Self::Unranked(_) => None,
        }
    }

    fn compare(&self, other: &Self) -> Option<Ordering> {
        match (self, other) {
            (Self::Unranked(a), Self::Unranked(b)) => (a == b).then_some(Ordering::Equal),
            (Self::Before(a), Self::Before(b)) | (Self::After(a), Self::After(b)) => Some(a.cmp(b)),
            _ => Some(self.rank()?.cmp(&other.rank()?)),
        }
    }
}

/// The numbers in front (`1.8.0_352`) and what follows them.
fn numbers(text: &str) -> Option<(Vec<u64>, &str)> {
    let mut found = Vec::new();
    let mut rest = text;
    loop {
        let end = rest.find(|c: char| !c.is_ascii_digit()).unwrap_or(rest.len());
        let (digits, after) = rest.split_at_checked(end)?;
        found.push(digits.parse().ok()?);
        match after.as_bytes() {
            [b'.' | b'_', b'0'..=b'9', ..] => rest = after.get(1..)?,
            _ => return Some((found, after)),
        }
    }
}

fn read_tail(tail: &str, scheme: Scheme) -> Option<(Qualifier, Vec<Component>)> {
    let (tail, plus) = tail.split_once('+').unwrap_or((tail, ""));
    let build = match pieces(plus)?.into_iter().next() {
        Some(number @ Component::Number(_)) if !tail.starts_with('-') => vec![number],
        _ => Vec::new(),
    };
    // A commit's name says nothing about the order.
    if is_commit(tail.trim_start_matches(['.', '-', '_']).trim_start_matches('g')) {
        return Some((Qualifier::Exact, build));
    }
    let attached = tail.starts_with(|c: char| c.is_ascii_alphabetic());
    let pieces = pieces(tail)?;
    let (word, stage) = match pieces.first() {
        // Nothing follows, or a distribution's revision does.
        None | Some(Component::Number(_)) => return Some((Qualifier::Exact, build)),
        Some(Component::Word { text, stage, .. }) => (text.as_str(), *stage),
    };
    let numbered = matches!(pieces.get(1), Some(Component::Number(_)));
    let qualifier = if FINALS.contains(&word) {
        Qualifier::Exact
    } else if VENDORS.contains(&word) || (scheme == Scheme::Plain && attached && numbered && word == "r") {
        return Some((Qualifier::Exact, pieces));
    } else if PATCHES.contains(&word) || (attached && (scheme == Scheme::Revision || is_letter_release(word, numbered))) {
        // Behind a release letters are only letters: `1.1.1a` is no alpha.
        Qualifier::After(pieces.into_iter().map(Component::without_stage).collect())
    } else if stage > 0 && (word.len() > 1 || numbered) {
        Qualifier::Before(pieces)
    } else {
        Qualifier::Unranked(tail.to_ascii_lowercase())
    };
    Some((qualifier, build))
}

/// At least seven hexadecimal digits, letters among them.
fn is_commit(text: &str) -> bool {
    text.len() >= 7 && text.bytes().all(|byte| byte.is_ascii_hexdigit()) && text.bytes().any(|byte| byte.is_ascii_alphabetic())
}

/// `1.1.1w`, `1.0.2za`; but `1.0rc` is a candidate, and so is `1.0b2`.
fn is_letter_release(word: &str, numbered: bool) -> bool {
    !numbered && (word.len() == 1 || (word.len() == 2 && stage_of(word) == 0))
}

impl Component {
    fn without_stage(self) -> Self {
        match self {
            Self::Word { text, .. } => Self::Word { stage: 0, length: text.len(), text },
            number @ Self::Number(_) => number,
        }
    }
}

fn stage_of(word: &str) -> u8 {
    STAGES.iter().find(|(name, _)| *name == word).map_or(0, |(_, stage)| *stage)
}

/// Runs of digits and of letters; what separates them does not count. None for a number that is too long.
fn pieces(text: &str) -> Option<Vec<Component>> {
    let mut found = Vec::new();
    let mut rest = text.trim_start_matches(|c: char| !c.is_alphanumeric());
    while let Some(first) = rest.chars().next() {
        let digits = first.is_ascii_digit();
        let end = rest.find(|c: char| c.is_ascii_digit() != digits || !c.is_alphanumeric()).unwrap_or(rest.len());
        let (run, after) = rest.split_at_checked(end)?;
        found.push(if digits {
            Component::Number(run.parse().ok()?)
        } else {
            let word = run.to_lowercase();
            Component::Word { stage: stage_of(&word), length: if stage_of(&word) > 0 { 0 } else { word.len() }, text: word }
        });
        rest = after.trim_start_matches(|c: char| !c.is_alphanumeric());
    }
    Some(found)
}

#[cfg(test)]
mod tests;
