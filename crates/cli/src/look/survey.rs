//! Many reports together: what stops most people first.

use super::{Detail, OutputStyle, TextLayout, Tone};
use setup_ready_core::guide::Level;
use setup_ready_core::survey::{Share, Stop, Survey, date};
use setup_ready_core::text::Size;
use setup_ready_fleet::{Broken, Surveyed};
use std::io::Write;
use std::sync::Mutex;
use std::time::{Duration, Instant};

/// More requirements, versions or fixes than these are only counted, unless all was asked for.
const MOST_SHOWN: usize = 12;
/// How long a bar is.
const BAR: usize = 10;
/// The widest name of a requirement.
const WIDEST: usize = 22;

/// How much was read, on the terminal, where it takes long.
#[derive(Debug)]
pub(crate) struct Reading {
    began: Instant,
    last: Mutex<Instant>,
    shown: bool,
}

impl Reading {
    pub(crate) fn start(look: &OutputStyle) -> Self {
        Self { began: Instant::now(), last: Mutex::new(Instant::now()), shown: look.progress }
    }

    pub(crate) fn update(&self, bytes: u64) {
        let Ok(mut last) = self.last.try_lock() else { return };
        if self.shown && last.elapsed() > Duration::from_millis(300) {
            *last = Instant::now();
            let seconds = self.began.elapsed().as_secs();
            let _ = write!(std::io::stderr(), "\r{} read in {seconds} s   ", Size(bytes));
        }
    }
}

impl Drop for Reading {
    fn drop(&mut self) {
        if self.shown && self.began.elapsed() > Duration::from_millis(300) {
            let _ = write!(std::io::stderr(), "\r{:40}\r", "");
        }
    }
}

pub(crate) fn draw(layout: &mut TextLayout<'_>, surveyed: &Surveyed, project: &str) {
    let survey = &surveyed.survey;
    let tone = if survey.machines > 0 && survey.ready == survey.machines { Tone::Good } else { Tone::Loud };
    if layout.look().detail == Detail::Quiet {
        layout.block(0, &survey.summary(), tone);
        return;
    }
    opening(layout, surveyed, project);
    what_if(layout, survey);
    let (needed, recommended): (Vec<&Stop>, Vec<&Stop>) = survey.stops.iter().partition(|stop| stop.level == Level::Must);
    stops(layout, "What stops most people", &needed);
    stops(layout, "Only recommended, and not met", &recommended);
    stops(layout, "What nobody could find out", &survey.unknown.iter().collect::<Vec<_>>());
    groups(layout, survey);
    weeks(layout, survey);
    tools(layout, survey);
    advised(layout, survey);
    if surveyed.broken > 0 {
        layout.heading(&format!("{} could not be used", surveyed.broken));
        for one in &surveyed.named {
            layout.labelled(2, ("-", Tone::Loud), 2, (&broken(one), Tone::Body));
        }
        let named: u64 = surveyed.named.iter().map(|one| one.alike + 1).sum();
        if surveyed.broken > named {
            layout.block(4, &format!("and {} more", surveyed.broken - named), Tone::Quiet);
        }
    }
    if surveyed.passed_over.count > 0 {
        layout.gap();
        layout.block(0, &surveyed.passed_over.to_string(), Tone::Quiet);
    }
    layout.gap();
    layout.block(0, &survey.summary(), tone);
}

/// What is said of a report that could not be used.
pub(crate) fn broken(one: &Broken) -> String {
    let line = one.line.map(|line| format!(", line {line}")).unwrap_or_default();
    let more = if one.alike == 0 { String::new() } else { format!(" and {} more", one.alike) };
    format!("{}{line}{more}: {}", one.source, one.reason)
}

/// What is said of reports that came more than once.
pub(crate) fn copies(count: u64) -> Option<String> {
    match count {
        0 => None,
        1 => Some("1 more was sent twice, and counts once".to_owned()),
        more => Some(format!("{more} more were sent twice, and count once")),
    }
}

