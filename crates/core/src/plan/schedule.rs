//! In which order steps are done, and when a new terminal, a sign-in or a restart comes between them.
//!
//! Steps that need others come after them, and after what those need to take effect. There are as few restarts as can be, then as few sign-ins,
//! then as few new terminals; each stands as late as it can. What can be one command is one command as far as the order allows.

use crate::guide::{Level, Then};
use crate::prelude::*;
use alloc::collections::{BTreeMap, BTreeSet};
use hashbrown::HashSet;

/// A step as the schedule sees it.
#[derive(Debug, Clone)]
pub(super) struct Task {
    /// The tasks that must be done, and have taken effect, before.
    pub(super) needs: Vec<usize>,
    /// What must follow before it takes effect.
    pub(super) then: Option<Then>,
    /// It is itself the new terminal, the sign-in or the restart.
    pub(super) is_event: bool,
    /// With what its effect is gone again: it is done after the last of these.
    pub(super) lost_with: Option<Then>,
    /// Tasks of one kind can be one command.
    pub(super) merges: Option<usize>,
    pub(super) admin: bool,
    pub(super) level: Level,
}

/// What is done between two interruptions.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(super) struct Slot {
    /// Tasks in order; those that stand together are one command.
    pub(super) groups: Vec<Vec<usize>>,
    /// Tasks that are themselves the interruption after this slot, the lightest first.
    pub(super) events: Vec<usize>,
    /// What interrupts after it.
    pub(super) then: Option<Then>,
}

/// From the lightest.
const EVENTS: [Then; 3] = [Then::NewShell, Then::SignIn, Then::Restart];

/// How many tasks are looked at, over all orders of interruptions that are tried. Guides need a few hundred.
const BUDGET: usize = 2_000_000;

/// Puts tasks into slots, those with admin rights first or last. A ring of needs is broken at its first task, since a plan is better than none.
pub(super) fn schedule(tasks: &[Task], admin_first: bool) -> Vec<Slot> {
    let slots = in_slots(tasks, admin_first);
    let late = lost_on_the_way(tasks, slots.iter().filter_map(|slot| slot.then).max());
    if !late.contains(&true) {
        return slots;
    }
    // None of them is interrupted, and only others of them need one: they make up the end.
    let (end, before): (Vec<usize>, Vec<usize>) = (0..tasks.len()).partition(|index| late.get(*index) == Some(&true));
    let [mut slots, end] = [before, end].map(|part| in_slots_of(tasks, &part, admin_first));
    let groups = end.into_iter().flat_map(|slot| slot.groups);
    match slots.last_mut() {
        Some(last) if last.then.is_none() => last.groups.extend(groups),
        _ => slots.push(Slot { groups: groups.collect(), ..Slot::default() }),
    }
    slots
}

/// Which tasks' effect would be gone after the heaviest interruption, where nothing else needs them before.
fn lost_on_the_way(tasks: &[Task], heaviest: Option<Then>) -> Vec<bool> {
    let mut late: Vec<bool> = tasks.iter().map(|task| task.lost_with.is_some() && task.lost_with <= heaviest).collect();
    // Whoever is needed by one that comes before comes before.
    let mut early: Vec<usize> = (0..tasks.len()).filter(|index| late.get(*index) == Some(&false)).collect();
    while let Some(index) = early.pop() {
        for need in tasks.get(index).into_iter().flat_map(|task| &task.needs) {
            if let Some(late) = late.get_mut(*need).filter(|late| **late) {
                *late = false;
                early.push(*need);
            }
        }
    }
    late
}

/// The slots of some of the tasks, as if the others were done.
fn in_slots_of(tasks: &[Task], part: &[usize], admin_first: bool) -> Vec<Slot> {
    let mut place = vec![None; tasks.len()];
    for (at, index) in part.iter().enumerate() {
        if let Some(place) = place.get_mut(*index) {
            *place = Some(at);
        }
    }
    let of_part: Vec<Task> = part
        .iter()
        .filter_map(|index| tasks.get(*index))
        .map(|task| Task { needs: task.needs.iter().filter_map(|need| *place.get(*need)?).collect(), ..task.clone() })
        .collect();
    let back = |places: Vec<usize>| places.into_iter().filter_map(|place| part.get(place)).copied().collect::<Vec<_>>();
    let slot = |slot: Slot| Slot { groups: slot.groups.into_iter().map(back).collect(), events: back(slot.events), ..slot };
    in_slots(&of_part, admin_first).into_iter().map(slot).collect()
}

