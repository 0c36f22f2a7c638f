//! Machines beside each other: what differs first, with the facts that decide it.

use super::report::verdict_word;
use super::{Detail, TextLayout, Tone};
use setup_ready_core::compare::{Comparison, Difference, Group, Spread};
use setup_ready_core::guide::Level;
use setup_ready_core::text::join_words;

/// More machines of one sort are only counted.
const MOST_NAMED: usize = 6;
/// So many reasons are told; more are counted.
const MOST_REASONS: usize = 4;

pub(crate) fn draw(layout: &mut TextLayout<'_>, found: &Comparison) {
    let tone = if found.differences.is_empty() { Tone::Good } else { Tone::Loud };
    if layout.look().detail != Detail::Quiet {
        for one in &found.differences {
            difference(layout, found, one);
        }
        if !found.alike.is_empty() {
            layout.heading("The same everywhere, for different reasons");
        }
        for one in &found.alike {
            layout.gap();
            layout.block(2, &titled(&one.title, &one.id, one.level), Tone::Strong);
            group(layout, found, &one.group);
        }
        spreads(layout, found, ("Met everywhere, with another version or size", &found.within));
        spreads(layout, found, ("The machines themselves", &found.machines));
        unchecked(layout, found);
        layout.gap();
    }
    layout.block(0, &found.summary(), tone);
}

fn name(found: &Comparison, side: usize) -> &str {
    found.names.get(side).map_or("", String::as_str)
}

/// The widest of these names, with room behind it, and at most half a line.
fn column<'n>(layout: &TextLayout<'_>, names: impl Iterator<Item = &'n str>) -> usize {
    (names.map(|name| name.chars().count()).max().unwrap_or(0) + 2).min(layout.look().width / 2)
}

/// What it is called, and whether one can go without.
fn titled(title: &str, id: &str, level: Level) -> String {
    let label = level.label().map(|label| format!(", {label}")).unwrap_or_default();
    format!("{title} ({id}){label}")
}

/// Some of these names, with how many more there are.
fn named(found: &Comparison, sides: &[usize]) -> String {
    let mut names: Vec<String> = sides.iter().take(MOST_NAMED).map(|side| name(found, *side).to_owned()).collect();
    if let Some(more) = sides.len().checked_sub(MOST_NAMED).filter(|more| *more > 0) {
        names.push(format!("{more} more"));
    }
    join_words(&names, "and")
}

/// Who came to it, and why.
fn group(layout: &mut TextLayout<'_>, found: &Comparison, group: &Group) {
    let (word, tone) = verdict_word(group.verdict);
    let causes = group.causes();
    let causes = if causes.is_empty() { String::new() } else { format!(" ({})", causes.join(", ")) };
    layout.labelled(2, (word, tone), 10, (&format!("{}{causes}", named(found, &group.sides)), Tone::Body));
    let reasons = group.told().count();
    for reason in group.told().take(MOST_REASONS) {
        let whose = if reasons > 1 { format!("{}: ", named(found, &reason.sides)) } else { String::new() };
        let of = reason.said_of.map_or_else(String::new, |side| format!("on {}: ", name(found, side)));
        layout.block(12, &format!("{whose}{of}{}", reason.message), Tone::Body);
    }
    match reasons.saturating_sub(MOST_REASONS) {
        0 => {}
        1 => layout.block(12, "and 1 more reason", Tone::Quiet),
        more => layout.block(12, &format!("and {more} more reasons"), Tone::Quiet),
    }
}

fn difference(layout: &mut TextLayout<'_>, found: &Comparison, one: &Difference) {
    layout.heading(&titled(&one.title, &one.id, one.level));
    for one in &one.groups {
        group(layout, found, one);
    }
    let (usual, odd) = one.between;
    let names = [name(found, usual), name(found, odd)];
    let column = column(layout, names.into_iter());
    if !one.deciding.is_empty() {
        let title = match (one.certain, one.deciding.len()) {
            (true, 1) => "decided by this alone:",
            (true, _) => "decided by these together:",
            (false, _) => "in what was seen, this differs:",
        };
        layout.gap();
        layout.block(4, title, Tone::Quiet);
    }
    for fact in &one.deciding {
        layout.block(4, &fact.asked, Tone::Strong);
        for (name, saw) in names.into_iter().zip([&fact.usual, &fact.odd]) {
            layout.labelled(6, (name, Tone::Quiet), column, (saw.as_deref().unwrap_or("not asked"), Tone::Body));
        }
    }
}

fn spreads(layout: &mut TextLayout<'_>, found: &Comparison, (title, all): (&str, &[Spread])) {
    if all.is_empty() {
        return;
    }
    layout.heading(title);
    let column = column(layout, all.iter().map(|one| one.what.as_str()));
    for one in all {
        // Who has the same stands together.
        let mut values: Vec<(&str, Vec<&str>)> = Vec::new();
        for (name, value) in found.names.iter().zip(&one.on) {
            let value = value.as_deref().unwrap_or("not known");
            match values.iter_mut().find(|(known, _)| *known == value) {
                Some((_, names)) => names.push(name),
                None => values.push((value, vec![name])),
            }
        }
        let text: Vec<String> = values
            .iter()
            .map(|(value, names)| {
                let shown = if names.len() > MOST_NAMED { format!("{} machines", names.len()) } else { join_words(names, "and") };
                format!("{value} on {shown}")
            })
            .collect();
        layout.labelled(2, (&one.what, Tone::Strong), column, (&text.join("; "), Tone::Body));
    }
}

fn unchecked(layout: &mut TextLayout<'_>, found: &Comparison) {
    if found.unchecked.is_empty() {
        return;
    }
    layout.heading("Checked on some only");
    let names: Vec<&str> = found.unchecked.iter().map(|one| one.what.as_str()).collect();
    layout.block(2, &join_words(&names, "and"), Tone::Body);
}
