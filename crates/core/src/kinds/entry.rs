//! What each kind gives by itself, whatever is done with it: in its `mod.rs`.

use crate::cause::About;
use crate::document::Fields;
use crate::guide::Supply;
use crate::guide::programs::Programs;
use crate::guide::reading::References;
use crate::guide::vocabulary::{Key, Shape};
use crate::kinds::kind::Kind;
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::Pattern;

/// How guides say it: in `mod.rs` of each kind. `T` is what is read.
pub(crate) struct Entry<T> {
    /// What stands behind its key.
    pub(crate) shape: Shape,
    /// The keys that go with it.
    pub(crate) further: &'static [Key],
    /// The key that names several at once, each a requirement of its own.
    pub(crate) several: Option<&'static str>,
    /// The groups of the causes that it can have, besides those of every kind.
    pub(crate) about: &'static [About],
    /// Whether looking at it starts nothing of the guide's and asks nobody else, so that it may be assessed before what it waits for is done.
    pub(crate) looks_ahead: bool,
    /// Reads what is checked; mistakes are reported.
    pub(crate) read: fn(&Fields<'_>, &References<'_>) -> Option<T>,
}

/// What a requirement says of itself: in `mod.rs` of each kind.
pub(crate) trait SubjectEntry {
    /// Which kind it is.
    fn kind(&self) -> Kind;

    /// What to call it where the guide gives no title.
    fn title(&self) -> String;

    /// The pattern that something must fit, where it has one: the first of several.
    fn pattern(&self) -> Option<&Pattern> {
        None
    }

    /// The packages that bring it, per package manager.
    fn packages(&self) -> &[(Manager, String)] {
        &[]
    }

    /// What is wanted, where it is a value that a guide's own fix may name: an amount, a version, a name.
    fn wanted_value(&self) -> Option<String> {
        None
    }

    /// What a repository may say that this speaks of.
    fn topics(&self) -> Vec<Topic> {
        Vec::new()
    }

    /// The tools of the guide without which it cannot be looked at.
    fn needs(&self, _: &Programs<'_>) -> Vec<usize> {
        Vec::new()
    }

    /// The requirements of which one is enough.
    fn alternatives(&self) -> &[usize] {
        &[]
    }

    /// What it asks of the machine, where two requirements that ask the same are one too many.
    fn asks(&self) -> Option<String> {
        None
    }

    /// The paths that it names, with the key of each.
    fn paths(&self) -> Vec<(&'static str, &str)> {
        Vec::new()
    }

    /// Who brings a thing that must run, and how it is started.
    fn supply(&self) -> Option<&Supply> {
        None
    }
}