fn in_slots(tasks: &[Task], admin_first: bool) -> Vec<Slot> {
    let graph = Graph::new(tasks);
    let interruptions = fewest(&graph).unwrap_or_else(|| lightest_first(&graph));
    let mut progress = Progress { admin: admin_first, ..Progress::new(&graph) };
    let mut slots: Vec<Slot> = interruptions.into_iter().map(|event| progress.slot(Some(event))).collect();
    let last = progress.slot(None);
    if !last.groups.is_empty() {
        slots.push(last);
    }
    slots
}

/// The interruptions with which all is done and in effect, at the least price: the shortest path (Dijkstra 1959) through how far one can be. What
/// can be done is always done at once, since that never costs anything. `None` where there are too many ways to try.
fn fewest(graph: &Graph<'_>) -> Option<Vec<Then>> {
    let mut budget = BUDGET;
    let mut closed: HashSet<Vec<bool>> = HashSet::new();
    // By the price: restarts, sign-ins, new terminals; of equal ones, the heavy ones late.
    let mut open: BTreeMap<([usize; 3], Vec<Then>), Progress<'_>> = BTreeMap::new();
    let mut start = Progress::new(graph);
    start.do_available();
    open.insert(([0; 3], Vec::new()), start);
    while let Some(((price, word), progress)) = open.pop_first() {
        if progress.pending.is_empty() {
            return Some(word);
        }
        budget = budget.checked_sub(graph.tasks.len())?;
        if !closed.insert(progress.effective.clone()) {
            continue;
        }
        for (kind, event) in EVENTS.into_iter().enumerate().filter(|(_, event)| progress.is_served_by(*event)) {
            let (mut progress, mut price, mut word) = (progress.clone(), price, word.clone());
            progress.interrupt(event);
            progress.do_available();
            if let Some(count) = price.iter_mut().rev().nth(kind) {
                *count += 1;
            }
            word.push(event);
            open.insert((price, word), progress);
        }
    }
    None
}

/// Interruptions that do, for more than can be tried: always the lightest one that others wait for.
fn lightest_first(graph: &Graph<'_>) -> Vec<Then> {
    let mut progress = Progress::new(graph);
    let mut word = Vec::new();
    loop {
        progress.do_available();
        let then = |index: &usize| graph.tasks.get(*index).and_then(|task| task.then);
        let needed = progress.pending.iter().filter(|index| !graph.followers(**index).is_empty()).filter_map(then).min();
        let Some(event) = needed.or_else(|| progress.pending.iter().filter_map(then).max()) else { return word };
        progress.interrupt(event);
        word.push(event);
    }
}

struct Graph<'t> {
    tasks: &'t [Task],
    needs: Vec<Vec<usize>>,
    followers: Vec<Vec<usize>>,
}

impl<'t> Graph<'t> {
    fn new(tasks: &'t [Task]) -> Self {
        let needs = without_rings(tasks);
        let mut followers = vec![Vec::new(); tasks.len()];
        for (index, all) in needs.iter().enumerate() {
            for need in all {
                if let Some(followers) = followers.get_mut(*need) {
                    followers.push(index);
                }
            }
        }
        Self { tasks, needs, followers }
    }

    fn followers(&self, index: usize) -> &[usize] {
        self.followers.get(index).map_or(&[], Vec::as_slice)
    }
}

/// How far one is.
#[derive(Clone)]
struct Progress<'g> {
    graph: &'g Graph<'g>,
    /// How many of its needs have not taken effect.
    open: Vec<usize>,
    effective: Vec<bool>,
    available: Vec<usize>,
    /// Done, or ready to be the next interruption: waiting for it.
    pending: Vec<usize>,
    slot: Vec<usize>,
    /// What a slot begins with.
    admin: bool,
}

impl<'g> Progress<'g> {
    fn new(graph: &'g Graph<'g>) -> Self {
        let count = graph.tasks.len();
        let open: Vec<usize> = graph.needs.iter().map(Vec::len).collect();
        let available = (0..count).filter(|index| open.get(*index) == Some(&0)).collect();
        Self { graph, open, effective: vec![false; count], available, pending: Vec::new(), slot: Vec::new(), admin: true }
    }

