//! The keys of a kind in guides.

use super::vocabulary::Key;
use crate::kinds::kind::Kind;

/// A kind of requirement: its subject, and the further keys that go with it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct KindKeys {
    /// Which kind.
    pub kind: Kind,
    /// The key that says what is checked.
    pub subject: Key,
    /// The keys that go with it.
    pub further: &'static [Key],
    /// The key that names several at once, each a requirement of its own.
    pub several: Option<&'static str>,
}
