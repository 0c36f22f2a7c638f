//! The line of a requirement.

use super::part::{Part, ScriptCheck};
use super::values::quoted;
use super::{condition, kind};
use crate::guide::{Guide, Kind, Requirement, Subject};
use crate::kinds::disk;
use crate::prelude::*;
use alloc::collections::BTreeSet;

/// What a requirement rests on: it stands behind these.
pub(super) fn dependencies(requirement: &Requirement) -> Vec<usize> {
    let mut all: Vec<usize> = requirement.after.iter().chain(&requirement.needs).copied().collect();
    all.extend(requirement.subject.facts().alternatives());
    all
}

/// How much a requirement needs on a disk, and where.
pub(super) fn disk_place(requirement: &Requirement) -> Option<String> {
    if let Subject::Disk(disk) = &requirement.subject { Some(disk::script::room(disk)) } else { None }
}

/// The whole line: whether it is to be checked, and the check.
pub(super) fn line(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    let ids = |indexes: &[usize]| {
        indexes.iter().filter_map(|index| guide.requirements.get(*index)).map(|one| one.id.clone()).collect::<Vec<_>>().join(" ")
    };
    let roles: Vec<&str> =
        requirement.roles.iter().filter_map(|role| guide.roles.get(*role)).map(|role| role.id.as_str()).collect();
    let why = requirement.why.as_deref().map_or_else(|| "''".to_owned(), quoted);
    let check = check(guide, requirement, needed);
    format!(
        "want {} {} {} {} {} {} {why} && {check}",
        requirement.id,
        // An alternative makes no machine unready by itself.
        if requirement.alternative { "may" } else { requirement.level.word() },
        quoted(&roles.join(" ")),
        quoted(&ids(&requirement.after)),
        quoted(&ids(&requirement.needs)),
        when(guide, requirement, needed),
    )
}

/// Whether it is for this machine: `yes`, `no`, `unknown`, or a test that tells.
fn when(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    let stage = guide.stages.get(requirement.stage);
    if stage.is_some_and(|stage| stage.after_start) {
        return "no".to_owned();
    }
    let mut tests = Vec::new();
    for one in stage.and_then(|stage| stage.when.as_ref()).into_iter().chain(&requirement.when) {
        match condition::test(one) {
            Some(test) => tests.push(if tests.is_empty() { test } else { format!("{{ {test}; }}") }),
            None => return "unknown".to_owned(),
        }
    }
    // What belongs into a place is looked at there, and here where there is no such place.
    if let Some(place) = requirement.place.and_then(|place| guide.places.get(place)) {
        match (condition::test(&place.when), condition::test(&place.outside)) {
            (Some(inside), Some(outside)) => tests.push(format!("{{ {{ {inside}; }} || ! {{ {outside}; }}; }}")),
            _ => return "unknown".to_owned(),
        }
    }
    if tests.is_empty() {
        return "yes".to_owned();
    }
    needed.insert(Part::Conditions);
    format!("\"$(when '{}')\"", tests.join(" && "))
}

fn check(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    // What rests on a value that may be moved is looked at where it was moved to.
    let can_follow = requirement.values.is_empty() || requirement.subject.kind() == Kind::Port;
    let check = can_follow.then(|| kind::of_subject(&requirement.subject).script(guide)).flatten();
    let check = check.unwrap_or_else(|| ScriptCheck::new(format!("only {}", quoted(&requirement.title())), &[Part::Only]));
    needed.extend(check.parts);
    check.line
}
