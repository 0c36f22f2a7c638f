//! What must be known before what: as the guide says, and as follows from what is checked.

use super::{Existence, Kind, PortNumbers, Requirement, Subject};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use hashbrown::{HashMap, HashSet};

/// Adds the order that the guide need not state: a command waits for its program, what version control is asked waits for it, and a
/// service of this machine for the program that may hold its port. Alternatives are marked as such.
pub(super) fn imply(requirements: &mut [Requirement]) {
    let mut alternatives: Vec<usize> = Vec::new();
    let mut waiting: Vec<usize> = Vec::new();
    for (index, requirement) in requirements.iter().enumerate() {
        if let Subject::AnyOf(any) = &requirement.subject {
            alternatives.extend(&any.alternatives);
        }
        if may_need_a_tool(requirement.subject.kind()) {
            waiting.push(index);
        }
    }
    for index in alternatives {
        if let Some(requirement) = requirements.get_mut(index) {
            requirement.alternative = true;
        }
    }
    if waiting.is_empty() {
        return;
    }
    let needs: Vec<(usize, Vec<usize>)> = {
        let programs = Programs::of(requirements);
        let tools = |index: usize| requirements.get(index).map(|requirement| programs.needed_by(requirement)).unwrap_or_default();
        let without_rings = |index: usize| {
            let mut tools = tools(index);
            let after = requirements.get(index).map_or(&[][..], |requirement| &requirement.after);
            // A tool that itself waits for this one cannot come first; what the guide says goes before.
            tools.retain(|tool| !after.contains(tool) && !waits(requirements, *tool, index));
            tools.dedup();
            (index, tools)
        };
        waiting.into_iter().map(without_rings).collect()
    };
    for (index, needs) in needs {
        if let Some(requirement) = requirements.get_mut(index) {
            requirement.needs = needs;
        }
    }
}

/// The tools of a guide by their names, and the programs that may hold a port.
struct Programs<'g> {
    tools: HashMap<&'g str, usize>,
    holders: HashMap<u16, &'g [String]>,
}

impl<'g> Programs<'g> {
    fn of(requirements: &'g [Requirement]) -> Self {
        let mut programs = Self { tools: HashMap::new(), holders: HashMap::new() };
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

    /// The tools without which a requirement cannot be looked at.
    fn needed_by(&self, requirement: &Requirement) -> Vec<usize> {
        let tool = |name: &str| self.tools.get(name).copied();
        if let Subject::Command(command) = &requirement.subject {
            command.words.first().and_then(|name| tool(name)).into_iter().collect()
        } else if let Subject::Setting(setting) = &requirement.subject {
            tool(&setting.of).into_iter().collect()
        } else if let Subject::Checkout(checkout) = &requirement.subject {
            let asks = checkout.large_files || checkout.clean;
            tool("git").filter(|_| asks).into_iter().collect()
        } else if let Subject::Component(component) = &requirement.subject {
            component.of.into_iter().collect()
        } else if let Subject::Variable(variable) = &requirement.subject {
            variable.of.into_iter().collect()
        } else if let Subject::Service(service) = &requirement.subject {
            self.holders.get(&service.port).copied().unwrap_or_default().iter().filter_map(|name| tool(name)).collect()
        } else {
            Vec::new()
        }
    }
}

/// The kinds that are looked at by asking a tool, or that a tool of the guide makes.
fn may_need_a_tool(kind: Kind) -> bool {
    matches!(kind, Kind::Command | Kind::Setting | Kind::Checkout | Kind::Service | Kind::Module | Kind::Headers | Kind::Variable)
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
    // What decides whether a fix is offered is known before.
    all.extend(requirement.fixes.iter().filter_map(|fix| fix.only_while).map(|(index, _)| index));
    all
}
