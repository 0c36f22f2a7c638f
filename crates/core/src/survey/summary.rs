//! What counted reports come to.

use super::Dimension;
use super::compact_report::{CompactReport, NONE};
use super::tally::{Counted, Tally};
use super::week::week;
use super::what_if::Cost;
use crate::guide::Level;
use crate::prelude::*;
use crate::verdict::Verdict;
use crate::version::Version;
use core::cmp::{Ordering, Reverse};
use hashbrown::HashMap;

/// So many of those that say a machine are told to be the same.
const SMALLEST_SHARE: u64 = 1;

/// Some of all.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Share {
    /// How many.
    pub count: u64,
    /// Of how many.
    pub of: u64,
}

impl Share {
    /// In hundredths, rounded, but never 0 for some or 100 for not quite all: `None` of nothing.
    pub fn percent(self) -> Option<u64> {
        let rounded = (self.count * 200 + self.of).checked_div(self.of * 2)?;
        Some(match self.count {
            0 => 0,
            all if all >= self.of => rounded,
            _ => rounded.clamp(1, 99),
        })
    }
}

/// A requirement that stops people, or that nobody knows.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Stop {
    /// The requirement's id.
    pub requirement: String,
    /// How much it matters.
    pub level: Level,
    /// How many, of those that were asked about it.
    pub machines: Share,
    /// By cause, the most frequent first.
    pub causes: Vec<(String, u64)>,
    /// By group, where groups were asked for: those with the largest share first.
    pub groups: Vec<(String, Share)>,
}

/// The versions of a tool that are out there.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ToolSpread {
    /// The requirement's id.
    pub requirement: String,
    /// How many have each, the oldest first.
    pub versions: Vec<(String, u64)>,
}

/// A group of machines.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Grouped {
    /// What it is.
    pub name: String,
    /// How many of it are ready.
    pub ready: Share,
    /// What stops most of it.
    pub stop: Option<(String, Share)>,
}

/// A week.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WeekOf {
    /// Such as `2026-W48`.
    pub week: String,
    /// How many were ready.
    pub ready: Share,
}

/// A fix that was advised to machines that were looked at again.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Advised {
    /// The requirement's id.
    pub requirement: String,
    /// The cause.
    pub cause: String,
    /// What it says.
    pub fix: String,
    /// How often the requirement was met the next time.
    pub met_next: Share,
}

/// What many reports come to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Survey {
    /// How many reports were read.
    pub reports: u64,
    /// How many machines count: each with an id once, each report without one.
    pub machines: u64,
    /// How many of them can be told by an id.
    pub told_apart: u64,
    /// How many states of the guide they were checked with.
    pub guides: usize,
    /// How many say a moment that is still to come.
    pub ahead: u64,
    /// The first and the last day, as days since 1970-01-01.
    pub days: Option<(i64, i64)>,
    /// How many are ready.
    pub ready: u64,
    /// How many are not.
    pub not_ready: u64,
    /// How many are undecided.
    pub undecided: u64,
    /// How many are ready as far as this place goes.
    pub ready_here: u64,
    /// Of how many only a part was looked at, in which nothing needed is missing.
    pub in_part: u64,
    /// What stops people: needed requirements that are not met, the most frequent first; then those that are only recommended.
    pub stops: Vec<Stop>,
    /// What nobody knows of them.
    pub unknown: Vec<Stop>,
    /// The versions of each tool.
    pub tools: Vec<ToolSpread>,
    /// What groups were asked for.
    pub by: Option<Dimension>,
    /// The groups, the largest first.
    pub groups: Vec<Grouped>,
    /// Week by week: each machine in each week in which it was looked at, as it stood at the end of that.
    pub weeks: Vec<WeekOf>,
    /// Which fixes were followed by the requirement being met.
    pub advised: Vec<Advised>,
    /// The requirement that another range was asked for, and how many would stay, be lost, be unknown, and are not met already.
    pub what_if: Option<Cost>,
}

