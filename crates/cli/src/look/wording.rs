//! Small words that several parts of a report use.

use setup_ready_core::guide::Level;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;

pub(crate) fn level(report: &Report, one: &RequirementResult) -> Level {
    report.requirement(one).map_or(Level::Must, |requirement| requirement.level)
}

pub(crate) fn counted(count: usize, word: &str) -> String {
    if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") }
}
