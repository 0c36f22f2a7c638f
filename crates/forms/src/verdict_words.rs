//! Verdicts in words.

use setup_ready_core::verdict::Verdict;

/// A verdict in words.
pub fn words(verdict: Verdict) -> &'static str {
    match verdict {
        Verdict::Met => "met",
        Verdict::Unmet => "not met",
        Verdict::Unknown => "unknown",
        Verdict::Blocked => "waits",
        Verdict::Skipped => "does not apply",
    }
}
