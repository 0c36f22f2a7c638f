//! What must be known before what: as the guide says, and as follows from what is checked.

use super::programs::Programs;
use super::{Existence, PortNumbers, Requirement, Subject};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use hashbrown::HashSet;

/// Adds the order that the guide need not state: a command waits for its program, what version control is asked waits for it, and a
/// service of this machine for the program that may hold its port. Alternatives are marked as such.
pub(super) fn imply(requirements: &mut [Requirement]) {
    let alternatives: Vec<usize> =
        requirements.iter().flat_map(|one| one.subject.facts().alternatives().iter().copied()).collect();
    for index in alternatives {
        if let Some(requirement) = requirements.get_mut(index) {
            requirement.alternative = true;
        }
    }
    let needs: Vec<(usize, Vec<usize>)> = {
        let programs = programs(requirements);
        let all = requirements.iter().enumerate().filter_map(|(index, requirement)| {
            let mut tools = requirement.subject.facts().needs(&programs);
            // A tool that itself waits for this one cannot come first; what the guide says goes before.
            tools.retain(|tool| !requirement.after.contains(tool) && !waits(requirements, *tool, index));
            tools.dedup();
            (!tools.is_empty()).then_some((index, tools))
        });
        all.collect()
    };
    for (index, needs) in needs {
        if let Some(requirement) = requirements.get_mut(index) {
            requirement.needs = needs;
        }
    }
}

fn programs(requirements: &[Requirement]) -> Programs<'_> {
    let mut programs = Programs::default();
    for (index, requirement) in requirements.iter().enumerate() {
        if let Subject::Tool(tool) = &requirement.subject
            && tool.expect == Existence::Present
        {
            for name in &tool.names {
                programs.tools.entry(name).or_insert(index);
            }
        }
        if let Subject::Port(port) = &requirement.subject
            && let (PortNumbers::List(numbers), false) = (&port.numbers, port.held_ok.is_empty())
        {
            programs.holders.extend(numbers.iter().map(|number| (*number, port.held_ok.as_slice())));
        }
    }
    programs
}

/// Whether one requirement waits for another by what the guide says, at any distance. Only tools are asked, which need nothing themselves.
fn waits(requirements: &[Requirement], from: usize, target: usize) -> bool {
    let mut seen: HashSet<usize> = HashSet::new();
    let mut open = vec![from];
    while let Some(index) = open.pop() {
        if index == target {
            return true;
        }
        if seen.insert(index) {
            open.extend(waits_for(requirements, index));
            open.extend(requirements.get(index).into_iter().flat_map(|requirement| requirement.needs.iter().copied()));
        }
    }
    false
}

/// Reports each requirement that waits for itself, by way of others.
pub(super) fn report_cycles(requirements: &[Requirement], problems: &Problems) {
    // 0 not seen, 1 on the path, 2 done.
    let mut states = vec![0_u8; requirements.len()];
    for start in 0..requirements.len() {
        let mut path: Vec<(usize, usize)> = vec![(start, 0)];
        if states.get(start) != Some(&0) {
            continue;
        }
        set(&mut states, start, 1);
        while let Some((at, next)) = path.pop() {
            let Some(follower) = waits_for(requirements, at).get(next).copied() else {
                set(&mut states, at, 2);
                continue;
            };
            path.push((at, next + 1));
            match states.get(follower) {
                Some(0) => {
                    set(&mut states, follower, 1);
                    path.push((follower, 0));
                }
                Some(1) => {
                    let from = path.iter().position(|(node, _)| *node == follower).unwrap_or(0);
                    let ring = path.iter().skip(from).map(|(node, _)| *node).chain([follower]);
                    let names: Vec<&str> = ring.filter_map(|node| requirements.get(node)).map(|one| one.id.as_str()).collect();
                    let span = requirements.get(follower).map_or(0..0, |one| one.span.clone());
                    problems.report(ProblemKind::Cycle, span, format!("these wait for each other: {}", names.join(" -> ")));
                }
                _ => {}
            }
        }
    }
}

fn set(states: &mut [u8], index: usize, state: u8) {
    if let Some(slot) = states.get_mut(index) {
        *slot = state;
    }
}

fn waits_for(requirements: &[Requirement], index: usize) -> Vec<usize> {
    let Some(requirement) = requirements.get(index) else { return Vec::new() };
    let mut all = requirement.after.clone();
    all.extend(requirement.subject.facts().alternatives());
    // What decides whether a fix is offered is known before.
    all.extend(requirement.fixes.iter().filter_map(|fix| fix.only_while).map(|(index, _)| index));
    all
}
