//! Small words that several parts of a report use.

use setup_ready_core::cause::Cause;
use setup_ready_core::fix::{Fix, Source};
use setup_ready_core::guide::Level;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;

pub(crate) fn level(report: &Report, one: &RequirementResult) -> Level {
    report.requirement(one).map_or(Level::Must, |requirement| requirement.level)
}

pub(crate) fn counted(count: usize, word: &str) -> String {
    if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") }
}

/// How it is done here what only another look can settle: the option for it, in a sentence that follows the fix's own.
pub(crate) fn option(one: &RequirementResult, fix: &Fix) -> &'static str {
    // What the guide says, and what is typed, is another thing to do.
    let only_looks = fix.source == Source::BuiltIn && !fix.acts();
    match one.finding.cause().filter(|_| only_looks) {
        Some(Cause::CommandNoConsent) => " In a terminal you are asked first; elsewhere, add --allow-commands.",
        Some(Cause::ToolStuck) => " For that, add --time-limit 60s.",
        _ => "",
    }
}
