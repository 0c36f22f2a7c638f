//! What many reports come to, for others to read: JSON, and a page with plots.

use crate::Surveyed;
use serde_json::{Value, json};
use setup_ready_core::guide::Level;
use setup_ready_core::survey::{Share, Stop, Survey, ToolSpread};
use setup_ready_forms::page::{PageError, clean, page};
use setup_ready_forms::plots::{Bar, bars, line};

const TEMPLATE: &str = include_str!("../../templates/survey.html");
/// A page with more plots than these is not read; its tables have the rest.
const MOST_PLOTTED: usize = 20;

fn share(share: Share) -> Value {
    json!({ "count": share.count, "of": share.of, "percent": share.percent() })
}

fn stop(one: &Stop) -> Value {
    json!({
        "requirement": clean(&one.requirement),
        "level": one.level.word(),
        "machines": share(one.machines),
        "causes": one.causes.iter().map(|(cause, count)| json!({ "cause": clean(cause), "count": count })).collect::<Vec<_>>(),
        "groups": one.groups.iter().map(|(name, of)| json!({ "name": clean(name), "machines": share(*of) })).collect::<Vec<_>>(),
    })
}

fn value(surveyed: &Surveyed, project: &str) -> Value {
    let survey = &surveyed.survey;
    let tool = |one: &ToolSpread| {
        let versions: Vec<Value> =
            one.versions.iter().map(|(version, count)| json!({ "version": clean(version), "count": count })).collect();
        json!({ "requirement": clean(&one.requirement), "versions": versions })
    };
    let what_if = survey.what_if.as_ref().map(|cost| {
        json!({
            "requirement": clean(&cost.requirement), "range": clean(&cost.wanted), "stays": cost.stays, "lost": cost.lost, "unknown": cost.unknown,
            "not_met_already": cost.already, "gained": cost.gained, "summary": cost.summary(),
        })
    });
    let groups = survey.groups.iter().map(|one| {
        let stop = one.stop.as_ref().map(|(id, of)| json!({ "requirement": clean(id), "machines": share(*of) }));
        json!({ "name": clean(&one.name), "ready": share(one.ready), "stop": stop })
    });
    let advised = survey.advised.iter().map(|one| json!({ "requirement": clean(&one.requirement), "cause": clean(&one.cause), "fix": clean(&one.fix), "met_next": share(one.met_next) }));
    json!({
        "format": 1,
        "project": clean(project),
        "summary": survey.summary(),
        "reports": survey.reports,
        "recordings": surveyed.recordings,
        "copies": surveyed.copies,
        "machines": survey.machines,
        "told_apart": survey.told_apart,
        "guides": survey.guides,
        "ahead": survey.ahead,
        "days": survey.days.map(|(first, last)| [setup_ready_core::survey::date(first), setup_ready_core::survey::date(last)]),
        "ready": survey.ready,
        "not_ready": survey.not_ready,
        "undecided": survey.undecided,
        "ready_here": survey.ready_here,
        "in_part": survey.in_part,
        "stops": survey.stops.iter().filter(|one| one.level == Level::Must).map(stop).collect::<Vec<_>>(),
        "recommended": survey.stops.iter().filter(|one| one.level != Level::Must).map(stop).collect::<Vec<_>>(),
        "unknown": survey.unknown.iter().map(stop).collect::<Vec<_>>(),
        "tools": survey.tools.iter().map(tool).collect::<Vec<_>>(),
        "groups": groups.collect::<Vec<_>>(),
        "weeks": survey.weeks.iter().map(|one| json!({ "week": one.week, "ready": share(one.ready) })).collect::<Vec<_>>(),
        "advised": advised.collect::<Vec<_>>(),
        "what_if": what_if,
        "broken": surveyed.broken,
        "broken_named": surveyed.named.iter().map(|one| json!({ "source": clean(&one.source), "line": one.line, "reason": clean(&one.reason), "alike": one.alike })).collect::<Vec<_>>(),
        "passed_over": surveyed.passed_over.count,
        "passed_over_first": surveyed.passed_over.first.iter().map(|path| clean(&path.display().to_string())).collect::<Vec<_>>(),
        "interrupted": surveyed.interrupted,
    })
}

/// As JSON, version 1. `project` is whose reports they are, where that is known.
pub fn survey_json(surveyed: &Surveyed, project: &str) -> String {
    serde_json::to_string_pretty(&value(surveyed, project)).map(|text| text + "\n").unwrap_or_default()
}

/// So much of all, from nothing to one.
#[allow(clippy::cast_precision_loss, reason = "a bar is some hundred pixels long")]
fn part(count: u64, of: u64) -> f64 {
    if of == 0 { 0.0 } else { count as f64 / of as f64 }
}

fn plot_of_stops<'s>(stops: impl Iterator<Item = &'s Stop>) -> Result<Option<String>, PageError> {
    let all: Vec<Bar> = stops
        .take(MOST_PLOTTED)
        .map(|one| Bar {
            label: clean(&one.requirement),
            value: format!("{} of {} ({} %)", one.machines.count, one.machines.of, one.machines.percent().unwrap_or(0)),
            share: part(one.machines.count, one.machines.of),
        })
        .collect();
    if all.is_empty() { Ok(None) } else { Ok(Some(bars(&all)?)) }
}

fn plot_of_tool(tool: &ToolSpread) -> Result<Value, PageError> {
    let all: u64 = tool.versions.iter().map(|(_, count)| count).sum();
    let mut shown: Vec<&(String, u64)> = tool.versions.iter().collect();
    // Where there are very many, those that most have, in their order.
    if shown.len() > MOST_PLOTTED {
        let mut counts: Vec<u64> = shown.iter().map(|(_, count)| *count).collect();
        counts.sort_unstable_by(|a, b| b.cmp(a));
        let least = counts.get(MOST_PLOTTED - 1).copied().unwrap_or(0);
        shown.retain(|(_, count)| *count >= least);
        shown.truncate(MOST_PLOTTED);
    }
    let bar = |(version, count): &&(String, u64)| Bar {
        label: clean(version),
        value: format!("{count} of {all}"),
        share: part(*count, all),
    };
    let plot = bars(&shown.iter().map(bar).collect::<Vec<_>>())?;
    let words: Vec<String> =
        tool.versions.iter().take(100).map(|(version, count)| format!("{}: {count}", clean(version))).collect();
    Ok(
        json!({ "requirement": clean(&tool.requirement), "plot": plot, "words": words.join(", "), "left": tool.versions.len().saturating_sub(shown.len()) }),
    )
}

/// As a page in HTML, with plots. `project` is whose reports they are, where that is known.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn survey_html(surveyed: &Surveyed, project: &str) -> Result<String, PageError> {
    let survey: &Survey = &surveyed.survey;
    let mut values = value(surveyed, project);
    let weeks: Vec<(String, f64)> =
        survey.weeks.iter().map(|one| (one.week.clone(), part(one.ready.count, one.ready.of))).collect();
    let tools = survey.tools.iter().map(plot_of_tool).collect::<Result<Vec<_>, _>>()?;
    if let Some(values) = values.as_object_mut() {
        values.insert("stops_plot".to_owned(), plot_of_stops(survey.stops.iter().filter(|one| one.level == Level::Must))?.into());
        values.insert("weeks_plot".to_owned(), (weeks.len() > 1).then(|| line(&weeks)).transpose()?.into());
        values.insert("tool_plots".to_owned(), tools.into());
    }
    page(TEMPLATE, "", &values)
}
