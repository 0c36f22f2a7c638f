//! What a described machine expects of a guide: that makes it a test of the guide.

use super::fields::{tables, texts};
use super::shape::{Expectation, Expected, Shape};
use crate::Preflight;
use setup_ready_core::cause::Cause;
use setup_ready_core::document::{Fields, MOST_TABLES};
use setup_ready_core::finding::Verdict;
use setup_ready_core::fix::Fix;
use setup_ready_core::guide::Guide;
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::selection::Selection;
use std::sync::Arc;

/// The words for outcomes.
const OUTCOMES: [(&str, Outcome); 5] = [
    ("ready", Outcome::Ready),
    ("not-ready", Outcome::NotReady),
    ("undecided", Outcome::Undecided),
    ("ready-here", Outcome::ReadyHere),
    ("ready-in-part", Outcome::ReadyInPart),
];

fn requirements(fields: &Fields<'_>, key: &'static str) -> Vec<Expected> {
    let verdicts =
        [Verdict::Met, Verdict::Unmet, Verdict::Unknown, Verdict::Blocked, Verdict::Skipped].map(|one| (one.word(), one));
    let causes: Vec<(&str, Cause)> = Cause::ALL.iter().map(|cause| (cause.word(), *cause)).collect();
    let mut all = Vec::new();
    for (id, fields) in fields.named_tables(key, MOST_TABLES) {
        if !fields.has("verdict") {
            fields.missing("verdict");
        }
        let cause = fields.word("cause", &causes);
        let (says, offers) = (texts(&fields, "says"), texts(&fields, "offers"));
        if let Some(verdict) = fields.word("verdict", &verdicts) {
            all.push(Expected { id: id.value.to_owned(), verdict, cause, says, offers });
        }
        fields.finish(|_| None);
    }
    all
}

pub(super) fn read(top: &Fields<'_>, shape: &mut Shape) {
    shape.expected = requirements(top, "expect");
    for fields in tables(top, "expectation") {
        shape.expectations.push(Expectation {
            role: fields.owned("role"),
            after_start: fields.flag("after_start").unwrap_or(false),
            place: fields.owned("place"),
            outcome: fields.word("outcome", &OUTCOMES),
            says: texts(&fields, "says"),
            requirements: requirements(&fields, "require"),
        });
        fields.finish(|_| None);
    }
}

fn word(outcome: Outcome) -> &'static str {
    OUTCOMES.iter().find(|(_, one)| *one == outcome).map_or("", |(word, _)| word)
}

/// All that a fix says and shows.
fn shown(fix: &Fix) -> String {
    let edit = fix.edit.iter().map(|edit| format!("{} {}", edit.task(), edit.append));
    [fix.say.clone()]
        .into_iter()
        .chain(fix.run.iter().cloned())
        .chain(edit)
        .chain(fix.caution.clone())
        .collect::<Vec<_>>()
        .join("\n")
}

/// Where a report differs from what is expected of single requirements, a sentence each.
pub(super) fn differences(expected: &[Expected], report: &Report) -> Vec<String> {
    let words = |verdict: Verdict, cause: Option<Cause>| match cause {
        Some(cause) => format!("{} ({})", verdict.word(), cause.word()),
        None => verdict.word().to_owned(),
    };
    let mut all = Vec::new();
    for expected in expected {
        let Some(one) = report.settled_of(&expected.id) else {
            all.push(format!("{} is expected, and the report has no such requirement", expected.id));
            continue;
        };
        let (verdict, cause) = (one.finding.verdict(), one.finding.cause());
        if verdict != expected.verdict || (expected.cause.is_some() && cause != expected.cause) {
            let (wanted, found) = (words(expected.verdict, expected.cause), words(verdict, cause));
            all.push(format!("{} is expected to be {wanted} and is {found}", expected.id));
        }
        let message = report.message(one);
        for missing in expected.says.iter().filter(|words| !message.contains(words.as_str())) {
            all.push(format!("what is said of {} does not hold \u{201c}{missing}\u{201d}: {message}", expected.id));
        }
        let fixes: Vec<String> = one.fixes.iter().map(shown).collect();
        for missing in expected.offers.iter().filter(|words| !fixes.iter().any(|fix| fix.contains(words.as_str()))) {
            all.push(format!(
                "no fix that is offered for {} holds \u{201c}{missing}\u{201d}: {}",
                expected.id,
                fixes.join(" / ")
            ));
        }
    }
    all
}

/// Where the preflights that a machine speaks of come out otherwise than it expects, a sentence each.
pub(super) fn disagreements(machine: &super::Described, guide: &Arc<Guide>) -> Vec<String> {
    let mut all = Vec::new();
    for expectation in &machine.shape.expectations {
        let for_whom = expectation.role.as_ref().map(|role| format!("for {role}: ")).unwrap_or_default();
        let unknown =
            |what: &str, word: &Option<String>| format!("the guide has no {what} {}", word.as_deref().unwrap_or_default());
        let role = expectation.role.as_ref().map(|role| guide.role(role));
        let place = expectation.place.as_ref().map(|place| guide.place(place));
        if role == Some(None) {
            all.push(unknown("role", &expectation.role));
            continue;
        }
        if place == Some(None) {
            all.push(unknown("place", &expectation.place));
            continue;
        }
        let selection = Selection {
            role: role.flatten(),
            after_start: expectation.after_start,
            place: place.flatten(),
            ..Selection::default()
        };
        let Ok(report) = Preflight::new(Arc::clone(guide)).select(selection).run(machine) else { continue };
        if let Some(outcome) = expectation.outcome.filter(|outcome| *outcome != report.outcome()) {
            all.push(format!("{for_whom}the outcome is expected to be {} and is {}", word(outcome), word(report.outcome())));
        }
        let said: Vec<String> = report
            .settled
            .iter()
            .flat_map(|one| {
                one.fixes.iter().map(shown).chain([report.message(one)]).chain(report.words(one).and_then(|words| words.remark()))
            })
            .collect();
        for missing in expectation.says.iter().filter(|words| !said.iter().any(|text| text.contains(words.as_str()))) {
            all.push(format!("{for_whom}nothing that is said holds \u{201c}{missing}\u{201d}"));
        }
        all.extend(differences(&expectation.requirements, &report).into_iter().map(|text| format!("{for_whom}{text}")));
    }
    all
}
