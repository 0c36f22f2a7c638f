//! `file` and `folder`.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, Placed};
use crate::guide::reading::{bad, existence, flag, owned};
use crate::guide::vocabulary::Shape::{Flag, Text, Texts, Word};
use crate::guide::vocabulary::{EXAMPLE, EXPECT, Key, MEANS, may};
use crate::guide::{Existence, Kind};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::text::Pattern;

/// A file or a folder.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum PathKind {
    /// A file.
    File,
    /// A folder.
    Folder,
}

/// `file = ...` or `folder = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
#[allow(clippy::struct_excessive_bools, reason = "each is a key of its own")]
pub struct Path {
    /// Which of the two.
    pub kind: PathKind,
    /// The path as written.
    pub path: String,
    /// Other places that do as well, in order.
    pub or: Vec<String>,
    /// Permission bits.
    pub mode: Option<u32>,
    /// It must belong to this user.
    pub mine: bool,
    /// This user must be able to write it.
    pub writable: bool,
    /// This user must be able to execute it.
    pub executable: bool,
    /// Programs in it must be able to start: its disk may not forbid that.
    pub runs_programs: bool,
    /// What its text must hold, or which names a folder must have: all of them.
    pub contains: Vec<Pattern>,
    /// Whether it must be there.
    pub expect: Existence,
}

const OF_PATHS: &[Key] = &[
    may("mode", Text),
    may("owner", Word(&["me"])),
    may("writable", Flag),
    may("executable", Flag),
    may("runs_programs", Flag),
    may("contains", Texts),
    MEANS,
    EXAMPLE,
    EXPECT,
];

/// How guides say it.
pub(crate) const FILE: Entry<Path> = Entry {
    shape: Texts,
    further: OF_PATHS,
    several: None,
    about: &[About::Path],
    looks_ahead: true,
    read: |fields, _| path(fields, (PathKind::File, "file")),
};

/// How guides say it.
pub(crate) const FOLDER: Entry<Path> = Entry {
    shape: Texts,
    further: OF_PATHS,
    several: None,
    about: &[About::Path],
    looks_ahead: true,
    read: |fields, _| path(fields, (PathKind::Folder, "folder")),
};

impl SubjectEntry for Path {
    fn kind(&self) -> Kind {
        match self.kind {
            PathKind::File => Kind::File,
            PathKind::Folder => Kind::Folder,
        }
    }

    fn title(&self) -> String {
        format!("{} {}", SubjectEntry::kind(self).word(), self.path)
    }

    fn pattern(&self) -> Option<&Pattern> {
        self.contains.first()
    }

    fn asks(&self) -> Option<String> {
        Some(format!("path {}", self.path))
    }

    fn paths(&self) -> Vec<(&'static str, &str)> {
        vec![(if self.kind == PathKind::File { "file" } else { "folder" }, self.path.as_str())]
    }
}

fn path(fields: &Fields<'_>, (kind, key): (PathKind, &'static str)) -> Option<Path> {
    let mut places = owned(fields.some_texts(key)).into_iter();
    let mode = |text: &str| {
        u32::from_str_radix(text, 8).ok().filter(|mode| *mode <= 0o7777).ok_or("a mode is written in octal digits, like \"600\"")
    };
    if fields.texts(key).iter().any(|place| place.value.trim().is_empty()) {
        bad(fields, fields.key_span(key), format!("`{key}` is empty"));
    }
    Some(Path {
        kind,
        path: places.next()?,
        or: places.collect(),
        mode: fields.read("mode", mode),
        mine: fields.word("owner", &[("me", ())]).is_some(),
        writable: flag(fields, "writable"),
        executable: flag(fields, "executable"),
        runs_programs: flag(fields, "runs_programs"),
        contains: patterns(fields, "contains"),
        expect: existence(fields),
    })
}

/// Patterns that must all fit something.
fn patterns(fields: &Fields<'_>, key: &'static str) -> Vec<Pattern> {
    let read = |text: Placed<&str>| Pattern::new(text.value).map_err(|error| bad(fields, text.span, error.to_string())).ok();
    fields.some_texts(key).into_iter().filter_map(read).collect()
}