    fn do_available(&mut self) {
        while let Some(index) = self.available.pop() {
            let Some(task) = self.graph.tasks.get(index) else { continue };
            if !task.is_event {
                self.slot.push(index);
            }
            match task.then {
                Some(_) => self.pending.push(index),
                None => self.take_effect(index),
            }
        }
    }

    fn is_served_by(&self, event: Then) -> bool {
        self.pending.iter().any(|index| self.graph.tasks.get(*index).and_then(|task| task.then) <= Some(event))
    }

    fn take_effect(&mut self, index: usize) {
        if let Some(effective) = self.effective.get_mut(index) {
            *effective = true;
        }
        for follower in self.graph.followers(index) {
            if let Some(open) = self.open.get_mut(*follower) {
                *open -= 1;
                if *open == 0 {
                    self.available.push(*follower);
                }
            }
        }
    }

    /// Has what waits take effect; gives what is itself the interruption, the lightest first.
    fn interrupt(&mut self, event: Then) -> Vec<usize> {
        let tasks = self.graph.tasks;
        let then = |index: &usize| tasks.get(*index).and_then(|task| task.then);
        let (served, pending): (Vec<usize>, Vec<usize>) = self.pending.drain(..).partition(|index| then(index) <= Some(event));
        self.pending = pending;
        for index in &served {
            self.take_effect(*index);
        }
        let mut events: Vec<usize> =
            served.into_iter().filter(|index| tasks.get(*index).is_some_and(|task| task.is_event)).collect();
        events.sort_by_key(|index| (then(index), *index));
        events
    }

    /// Does what can be done, up to an interruption.
    fn slot(&mut self, then: Option<Then>) -> Slot {
        self.do_available();
        let mut members = core::mem::take(&mut self.slot);
        members.sort_unstable();
        let mut grouping = Grouping { admin: self.admin, ..Grouping::new(self.graph, &members) };
        let groups = core::iter::from_fn(|| grouping.next()).collect();
        let events = then.map(|event| self.interrupt(event)).unwrap_or_default();
        Slot { groups, events, then }
    }
}

/// What each task needs, without those needs that close a ring.
fn without_rings(tasks: &[Task]) -> Vec<Vec<usize>> {
    let count = tasks.len();
    let mut needs: Vec<Vec<usize>> = tasks.iter().map(|task| task.needs.clone()).collect();
    for (index, all) in needs.iter_mut().enumerate() {
        all.sort_unstable();
        all.dedup();
        all.retain(|need| *need != index && *need < count);
    }
    // Depth first; a need that is on the way already closes a ring and is dropped.
    let mut states = vec![0_u8; count];
    let mut dropped: Vec<(usize, usize)> = Vec::new();
    for start in 0..count {
        let mut path = vec![(start, 0)];
        while let Some((index, next)) = path.pop() {
            let Some(state) = states.get_mut(index).filter(|state| next > 0 || **state == 0) else { continue };
            *state = 1;
            match needs.get(index).and_then(|all| all.get(next)).copied() {
                None => *state = 2,
                Some(need) => {
                    path.push((index, next + 1));
                    match states.get(need) {
                        Some(0) => path.push((need, 0)),
                        Some(1) => dropped.push((index, need)),
                        _ => {}
                    }
                }
            }
        }
    }
    for (index, need) in dropped {
        if let Some(all) = needs.get_mut(index) {
            all.retain(|other| *other != need);
        }
    }
    needs
}

/// What could come next: best what none could join later, then with the same rights as before, then by weight and the guide's order.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
struct Choice {
    /// How many could still join it, when others are done.
    missing: usize,
    changes_rights: bool,
    first: (Level, usize),
    /// The kind of command; none for one that stands alone.
    kind: Option<usize>,
}

/// How many times in a row it is tried out which of several kinds should come first; beyond, the one that the fewest could still join does.
const TRIES: usize = 6;

/// Slots with more tasks than this are not tried out.
const MOST_TRIED: usize = 64;

/// Puts the tasks of one slot in order, group by group.
#[derive(Clone)]
struct Grouping<'t> {
    graph: &'t Graph<'t>,
    /// How many needs inside the slot are open; `None` for tasks of other slots.
    open: Vec<Option<usize>>,
    /// Ready tasks that are commands of their own: with admin rights, and without.
    single: [BTreeSet<(Level, usize)>; 2],
    /// Per kind: the ready ones, and how many are not ready yet.
    kinds: Vec<(BTreeSet<(Level, usize)>, usize)>,
    admin: bool,
    tries: usize,
}

