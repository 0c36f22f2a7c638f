//! Where one stands, what to do first, and what to type next: what is seen when a report has run through the terminal.

use super::doing::Doing;
use super::wording::{counted, level};
use super::{Detail, TextLayout, Tone};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{GetWay, Level};
use setup_ready_core::observation::Os;
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::join_words;
use setup_ready_core::words::limitations;

/// A plan of so many steps fills a small screen: its first step is shown once more at the end.
const LONG_PLAN: usize = 4;

/// What to type next.
pub(crate) struct NextCommands {
    /// To check once more.
    pub(crate) again: String,
    /// What this person typed that an explanation needs too.
    pub(crate) with: String,
}

pub(crate) fn draw(layout: &mut TextLayout<'_>, report: &Report, next: &NextCommands) {
    standing(layout, report);
    if layout.look().detail == Detail::Quiet {
        return;
    }
    go_there(layout, report);
    if report.outcome() == Outcome::ReadyHere {
        return;
    }
    if report.outcome() == Outcome::ReadyInPart {
        layout.gap();
        layout.block(0, "To check everything, leave out what you chose (--only, --stage or --again).", Tone::Body);
        return;
    }
    if report.outcome() == Outcome::Ready {
        if !report.guide.project.first_step.is_empty() {
            layout.gap();
            layout.block(0, "What to type first:", Tone::Body);
            report.guide.project.first_step.iter().for_each(|line| layout.copyable(2, line));
        }
        beyond(layout, report, next);
        return;
    }
    let steps = &report.plan.steps;
    let counts = report.counts();
    let only_offline = report.outcome() == Outcome::Undecided && counts.unknown + counts.blocked == 0;
    if only_offline && steps.is_empty() {
        layout.gap();
        layout.block(0, "Where there is a network, check once without --offline.", Tone::Body);
        return;
    }
    if steps.len() >= LONG_PLAN
        && let Some(first) = steps.first()
    {
        layout.gap();
        layout.labelled(0, ("Begin with step 1:", Tone::Strong), 19, (&first.fix.say, Tone::Body));
        Doing::from(&first.fix).without_remarks().draw(layout, 2, 2);
    }
    layout.gap();
    let done = if steps.is_empty() { "When something has changed, check again:" } else { "Then check again:" };
    layout.block(0, done, Tone::Body);
    layout.copyable(2, &next.again);
    layout.gap();
    let more = format!("More about one of them: setup-ready explain {}{} (alone, it lists them all)", example(report), next.with);
    layout.block(0, &more, Tone::Quiet);
    if let Some(help) = &report.guide.project.help {
        layout.labelled(0, ("Stuck?", Tone::Quiet), 7, (help, Tone::Quiet));
    }
}

/// Where the check says met and the person still cannot, this is not the end.
fn beyond(layout: &mut TextLayout<'_>, report: &Report, next: &NextCommands) {
    let hidden = |one: &&RequirementResult| {
        report.requirement(one).is_some_and(|requirement| limitations(requirement, &one.finding, report.shell).is_some())
    };
    if let Some(one) = report.counting().find(hidden).and_then(|one| report.requirement(one)) {
        layout.gap();
        layout.block(0, "Does something still not work when you type it? This shows what no check can see:", Tone::Quiet);
        layout.copyable(2, &format!("setup-ready explain {}{}", one.id, next.with));
    }
}

/// For which roles it speaks, where none was chosen.
fn by_role(layout: &mut TextLayout<'_>, report: &Report) {
    let outcomes = report.outcomes_by_role();
    let with = |wanted: Outcome| {
        let ids = outcomes.iter().filter(|(_, outcome)| *outcome == wanted).filter_map(|(role, _)| report.guide.roles.get(*role));
        ids.map(|role| role.id.clone()).collect::<Vec<String>>()
    };
    let all = [
        (Outcome::Ready, "ready for"),
        (Outcome::ReadyHere, "ready here for"),
        (Outcome::ReadyInPart, "ready in part for"),
        (Outcome::NotReady, "not ready for"),
        (Outcome::Undecided, "undecided for"),
    ];
    let parts: Vec<String> = all
        .into_iter()
        .map(|(outcome, words)| (with(outcome), words))
        .filter(|(ids, _)| !ids.is_empty())
        .map(|(ids, words)| format!("{words} {}", join_words(&ids, "and")))
        .collect();
    if !parts.is_empty() {
        layout.block(0, &format!("For one role alone: {}.", parts.join("; ")), Tone::Body);
    }
}

/// The id of something open, to explain.
fn example(report: &Report) -> String {
    let open = report.counting().find(|one| matches!(one.finding.verdict(), Verdict::Unmet | Verdict::Unknown));
    open.and_then(|one| report.requirement(one)).map_or_else(|| "ID".to_owned(), |requirement| requirement.id.clone())
}

/// What remains in other places, in a sentence.
fn elsewhere(report: &Report) -> String {
    let remaining = report.other_places().into_iter().filter(|one| !one.remaining.is_empty());
    let parts: Vec<String> =
        remaining.map(|one| format!("{} in {}", counted(one.remaining.len(), "thing"), one.place.title)).collect();
    format!("But not all is known: {} to check.", join_words(&parts, "and"))
}

