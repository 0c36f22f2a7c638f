//! Where the work goes on, where that is in more than one place: a Linux inside Windows, a container, another machine.

use super::command_line;
use super::reading::{check_id, condition};
use crate::condition::{self, Condition};
use crate::document::{Fields, MOST_ENTRIES};
use crate::prelude::*;

/// `[place.ID]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct WorkPlace {
    /// Its id.
    pub id: String,
    /// What people call it, to stand behind "inside" or "in".
    pub title: String,
    /// Where this holds, one is in it.
    pub when: Condition,
    /// Where this holds, one is outside, and what belongs into it is looked at there. Where neither does, there is no such place, and all is looked at here.
    pub outside: Condition,
    /// What to type to come into it.
    pub enter: Option<String>,
}

/// Reads `[place.ID]`.
pub(super) fn read(top: &Fields<'_>) -> Vec<WorkPlace> {
    let one = |(name, fields): (crate::document::Placed<&str>, Fields<'_>)| {
        check_id(&name, top.problems());
        let title = fields.one_line("title").unwrap_or_else(|| name.value.to_owned());
        let enter = command_line::commands(&fields, "enter").into_iter().next();
        let inside_windows = enter.as_deref().is_some_and(|enter| enter.split_whitespace().next() == Some("wsl"));
        let usual = |text: &str| condition::parse(text).ok();
        let when = condition(&fields).or_else(|| usual("wsl").filter(|_| inside_windows && !fields.has("when")));
        if when.is_none() && !fields.has("when") {
            fields.missing("when");
        }
        let stated = fields.text("outside").and_then(|text| match condition::parse(text.value) {
            Ok(condition) => Some(condition),
            Err(error) => {
                fields.problems().report(crate::problem::ProblemKind::BadValue, text.span, error.message);
                None
            }
        });
        let place = when.and_then(|when| {
            let outside = stated.or_else(|| if inside_windows { usual("windows") } else { Some(when.not()) })?;
            Some(WorkPlace { id: name.value.to_owned(), title, when, outside, enter })
        });
        fields.finish(|_| None);
        place
    };
    top.named_tables("place", MOST_ENTRIES).into_iter().filter_map(one).collect()
}
