use super::{EVENTS, Slot, Task, schedule};
use crate::guide::{Level, Then};
use crate::prelude::*;
use hashbrown::HashMap;
use proptest::prelude::*;

fn task(needs: &[usize], then: Option<Then>) -> Task {
    Task { needs: needs.to_vec(), then, is_event: false, lost_with: None, merges: None, admin: false, level: Level::Must }
}

fn interruptions(slots: &[Slot]) -> [usize; 3] {
    [Then::Restart, Then::SignIn, Then::NewShell].map(|event| slots.iter().filter(|slot| slot.then == Some(event)).count())
}

#[test]
fn a_sign_in_that_a_restart_must_follow_anyway_is_saved() {
    let tasks = [task(&[], Some(Then::SignIn)), task(&[0], None), task(&[], Some(Then::Restart))];
    let slots = schedule(&tasks, true);
    let groups: Vec<_> = slots.iter().map(|slot| (slot.groups.clone(), slot.then)).collect();
    assert_eq!(groups, [(vec![vec![0], vec![2]], Some(Then::Restart)), (vec![vec![1]], None)]);
}

#[test]
fn more_steps_than_can_be_tried_still_get_a_plan() {
    let tasks: Vec<Task> =
        (0_usize..10_000).map(|at| task(&at.checked_sub(1).into_iter().collect::<Vec<_>>(), Some(EVENTS[at % 3]))).collect();
    assert_eq!(interruptions(&schedule(&tasks, true)), [3_333, 3_333, 3_334]);
}

/// The fewest interruptions with which all is done and in effect, by trying everything.
fn fewest_interruptions(tasks: &[Task]) -> [usize; 3] {
    // 0 to do, 1 done and waiting to take effect, 2 in effect.
    let (start, end) = (vec![0_u8; tasks.len()], vec![2_u8; tasks.len()]);
    let mut best: HashMap<Vec<u8>, [usize; 3]> = HashMap::from([(start.clone(), [0; 3])]);
    let mut open = vec![start];
    while let Some(state) = open.pop() {
        let cost = best[&state];
        let ready = |index: usize| state[index] == 0 && tasks[index].needs.iter().all(|need| state[*need] == 2);
        let mut next = Vec::new();
        for index in (0..tasks.len()).filter(|index| ready(*index) && !tasks[*index].is_event) {
            let mut state = state.clone();
            state[index] = if tasks[index].then.is_some() { 1 } else { 2 };
            next.push((state, cost));
        }
        for (kind, event) in EVENTS.into_iter().enumerate() {
            let mut after = state.clone();
            for index in 0..tasks.len() {
                let happens = state[index] == 1 || (tasks[index].is_event && ready(index));
                if happens && tasks[index].then <= Some(event) {
                    after[index] = 2;
                }
            }
            let mut cost = cost;
            cost[2 - kind] += 1;
            next.push((after, cost));
        }
        for (state, cost) in next {
            if best.get(&state).is_none_or(|known| cost < *known) {
                best.insert(state.clone(), cost);
                open.push(state);
            }
        }
    }
    best[&end]
}

/// The fewest commands for tasks without interruptions, by trying everything.
fn fewest_commands(tasks: &[Task]) -> usize {
    let all = (1_u32 << tasks.len()) - 1;
    let mut best: HashMap<u32, usize> = HashMap::from([(0, 0)]);
    let mut open = vec![0_u32];
    while let Some(state) = open.pop() {
        let cost = best[&state];
        // One command: any set of tasks that are alone, or all of one kind, whose needs are done or in the same command.
        for set in (1..=all).filter(|set| set & state == 0) {
            let members: Vec<usize> = (0..tasks.len()).filter(|index| set >> index & 1 == 1).collect();
            let one_kind = members.len() == 1
                || members.iter().all(|index| tasks[*index].merges.is_some() && tasks[*index].merges == tasks[members[0]].merges);
            let ready = members.iter().all(|index| tasks[*index].needs.iter().all(|need| (state | set) >> need & 1 == 1));
            if one_kind && ready && best.get(&(state | set)).is_none_or(|known| cost + 1 < *known) {
                best.insert(state | set, cost + 1);
                open.push(state | set);
            }
        }
    }
    best[&all]
}

/// Tasks that only need earlier ones.
fn tasks(count: usize, then: bool) -> impl Strategy<Value = Vec<Task>> {
    let then = if then { prop::option::of(prop::sample::select(EVENTS.to_vec())).boxed() } else { Just(None).boxed() };
    let lost = prop::option::of(prop::sample::select(EVENTS.to_vec()));
    let one = (any::<u8>(), any::<u8>(), then, any::<bool>(), prop::option::of(0_usize..2), any::<bool>(), 0_usize..3, lost);
    prop::collection::vec(one, 1..=count).prop_map(|all| {
        let task = |(index, (bits, more, then, is_event, merges, admin, level, lost))| Task {
            needs: (0..index).filter(|need| (bits & more) >> need & 1 == 1).collect(),
            then,
            is_event: is_event && Option::is_some(&then),
            lost_with: if Option::is_some(&then) { None } else { lost },
            merges: if Option::is_some(&then) { None } else { merges },
            admin,
            level: Level::ALL[level],
        };
        all.into_iter().enumerate().map(task).collect()
    })
}

proptest! {
    #[test]
    fn nothing_comes_before_what_it_needs_and_interruptions_are_as_few_as_can_be(tasks in tasks(6, true)) {
        let slots = schedule(&tasks, true);
        let mut place: HashMap<usize, (usize, usize)> = HashMap::new();
        for (at, slot) in slots.iter().enumerate() {
            for (position, group) in slot.groups.iter().chain([&slot.events]).enumerate() {
                place.extend(group.iter().map(|index| (*index, (at, position))));
            }
        }
        prop_assert_eq!(place.len(), tasks.len());
        for (index, task) in tasks.iter().enumerate() {
            for need in &task.needs {
                match tasks[*need].then {
                    None => prop_assert!(place[need] <= place[&index]),
                    Some(then) => prop_assert!(slots[place[need].0..place[&index].0].iter().any(|slot| slot.then >= Some(then))),
                }
            }
            let from = place[&index].0;
            prop_assert!(task.then.is_none() || slots[from..].iter().any(|slot| slot.then >= task.then));
        }
        prop_assert_eq!(interruptions(&slots), fewest_interruptions(&tasks));
        // What a later interruption would undo comes behind it, where nobody needs it before.
        for (index, task) in tasks.iter().enumerate().filter(|(_, task)| task.lost_with.is_some()) {
            let needed = tasks.iter().any(|other| other.needs.contains(&index));
            prop_assert!(needed || slots[place[&index].0..].iter().all(|slot| slot.then.is_none() || slot.then < task.lost_with));
        }
    }

    #[test]
    fn commands_are_as_few_as_can_be(tasks in tasks(6, false)) {
        let slots = schedule(&tasks, true);
        prop_assert_eq!(slots.iter().map(|slot| slot.groups.len()).sum::<usize>(), fewest_commands(&tasks));
    }

    #[test]
    fn a_ring_of_needs_still_gives_every_task_a_place(needs in prop::collection::vec(prop::collection::vec(0_usize..8, 0..4), 1..8)) {
        let tasks: Vec<Task> = needs.iter().map(|needs| task(needs, Some(Then::NewShell))).collect();
        let slots = schedule(&tasks, true);
        let placed: usize = slots.iter().flat_map(|slot| &slot.groups).map(Vec::len).sum();
        prop_assert_eq!(placed, tasks.len());
    }
}
