//! What the readers of a guide's tables share.

use super::{Role, Stage, WorkPlace};
use crate::condition;
use crate::condition::Condition;
use crate::document::{Fields, Placed, shortened};
use crate::guide::{Access, Existence};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use alloc::collections::BTreeMap;
use core::ops::Range;

/// Reports a word that is not in its list.
pub(crate) fn check_word(fields: &Fields<'_>, what: &str, word: &Placed<&str>, known: &[&str]) -> bool {
    let right = known.contains(&word.value);
    if !right {
        let message = format!("`{}` is not a {what}", shortened(word.value));
        fields.problems().unknown_word(ProblemKind::UnknownWord, word.span.clone(), message, (word.value, known));
    }
    right
}

pub(crate) fn check_id(name: &Placed<&str>, problems: &Problems) {
    let right = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-' || c == '_' || c == '.';
    if name.value.is_empty() || name.value.len() > 80 || !name.value.chars().all(right) {
        let message =
            format!("`{}` cannot be an id: use up to 80 lowercase letters, digits, `-`, `_` and `.`", shortened(name.value));
        problems.report(ProblemKind::BadValue, name.span.clone(), message);
    }
}

/// What a requirement may refer to.
pub(crate) struct References<'g> {
    pub(crate) roles: Vec<Role>,
    pub(crate) stages: Vec<Stage>,
    pub(crate) places: Vec<WorkPlace>,
    /// Where the requirements of a name stand: several where a table names several things.
    pub(crate) index: BTreeMap<&'g str, Range<usize>>,
}

impl References<'_> {
    /// The indexes of the roles that `roles` names.
    pub(crate) fn roles(&self, fields: &Fields<'_>) -> Vec<usize> {
        let role = |id: &Placed<&str>| {
            let position = self.roles.iter().position(|role| role.id == id.value);
            if position.is_none() {
                let known: Vec<&str> = self.roles.iter().map(|role| role.id.as_str()).collect();
                check_word(fields, "role", id, &known);
            }
            position
        };
        fields.texts("roles").iter().filter_map(role).collect()
    }

    /// The index of the place that `place` names.
    pub(crate) fn place(&self, fields: &Fields<'_>) -> Option<usize> {
        let id = fields.text("place")?;
        let known: Vec<&str> = self.places.iter().map(|place| place.id.as_str()).collect();
        check_word(fields, "place of this guide", &id, &known);
        known.iter().position(|place| *place == id.value)
    }

    /// The indexes of all requirements that a list names.
    pub(crate) fn all(&self, fields: &Fields<'_>, key: &'static str) -> Vec<usize> {
        fields.texts(key).iter().filter_map(|id| self.requirement(fields, id)).flatten().collect()
    }

    /// The index of the one requirement that a text names: a name that stands for several things is none.
    pub(crate) fn one(&self, fields: &Fields<'_>, id: &Placed<&str>) -> Option<usize> {
        let found = self.requirement(fields, id)?;
        if found.len() > 1 {
            let message = format!("`{}` stands for {} requirements; name one of them", shortened(id.value), found.len());
            fields.problems().report(ProblemKind::BadValue, id.span.clone(), message);
        }
        Some(found.start)
    }

    /// The indexes of the requirements that a text names; reported where there is none.
    pub(crate) fn requirement(&self, fields: &Fields<'_>, name: &Placed<&str>) -> Option<Range<usize>> {
        let found = self.index.get(name.value).cloned();
        if found.is_none() {
            let known: Vec<&str> = self.index.keys().copied().collect();
            let near = crate::text::nearest(name.value, known.iter().copied());
            let known: Vec<&str> = if near.is_some() || known.len() <= 12 { known } else { Vec::new() };
            check_word(fields, "requirement of this guide", name, &known);
        }
        found
    }
}

/// The `when` of a table.
pub(crate) fn condition(fields: &Fields<'_>) -> Option<Condition> {
    let text = fields.text("when")?;
    match condition::parse(text.value) {
        Ok(condition) => Some(condition),
        Err(error) => {
            // Inside plain quotes the offset is exact; with escapes the whole text is pointed at.
            let plain = text.span.len() == text.value.len() + 2;
            let start = text.span.start + 1 + error.offset;
            let span = if plain { start..start + error.length } else { text.span };
            fields.problems().report(ProblemKind::BadValue, span, error.message);
            None
        }
    }
}

pub(crate) fn flag(fields: &Fields<'_>, key: &'static str) -> bool {
    fields.flag(key).unwrap_or(false)
}

pub(crate) fn existence(fields: &Fields<'_>) -> Existence {
    fields.word("expect", &[("present", Existence::Present), ("absent", Existence::Absent)]).unwrap_or(Existence::Present)
}

pub(crate) fn access(fields: &Fields<'_>) -> Access {
    fields.word("access", &[("read", Access::Read), ("write", Access::Write)]).unwrap_or(Access::Write)
}

pub(crate) fn bad(fields: &Fields<'_>, span: core::ops::Range<usize>, message: impl Into<String>) {
    fields.problems().report(ProblemKind::BadValue, span, message);
}

pub(crate) fn owned(texts: Vec<Placed<&str>>) -> Vec<String> {
    texts.into_iter().map(|text| text.value.to_owned()).collect()
}

pub(crate) fn status(fields: &Fields<'_>) -> Option<u16> {
    let number = fields.number("status")?;
    let status = u16::try_from(number.value).ok().filter(|status| (100..600).contains(status));
    if status.is_none() {
        bad(fields, number.span, "an HTTP status is a number from 100 to 599");
    }
    status
}

pub(crate) fn url(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    let url = fields.required(key)?;
    let host = url.value.strip_prefix("https://").or_else(|| url.value.strip_prefix("http://"));
    if host.is_none_or(|host| host.is_empty() || host.starts_with('/')) {
        bad(fields, url.span, "an address to reach starts with https:// or http://");
        return None;
    }
    Some(url.value.to_owned())
}

/// A text that must be there.
pub(crate) fn text(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    fields.required(key).map(|text| text.value.to_owned())
}