impl Survey {
    /// What it comes to, in a sentence.
    pub fn summary(&self) -> String {
        if self.machines == 0 {
            return "No report could be read.".to_owned();
        }
        let ready = Share { count: self.ready, of: self.machines };
        let machines = match (self.ready, self.machines) {
            (_, 1) => "machine is",
            (1, _) => "machines is",
            _ => "machines are",
        };
        let mut parts =
            vec![format!("{} of {} {machines} ready ({} %)", self.ready, self.machines, ready.percent().unwrap_or(0))];
        let others = [
            (self.not_ready, "not ready"),
            (self.undecided, "undecided"),
            (self.ready_here, "ready here only"),
            (self.in_part, "looked at in part"),
        ];
        parts.extend(others.into_iter().filter(|(count, _)| *count > 0).map(|(count, what)| format!("{count} {what}")));
        let stop = self.stops.first().filter(|stop| stop.level == Level::Must);
        let stop = stop
            .map(|stop| format!(" What stops most is {}: {} of {}.", stop.requirement, stop.machines.count, stop.machines.of));
        format!("{}.{}", parts.join(", "), stop.unwrap_or_default())
    }
}

impl Tally {
    /// What it comes to: each machine by its newest report.
    pub fn finish(mut self) -> Survey {
        let told_apart = self.machines.len();
        for (_, reports) in core::mem::take(&mut self.machines).in_order() {
            // The newest counts; where it is of a part, with what an earlier one says of the rest.
            let mut known: Option<CompactReport> = None;
            for after in reports {
                // The same once more, in another form or from another folder: nobody looked again.
                if known.as_ref().is_some_and(|known| known.place() == after.place()) {
                    continue;
                }
                let before = known.take();
                if let Some(before) = before.as_ref().filter(|before| before.monday() != after.monday()) {
                    self.count_week(before);
                }
                let later: HashMap<u32, Verdict> = after.items.iter().map(|item| (item.requirement, item.verdict)).collect();
                for item in before.iter().flat_map(|before| &before.items).filter(|item| item.fix != NONE) {
                    let next = later.get(&item.requirement).filter(|verdict| **verdict != Verdict::Skipped);
                    let Some(verdict) = next else { continue };
                    let [met, all] = self.advised.entry((item.requirement, item.cause, item.fix)).or_default();
                    *all += 1;
                    *met += u64::from(*verdict == Verdict::Met);
                }
                known = Some(before.filter(|_| after.in_part).map_or_else(|| after.clone(), |before| before.with(&after)));
            }
            if let Some(newest) = known {
                self.count_week(&newest);
                self.count(&newest);
            }
        }
        let [ready, not_ready, undecided, ready_here, in_part] = self.outcomes;
        let weeks = self
            .weeks
            .iter()
            .map(|(monday, [reports, ready])| WeekOf { week: week(*monday), ready: Share { count: *ready, of: *reports } });
        Survey {
            reports: self.reports,
            machines: self.anonymous + told_apart as u64,
            told_apart: told_apart as u64,
            guides: self.guides.len(),
            ahead: self.ahead,
            days: self.first.zip(self.last).map(|(first, last)| (first.day, last.day)),
            ready,
            not_ready,
            undecided,
            ready_here,
            in_part,
            stops: self.stops(Verdict::Unmet),
            unknown: self.stops(Verdict::Unknown),
            tools: self.tools(),
            by: self.by,
            groups: self.grouped(),
            weeks: weeks.collect(),
            advised: self.advice(),
            what_if: self.what_if.as_ref().map(|(what_if, id)| Cost::new(id, &what_if.wanted, self.changes)),
        }
    }

    fn each(&self) -> impl Iterator<Item = (&str, &Counted)> {
        self.counted.iter().enumerate().map(|(at, counted)| (self.requirements.text(u32::try_from(at).unwrap_or(NONE)), counted))
    }

    fn cause(&self, number: u32) -> &str {
        if number == NONE { "none" } else { self.causes.text(number) }
    }

