//! A report as text.

use super::{Detail, Ink, Look, Paper, plan};
use build_setup_ready::OFFLINE;
use build_setup_ready::driver::Settled;
use build_setup_ready::finding::Verdict;
use build_setup_ready::guide::{Level, Requirement};
use build_setup_ready::report::{MachineSource, Outcome, Report};
use build_setup_ready::text::join_words;

/// Where the text of an entry starts.
const COLUMN: usize = 10;
/// More met lines than this are folded into a count.
const MOST_MET: usize = 12;

/// Lays out a whole report. `again` is what to type to check once more.
pub(crate) fn draw(paper: &mut Paper<'_>, report: &Report<'_>, again: &str) {
    if paper.look().detail != Detail::Quiet {
        opening(paper, report);
        for (index, stage) in report.guide.stages.iter().enumerate() {
            let here = |one: &&Settled| report.requirement(one).is_some_and(|requirement| requirement.stage == index);
            let of_stage: Vec<&Settled> = report.counting().filter(here).collect();
            let skipped = of_stage.iter().all(|one| one.finding.verdict == Verdict::Skipped && one.finding.message != OFFLINE);
            // A stage in which nothing is asked for would only be noise.
            if !skipped || paper.look().detail == Detail::Verbose {
                paper.heading(&stage.title);
                draw_stage(paper, report, &of_stage);
            } else if stage.after_start && of_stage.iter().any(|one| is_for_later(report, one)) {
                paper.heading(&stage.title);
                let count = of_stage.iter().filter(|one| is_for_later(report, one)).count();
                let text = format!("{} to check once it runs, with --after-start", counted(count, "thing"));
                paper.labelled(indent(paper.look()), ("later", Ink::Quiet), COLUMN, (&text, Ink::Quiet));
            }
        }
        draw_optional(paper, report);
        plan::draw(paper, report);
        paper.gap();
    }
    closing(paper, report, again);
}

fn opening(paper: &mut Paper<'_>, report: &Report<'_>) {
    let project = &report.guide.project;
    let title = format!("Is this machine ready for {}?", project.name);
    paper.block(0, &title, Ink::Strong);
    if let Some(about) = &project.about {
        paper.block(0, about, Ink::Quiet);
    }
    paper.gap();
    let place = report.surroundings.as_ref().map(build_setup_ready::observation::Surroundings::words).unwrap_or_default();
    let place = if place.is_empty() { String::new() } else { format!("; this is {}", join_words(&place, "and")) };
    let system = report.system.as_ref().map_or_else(|| "a system that could not be found out".to_owned(), ToString::to_string);
    let name = match (report.frame.source, &report.frame.machine_name) {
        (MachineSource::Live, _) | (_, None) => String::new(),
        (MachineSource::Described, Some(name)) => format!("{name} (described): "),
        (MachineSource::Recording, Some(name)) => format!("{name} (recorded): "),
    };
    paper.labelled(2, ("machine", Ink::Quiet), COLUMN - 2, (&format!("{name}{system}{place}"), Ink::Body));
    let role = report.role.and_then(|role| report.guide.roles.get(role));
    let whom = match role {
        Some(role) => format!("the role {}", role.id),
        None if report.guide.roles.is_empty() => "everyone".to_owned(),
        None => "every role".to_owned(),
    };
    let path = report.frame.guide_path.as_deref().unwrap_or("built in");
    paper.labelled(2, ("guide", Ink::Quiet), COLUMN - 2, (&format!("{path}, for {whom}"), Ink::Body));
}

fn draw_stage(paper: &mut Paper<'_>, report: &Report<'_>, of_stage: &[&Settled]) {
    let with = |verdict: Verdict| of_stage.iter().filter(move |one| one.finding.verdict == verdict);
    let verbose = paper.look().detail == Detail::Verbose;
    let mut open: Vec<&Settled> = with(Verdict::Unmet).chain(with(Verdict::Unknown)).copied().collect();
    open.retain(|one| level(report, one) == Level::Must);
    // What others wait for comes first.
    let waiting = |one: &Settled| report.settled.iter().any(|other| other.finding.blocked_by.contains(&one.index));
    open.sort_by_key(|one| (one.finding.verdict == Verdict::Unknown, !waiting(one)));
    for one in open {
        entry(paper, report, one);
    }
    for one in with(Verdict::Blocked) {
        // What waits stands under what it waits for, unless that is elsewhere or was not asked for.
        let shown = one.finding.blocked_by.iter().any(|root| report.settled.iter().any(|other| other.index == *root));
        if !shown || verbose {
            entry(paper, report, one);
        }
    }
    let met: Vec<(&Settled, &Requirement)> =
        with(Verdict::Met).filter_map(|one| Some((*one, report.requirement(one)?))).collect();
    if verbose {
        for (one, _) in &met {
            entry(paper, report, one);
        }
    } else {
        fold_met(paper, &met);
    }
    let (offline, others): (Vec<&Settled>, Vec<&Settled>) =
        with(Verdict::Skipped).copied().partition(|one| one.finding.message == OFFLINE);
    let titles =
        |all: &[&Settled]| all.iter().filter_map(|one| report.requirement(one)).map(Requirement::title).collect::<Vec<_>>();
    if !offline.is_empty() {
        let text = format!("{}: not checked, because you said --offline", titles(&offline).join(", "));
        paper.labelled(indent(paper.look()), ("skipped", Ink::Quiet), COLUMN, (&text, Ink::Body));
    }
    let skipped = titles(&others);
    if !skipped.is_empty() {
        let text = if verbose {
            skipped.join(", ")
        } else {
            format!("{} that your role or this machine does not need", counted(skipped.len(), "thing"))
        };
        paper.labelled(indent(paper.look()), ("skipped", Ink::Quiet), COLUMN, (&text, Ink::Quiet));
    }
}

