//! Counting reports, in as much room for many as for few.

use super::compact_report::{CompactReport, Item, NONE};
use super::intern::{Interned, OTHERS};
use super::machines::Machines;
use super::week::Moment;
use super::{Changed, Dimension, Entry, WhatIf};
use crate::guide::Level;
use crate::prelude::*;
use crate::report::Outcome;
use crate::verdict::Verdict;
use alloc::collections::BTreeMap;
use hashbrown::HashMap;

/// A guide has no more requirements (design of the format).
const MOST_REQUIREMENTS: usize = 10_000;
/// More groups than these are counted together.
const MOST_GROUPS: usize = 1_000;
/// More versions, fixes or causes than these are counted together.
const MOST_TEXTS: usize = 50_000;
/// There are no more causes, and more versions of one tool than these are counted together: what is kept of each requirement is bounded, too.
const MOST_OF_EACH: usize = 1_000;
/// More weeks, or states of the guide, than these are not told apart.
const MOST_WEEKS: usize = 5_000;
/// Longer words are no digests of guides.
const LONGEST_DIGEST: usize = 64;
/// What was counted of a requirement.
#[derive(Debug, Clone)]
pub(super) struct Counted {
    pub(super) level: Level,
    /// By [`Verdict::ALL`].
    pub(super) verdicts: [u64; 5],
    /// By cause, for what is unmet or unknown.
    pub(super) causes: BTreeMap<(Verdict, u32), u64>,
    /// By group: how many are unmet, of how many that were asked.
    pub(super) groups: BTreeMap<u32, [u64; 2]>,
    pub(super) versions: HashMap<u32, u64>,
}

impl Counted {
    /// Counts a version; one too many counts as another's.
    fn version(&mut self, version: u32, times: u64, others: u32) {
        let known = self.versions.len() < MOST_OF_EACH || self.versions.contains_key(&version);
        *self.versions.entry(if known { version } else { others }).or_default() += times;
    }
}

/// Reports, counted.
///
/// ```
/// use setup_ready_core::{guide::Level, report::Outcome, survey::{Entry, Row, Tally}, verdict::Verdict};
///
/// let report = |verdict, cause: Option<&'static str>| Entry {
///     project: "Driftbuoy".into(), guide: None, id: None, started: "2026-11-27T06:27:40Z".into(), os: Some("linux".into()), distro: None, distro_version: None,
///     arch: None, role: None, outcome: if cause.is_some() { Outcome::NotReady } else { Outcome::Ready }, in_part: false, elsewhere: false,
///     requirements: vec![Row { id: "cmake".into(), kind: "tool".into(), level: Level::Must, verdict, cause: cause.map(Into::into), found: Some("3.28.1".into()), fix: None }],
/// };
/// let mut tally = Tally::new(None, None);
/// tally.add(&report(Verdict::Met, None), None);
/// tally.add(&report(Verdict::Unmet, Some("tool-too-old")), None);
/// let survey = tally.finish();
/// assert_eq!((survey.reports, survey.ready, survey.stops[0].requirement.as_str(), survey.stops[0].machines.of), (2, 1, "cmake", 2));
/// ```
#[derive(Debug, Clone)]
pub struct Tally {
    pub(super) by: Option<Dimension>,
    pub(super) what_if: Option<(WhatIf, String)>,
    pub(super) reports: u64,
    pub(super) guides: BTreeMap<String, u64>,
    /// The moment of the survey: no report is made later.
    pub(super) now: Option<Moment>,
    /// Reports that say a later one.
    pub(super) ahead: u64,
    pub(super) first: Option<Moment>,
    pub(super) last: Option<Moment>,
    /// Ready, not ready, undecided, ready here, ready in part.
    pub(super) outcomes: [u64; 5],
    pub(super) group_outcomes: BTreeMap<u32, [u64; 5]>,
    /// By the Monday's day: how many, and how many of them were ready.
    pub(super) weeks: BTreeMap<i64, [u64; 2]>,
    pub(super) counted: Vec<Counted>,
    /// By requirement, cause and fix: how often it was advised, and how often the requirement was met the next time.
    pub(super) advised: BTreeMap<(u32, u32, u32), [u64; 2]>,
    /// Stays, lost, unknown, already.
    pub(super) changes: [u64; Changed::COUNT],
    pub(super) requirements: Interned,
    pub(super) groups: Interned,
    pub(super) causes: Interned,
    pub(super) versions: Interned,
    pub(super) fixes: Interned,
    pub(super) machines: Machines,
    /// Reports that say no machine.
    pub(super) anonymous: u64,
}

fn place(outcome: Outcome) -> usize {
    match outcome {
        Outcome::Ready => 0,
        Outcome::NotReady => 1,
        Outcome::Undecided => 2,
        Outcome::ReadyHere => 3,
        Outcome::ReadyInPart => 4,
    }
}

