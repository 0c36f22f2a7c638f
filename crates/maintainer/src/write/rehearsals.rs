//! Rehearsals of a guide for others to read: JSON, the XML of `JUnit`, Markdown, and a page.

use super::guide_markdown::plain as cell;
use crate::Matrix;
use crate::Performance;
use serde_json::{Value, json};
use setup_ready_core::guide::Guide;
use setup_ready_core::rehearsal::{End, Way, Ways};
use setup_ready_core::verdict::Verdict;
use setup_ready_forms::junit::{Case, CaseResult, Suites};
use setup_ready_forms::page::{PageError, page};
use setup_ready_forms::verdict_words::words;
use std::fmt::Write;

const REHEARSAL: &str = include_str!("../../templates/rehearsal.html");

/// What was rehearsed: a guide on described machines, or its ways to fail.
#[derive(Debug, Clone, Copy)]
pub enum Rehearsed<'r> {
    /// On described machines.
    Machines(&'r Matrix),
    /// On machines that were made to fail.
    Failures(&'r Guide, &'r Ways),
}

impl Rehearsed<'_> {
    fn guide(&self) -> &Guide {
        match self {
            Self::Machines(matrix) => &matrix.guide,
            Self::Failures(guide, _) => guide,
        }
    }

    /// What it comes to, in a sentence.
    pub fn summary(&self) -> String {
        match self {
            Self::Failures(_, ways) => ways.summary(),
            Self::Machines(matrix) => {
                let machines = matrix.performances.len();
                let silent = matrix.performances.iter().filter(|one| !one.expects).count();
                let what = if machines == 1 { "1 machine".to_owned() } else { format!("{machines} machines") };
                let comes = match matrix.differences() {
                    0 if silent == machines => "none of them expects anything".to_owned(),
                    0 => "all is as expected".to_owned(),
                    1 => "1 thing is not as expected".to_owned(),
                    several => format!("{several} things are not as expected"),
                };
                format!("{what}: {comes}.")
            }
        }
    }
}

fn id(guide: &Guide, index: usize) -> &str {
    guide.requirements.get(index).map_or("", |one| one.id.as_str())
}

fn of_way(guide: &Guide, way: &Way) -> Value {
    let fix = way.fix.as_ref().map(|fix| {
        let edit = fix.edit.as_ref().map(|edit| json!({ "file": edit.file, "append": edit.append }));
        json!({ "say": fix.say, "run": fix.run, "edit": edit })
    });
    json!({
        "requirement": id(guide, way.requirement),
        "system": way.system.word(),
        "system_name": way.system.name(),
        "cause": way.cause.word(),
        "message": way.message,
        "fix": fix,
        "end": way.end.word(),
    })
}

fn value(rehearsed: Rehearsed<'_>) -> Value {
    let guide = rehearsed.guide();
    let mut all = json!({ "format": 1, "project": guide.project.name, "summary": rehearsed.summary() });
    let more = match rehearsed {
        Rehearsed::Machines(matrix) => {
            let machine = |one: &Performance| json!({ "name": one.machine, "about": one.about, "differences": one.differences });
            let row = |(index, requirement): (usize, &setup_ready_core::guide::Requirement)| {
                let cell = |one: &Performance| {
                    let settled = one.report.settled_at(index)?;
                    let verdict = settled.finding.verdict();
                    let cause = settled.finding.cause().filter(|_| verdict != Verdict::Skipped);
                    Some(
                        json!({ "verdict": verdict.word(), "words": words(verdict), "cause": cause.map(setup_ready_core::cause::Cause::word) }),
                    )
                };
                let cells: Vec<Value> = matrix.performances.iter().map(|one| cell(one).unwrap_or(Value::Null)).collect();
                json!({ "id": requirement.id, "cells": cells })
            };
            json!({
                "machines": matrix.performances.iter().map(machine).collect::<Vec<_>>(),
                "rows": guide.requirements.iter().enumerate().map(row).collect::<Vec<_>>(),
            })
        }
        Rehearsed::Failures(_, ways) => {
            let group = |end: &End| {
                let of_end: Vec<Value> = ways.ways.iter().filter(|way| way.end == *end).map(|way| of_way(guide, way)).collect();
                json!({ "end": end.word(), "title": setup_ready_core::text::capitalised(&format!("end {}", end.means())), "ways": of_end })
            };
            let untried = |one: &setup_ready_core::rehearsal::Untried| json!({ "requirement": id(guide, one.requirement), "system": one.system.word(), "system_name": one.system.name(), "reason": one.reason });
            json!({
                "groups": End::ALL.iter().map(group).filter(|group| group["ways"].as_array().is_some_and(|ways| !ways.is_empty())).collect::<Vec<_>>(),
                "untried": ways.untried.iter().map(untried).collect::<Vec<_>>(),
            })
        }
    };
    if let (Some(all), Value::Object(more)) = (all.as_object_mut(), more) {
        all.extend(more);
    }
    all
}

/// As JSON, version 1.
pub fn rehearsal_json(rehearsed: Rehearsed<'_>) -> String {
    serde_json::to_string_pretty(&value(rehearsed)).map(|text| text + "\n").unwrap_or_default()
}

