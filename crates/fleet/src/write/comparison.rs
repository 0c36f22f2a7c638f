//! What comes of comparing machines, for others to read: JSON, Markdown, a page.

use build_setup_ready::write::markdown::{code, plain};
use serde_json::{Value, json};
use setup_ready_core::compare::{Alike, Comparison, Difference, Group, Spread};
use setup_ready_core::guide::Level;
use setup_ready_forms::page::{PageError, clean, page};
use setup_ready_forms::verdict_words::words;
use std::fmt::Write;

const TEMPLATE: &str = include_str!("../../templates/comparison.html");

fn name(found: &Comparison, side: usize) -> &str {
    found.names.get(side).map_or("", String::as_str)
}

fn value(found: &Comparison) -> Value {
    let names = |sides: &[usize]| sides.iter().map(|side| name(found, *side)).collect::<Vec<_>>();
    let group = |group: &Group| {
        let reasons = group
            .told()
            .map(|reason| json!({ "cause": reason.cause, "message": clean(&reason.message), "machines": names(&reason.sides), "said_of": reason.said_of.map(|side| name(found, side)) }));
        json!({
            "verdict": group.verdict.word(), "words": words(group.verdict), "causes": group.causes(), "machines": names(&group.sides),
            "reasons": reasons.collect::<Vec<_>>(),
        })
    };
    let alike = |one: &Alike| json!({ "id": one.id, "title": clean(&one.title), "level": one.level.word(), "label": one.level.label(), "groups": [group(&one.group)] });
    let difference = |one: &Difference| {
        let groups: Vec<Value> = one.groups.iter().map(group).collect();
        let deciding: Vec<Value> =
            one.deciding.iter().map(|fact| json!({ "asked": clean(&fact.asked), "usual": fact.usual.as_deref().map(clean), "odd": fact.odd.as_deref().map(clean) })).collect();
        let (usual, odd) = one.between;
        json!({
            "id": one.id, "title": clean(&one.title), "level": one.level.word(), "label": one.level.label(), "groups": groups, "usual": name(found, usual), "odd": name(found, odd),
            "deciding": deciding, "certain": one.certain,
        })
    };
    let spread = |one: &Spread| {
        let on: Vec<Value> = found
            .names
            .iter()
            .zip(&one.on)
            .map(|(name, value)| json!({ "machine": name, "found": value.as_deref().map(clean) }))
            .collect();
        json!({ "what": one.what, "on": on })
    };
    json!({
        "format": 1,
        "summary": found.summary(),
        "machines": found.names,
        "differences": found.differences.iter().map(difference).collect::<Vec<_>>(),
        "alike": found.alike.iter().map(alike).collect::<Vec<_>>(),
        "within": found.within.iter().map(spread).collect::<Vec<_>>(),
        "facts": found.machines.iter().map(spread).collect::<Vec<_>>(),
        "unchecked": found.unchecked.iter().map(spread).collect::<Vec<_>>(),
        "equal": found.equal,
    })
}

/// As JSON, version 1.
pub fn comparison_json(found: &Comparison) -> String {
    serde_json::to_string_pretty(&value(found)).map(|text| text + "\n").unwrap_or_default()
}

/// As a page in HTML.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn comparison_html(found: &Comparison) -> Result<String, PageError> {
    page(TEMPLATE, "", &value(found))
}

/// How much it matters, behind a title.
fn importance(level: Level) -> String {
    level.label().map(|label| format!(" ({label})")).unwrap_or_default()
}

fn markdown_group(out: &mut String, found: &Comparison, group: &Group) {
    let names = |sides: &[usize]| sides.iter().map(|side| code(name(found, *side))).collect::<Vec<_>>().join(", ");
    let causes = group.causes();
    let causes = if causes.is_empty() { String::new() } else { format!(" ({})", causes.join(", ")) };
    let _ = writeln!(out, "- {}{causes}: {}", words(group.verdict), names(&group.sides));
    let several = group.told().count() > 1;
    for reason in group.told() {
        let whose = if several { format!("{}: ", names(&reason.sides)) } else { String::new() };
        let of = reason.said_of.map_or_else(String::new, |side| format!("on {}: ", code(name(found, side))));
        let _ = writeln!(out, "  - {whose}{of}{}", plain(&reason.message));
    }
}

/// As Markdown, to paste into a question.
pub fn comparison_markdown(found: &Comparison) -> String {
    let mut out = format!("**{}**\n", plain(&found.summary()));
    let cell = |text: Option<&str>| text.map_or_else(|| "not asked".to_owned(), plain);
    for one in &found.differences {
        let _ = writeln!(out, "\n**{}**{}", plain(&one.title), importance(one.level));
        for group in &one.groups {
            markdown_group(&mut out, found, group);
        }
        if !one.deciding.is_empty() {
            let (usual, odd) = one.between;
            let _ = writeln!(
                out,
                "\n| what decides it | {} | {} |\n| --- | --- | --- |",
                plain(name(found, usual)),
                plain(name(found, odd))
            );
            for fact in &one.deciding {
                let _ =
                    writeln!(out, "| {} | {} | {} |", plain(&fact.asked), cell(fact.usual.as_deref()), cell(fact.odd.as_deref()));
            }
        }
    }
    if !found.alike.is_empty() {
        out.push_str("\n**The same everywhere, for different reasons**\n");
    }
    for one in &found.alike {
        let _ = writeln!(out, "\n**{}**{}", plain(&one.title), importance(one.level));
        markdown_group(&mut out, found, &one.group);
    }
    for (title, all) in [
        ("Met everywhere, with another version or size", &found.within),
        ("The machines", &found.machines),
        ("Checked on some only", &found.unchecked),
    ] {
        if all.is_empty() {
            continue;
        }
        let names: Vec<String> = found.names.iter().map(|name| plain(name)).collect();
        let _ = writeln!(out, "\n**{title}**\n\n| | {} |\n| --- |{}", names.join(" | "), " --- |".repeat(names.len()));
        for one in all {
            let on: Vec<String> = one.on.iter().map(|value| cell(value.as_deref())).collect();
            let _ = writeln!(out, "| {} | {} |", plain(&one.what), on.join(" | "));
        }
    }
    out
}
