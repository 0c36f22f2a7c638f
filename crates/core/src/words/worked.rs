//! How one sees by oneself that a step has worked: a line to type, and what it then says.

use crate::fix::Shell;
use crate::guide::{Requirement, Then};
use crate::prelude::*;
use crate::text::join_words;

/// More lines than these are not typed one after the other.
const MOST_LINES: usize = 6;

/// A sentence about how one sees that these are settled; `None` where only another check tells.
pub(crate) fn success_check<'r>(
    requirements: impl Iterator<Item = &'r Requirement>,
    then: Option<Then>,
    shell: Shell,
) -> Option<String> {
    let when = match then {
        None => "",
        Some(Then::NewShell) => " in a new terminal",
        Some(Then::SignIn) => " when you are signed in again",
        Some(Then::Restart) => " after the restart",
    };
    let mut lines: Vec<(String, String)> = Vec::new();
    for requirement in requirements {
        let Some((line, then)) = super::kind::of_subject(&requirement.subject).success_check(shell) else { continue };
        if !lines.iter().any(|(other, _)| *other == line) {
            lines.push((line, then));
        }
    }
    match lines.as_slice() {
        [] => None,
        [(line, then)] => Some(format!("It has worked if `{line}` {then}{when}.")),
        several if several.len() <= MOST_LINES => {
            let lines: Vec<String> = several.iter().map(|(line, _)| format!("`{line}`")).collect();
            Some(format!("It has worked if each of these answers{when}: {}.", join_words(&lines, "and")))
        }
        _ => None,
    }
}
