//! A report as text: what is open, needed before recommended before optional and alike things together; the plan; and where one stands.

use super::closing::NextCommands;
pub(crate) use super::wording::counted;
use super::wording::level;
use super::{Detail, OutputStyle, TextLayout, Tone, closing, opening, plan};
use setup_ready_core::finding::{CommandReason, DiskTrouble, LeftOut, LibraryTrouble, Reason, ToolTrouble, Verdict};
use setup_ready_core::guide::{Level, Requirement, Subject};
use setup_ready_core::known::Answer;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::{Size, join_words};
use std::collections::HashSet;

/// More met things than this are only counted.
const MOST_MET: usize = 8;
/// Where the reasons stand beside what is not installed.
const NAMES: usize = 30;
/// More than these are only counted in a sentence.
const MOST_NAMED: usize = 6;

/// Lays out a whole report. `next` is what to type next.
pub(crate) fn draw(layout: &mut TextLayout<'_>, report: &Report, next: &NextCommands) {
    if layout.look().detail != Detail::Quiet {
        opening::draw(layout, report);
        let open: Vec<&RequirementResult> = report.counting().filter(|one| !one.finding.verdict().is_fine()).collect();
        for level in Level::ALL {
            draw_level(layout, report, (level, &open));
        }
        rest(layout, report);
        plan::draw(layout, report);
        layout.gap();
    }
    closing::draw(layout, report, next);
}

/// Lays out what is open of a report, and what is met of one of its stages.
pub(crate) fn draw_open(layout: &mut TextLayout<'_>, report: &Report, stage: usize) {
    let open: Vec<&RequirementResult> = report.counting().filter(|one| !one.finding.verdict().is_fine()).collect();
    for level in Level::ALL {
        draw_level(layout, report, (level, &open));
    }
    let of_stage = |one: &&RequirementResult| report.requirement(one).is_some_and(|requirement| requirement.stage == stage);
    met(layout, report, &report.counting().filter(of_stage).collect::<Vec<_>>());
}

fn title(report: &Report, one: &RequirementResult) -> String {
    report.requirement(one).map(Requirement::title).unwrap_or_default()
}

/// What is open of one level: what is plainly missing in one block, then each of the others, then what nobody knows, then what only waits.
fn draw_level(layout: &mut TextLayout<'_>, report: &Report, (of, open): (Level, &[&RequirementResult])) {
    let mine: Vec<&RequirementResult> = open.iter().copied().filter(|one| level(report, one) == of).collect();
    let with = |verdict: Verdict| mine.iter().copied().filter(move |one| one.finding.verdict() == verdict);
    let words = match of {
        Level::Must => "Needed",
        Level::Should => "Recommended: it works without, but less well",
        Level::May => "Optional",
    };
    let (missing, others): (Vec<&RequirementResult>, Vec<&RequirementResult>) =
        with(Verdict::Unmet).partition(|one| is_plainly_missing(one));
    // One alone is told like all others.
    let (missing, mut others) = if missing.len() > 1 { (missing, others) } else { (Vec::new(), with(Verdict::Unmet).collect()) };
    let unknown: Vec<&RequirementResult> = with(Verdict::Unknown).collect();
    let waiting: Vec<&RequirementResult> = with(Verdict::Blocked).filter(|one| stands_alone(report, one)).collect();
    if missing.len() + others.len() + unknown.len() + waiting.len() == 0 {
        return;
    }
    layout.heading(&match (of, others.is_empty() && missing.is_empty()) {
        (Level::Must, false) => format!("{words}, and not met"),
        (Level::Must, true) => format!("{words}, and not known"),
        (Level::Should | Level::May, _) => words.to_owned(),
    });
    if !missing.is_empty() {
        not_installed(layout, report, &missing);
    }
    // What others wait for comes first.
    others.sort_by_key(|one| report.waiting_for(one).next().is_none());
    let mut told: HashSet<(&str, Size)> = HashSet::new();
    for one in others.into_iter().chain(unknown) {
        if shared_disk(one).is_none_or(|disk| told.insert(disk)) {
            entry(layout, report, one);
        }
    }
    if !waiting.is_empty() {
        let name = |one: &&RequirementResult| {
            report.requirement(one).map(|requirement| waits(report, one, requirement)).unwrap_or_default()
        };
        let names: Vec<String> = waiting.iter().map(name).collect();
        layout.block(indent(layout.look()), &format!("Not checked yet: {}.", some(&names)), Tone::Body);
        layout.gap();
    }
}