    fn stops(&self, verdict: Verdict) -> Vec<Stop> {
        let stop = |(id, counted): (&str, &Counted)| {
            let [met, unmet, unknown, blocked, _] = counted.verdicts;
            let count = if verdict == Verdict::Unmet { unmet } else { unknown };
            let causes = counted.causes.iter().filter(|((of, _), _)| *of == verdict);
            let mut causes: Vec<(String, u64)> =
                causes.map(|((_, cause), times)| (self.cause(*cause).to_owned(), *times)).collect();
            causes.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
            let groups = counted.groups.iter().filter(|(_, [open, _])| *open > 0 && verdict == Verdict::Unmet);
            let mut groups: Vec<(String, Share)> = groups
                .map(|(group, [open, all])| (self.groups.text(*group).to_owned(), Share { count: *open, of: *all }))
                .collect();
            // By the share, compared without fractions.
            groups.sort_by(|(a, x), (b, y)| (y.count * x.of).cmp(&(x.count * y.of)).then_with(|| a.cmp(b)));
            let machines = Share { count, of: met + unmet + unknown + blocked };
            Stop { requirement: id.to_owned(), level: counted.level, machines, causes, groups }
        };
        let mut stops: Vec<Stop> = self.each().map(stop).filter(|stop| stop.machines.count >= SMALLEST_SHARE).collect();
        stops.sort_by(|a, b| {
            let key = |stop: &Stop| (stop.level != Level::Must, Reverse(stop.machines.count));
            key(a).cmp(&key(b)).then_with(|| a.requirement.cmp(&b.requirement))
        });
        stops
    }

    fn tools(&self) -> Vec<ToolSpread> {
        let tool = |(id, counted): (&str, &Counted)| {
            let mut versions: Vec<((Option<Version>, &str), u64)> = counted
                .versions
                .iter()
                .map(|(version, times)| (self.versions.text(*version), *times))
                .map(|(text, times)| ((Version::parse(text).ok(), text), times))
                .collect();
            versions.sort_by(|(a, _), (b, _)| in_order(a, b));
            let versions = versions.into_iter().map(|((_, text), times)| (text.to_owned(), times)).collect();
            ToolSpread { requirement: id.to_owned(), versions }
        };
        let mut tools: Vec<ToolSpread> = self.each().map(tool).filter(|tool| !tool.versions.is_empty()).collect();
        tools.sort_by(|a, b| a.requirement.cmp(&b.requirement));
        tools
    }

    fn grouped(&self) -> Vec<Grouped> {
        let group = |(number, outcomes): (&u32, &[u64; 5])| {
            let [ready, ..] = outcomes;
            let stop = self.each().filter(|(_, counted)| counted.level == Level::Must).filter_map(|(id, counted)| {
                let [open, all] = counted.groups.get(number)?;
                (*open > 0).then(|| (id.to_owned(), Share { count: *open, of: *all }))
            });
            let stop = stop.max_by(|(a, x), (b, y)| x.count.cmp(&y.count).then_with(|| b.cmp(a)));
            Grouped {
                name: self.groups.text(*number).to_owned(),
                ready: Share { count: *ready, of: outcomes.iter().sum() },
                stop,
            }
        };
        let mut groups: Vec<Grouped> = self.group_outcomes.iter().map(group).collect();
        if self.by == Some(Dimension::Week) {
            groups.sort_by(|a, b| a.name.cmp(&b.name));
        } else {
            groups.sort_by(|a, b| b.ready.of.cmp(&a.ready.of).then_with(|| a.name.cmp(&b.name)));
        }
        groups
    }

    fn advice(&self) -> Vec<Advised> {
        let one = |((requirement, cause, fix), [met, all]): (&(u32, u32, u32), &[u64; 2])| Advised {
            requirement: self.requirements.text(*requirement).to_owned(),
            cause: self.cause(*cause).to_owned(),
            fix: self.fixes.text(*fix).to_owned(),
            met_next: Share { count: *met, of: *all },
        };
        let mut advised: Vec<Advised> = self.advised.iter().map(one).collect();
        advised.sort_by(|a, b| {
            b.met_next.of.cmp(&a.met_next.of).then_with(|| (&a.requirement, &a.fix).cmp(&(&b.requirement, &b.fix)))
        });
        advised
    }
}

/// The order of versions for a list; what is none stands at the end, by its letters.
fn in_order((a, of_a): &(Option<Version>, &str), (b, of_b): &(Option<Version>, &str)) -> Ordering {
    match (a, b) {
        (Some(a), Some(b)) => a.compare_listed(b),
        _ => b.is_some().cmp(&a.is_some()).then_with(|| of_a.cmp(of_b)),
    }
}
