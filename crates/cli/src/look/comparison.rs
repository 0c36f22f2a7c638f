//! Machines beside each other: what differs first, with the facts that decide it.

use super::report::verdict_word;
use super::{Detail, Ink, Paper};
use build_setup_ready::compare::{Comparison, Difference, Spread};
use build_setup_ready::text::join_words;

/// More machines of one sort are only counted.
const MOST_NAMED: usize = 6;

pub(crate) fn draw(paper: &mut Paper<'_>, found: &Comparison) {
    let ink = if found.differences.is_empty() { Ink::Good } else { Ink::Loud };
    if paper.look().detail != Detail::Quiet {
        for one in &found.differences {
            difference(paper, found, one);
        }
        spreads(paper, found, ("Met everywhere, with another version or size", &found.within));
        spreads(paper, found, ("The machines themselves", &found.machines));
        unchecked(paper, found);
        paper.gap();
    }
    paper.block(0, &found.summary(), ink);
}

fn name(found: &Comparison, side: usize) -> &str {
    found.names.get(side).map_or("", String::as_str)
}

/// The widest of these names, with room behind it, and at most half a line.
fn column<'n>(paper: &Paper<'_>, names: impl Iterator<Item = &'n str>) -> usize {
    (names.map(|name| name.chars().count()).max().unwrap_or(0) + 2).min(paper.look().width / 2)
}

fn difference(paper: &mut Paper<'_>, found: &Comparison, one: &Difference) {
    paper.heading(&format!("{} ({})", one.title, one.id));
    for group in &one.groups {
        let (word, ink) = verdict_word(group.verdict);
        let mut names: Vec<String> = group.sides.iter().take(MOST_NAMED).map(|side| name(found, *side).to_owned()).collect();
        if let Some(more) = group.sides.len().checked_sub(MOST_NAMED).filter(|more| *more > 0) {
            names.push(format!("{more} more"));
        }
        let causes = if group.causes.is_empty() { String::new() } else { format!(" ({})", group.causes.join(", ")) };
        paper.labelled(2, (word, ink), 10, (&format!("{}{causes}", join_words(&names, "and")), Ink::Body));
    }
    let (usual, odd) = one.between;
    let names = [name(found, usual), name(found, odd)];
    let column = column(paper, names.into_iter());
    if !one.deciding.is_empty() {
        let title = match (one.certain, one.deciding.len()) {
            (true, 1) => "decided by this alone:",
            (true, _) => "decided by these together:",
            (false, _) => "in what was reported, this differs:",
        };
        paper.gap();
        paper.block(4, title, Ink::Quiet);
    }
    for fact in &one.deciding {
        paper.block(4, &fact.asked, Ink::Strong);
        for (name, saw) in names.into_iter().zip([&fact.usual, &fact.odd]) {
            paper.labelled(6, (name, Ink::Quiet), column, (saw.as_deref().unwrap_or("not asked"), Ink::Body));
        }
    }
}

fn spreads(paper: &mut Paper<'_>, found: &Comparison, (title, all): (&str, &[Spread])) {
    if all.is_empty() {
        return;
    }
    paper.heading(title);
    let column = column(paper, all.iter().map(|one| one.what.as_str()));
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
        paper.labelled(2, (&one.what, Ink::Strong), column, (&text.join("; "), Ink::Body));
    }
}

fn unchecked(paper: &mut Paper<'_>, found: &Comparison) {
    if found.unchecked.is_empty() {
        return;
    }
    paper.heading("Checked on some only");
    let names: Vec<&str> = found.unchecked.iter().map(|one| one.what.as_str()).collect();
    paper.block(2, &join_words(&names, "and"), Ink::Body);
}
