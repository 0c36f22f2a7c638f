//! What must be known before what: as the guide says, and as follows from what is checked.

use super::{Existence, PortNumbers, Requirement, Subject};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use hashbrown::{HashMap, HashSet};

#[allow(clippy::wildcard_enum_match_arm, reason = "most kinds need nothing first")]
/// Adds the order that the guide need not state: a command waits for its program, what version control is asked waits for it, and a
/// service of this machine for the program that may hold its port. Alternatives are marked as such.
pub(super) fn imply(requirements: &mut [Requirement]) {
    let mut tools: HashMap<String, usize> = HashMap::new();
    let mut holders: HashMap<u16, Vec<String>> = HashMap::new();
    let mut alternatives: HashSet<usize> = HashSet::new();
    for (index, requirement) in requirements.iter().enumerate() {
        match &requirement.subject {
            Subject::Tool(tool) if tool.expect == Existence::Present => {
                for name in &tool.names {
                    tools.entry(name.clone()).or_insert(index);
                }
            }
            Subject::Port(port) => {
                if let (PortNumbers::List(numbers), false) = (&port.numbers, port.held_ok.is_empty()) {
                    holders.extend(numbers.iter().map(|number| (*number, port.held_ok.clone())));
                }
            }
            Subject::AnyOf(any) => alternatives.extend(&any.alternatives),
            _ => {}
        }
    }
    let needs: Vec<Vec<usize>> = requirements
        .iter()
        .enumerate()
        .map(|(index, requirement)| {
            let names: Vec<&str> = match &requirement.subject {
                Subject::Command(command) => command.words.first().map(String::as_str).into_iter().collect(),
                Subject::Setting(setting) => vec![&setting.of],
                Subject::Checkout(checkout) if checkout.large_files || checkout.clean => vec!["git"],
                Subject::Service(service) => {
                    holders.get(&service.port).into_iter().flat_map(|names| names.iter().map(String::as_str)).collect()
                }
                _ => Vec::new(),
            };
            let mut needs: Vec<usize> = names.into_iter().filter_map(|name| tools.get(name).copied()).collect();
            // A tool that itself waits for this one cannot come first; what the guide says goes before.
            needs.retain(|tool| !waits(requirements, *tool, index) && !requirement.after.contains(tool));
            needs.dedup();
            needs
        })
        .collect();
    for (index, (requirement, needs)) in requirements.iter_mut().zip(needs).enumerate() {
        requirement.needs = needs;
        requirement.alternative = alternatives.contains(&index);
    }
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
    if let Subject::AnyOf(any) = &requirement.subject {
        all.extend(&any.alternatives);
    }
    all
}