fn opening(layout: &mut TextLayout<'_>, surveyed: &Surveyed, project: &str) {
    let survey = &surveyed.survey;
    let of = if project.is_empty() { String::new() } else { format!(" of {project}") };
    layout.block(0, &format!("What the machines{of} come to"), Tone::Heading);
    let all_recorded = survey.reports > 0 && surveyed.recordings == survey.reports;
    let recordings = (surveyed.recordings > 0 && !all_recorded)
        .then(|| format!("{} of them recordings, assessed with this guide", surveyed.recordings));
    let days = survey.days.map(|(first, last)| format!("{} to {}", date(first), date(last)));
    let apart = (survey.told_apart > 0).then(|| {
        let machines = if survey.told_apart == 1 { "machine" } else { "machines" };
        format!("{} {machines} can be told apart: the newest report of each counts", survey.told_apart)
    });
    let guides = (survey.guides > 1).then(|| format!("{} states of the guide", survey.guides));
    let one = survey.reports == 1;
    let what = match (all_recorded, one) {
        (true, true) => "recording, assessed with this guide",
        (true, false) => "recordings, assessed with this guide",
        (false, true) => "report",
        (false, false) => "reports",
    };
    let what = format!("{} {what}", survey.reports);
    let copies = copies(surveyed.copies);
    let all: Vec<String> = [Some(what), recordings, copies, days, apart, guides].into_iter().flatten().collect();
    layout.block(0, &format!("{}.", all.join("; ")), Tone::Quiet);
    if surveyed.interrupted {
        layout.block(0, "It was interrupted: this is what had been read until then.", Tone::Loud);
    }
    if survey.ahead > 0 {
        let (who, they) = if survey.ahead == 1 { ("1 report says", "It counts") } else { ("reports say", "They count") };
        let who = if survey.ahead == 1 { who.to_owned() } else { format!("{} {who}", survey.ahead) };
        let text = format!(
            "{who} a moment that is still to come: a clock is wrong, or somebody changed it. {they}, but for no week, and never as the newest of a machine."
        );
        layout.block(0, &text, Tone::Loud);
    }
}

fn what_if(layout: &mut TextLayout<'_>, survey: &Survey) {
    let Some(cost) = &survey.what_if else { return };
    layout.heading(&format!("If {} had to be {}", cost.requirement, cost.wanted));
    layout.block(2, &cost.summary(), if cost.lost > 0 { Tone::Loud } else { Tone::Body });
    if cost.unknown > 0 {
        let text =
            format!("Of {} nobody knows: their reports do not say it well enough, or would need another look.", cost.unknown);
        layout.block(2, &text, Tone::Body);
    }
}

/// How many lines are shown.
fn most(layout: &TextLayout<'_>) -> usize {
    if layout.look().detail == Detail::Verbose { usize::MAX } else { MOST_SHOWN }
}

fn rest(layout: &mut TextLayout<'_>, all: usize) {
    if let Some(more) = all.checked_sub(most(layout)).filter(|more| *more > 0) {
        layout.block(2, &format!("and {more} more (--verbose shows them)"), Tone::Quiet);
    }
}

/// A bar of plain characters, which says how much of all it is.
fn bar(share: Share) -> String {
    // Rounded, but never nothing for something.
    let (all, of) = (share.count.saturating_mul(BAR as u64), share.of.max(1));
    let filled = usize::try_from((all + of / 2) / of).unwrap_or(BAR).clamp(usize::from(share.count > 0), BAR);
    format!("[{}{}]", "=".repeat(filled), " ".repeat(BAR - filled))
}

fn of(share: Share) -> String {
    format!("{} of {}", share.count, share.of)
}

