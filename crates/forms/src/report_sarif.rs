//! A report as SARIF 2.1.0 (OASIS) for code hosts: each failure at the line of the guide that asks for it.

use super::sarif::{place, reference, region, written};
use serde_json::{Value, json};
use setup_ready_core::cause::Cause;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::Level;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;

/// A report as SARIF 2.1.0. `path` is where the guide lies within its repository, and `text` its text.
pub fn sarif(report: &Report, path: &str, text: &str) -> String {
    let open = |one: &&RequirementResult| matches!(one.finding.verdict(), Verdict::Unmet | Verdict::Unknown);
    let found: Vec<&RequirementResult> = report.counting().filter(open).collect();
    let mut causes: Vec<Cause> = found.iter().filter_map(|one| one.finding.cause()).collect();
    causes.sort_by_key(|cause| cause.word());
    causes.dedup();
    let rule = |cause: &Cause| {
        let page = cause.page();
        json!({ "id": cause.word(), "shortDescription": { "text": page.meaning }, "help": { "text": page.meaning } })
    };
    let result = |one: &&RequirementResult| {
        let requirement = report.requirement(one)?;
        let cause = one.finding.cause()?;
        let level = match (one.finding.verdict(), requirement.level) {
            (Verdict::Unmet, Level::Must) => "error",
            (Verdict::Unmet, Level::Should) | (_, Level::Must) => "warning",
            _ => "note",
        };
        let fix = one.fixes.first().map(|fix| format!(" {}", fix.say)).unwrap_or_default();
        Some(json!({
            "ruleId": cause.word(),
            "ruleIndex": causes.iter().position(|other| *other == cause).unwrap_or(0),
            "level": level,
            "message": { "text": format!("{}: {}{fix}", requirement.id, report.message(one)) },
            "locations": [place(&reference(path), &region(text, &requirement.span))],
            "partialFingerprints": { "requirementAndCause/v1": format!("{}:{}", requirement.id, cause.word()) },
        }))
    };
    let results: Vec<Value> = found.iter().filter_map(result).collect();
    let rules: Vec<Value> = causes.iter().map(rule).collect();
    written(&json!({
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "setup-ready", "version": env!("CARGO_PKG_VERSION"), "rules": rules } },
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    }))
}
