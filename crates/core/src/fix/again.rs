//! What was advised before and has not helped is not advised again as if nothing had been.

use super::Fix;
use crate::advice::Advice;
use crate::guide::{Requirement, Then};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::prelude::*;
use crate::selection::Selection;

/// The ways for a requirement, in the order in which they are worth trying now: what was advised before comes with what to do where it did
/// not help, and behind that where it is known to have been done.
///
/// # Errors
/// When answers are still to come.
pub(super) fn in_order(inquiry: &mut Inquiry<'_>, requirement: &Requirement, ways: Vec<Fix>) -> Result<Vec<Fix>, Stop> {
    // What waits for something else could not be done yet.
    if inquiry.context.ahead {
        return Ok(ways);
    }
    let told = |fix: &Fix, selection: &Selection| selection.advised.contains(&Advice::of(&requirement.id, fix));
    let selection = inquiry.context.selection;
    let (mut open, mut done) = (Vec::new(), Vec::new());
    for way in ways {
        let stands = stands(inquiry, &way)?;
        let was_told = told(&way, selection);
        let now = if stands { terminal(&way) } else { way };
        let tried = told(&now, selection);
        if (stands && (was_told || tried)) || (tried && !now.acts()) { done.push(now) } else { open.push(now) }
    }
    let Some(first) = open.first().cloned() else {
        // What words alone say may take its time.
        if let Some(first) = done.first_mut().filter(|first| first.acts() || first.then.is_some()) {
            first.choice = Some(
                "This was advised before, too: if you have done it, it did not help, and no other way is known here.".into(),
            );
        }
        return Ok(done);
    };
    if let Some(before) = done.first() {
        if let Some(first) = open.first_mut() {
            first.choice = Some(format!("What was advised before has not helped ({}), so this is another way.", said(before)));
        }
    } else if told(&first, selection) {
        let next = open.get(1).cloned();
        if let Some(first) = open.first_mut() {
            first.choice = Some(match (&next, missing_line(first)) {
                (Some(_), Some(file)) => {
                    format!(
                        "This was advised before, and the line is not in {file} yet. If it cannot be added there, take the next way."
                    )
                }
                (Some(_), None) => {
                    "This was advised before. If you have done it, it did not help: then take the next way.".into()
                }
                (None, Some(file)) => format!("This was advised before, and the line is not in {file} yet."),
                (None, None) => {
                    "This was advised before, too. If you have done it, it did not help, or something undoes it.".into()
                }
            });
            first.otherwise = next.map(Box::new);
        }
    }
    open.append(&mut done);
    Ok(open)
}

/// What was said, as a part of a sentence.
fn said(fix: &Fix) -> &str {
    fix.say.trim_end_matches('.')
}

/// The start-up file in which the line of a fix does not stand, where it is one of those that are looked into.
fn missing_line(fix: &Fix) -> Option<&str> {
    let edit = fix.edit.as_ref().filter(|edit| fix.then == Some(Then::NewShell) && edit.file.starts_with("~/"))?;
    Some(&edit.file)
}

/// Whether the line that a fix adds to a start-up file stands in it already.
fn stands(inquiry: &mut Inquiry<'_>, fix: &Fix) -> Result<bool, Stop> {
    let Some(edit) = fix.edit.as_ref().filter(|_| missing_line(fix).is_some()) else { return Ok(false) };
    Ok(if_known(inquiry.startup_line(&edit.file, edit.append.trim()))?.is_some_and(|stands| *stands))
}

/// What is left to do where the line stands already.
fn terminal(fix: &Fix) -> Fix {
    let file = fix.edit.as_ref().map(|edit| edit.file.as_str()).unwrap_or_default();
    let say = format!(
        "{file} has the line for it already, and this terminal was opened before or does not read that file: open a new terminal."
    );
    Fix { say, edit: None, ..fix.clone() }
}
