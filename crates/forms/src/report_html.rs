//! A report as a page: what to do first, then each requirement with what was looked at, folded.

use super::page::{PageError, clean, command, page};
use super::report_markdown::{machine, outcome, summary, whom};
use crate::verdict_words::words;
use build_setup_ready::write::plan::{afterwards, marks, titles};
use serde_json::{Value, json};
use setup_ready_core::finding::Verdict;
use setup_ready_core::plan::Step;
use setup_ready_core::report::{MachineSource, Report};
use setup_ready_core::settled::RequirementResult;

const TEMPLATE: &str = include_str!("../templates/report.html");
/// Copies a command; without it nothing is missing.
const COPY: &str = include_str!("../templates/copy.js");

fn step(report: &Report, step: &Step) -> Value {
    let fix = &step.fix;
    json!({
        "say": clean(&fix.say),
        "marks": marks(step).trim(),
        "run": fix.run.iter().map(|line| command(line)).collect::<Vec<_>>(),
        "task": fix.edit.as_ref().map(|edit| clean(&edit.task())),
        "lines": fix.edit.as_ref().map(|edit| clean(&edit.append)),
        "caution": fix.caution.as_deref().map(clean),
        "choice": fix.choice.as_deref().map(clean),
        "then": fix.then.map(afterwards),
        "settles": clean(&titles(report, step)),
        "worked_if": report.success_check(step).map(|sign| clean(&sign)),
    })
}

fn requirement(report: &Report, one: &RequirementResult) -> Option<Value> {
    let requirement = report.requirement(one)?;
    let verdict = one.finding.verdict();
    let facts = one.finding.evidence.iter();
    let facts =
        facts.map(|answer| json!({ "asked": clean(&answer.probe.to_string()), "saw": clean(&answer.observation.to_string()) }));
    Some(json!({
        "id": requirement.id,
        "title": clean(&requirement.title()),
        "verdict": words(verdict),
        "bad": verdict == Verdict::Unmet,
        "cause": one.finding.cause().filter(|_| verdict != Verdict::Skipped).map(setup_ready_core::cause::Cause::word),
        "message": clean(&report.message(one)),
        "why": requirement.why.as_deref().filter(|_| verdict != Verdict::Met).map(clean),
        "facts": facts.collect::<Vec<_>>(),
    }))
}

/// A report as one page of HTML that needs nothing else. Nothing in it is replaced: give it the report of a recording for that.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn html(report: &Report) -> Result<String, PageError> {
    let group = |(verdict, title): (Verdict, &str)| {
        let of_it = report.counting().filter(|one| one.finding.verdict() == verdict);
        json!({ "title": title, "requirements": of_it.filter_map(|one| requirement(report, one)).collect::<Vec<_>>() })
    };
    let groups = [
        (Verdict::Unmet, "Not met"),
        (Verdict::Unknown, "Could not be found out"),
        (Verdict::Blocked, "Waiting for others"),
        (Verdict::Met, "Met"),
        (Verdict::Skipped, "Left out"),
    ];
    let groups: Vec<Value> = groups
        .map(group)
        .into_iter()
        .filter(|group| group["requirements"].as_array().is_some_and(|all| !all.is_empty()))
        .collect();
    let frame = &report.frame;
    page(
        TEMPLATE,
        COPY,
        &json!({
            "project": clean(&report.guide.project.name),
            "outcome": outcome(report),
            "whom": clean(&whom(report)),
            "machine": clean(&machine(report)),
            "summary": format!("{}.", summary(report)),
            "started": clean(&frame.started),
            "software": clean(&frame.software),
            "guide": frame.guide_sha256.as_deref().map(|digest| digest.chars().take(12).collect::<String>()),
            "replaced": frame.source == MachineSource::Recording,
            "steps": report.plan.steps.iter().map(|one| step(report, one)).collect::<Vec<_>>(),
            "groups": groups,
        }),
    )
}
