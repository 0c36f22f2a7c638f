//! Small words that several parts of a report use.

use build_setup_ready::guide::Level;
use build_setup_ready::report::Report;
use build_setup_ready::settled::Settled;

pub(crate) fn level(report: &Report, one: &Settled) -> Level {
    report.requirement(one).map_or(Level::Must, |requirement| requirement.level)
}

pub(crate) fn counted(count: usize, word: &str) -> String {
    if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") }
}