/// A number that is the same for the same verdicts, causes and versions (FNV-1a, by Fowler, Noll and Vo).
fn mark(entry: &Entry<'_>) -> u64 {
    let texts = entry.requirements.iter().flat_map(|row| {
        [&*row.id, row.verdict.word(), row.cause.as_deref().unwrap_or_default(), row.version().unwrap_or_default()]
    });
    let bytes = texts.flat_map(|text| text.bytes().chain([0]));
    bytes.fold(0xcbf2_9ce4_8422_2325, |mark, byte| (mark ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3))
}

fn count<const N: usize>(counts: &mut [u64; N], at: usize) {
    if let Some(count) = counts.get_mut(at) {
        *count += 1;
    }
}

impl Tally {
    /// Nothing counted yet. `what_if` is a range that a requirement might have, with the requirement's id.
    pub fn new(by: Option<Dimension>, what_if: Option<(WhatIf, String)>) -> Self {
        Self {
            by,
            what_if,
            reports: 0,
            guides: BTreeMap::new(),
            now: None,
            ahead: 0,
            first: None,
            last: None,
            outcomes: [0; 5],
            group_outcomes: BTreeMap::new(),
            weeks: BTreeMap::new(),
            counted: Vec::new(),
            advised: BTreeMap::new(),
            changes: [0; Changed::COUNT],
            requirements: Interned::new(MOST_REQUIREMENTS),
            groups: Interned::new(MOST_GROUPS),
            causes: Interned::new(MOST_OF_EACH),
            versions: Interned::new(MOST_TEXTS),
            fixes: Interned::new(MOST_TEXTS),
            machines: Machines::default(),
            anonymous: 0,
        }
    }

    /// The same, with the moment of the survey: what says a later one by more than a day is of no week, and the oldest of its machine.
    #[must_use]
    pub fn now(mut self, now: Moment) -> Self {
        self.now = Some(now);
        self
    }

    /// Counts a report. `changed` is what the other range would change, where it was assessed again; else the version that was found tells.
    pub fn add(&mut self, entry: &Entry<'_>, changed: Option<Changed>) {
        self.reports += 1;
        if let Some(guide) = &entry.guide
            && guide.len() <= LONGEST_DIGEST
        {
            self.guide(guide, 1);
        }
        let essence = self.essence(entry, changed);
        let left = match &entry.id {
            Some(id) => self.machines.keep(id, essence),
            None => Some(essence),
        };
        if let Some(essence) = left {
            self.count_anonymous(&essence);
        }
    }

    fn guide(&mut self, guide: &str, reports: u64) {
        if self.guides.len() < MOST_WEEKS || self.guides.contains_key(guide) {
            *self.guides.entry(guide.to_owned()).or_default() += reports;
        }
    }

    fn week(&mut self, monday: i64, [reports, ready]: [u64; 2]) {
        if self.weeks.len() < MOST_WEEKS || self.weeks.contains_key(&monday) {
            let [mine, mine_ready] = self.weeks.entry(monday).or_default();
            (*mine, *mine_ready) = (*mine + reports, *mine_ready + ready);
        }
    }

    /// When a report was made, unless that is still to come: a clock is wrong then, or somebody wrote it by hand.
    fn when(&mut self, entry: &Entry<'_>) -> Option<Moment> {
        let when = Moment::parse(&entry.started)?;
        if self.now.is_some_and(|now| when.day > now.day + 1) {
            self.ahead += 1;
            return None;
        }
        self.first = Some(self.first.map_or(when, |first| first.min(when)));
        self.last = self.last.max(Some(when));
        Some(when)
    }

    fn essence(&mut self, entry: &Entry<'_>, changed: Option<Changed>) -> CompactReport {
        let judged = || self.what_if.as_ref().and_then(|(what_if, id)| what_if.judge(id, &entry.requirements));
        let judged = changed.or_else(judged);
        let mut items = Vec::with_capacity(entry.requirements.len());
        for row in &entry.requirements {
            items.push(Item {
                requirement: self.requirements.number(&row.id),
                verdict: row.verdict,
                level: row.level,
                cause: row.cause.as_deref().map_or(NONE, |cause| self.causes.number(cause)),
                version: row.version().map_or(NONE, |version| self.versions.number(version)),
                fix: match (row.verdict, &row.fix) {
                    (Verdict::Unmet, Some(fix)) if entry.id.is_some() => self.fixes.number(fix),
                    _ => NONE,
                },
            });
        }
        CompactReport {
            when: self.when(entry),
            mark: if entry.id.is_some() { mark(entry) } else { 0 },
            outcome: entry.outcome,
            in_part: entry.in_part,
            elsewhere: entry.elsewhere,
            group: self.by.map_or(NONE, |by| self.groups.number(&entry.group(by))),
            changed: judged,
            items: items.into(),
        }
    }

    fn count_anonymous(&mut self, essence: &CompactReport) {
        self.anonymous += 1;
        self.count_week(essence);
        self.count(essence);
    }