/// What waits is told under what it waits for, unless that is not open here.
fn stands_alone(report: &Report, one: &RequirementResult) -> bool {
    let is_open = |index: &usize| report.settled_at(*index).is_some_and(|root| !root.finding.verdict().is_fine());
    !one.finding.waits_for().iter().any(is_open)
}

fn waits(report: &Report, one: &RequirementResult, requirement: &Requirement) -> String {
    let roots = one.finding.waits_for().iter().filter_map(|index| report.guide.requirements.get(*index));
    let roots: Vec<String> = roots.map(Requirement::title).collect();
    format!("{} (waits for {})", requirement.title(), some(&roots))
}

/// Names in a sentence; many are only counted.
fn some(names: &[String]) -> String {
    if names.len() <= MOST_NAMED + 1 {
        return join_words(names, "and");
    }
    let mut shown: Vec<String> = names.iter().take(MOST_NAMED).cloned().collect();
    shown.push(format!("{} more", names.len() - MOST_NAMED));
    join_words(&shown, "and")
}

/// A tool or a library that is nowhere, and nothing more is to be said of it.
fn is_plainly_missing(one: &RequirementResult) -> bool {
    match one.finding.reason() {
        Some(Reason::Tool(reason)) => matches!(reason.trouble, ToolTrouble::Missing { windows_side: None }),
        Some(Reason::Library(reason)) => matches!(reason.trouble, LibraryTrouble::Missing),
        _ => false,
    }
}

/// What is plainly missing, a line or two each: what it is, which version is wanted, and why.
fn not_installed(layout: &mut TextLayout<'_>, report: &Report, missing: &[&RequirementResult]) {
    let indent = indent(layout.look());
    let head = "Not installed here, or not in a folder where your shell looks (PATH):";
    layout.block(indent, head, Tone::Loud);
    for one in missing {
        let Some(requirement) = report.requirement(one) else { continue };
        let called = if let Subject::Tool(tool) = &requirement.subject
            && !tool.names.contains(&requirement.title())
        {
            format!(" ({})", join_words(&tool.names, "or"))
        } else {
            String::new()
        };
        let wanted = report.words(one).and_then(|words| words.wanted()).map(|wanted| format!(" {wanted}")).unwrap_or_default();
        let what = format!("{}{called}{wanted}", requirement.title());
        let why = requirement.why.as_deref().unwrap_or_default();
        if what.chars().count() + 2 < NAMES && !layout.look().is_narrow() {
            layout.labelled(indent + 2, (&what, Tone::Strong), NAMES, (why, Tone::Quiet));
        } else {
            layout.block(indent + 2, &what, Tone::Strong);
            layout.block(indent + 4, why, Tone::Quiet);
        }
        after(layout, report, one, indent + 4);
    }
    layout.gap();
}

/// What waits for it, and its evidence, where that is wanted.
fn after(layout: &mut TextLayout<'_>, report: &Report, one: &RequirementResult, indent: usize) {
    let waiting: Vec<String> = report.all_waiting_for(one).into_iter().map(|other| title(report, other)).collect();
    if !waiting.is_empty() {
        layout.block(indent, &format!("Waits for it, and was not checked yet: {}.", some(&waiting)), Tone::Body);
    }
    if layout.look().detail == Detail::Verbose {
        evidence(layout, indent, one);
    }
}