/// What to type where something remains to be checked in another place.
fn go_there(layout: &mut TextLayout<'_>, report: &Report) {
    for one in report.other_places() {
        if let Some(told) = one.told {
            let when = told.started.as_ref().map(|when| format!(" (checked {when})")).unwrap_or_default();
            let open =
                report.counting().filter(|one| told.verdicts.get(&one.index).is_some_and(|verdict| !verdict.is_fine())).count();
            let how = if open == 0 {
                "all is as it should be".to_owned()
            } else {
                format!("{} not as it should be", counted(open, "thing"))
            };
            layout.gap();
            layout.block(0, &format!("In {}{when}: {how}.", one.place.title), Tone::Body);
        }
        if one.remaining.is_empty() {
            continue;
        }
        layout.gap();
        let what = counted(one.remaining.len(), "thing");
        let intro = match &one.place.enter {
            Some(_) => format!(
                "The work goes on in {}, where {what} must be checked. Go there, to this project's folder, and check:",
                one.place.title
            ),
            None => {
                format!("The work goes on in {}, where {what} must be checked. In this project's folder there:", one.place.title)
            }
        };
        layout.block(0, &intro, Tone::Body);
        if let Some(enter) = &one.place.enter {
            layout.copyable(2, enter);
        }
        let role = report.role.and_then(|role| report.guide.roles.get(role)).map(|role| format!(" --role {}", role.id));
        layout.copyable(2, &format!("setup-ready preflight{}", role.unwrap_or_default()));
        get_it_there(layout, report);
        let id = &one.place.id;
        let along = format!(
            "To have both in one result, write it there with --format json --output {id}.json, and add here: --with {id}={id}.json"
        );
        layout.block(0, &along, Tone::Quiet);
    }
}

/// Another environment has programs of its own: how to get this one there, or what checks without it.
fn get_it_there(layout: &mut TextLayout<'_>, report: &Report) {
    // Other environments are Linux: inside Windows, in containers, on servers.
    let ways: Vec<&GetWay> = report.guide.project.get.iter().filter(|way| way.fits(Some(Os::Linux))).collect();
    if ways.is_empty() {
        let without =
            "If setup-ready is not installed there, write a script here that checks without it, and run it there with sh:";
        layout.block(0, without, Tone::Body);
        layout.copyable(2, "setup-ready render sh --output check.sh");
        return;
    }
    layout.block(0, "If setup-ready is not installed there, get it first:", Tone::Body);
    for way in ways {
        layout.copyable(2, &way.line);
    }
}

/// How it came out, in a sentence or two.
pub(crate) fn standing(layout: &mut TextLayout<'_>, report: &Report) {
    let needed = report.counting().filter(|one| level(report, one) == Level::Must);
    let needed: Vec<&RequirementResult> = needed.filter(|one| one.finding.verdict() != Verdict::Skipped).collect();
    let count = |verdict: Verdict| needed.iter().filter(|one| one.finding.verdict() == verdict).count();
    let (met, unmet) = (count(Verdict::Met), count(Verdict::Unmet));
    let (unknown, blocked) = (count(Verdict::Unknown), count(Verdict::Blocked));
    let mut parts = Vec::new();
    let are = |count: usize| if count == 1 { "is" } else { "are" };
    for (count, word) in [(met, "met"), (unmet, "not met"), (unknown, "unknown"), (blocked, "waiting for others")] {
        if count > 0 {
            parts.push(format!("{count} {} {word}", are(count)));
        }
    }
    let offline = report.left_for_the_network().count();
    if offline > 0 {
        parts.push(format!("{offline} {} left out by --offline", if offline == 1 { "was" } else { "were" }));
    }
    let total = counted(needed.len() + offline, "needed thing");
    let in_part = report.outcome() == Outcome::ReadyInPart;
    let asked = |was: &str| if in_part { format!(" that {was} asked for") } else { String::new() };
    let all = match needed.len() {
        // Ready for nothing is said to be that.
        0 if report.outcome() == Outcome::Ready && !report.elsewhere.is_empty() => {
            "Nothing is needed here, and all that was told of other places is as it should be.".to_owned()
        }
        0 => "Nothing of what was looked at is needed here.".to_owned(),
        1 => format!("The one needed thing{} is met.", asked("was")),
        _ => format!("All {total}{} are met.", asked("were")),
    };
    let others = report.not_asked();
    let others = format!(" {others} more {} not looked at.", if others == 1 { "was" } else { "were" });
    let optional = report.counting().filter(|one| level(report, one) != Level::Must);
    let optional = optional.filter(|one| !one.finding.verdict().is_fine()).count();
    let besides = match optional {
        0 => String::new(),
        count => format!(" Besides, {} could be better.", counted(count, "thing")),
    };
    let todo = match report.plan.steps.len() {
        0 => String::new(),
        1 => " One thing to do.".to_owned(),
        several => format!(" {several} things to do."),
    };
    let (word, tone, text) = match report.outcome() {
        Outcome::Ready => ("READY", Tone::Good, format!("{all}{besides}")),
        Outcome::NotReady => ("NOT READY", Tone::Loud, format!("Of {total}, {}.{besides}{todo}", join_words(&parts, "and"))),
        Outcome::ReadyHere => ("READY HERE", Tone::Unsure, format!("{all}{besides} {}", elsewhere(report))),
        Outcome::ReadyInPart => ("READY IN PART", Tone::Unsure, format!("{all}{others}{besides}")),
        Outcome::Undecided => (
            "UNDECIDED",
            Tone::Unsure,
            format!("Of {total}, {}; nothing is known to be missing.{besides}{todo}", join_words(&parts, "and")),
        ),
    };
    if report.frame.interrupted {
        layout.block(0, "This was interrupted: what was not known by then is shown as unknown.", Tone::Unsure);
    }
    layout.labelled(0, (word, tone), word.len() + 2, (&text, Tone::Body));
    by_role(layout, report);
}