impl<'t> Grouping<'t> {
    fn new(graph: &'t Graph<'t>, members: &[usize]) -> Self {
        let tasks = graph.tasks;
        let mut open = vec![None; tasks.len()];
        for index in members {
            if let Some(open) = open.get_mut(*index) {
                *open = Some(0);
            }
        }
        let kinds = members.iter().filter_map(|index| tasks.get(*index)?.merges).max().map_or(0, |kind| kind + 1);
        let mut grouping = Self {
            graph,
            open,
            single: Default::default(),
            kinds: vec![Default::default(); kinds],
            admin: true,
            tries: if members.len() > MOST_TRIED { 0 } else { TRIES },
        };
        for index in members {
            let inside = graph
                .needs
                .get(*index)
                .into_iter()
                .flatten()
                .filter(|need| grouping.open.get(**need).is_some_and(Option::is_some))
                .count();
            if let Some(open) = grouping.open.get_mut(*index) {
                *open = Some(inside);
            }
            if let Some(kind) = tasks.get(*index).and_then(|task| task.merges).and_then(|kind| grouping.kinds.get_mut(kind)) {
                kind.1 += 1;
            }
        }
        for index in members {
            if grouping.open.get(*index) == Some(&Some(0)) {
                grouping.ready(*index);
            }
        }
        grouping
    }

    fn ready(&mut self, index: usize) {
        let Some(task) = self.graph.tasks.get(index) else { return };
        let entry = (task.level, index);
        if let Some((ready, missing)) = task.merges.and_then(|kind| self.kinds.get_mut(kind)) {
            ready.insert(entry);
            *missing -= 1;
        } else {
            let [admin, other] = &mut self.single;
            (if task.admin { admin } else { other }).insert(entry);
        }
    }

    fn complete(&mut self, index: usize) {
        for follower in self.graph.followers(index) {
            let Some(Some(open)) = self.open.get_mut(*follower) else { continue };
            *open -= 1;
            if *open == 0 {
                self.ready(*follower);
            }
        }
    }

    /// What could come next.
    fn choices(&self) -> Vec<Choice> {
        let [admin, other] = &self.single;
        let single = [admin, other].into_iter().map(|ready| (ready, 0, None));
        let kinds = self.kinds.iter().enumerate().map(|(kind, (ready, missing))| (ready, *missing, Some(kind)));
        let choice = |(ready, missing, kind): (&BTreeSet<(Level, usize)>, usize, Option<usize>)| {
            let first = *ready.first()?;
            let admin = self.graph.tasks.get(first.1)?.admin;
            Some(Choice { missing, changes_rights: admin != self.admin, first, kind })
        };
        single.chain(kinds).filter_map(choice).collect()
    }

    fn next(&mut self) -> Option<Vec<usize>> {
        let mut choices = self.choices();
        choices.sort_unstable();
        let mut choice = *choices.first()?;
        // Where each could still be joined by others, what comes after decides.
        if choice.missing > 0 && choices.len() > 1 && self.tries > 0 {
            choice = choices.into_iter().min_by_key(|choice| (choice.kind.map(|kind| self.rest_after(kind)), *choice))?;
        }
        let index = choice.first.1;
        let admin = self.graph.tasks.get(index)?.admin;
        let group = if let Some(kind) = choice.kind {
            self.take(kind)
        } else {
            let [with, without] = &mut self.single;
            (if admin { with } else { without }).pop_first();
            self.complete(index);
            vec![index]
        };
        self.admin = admin;
        Some(group)
    }

    /// How many groups there are after one of this kind.
    fn rest_after(&self, kind: usize) -> usize {
        let mut trial = self.clone();
        trial.tries -= 1;
        trial.take(kind);
        core::iter::from_fn(|| trial.next()).count()
    }

    /// All of a kind that are ready, and those that only wait for these: one command settles them together.
    fn take(&mut self, kind: usize) -> Vec<usize> {
        let mut group = Vec::new();
        while let Some((_, index)) = self.kinds.get_mut(kind).and_then(|(ready, _)| ready.pop_first()) {
            group.push(index);
            self.complete(index);
        }
        group.sort_unstable();
        group
    }
}

#[cfg(test)]
mod tests;
