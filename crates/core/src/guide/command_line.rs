//! Commands of a guide that a person types: each is one whole command, as a reader sees it.

use super::placeholder::pieces;
use crate::document::{Fields, Placed, shortened};
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Grammar, Sanitised, ShellLine};

/// Commands that are shown as what to type, each one whole.
pub(super) fn commands(fields: &Fields<'_>, key: &'static str) -> Vec<String> {
    let commands = fields.texts(key);
    for command in &commands {
        check_command(fields, command, Grammar::Posix);
    }
    commands.into_iter().map(|command| command.value.to_owned()).collect()
}

/// Reports what keeps a text from being one command that a reader sees as it will run, and placeholders that quotation marks would spoil.
pub(super) fn check_command(fields: &Fields<'_>, command: &Placed<&str>, grammar: Grammar) {
    let line = ShellLine::read(command.value, grammar);
    if let Some(flaw) = line.flaw {
        let message = format!("`{}` is not one whole command: {flaw}", shortened(&Sanitised::command(command.value).to_string()));
        fields.problems().report(ProblemKind::BadValue, command.span.clone(), message);
        return;
    }
    if command.value.chars().any(Sanitised::hides) {
        let message = format!(
            "`{}` holds characters that cannot be seen or typed",
            shortened(&Sanitised::command(command.value).to_string())
        );
        fields.problems().report(ProblemKind::BadValue, command.span.clone(), message);
    }
    for word in pieces(command.value).into_iter().filter_map(Result::ok) {
        let offset = (word.as_ptr() as usize).wrapping_sub(command.value.as_ptr() as usize);
        if line.is_quoted(offset) {
            let message = format!(
                "`{{{}}}` stands between quotation marks; it is quoted by itself, so put it outside of them",
                shortened(word)
            );
            fields.problems().report(ProblemKind::BadValue, command.span.clone(), message);
        }
    }
}