/// As a page in HTML.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn rehearsal_html(rehearsed: Rehearsed<'_>) -> Result<String, PageError> {
    page(REHEARSAL, "", &value(rehearsed))
}

/// As the XML that build servers read as results of tests: a suite for each machine, or for each requirement; what ends in nothing to do has failed.
pub fn rehearsal_junit(rehearsed: Rehearsed<'_>) -> String {
    let guide = rehearsed.guide();
    let mut suites = Suites::default();
    match rehearsed {
        Rehearsed::Machines(matrix) => {
            for one in &matrix.performances {
                let of = |requirement: &setup_ready_core::guide::Requirement| {
                    let begins = format!("{} ", requirement.id);
                    let texts: Vec<&str> =
                        one.differences.iter().filter(|text| text.starts_with(&begins)).map(String::as_str).collect();
                    let settled = one.report.settled_of(&requirement.id);
                    let message = settled.map(|settled| one.report.message(settled)).unwrap_or_default();
                    let skipped = settled.is_none_or(|settled| settled.finding.verdict() == Verdict::Skipped);
                    let came = match (texts.is_empty(), skipped) {
                        (false, _) => CaseResult::Failed(texts.join("; "), message),
                        (true, true) => CaseResult::Skipped(String::new()),
                        (true, false) => CaseResult::Well,
                    };
                    Case { name: requirement.id.clone(), came, elapsed_ms_of: 0 }
                };
                let mut cases: Vec<Case> = guide.requirements.iter().map(of).collect();
                let named =
                    |text: &str| guide.requirements.iter().any(|requirement| text.starts_with(&format!("{} ", requirement.id)));
                for text in one.differences.iter().filter(|text| !named(text)) {
                    let came = CaseResult::Failed(text.clone(), String::new());
                    cases.push(Case { name: "the whole".to_owned(), came, elapsed_ms_of: 0 });
                }
                suites.add(&one.machine, &cases);
            }
        }
        Rehearsed::Failures(_, ways) => {
            for (index, requirement) in guide.requirements.iter().enumerate() {
                let cases: Vec<Case> = ways
                    .ways
                    .iter()
                    .filter(|way| way.requirement == index)
                    .map(|way| {
                        let nothing = way.end == End::Nothing;
                        let failed = || CaseResult::Failed("ends in nothing to do".to_owned(), way.message.clone());
                        let name = format!("{} {}", way.system.word(), way.cause.word());
                        Case { name, came: if nothing { failed() } else { CaseResult::Well }, elapsed_ms_of: 0 }
                    })
                    .collect();
                if !cases.is_empty() {
                    suites.add(&requirement.id, &cases);
                }
            }
        }
    }
    suites.document(&guide.project.name)
}

/// As Markdown: what is wrong first.
pub fn rehearsal_markdown(rehearsed: Rehearsed<'_>) -> String {
    let guide = rehearsed.guide();
    let mut out = format!("# {}: the setup guide, rehearsed\n\n{}\n", cell(&guide.project.name), cell(&rehearsed.summary()));
    match rehearsed {
        Rehearsed::Machines(matrix) => {
            for one in matrix.performances.iter().filter(|one| !one.differences.is_empty()) {
                let _ = writeln!(out, "\n## Not as expected: {}\n", cell(&one.machine));
                for text in &one.differences {
                    let _ = writeln!(out, "- {}", cell(text));
                }
            }
            let names: Vec<String> = matrix.performances.iter().map(|one| cell(&one.machine)).collect();
            let _ = writeln!(out, "\n| requirement | {} |\n| --- |{}", names.join(" | "), " --- |".repeat(names.len()));
            for (index, requirement) in guide.requirements.iter().enumerate() {
                let cells: Vec<String> = matrix
                    .performances
                    .iter()
                    .map(|one| {
                        let Some(settled) = one.report.settled_at(index) else { return String::new() };
                        let verdict = settled.finding.verdict();
                        let cause = settled.finding.cause().filter(|_| verdict != Verdict::Skipped);
                        let cause = cause.map(|cause| format!(" ({})", cause.word())).unwrap_or_default();
                        format!("{}{cause}", words(verdict))
                    })
                    .collect();
                let _ = writeln!(out, "| {} | {} |", cell(&requirement.id), cells.join(" | "));
            }
        }
        Rehearsed::Failures(_, ways) => {
            for end in End::ALL {
                let of_end: Vec<&Way> = ways.ways.iter().filter(|way| way.end == end).collect();
                if of_end.is_empty() {
                    continue;
                }
                let title = setup_ready_core::text::capitalised(&format!("end {}", end.means()));
                let _ = writeln!(
                    out,
                    "\n## {title} ({})\n\n| requirement | system | cause | what to do |\n| --- | --- | --- | --- |",
                    of_end.len()
                );
                for way in of_end {
                    let say = way.fix.as_ref().map(|fix| cell(&fix.say)).unwrap_or_default();
                    let _ = writeln!(
                        out,
                        "| {} | {} | {} | {say} |",
                        cell(id(guide, way.requirement)),
                        way.system.name(),
                        way.cause.word()
                    );
                }
            }
        }
    }
    out
}