/// Lays out what is open of one stage, with what it waits for elsewhere, and what is met of it.
pub(crate) fn draw_open(paper: &mut Paper<'_>, report: &Report<'_>, stage: usize) {
    let mut open: Vec<&Settled> = report.counting().filter(|one| !one.finding.verdict.is_fine()).collect();
    let is_shown = |index: &usize| report.settled.iter().any(|other| other.index == *index);
    // What waits stands under what it waits for.
    open.retain(|one| one.finding.verdict != Verdict::Blocked || !one.finding.blocked_by.iter().any(is_shown));
    open.sort_by_key(|one| (level(report, one), one.finding.verdict == Verdict::Unknown));
    for one in open {
        entry(paper, report, one);
    }
    let met: Vec<(&Settled, &Requirement)> = report
        .counting()
        .filter(|one| one.finding.verdict == Verdict::Met)
        .filter_map(|one| Some((one, report.requirement(one)?)))
        .filter(|(_, requirement)| requirement.stage == stage)
        .collect();
    fold_met(paper, &met);
}

/// Whether it is left out only because the project is not running yet.
fn is_for_later(report: &Report<'_>, one: &Settled) -> bool {
    report.requirement(one).is_some_and(|requirement| requirement.concerns(report.role))
}

fn level(report: &Report<'_>, one: &Settled) -> Level {
    report.requirement(one).map_or(Level::Must, |requirement| requirement.level)
}

/// What does not make a machine unready stands apart, behind all stages.
fn draw_optional(paper: &mut Paper<'_>, report: &Report<'_>) {
    let open = |one: &&Settled| matches!(one.finding.verdict, Verdict::Unmet | Verdict::Unknown);
    let mut optional: Vec<&Settled> = report.counting().filter(open).filter(|one| level(report, one) != Level::Must).collect();
    if optional.is_empty() {
        return;
    }
    paper.heading("Recommended: it works without, but less well");
    optional.sort_by_key(|one| level(report, one));
    for one in optional {
        entry(paper, report, one);
    }
}

fn indent(look: &Look) -> usize {
    if look.is_narrow() { 0 } else { 2 }
}

pub(crate) fn counted(count: usize, word: &str) -> String {
    if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") }
}

fn fold_met(paper: &mut Paper<'_>, met: &[(&Settled, &Requirement)]) {
    if met.is_empty() {
        return;
    }
    let short = |(one, requirement): &(&Settled, &Requirement)| match &one.finding.found {
        Some(found) => format!("{} ({found})", requirement.title()),
        None => requirement.title(),
    };
    let mut all: Vec<String> = met.iter().take(MOST_MET).map(short).collect();
    if let Some(more) = met.len().checked_sub(MOST_MET).filter(|more| *more > 0) {
        all.push(format!("and {more} more (see them with -v)"));
    }
    paper.labelled(indent(paper.look()), ("met", Ink::Quiet), COLUMN, (&all.join(", "), Ink::Quiet));
}

/// The word for a verdict, as people say it.
pub(crate) fn verdict_word(verdict: Verdict) -> (&'static str, Ink) {
    match verdict {
        Verdict::Met => ("met", Ink::Quiet),
        Verdict::Unmet => ("not met", Ink::Loud),
        Verdict::Unknown => ("unknown", Ink::Unsure),
        Verdict::Blocked => ("waits", Ink::Unsure),
        Verdict::Skipped => ("skipped", Ink::Quiet),
    }
}

