//! A report as results of tests: `JUnit` for build servers, TAP for whatever reads that.

use super::junit::{Case, CaseResult, Suites};
use build_setup_ready::write::plan::{afterwards, line};
use setup_ready_core::finding::Verdict;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::Sanitised;
use std::fmt::Write;

/// The message and the first fix, a line each.
fn in_full(report: &Report, one: &RequirementResult) -> String {
    let mut text = report.message(one);
    if let Some(why) = report.requirement(one).and_then(|requirement| requirement.why.as_deref()) {
        let _ = write!(text, "\nWhy: {why}");
    }
    for answer in &one.finding.evidence {
        let _ = write!(text, "\nSeen: {}: {}", answer.probe, answer.observation);
    }
    if let Some(fix) = one.fixes.first() {
        let _ = write!(text, "\nFix: {}", fix.say);
        for command in &fix.run {
            let _ = write!(text, "\n  {command}");
        }
        if let Some(edit) = &fix.edit {
            let _ = write!(text, "\n{}\n  {}", edit.task(), edit.append);
        }
        if let Some(caution) = &fix.caution {
            let _ = write!(text, "\nMind: {caution}");
        }
        if let Some(then) = fix.then {
            let _ = write!(text, "\n{}", afterwards(then));
        }
    }
    Sanitised::lines(&text).to_string()
}

fn case(report: &Report, one: &RequirementResult) -> Option<Case> {
    let requirement = report.requirement(one)?;
    let message = line(&report.message(one));
    let in_a_line = || one.finding.cause().map_or_else(|| message.clone(), |cause| format!("{}: {message}", cause.word()));
    let came = match one.finding.verdict() {
        Verdict::Met => CaseResult::Well,
        Verdict::Skipped | Verdict::Blocked => CaseResult::Skipped(message.clone()),
        // What is only recommended makes no machine unready, and fails no build.
        Verdict::Unmet => match requirement.level.label() {
            Some(label) => CaseResult::Skipped(format!("{label}, and not met: {message}")),
            None => CaseResult::Failed(in_a_line(), in_full(report, one)),
        },
        Verdict::Unknown => CaseResult::Unknown(in_a_line(), in_full(report, one)),
    };
    let elapsed_ms_of = one.finding.evidence.iter().map(|answer| answer.elapsed_ms).sum();
    Some(Case { name: requirement.id.clone(), came, elapsed_ms_of })
}

/// A report as the XML of `JUnit`: a suite for each stage, a case for each requirement. What is needed and not met has failed, what nobody knows is an
/// error, and what does not apply, comes later or is only recommended is skipped.
pub fn junit(report: &Report) -> String {
    let mut suites = Suites::default();
    for (index, stage) in report.guide.stages.iter().enumerate() {
        let of_stage =
            report.counting().filter(|one| report.requirement(one).is_some_and(|requirement| requirement.stage == index));
        let cases: Vec<Case> = of_stage.filter_map(|one| case(report, one)).collect();
        if !cases.is_empty() {
            suites.add(&stage.title, &cases);
        }
    }
    suites.document(&report.guide.project.name)
}

/// A text of YAML in double quotes (YAML 1.2, 7.3.1), on one line.
fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for c in text.chars() {
        match c {
            '"' | '\\' => {
                out.push('\\');
                out.push(c);
            }
            '\n' => out.push_str("\\n"),
            '\t' => out.push_str("\\t"),
            c if setup_ready_core::text::Sanitised::hides(c) => {
                let _ = write!(out, "\\U{:08X}", u32::from(c));
            }
            c => out.push(c),
        }
    }
    out.push('"');
    out
}

/// A report as TAP, with the message and the fix of what is not met in a block of YAML. It says version 13, which has all that is used here: readers of 14
/// take it as well, and those of Debian 12 refuse 14.
pub fn tap(report: &Report) -> String {
    let cases: Vec<(&RequirementResult, Case)> = report.counting().filter_map(|one| Some((one, case(report, one)?))).collect();
    let mut out = format!("TAP version 13\n1..{}\n", cases.len());
    for (number, (settled, case)) in cases.iter().enumerate() {
        // A number sign would begin a directive.
        let name = line(&case.name).replace('\\', "\\\\").replace('#', "\\#");
        let number = number + 1;
        let (message, text) = match &case.came {
            CaseResult::Well => {
                let _ = writeln!(out, "ok {number} - {name}");
                continue;
            }
            CaseResult::Skipped(reason) => {
                let _ = writeln!(out, "ok {number} - {name} # SKIP {}", line(reason).replace('#', "\\#"));
                continue;
            }
            CaseResult::Failed(message, text) | CaseResult::Unknown(message, text) => (message, text),
        };
        let _ = writeln!(out, "not ok {number} - {name}\n  ---\n  message: {}", quoted(message));
        let _ = writeln!(out, "  severity: {}", if matches!(case.came, CaseResult::Failed(..)) { "fail" } else { "unknown" });
        if let Some(cause) = settled.finding.cause() {
            let _ = writeln!(out, "  cause: {}", cause.word());
        }
        let _ = writeln!(out, "  data: {}\n  ...", quoted(text));
    }
    out
}