    /// Counts a machine for the week in which it was looked at.
    pub(super) fn count_week(&mut self, essence: &CompactReport) {
        if let Some(monday) = essence.monday() {
            self.week(monday, [1, u64::from(essence.outcome == Outcome::Ready)]);
        }
    }

    /// Counts a machine for all but its weeks.
    pub(super) fn count(&mut self, essence: &CompactReport) {
        count(&mut self.outcomes, place(essence.outcome));
        if essence.group != NONE {
            count(self.group_outcomes.entry(essence.group).or_default(), place(essence.outcome));
        }
        if let Some(changed) = essence.changed {
            count(&mut self.changes, changed as usize);
        }
        let others = self.versions.number(OTHERS);
        for item in &essence.items {
            let at = usize::try_from(item.requirement).unwrap_or(usize::MAX);
            while self.counted.len() <= at.min(MOST_REQUIREMENTS) {
                self.counted.push(Counted {
                    level: item.level,
                    verdicts: [0; 5],
                    causes: BTreeMap::new(),
                    groups: BTreeMap::new(),
                    versions: HashMap::new(),
                });
            }
            let Some(counted) = self.counted.get_mut(at) else { continue };
            counted.level = item.level;
            count(&mut counted.verdicts, item.verdict as usize);
            if matches!(item.verdict, Verdict::Unmet | Verdict::Unknown) {
                *counted.causes.entry((item.verdict, item.cause)).or_default() += 1;
            }
            if essence.group != NONE && item.verdict != Verdict::Skipped {
                let group = counted.groups.entry(essence.group).or_default();
                count(group, 1);
                if item.verdict == Verdict::Unmet {
                    count(group, 0);
                }
            }
            if item.version != NONE {
                counted.version(item.version, 1, others);
            }
        }
    }

    /// Puts another tally to this one: what was counted side by side.
    pub fn merge(&mut self, other: Self) {
        let number = |into: &mut Interned, from: &Interned, number: u32| {
            if number == NONE { NONE } else { into.number(from.text(number)) }
        };
        self.reports += other.reports;
        self.anonymous += other.anonymous;
        self.ahead += other.ahead;
        for (guide, reports) in other.guides {
            self.guide(&guide, reports);
        }
        self.outcomes.iter_mut().zip(other.outcomes).for_each(|(mine, theirs)| *mine += theirs);
        self.changes.iter_mut().zip(other.changes).for_each(|(mine, theirs)| *mine += theirs);
        self.first = [self.first, other.first].into_iter().flatten().min();
        self.last = self.last.max(other.last);
        for (group, outcomes) in &other.group_outcomes {
            let mine = self.group_outcomes.entry(number(&mut self.groups, &other.groups, *group)).or_default();
            mine.iter_mut().zip(outcomes).for_each(|(mine, theirs)| *mine += theirs);
        }
        for (monday, week) in other.weeks {
            self.week(monday, week);
        }
        let others = self.versions.number(OTHERS);
        for (at, counted) in other.counted.iter().enumerate() {
            let theirs = u32::try_from(at).unwrap_or(NONE);
            let mine = usize::try_from(number(&mut self.requirements, &other.requirements, theirs)).unwrap_or(0);
            while self.counted.len() <= mine {
                self.counted.push(Counted {
                    level: counted.level,
                    verdicts: [0; 5],
                    causes: BTreeMap::new(),
                    groups: BTreeMap::new(),
                    versions: HashMap::new(),
                });
            }
            let Some(mine) = self.counted.get_mut(mine) else { continue };
            mine.level = counted.level;
            mine.verdicts.iter_mut().zip(counted.verdicts).for_each(|(mine, theirs)| *mine += theirs);
            for ((verdict, cause), times) in &counted.causes {
                *mine.causes.entry((*verdict, number(&mut self.causes, &other.causes, *cause))).or_default() += times;
            }
            for (group, [open, all]) in &counted.groups {
                let [mine_open, mine_all] = mine.groups.entry(number(&mut self.groups, &other.groups, *group)).or_default();
                (*mine_open, *mine_all) = (*mine_open + open, *mine_all + all);
            }
            for (version, times) in &counted.versions {
                mine.version(number(&mut self.versions, &other.versions, *version), *times, others);
            }
        }
        for (id, reports) in other.machines.in_order() {
            for mut essence in reports {
                essence.group = number(&mut self.groups, &other.groups, essence.group);
                for item in &mut essence.items {
                    item.requirement = number(&mut self.requirements, &other.requirements, item.requirement);
                    item.cause = number(&mut self.causes, &other.causes, item.cause);
                    item.version = number(&mut self.versions, &other.versions, item.version);
                    item.fix = number(&mut self.fixes, &other.fixes, item.fix);
                }
                if let Some(left) = self.machines.keep(&id, essence) {
                    self.count_anonymous(&left);
                }
            }
        }
    }
}
