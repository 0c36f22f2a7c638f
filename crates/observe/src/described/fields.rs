//! What several parts of a description are read with.

use setup_ready_core::document::{Fields, MOST_TABLES};
use setup_ready_core::observation::{Run, RunEnd, StartFailure};
use setup_ready_core::problem::ProblemKind;
use std::collections::HashMap;

/// The texts of a key, as a list.
pub(super) fn texts(fields: &Fields<'_>, key: &'static str) -> Vec<String> {
    fields.texts(key).into_iter().map(|text| text.value.to_owned()).collect()
}

/// The named texts of a table.
pub(super) fn named_texts(fields: &Fields<'_>) -> HashMap<String, String> {
    let mut all = HashMap::new();
    for (name, value) in fields.entries() {
        match value.get_ref().as_str() {
            Some(text) => {
                all.insert(name.value.to_owned(), text.to_owned());
            }
            None => fields.problems().report(ProblemKind::WrongType, value.span(), "a text in quotes stands here"),
        }
    }
    all
}

/// The permission bits.
pub(super) fn mode(fields: &Fields<'_>) -> Option<u32> {
    fields.read("mode", |text| u32::from_str_radix(text, 8).map_err(|_| "a mode is written in octal digits, like \"660\""))
}

/// The tables `key` of a description.
pub(super) fn tables<'t>(top: &Fields<'t>, key: &'static str) -> Vec<Fields<'t>> {
    if top.has(key) { top.tables(key, key, MOST_TABLES) } else { Vec::new() }
}

/// How a program or a command runs.
pub(super) fn read_run(fields: &Fields<'_>) -> Run {
    let status = fields.number("exit").map_or(0, |number| i32::try_from(number.value).unwrap_or(1));
    let failures = [
        ("piece-missing", StartFailure::PieceMissing),
        ("library-missing", StartFailure::LibraryMissing),
        ("format", StartFailure::Format),
        ("denied", StartFailure::Denied),
        ("not-found", StartFailure::NotFound),
    ];
    let failure = fields.word("does_not_start", &failures);
    let signal = fields.number("signal").and_then(|number| i32::try_from(number.value).ok());
    let stuck = fields.flag("never_ends").unwrap_or(false);
    let end = match (failure, signal) {
        (Some(failure), _) => RunEnd::NotStarted(failure, "the system refused".to_owned()),
        (None, Some(signal)) => RunEnd::Signal(signal),
        (None, None) if stuck => RunEnd::TimeUp(10_000),
        (None, None) => RunEnd::Exit(status),
    };
    let text = |key| fields.owned(key).unwrap_or_default();
    Run { end, stdout: text("prints"), stderr: text("complains"), cut: false }
}