pub(crate) fn indent(look: &OutputStyle) -> usize {
    if look.is_narrow() { 0 } else { 2 }
}

/// The word for a verdict, as people say it.
pub(crate) fn verdict_word(verdict: Verdict) -> (&'static str, Tone) {
    match verdict {
        Verdict::Met => ("met", Tone::Quiet),
        Verdict::Unmet => ("not met", Tone::Loud),
        Verdict::Unknown => ("unknown", Tone::Unsure),
        Verdict::Blocked => ("waits", Tone::Unsure),
        Verdict::Skipped => ("skipped", Tone::Quiet),
    }
}

fn entry(layout: &mut TextLayout<'_>, report: &Report, one: &RequirementResult) {
    let Some(words) = report.words(one) else { return };
    let (word, tone) = verdict_word(one.finding.verdict());
    let indent = indent(layout.look());
    let body = indent + 2;
    let sharing = sharing(report, one);
    let titles: Vec<String> = [one].into_iter().chain(sharing.iter().copied()).map(|one| title(report, one)).collect();
    let facts = match (words.found(), words.wanted()) {
        (Some(found), Some(wanted)) => format!(": found {}, wanted {wanted}", found.lines().next().unwrap_or_default()),
        (Some(_) | None, _) => String::new(),
    };
    layout.labelled(indent, (word, tone), word.len() + 2, (&format!("{}{facts}", join_words(&titles, "and")), Tone::Strong));
    let whys: Vec<&str> = [one].into_iter().chain(sharing).filter_map(|one| report.requirement(one)?.why.as_deref()).collect();
    let message = words.message();
    // What a program said ends as it likes.
    let between = if message.ends_with('.') { " " } else { "\n" };
    layout.block(body, format!("{message}{between}{}", whys.join(" ")).trim_end(), Tone::Body);
    if let Some(Reason::Command(CommandReason::Output { printed })) = one.finding.reason() {
        layout.labelled(body, ("printed", Tone::Quiet), 8, (printed, Tone::Body));
    }
    for other in report.alternatives(one) {
        let text = format!("{}: {}", title(report, other), report.message(other));
        layout.labelled(body, ("-", Tone::Quiet), 2, (&text, Tone::Body));
    }
    after(layout, report, one, body);
    layout.gap();
}

/// The disk that a finding shares with others, and what they need of it together.
fn shared_disk(one: &RequirementResult) -> Option<(&str, Size)> {
    let Some(Reason::Disk(reason)) = one.finding.reason() else { return None };
    if let DiskTrouble::ShortTogether(together) = &reason.trouble { Some((&reason.disk, together.needed)) } else { None }
}

/// The others of its level that are short of the same disk: one entry tells it for all.
fn sharing<'r>(report: &'r Report, one: &RequirementResult) -> Vec<&'r RequirementResult> {
    let Some(disk) = shared_disk(one) else { return Vec::new() };
    let alike = |other: &&RequirementResult| other.index != one.index && level(report, other) == level(report, one);
    report.counting().filter(alike).filter(|other| shared_disk(other) == Some(disk)).collect()
}

/// What was looked at, and what was seen.
pub(crate) fn evidence(layout: &mut TextLayout<'_>, indent: usize, one: &RequirementResult) {
    answers(layout, indent, &one.finding.evidence);
}

fn answers(layout: &mut TextLayout<'_>, indent: usize, answers: &[Answer]) {
    for answer in answers {
        layout.labelled(indent, ("looked at", Tone::Quiet), 10, (&answer.probe.to_string(), Tone::Quiet));
        layout.labelled(indent, ("saw", Tone::Quiet), 10, (&answer.observation.to_string(), Tone::Body));
    }
}