fn entry(paper: &mut Paper<'_>, report: &Report<'_>, one: &Settled) {
    let Some(requirement) = report.requirement(one) else { return };
    let finding = &one.finding;
    let (word, ink) = verdict_word(finding.verdict);
    let title = match requirement.level {
        Level::Must => requirement.title(),
        Level::Should => format!("{} (recommended)", requirement.title()),
        Level::May => format!("{} (optional)", requirement.title()),
    };
    let indent = indent(paper.look());
    let body = indent + if paper.look().is_narrow() { 2 } else { COLUMN };
    paper.labelled(indent, (word, ink), COLUMN, (&title, Ink::Strong));
    if let (Some(found), Some(wanted)) = (&finding.found, &finding.wanted) {
        paper.beside(body, ("found", found), ("wanted", wanted));
    }
    paper.block(body, &finding.message, Ink::Body);
    for other in report.alternatives(finding) {
        let title = report.requirement(other).map(Requirement::title).unwrap_or_default();
        paper.labelled(body, ("-", Ink::Quiet), 2, (&format!("{title}: {}", other.finding.message), Ink::Body));
    }
    let needed = !finding.verdict.is_fine();
    if let Some(why) = requirement.why.as_ref().filter(|_| needed) {
        paper.labelled(body, ("Why:", Ink::Quiet), 5, (why, Ink::Quiet));
    }
    let waiting: Vec<String> = report
        .settled
        .iter()
        .filter(|other| other.finding.blocked_by.contains(&one.index))
        .filter_map(|other| report.requirement(other))
        .map(Requirement::title)
        .collect();
    if !waiting.is_empty() {
        paper.block(body, &format!("Waiting for this, and not checked yet: {}.", join_words(&waiting, "and")), Ink::Body);
    }
    if let Some(cause) = finding.cause.filter(|_| needed) {
        paper.labelled(body, ("More:", Ink::Quiet), 6, (&format!("setup-ready explain {}", cause.word()), Ink::Quiet));
    }
    if paper.look().detail == Detail::Verbose {
        evidence(paper, body, one);
    }
    if needed {
        paper.gap();
    }
}

/// What was looked at, and what was seen.
pub(crate) fn evidence(paper: &mut Paper<'_>, indent: usize, one: &Settled) {
    for answer in &one.finding.evidence {
        paper.labelled(indent, ("looked at", Ink::Quiet), 10, (&answer.probe.to_string(), Ink::Quiet));
        paper.labelled(indent, ("saw", Ink::Quiet), 10, (&answer.observation.to_string(), Ink::Body));
    }
}

/// Where one stands, and what to type next.
pub(crate) fn closing(paper: &mut Paper<'_>, report: &Report<'_>, again: &str) {
    let needed = report.counting().filter(|one| level(report, one) == Level::Must);
    let needed: Vec<&Settled> = needed.filter(|one| one.finding.verdict != Verdict::Skipped).collect();
    let count = |verdict: Verdict| needed.iter().filter(|one| one.finding.verdict == verdict).count();
    let (unmet, unknown, blocked) = (count(Verdict::Unmet), count(Verdict::Unknown), count(Verdict::Blocked));
    let mut parts = Vec::new();
    let are = |count: usize| if count == 1 { "is" } else { "are" };
    for (count, word) in [(unmet, "not met"), (unknown, "unknown"), (blocked, "waiting for others")] {
        if count > 0 {
            parts.push(format!("{count} {} {word}", are(count)));
        }
    }
    let total = counted(needed.len(), "needed thing");
    let all = if needed.len() == 1 { "The one needed thing is met.".to_owned() } else { format!("All {total} are met.") };
    let optional = report.counting().filter(|one| level(report, one) != Level::Must);
    let optional = optional.filter(|one| !one.finding.verdict.is_fine()).count();
    let besides = if optional == 0 {
        String::new()
    } else {
        format!(" Besides, {} could be better.", counted(optional, "recommended thing"))
    };
    let (word, ink, text) = match report.outcome() {
        Outcome::Ready => ("READY", Ink::Good, format!("{all}{besides}")),
        Outcome::NotReady => {
            let todo = match report.plan.steps.len() {
                0 => String::new(),
                1 => "One thing to do. ".to_owned(),
                several => format!("{several} things to do. "),
            };
            ("NOT READY", Ink::Loud, format!("{todo}Of {total}, {}.{besides}", join_words(&parts, "and")))
        }
        Outcome::Undecided => (
            "UNDECIDED",
            Ink::Unsure,
            format!("Of {total}, {}; nothing is known to be missing.{besides}", join_words(&parts, "and")),
        ),
    };
    if report.frame.interrupted {
        paper.block(0, "This was interrupted: what was not known by then is shown as unknown.", Ink::Unsure);
    }
    paper.labelled(0, (word, ink), word.len() + 2, (&text, Ink::Body));
    if paper.look().detail == Detail::Quiet {
        return;
    }
    if report.outcome() != Outcome::Ready {
        if let Some(help) = &report.guide.project.help {
            paper.labelled(0, ("Stuck?", Ink::Quiet), 7, (help, Ink::Quiet));
        }
        let todo = if report.plan.steps.is_empty() { "When something has changed" } else { "When that is done" };
        paper.block(0, &format!("{todo}, check again:"), Ink::Body);
        paper.copyable(2, again);
    }
}