fn stops(layout: &mut TextLayout<'_>, title: &str, all: &[&Stop]) {
    if all.is_empty() {
        return;
    }
    layout.heading(title);
    let narrow = layout.look().is_narrow();
    let shown: Vec<&&Stop> = all.iter().take(most(layout)).collect();
    let name = shown.iter().map(|one| one.requirement.chars().count()).max().unwrap_or(0).min(WIDEST) + 2;
    let counts = shown.iter().map(|one| of(one.machines).len()).max().unwrap_or(0);
    for one in shown {
        let causes: Vec<String> = one.causes.iter().take(4).map(|(cause, count)| format!("{cause} {count}")).collect();
        let (count, causes) = (of(one.machines), causes.join(", "));
        let drawn = if narrow { String::new() } else { format!("{} ", bar(one.machines)) };
        layout.labelled(2, (&one.requirement, Tone::Strong), name, (&format!("{drawn}{count:<counts$}  {causes}"), Tone::Body));
        let groups: Vec<String> = one.groups.iter().take(3).map(|(name, share)| format!("{name} {}", of(*share))).collect();
        if !groups.is_empty() {
            layout.block(2 + name, &format!("most on {}", groups.join(", ")), Tone::Quiet);
        }
    }
    rest(layout, all.len());
}

fn groups(layout: &mut TextLayout<'_>, survey: &Survey) {
    if survey.groups.is_empty() {
        return;
    }
    layout.heading("Who is ready");
    let name = survey.groups.iter().map(|one| one.name.chars().count()).max().unwrap_or(0).min(WIDEST) + 2;
    for one in survey.groups.iter().take(most(layout)) {
        let stop = one
            .stop
            .as_ref()
            .map_or_else(|| "nothing stops them".to_owned(), |(id, share)| format!("most stopped by {id} ({})", of(*share)));
        let drawn = if layout.look().is_narrow() { String::new() } else { format!("{} ", bar(one.ready)) };
        layout.labelled(2, (&one.name, Tone::Strong), name, (&format!("{drawn}{} ready; {stop}", of(one.ready)), Tone::Body));
    }
    rest(layout, survey.groups.len());
}

fn weeks(layout: &mut TextLayout<'_>, survey: &Survey) {
    if survey.weeks.len() < 2 {
        return;
    }
    layout.heading("Week by week");
    let skipped = survey.weeks.len().saturating_sub(most(layout));
    for one in survey.weeks.iter().skip(skipped) {
        let drawn = if layout.look().is_narrow() { String::new() } else { format!("{} ", bar(one.ready)) };
        layout.labelled(2, (&one.week, Tone::Strong), 10, (&format!("{drawn}{} ready", of(one.ready)), Tone::Body));
    }
    if skipped > 0 {
        layout.block(2, &format!("and {skipped} weeks before (--verbose shows them)"), Tone::Quiet);
    }
}

fn tools(layout: &mut TextLayout<'_>, survey: &Survey) {
    if survey.tools.is_empty() {
        return;
    }
    layout.heading("Which versions are out there");
    let name = survey.tools.iter().map(|one| one.requirement.chars().count()).max().unwrap_or(0).min(WIDEST) + 2;
    for one in survey.tools.iter().take(most(layout).max(30)) {
        let shown = most(layout);
        let mut versions: Vec<String> =
            one.versions.iter().take(shown).map(|(version, count)| format!("{version} on {count}")).collect();
        if one.versions.len() > shown {
            versions.push(format!("{} more", one.versions.len() - shown));
        }
        layout.labelled(2, (&one.requirement, Tone::Strong), name, (&versions.join(", "), Tone::Body));
    }
}

fn advised(layout: &mut TextLayout<'_>, survey: &Survey) {
    if survey.advised.is_empty() {
        return;
    }
    layout.heading("Which fixes were followed by it being met the next time");
    for one in survey.advised.iter().take(most(layout)) {
        let share = of(one.met_next);
        layout.labelled(
            2,
            (&share, Tone::Strong),
            10,
            (&format!("{} ({}): {}", one.requirement, one.cause, one.fix), Tone::Body),
        );
    }
    rest(layout, survey.advised.len());
}