/// What is met, left out and for later, a line each.
fn rest(layout: &mut TextLayout<'_>, report: &Report) {
    layout.gap();
    let all: Vec<&RequirementResult> = report.counting().collect();
    if layout.look().detail == Detail::Verbose && all.iter().any(|one| one.finding.verdict() == Verdict::Met) {
        layout.heading("Met");
        all.iter().copied().filter(|one| one.finding.verdict() == Verdict::Met).for_each(|one| entry(layout, report, one));
    } else {
        // Below what is open, it would seem to belong to that.
        let (fine, open): (Vec<&RequirementResult>, Vec<&RequirementResult>) =
            all.iter().partition(|one| one.finding.verdict().is_fine());
        if !fine.is_empty() && !open.is_empty() {
            layout.heading("The rest");
        }
        met(layout, report, &all);
    }
    let indent = indent(layout.look());
    for one in all.iter().filter(|one| one.finding.verdict() == Verdict::Met) {
        if let Some(remark) = report.words(one).and_then(|words| words.remark()) {
            let text = format!("{}: {remark}", title(report, one));
            layout.labelled(indent, ("note", Tone::Unsure), 9, (&text, Tone::Body));
        }
    }
    if layout.look().detail == Detail::Verbose && !report.shared_evidence().is_empty() {
        layout.heading("What the disks have, and what is needed where");
        answers(layout, indent, report.shared_evidence());
        layout.gap();
    }
    let of = |wanted: LeftOut| {
        let left_out = move |one: &&RequirementResult| one.finding.left_out() == Some(wanted);
        all.iter().copied().filter(left_out).map(|one| title(report, one)).collect::<Vec<String>>()
    };
    let offline = of(LeftOut::Offline);
    if !offline.is_empty() {
        let text = format!("{}, because you said --offline", some(&offline));
        layout.labelled(indent, ("skipped", Tone::Quiet), 9, (&text, Tone::Body));
    }
    let others: Vec<String> =
        [LeftOut::OtherRole, LeftOut::OtherMachine, LeftOut::NoAlternative].into_iter().flat_map(of).collect();
    if !others.is_empty() {
        let text = if layout.look().detail == Detail::Verbose {
            others.join(", ")
        } else {
            format!("{} that your role or this machine does not need", counted(others.len(), "thing"))
        };
        layout.labelled(indent, ("skipped", Tone::Quiet), 9, (&text, Tone::Quiet));
    }
    let mine = |one: &RequirementResult| report.requirement(one).is_some_and(|requirement| requirement.concerns(report.role));
    let later = all.iter().filter(|one| one.finding.left_out() == Some(LeftOut::UntilStarted) && mine(one)).count();
    if later > 0 {
        let start =
            report.guide.stages.iter().find(|stage| stage.after_start && !stage.start.is_empty()).map(|stage| &stage.start);
        let how = start.map(|start| format!(": start it with {}", join_words(start, "and then"))).unwrap_or_default();
        let text = format!("{} to check with --after-start, once the project runs{how}", counted(later, "thing"));
        layout.labelled(indent, ("later", Tone::Quiet), 9, (&text, Tone::Quiet));
    }
}

fn met(layout: &mut TextLayout<'_>, report: &Report, of: &[&RequirementResult]) {
    let met: Vec<&RequirementResult> = of.iter().copied().filter(|one| one.finding.verdict() == Verdict::Met).collect();
    if met.is_empty() {
        return;
    }
    let short = |one: &&RequirementResult| match report.words(one).and_then(|words| words.found()) {
        Some(found) => format!("{} ({found})", title(report, one)),
        None => title(report, one),
    };
    let mut all: Vec<String> = met.iter().take(MOST_MET).map(short).collect();
    if let Some(more) = met.len().checked_sub(MOST_MET).filter(|more| *more > 0) {
        all.push(format!("and {more} more (-v shows them)"));
    }
    layout.labelled(indent(layout.look()), ("met", Tone::Quiet), 9, (&all.join(", "), Tone::Quiet));
}
