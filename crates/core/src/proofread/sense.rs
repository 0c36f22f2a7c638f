//! What cannot be meant.

#![allow(clippy::wildcard_enum_match_arm, reason = "only subjects that can break these rules are looked at")]

use super::context::Context;
use super::{Remark, Rule};
use crate::catalogue::libraries::{self, Numbering};
use crate::condition::Condition;
use crate::guide::{Level, PortNumbers, Requirement, Subject};
use crate::observation::Os;
use crate::prelude::*;
use crate::version::{Range, RangeMatch, Version};
use core::mem::discriminant;
use hashbrown::HashMap;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    for (_, requirement) in context.requirements() {
        conditions(context, requirement, remarks);
        hidden_fixes(context, requirement, remarks);
        order(context, requirement, remarks);
        ranges(context, requirement, remarks);
    }
    alike(context, remarks);
    unused(context, remarks);
}

/// The systems that the guide promises; all, where it promises none.
pub(super) fn promised(context: &Context<'_>) -> Vec<Os> {
    let systems = &context.guide.project.systems;
    if systems.is_empty() { Os::ALL.to_vec() } else { systems.clone() }
}

/// Whether a condition may hold on one of the promised systems.
fn possible(condition: &Condition, systems: &[Os]) -> bool {
    systems.iter().any(|os| condition.may_hold_on(*os))
}

fn conditions(context: &Context<'_>, requirement: &Requirement, remarks: &mut Vec<Remark>) {
    let systems = promised(context);
    let names = || crate::text::join_words(&systems.iter().map(|os| os.name().to_owned()).collect::<Vec<_>>(), "or");
    let never = |what: &str| format!("{what} never: the guide is for {}", names());
    if let Some(when) = &requirement.when
        && !possible(when, &systems)
    {
        remarks.push(
            Remark::of(Rule::ConditionNever, context.at(requirement, "when"), never("this applies")).about(&*requirement.id),
        );
        return;
    }
    for (number, fix) in requirement.fixes.iter().enumerate() {
        let Some(when) = &fix.when else { continue };
        let both = requirement.when.as_ref().map_or_else(|| when.clone(), |outer| outer.and(when));
        if !possible(&both, &systems) {
            let at = context.fix_at(requirement, number, "when");
            remarks.push(Remark::of(Rule::ConditionNever, at, never("this fix is offered")).about(&*requirement.id));
        }
    }
}

fn hidden_fixes(context: &Context<'_>, requirement: &Requirement, remarks: &mut Vec<Remark>) {
    let general = requirement
        .fixes
        .iter()
        .position(|fix| fix.cause.is_none() && fix.when.is_none() && fix.only_while.is_none() && fix.prints.is_none());
    let Some(general) = general else { return };
    for number in general + 1..requirement.fixes.len() {
        let at = context.fix_at(requirement, number, "say");
        let message =
            format!("fix {} of `{}` is for every cause and machine and stands before this one", general + 1, requirement.id);
        remarks.push(Remark::of(Rule::FixHidden, at, message).about(&*requirement.id));
    }
}

fn order(context: &Context<'_>, requirement: &Requirement, remarks: &mut Vec<Remark>) {
    for waited in requirement.after.iter().filter_map(|index| context.guide.requirements.get(*index)) {
        if waited.stage > requirement.stage {
            let stage = |index: usize| context.guide.stages.get(index).map_or("", |stage| stage.id.as_str());
            let message = format!("this waits for `{}`, which comes in the later stage `{}`", waited.id, stage(waited.stage));
            remarks.push(Remark::of(Rule::AfterLaterStage, context.at(requirement, "after"), message).about(&*requirement.id));
        } else if requirement.level == Level::Must && waited.level != Level::Must && !waited.alternative {
            let message = format!("this is needed and waits for `{}`, which is only `{}`", waited.id, waited.level.word());
            remarks.push(Remark::of(Rule::WeakBeforeNeeded, context.at(requirement, "after"), message).about(&*requirement.id));
        }
    }
}

/// Whether every version that there is lies in a range.
fn is_everything(range: &Range) -> bool {
    ["0", "0.0.1", "1", "99999999"]
        .iter()
        .filter_map(|text| Version::parse(text).ok())
        .all(|version| range.fit(&version) == RangeMatch::Inside)
}

fn ranges(context: &Context<'_>, requirement: &Requirement, remarks: &mut Vec<Remark>) {
    let (version, tested) = match &requirement.subject {
        Subject::Tool(tool) => (tool.version.as_ref(), tool.tested.as_ref()),
        Subject::Library(library) => (library.version.as_ref(), None),
        Subject::Component(component) => (component.version.as_ref(), None),
        _ => return,
    };
    if let Some(range) = version.filter(|range| is_everything(range)) {
        let message = format!("every version is {range}");
        remarks.push(Remark::of(Rule::RangeAlways, context.at(requirement, "version"), message).about(&*requirement.id));
    }
    if let (Some(version), Some(tested)) = (version, tested)
        && version.shared(tested).is_none()
    {
        let message = format!("the project is tried with {tested}, and accepts {version}: no version is both");
        remarks.push(Remark::of(Rule::TestedOutside, context.at(requirement, "tested"), message).about(&*requirement.id));
    }
    if let (Subject::Library(library), Some(range)) = (&requirement.subject, version)
        && libraries::named(&library.name).is_some_and(|one| one.numbering == Numbering::OtherThan)
    {
        let message = format!(
            "`pkg-config --modversion {}` counts otherwise than the releases do, and this asks for {range}",
            library.name
        );
        // Whoever knows writes a number that no release has.
        let small = |text: &str| Version::parse(text).is_ok_and(|version| range.fit(&version) == RangeMatch::Inside);
        if small("12") {
            remarks.push(Remark::of(Rule::OtherNumbering, context.at(requirement, "version"), message).about(&*requirement.id));
        }
    }
}

/// Whether two requirements may speak to one person on one machine.
fn meet(context: &Context<'_>, a: &Requirement, b: &Requirement) -> bool {
    let roles = a.roles.is_empty() || b.roles.is_empty() || a.roles.iter().any(|role| b.roles.contains(role));
    let places = a.place.is_none() || b.place.is_none() || a.place == b.place;
    let when = match (&a.when, &b.when) {
        (Some(a), Some(b)) => possible(&a.and(b), &promised(context)),
        _ => true,
    };
    roles && places && when
}

/// More requirements that ask one thing are not compared pair by pair.
const MOST_ALIKE: usize = 20;

fn alike(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    let mut by_subject: HashMap<String, Vec<&Requirement>> = HashMap::new();
    let mut by_port: HashMap<(u16, &str), Vec<&Requirement>> = HashMap::new();
    for (_, requirement) in context.requirements() {
        if let Some(asked) = requirement.subject.facts().asks() {
            by_subject.entry(asked).or_default().push(requirement);
        }
        if let Subject::Port(port) = &requirement.subject {
            let numbers = match &port.numbers {
                PortNumbers::List(list) => list.clone(),
                PortNumbers::Span(first, last) => (*first..=*last).collect(),
            };
            for number in numbers {
                by_port.entry((number, port.protocol.name())).or_default().push(requirement);
            }
        }
    }
    for same in by_subject.values() {
        pairs(
            context,
            same,
            |a, b| {
                // Amounts of disk add up, and a thing may be asked for and ruled out by turns.
                let message = format!("`{}` checks the same", a.id);
                let differs = matches!((&a.subject, &b.subject), (Subject::Disk(_), _))
                    || discriminant(&a.subject) != discriminant(&b.subject);
                (!differs).then(|| Remark::of(Rule::CheckedTwice, b.span.clone(), message).about(&*b.id))
            },
            remarks,
        );
    }
    let mut told: Vec<(&str, &str)> = Vec::new();
    let mut ports: Vec<(&(u16, &str), &Vec<&Requirement>)> = by_port.iter().filter(|(_, all)| all.len() > 1).collect();
    ports.sort_by_key(|(key, _)| **key);
    for ((number, protocol), same) in ports {
        pairs(
            context,
            same,
            |a, b| {
                let address =
                    |one: &Requirement| if let Subject::Port(port) = &one.subject { port.address.clone() } else { None };
                let apart = address(a).is_some() && address(b).is_some() && address(a) != address(b);
                let pair = (a.id.as_str(), b.id.as_str());
                if apart || told.contains(&pair) {
                    return None;
                }
                told.push(pair);
                let message = format!("port {number} ({protocol}) is asked for by `{}` too", a.id);
                Some(Remark::of(Rule::PortTwice, context.at(b, "port"), message).about(&*b.id))
            },
            remarks,
        );
    }
}

fn pairs<'g>(
    context: &Context<'_>,
    same: &[&'g Requirement],
    mut tell: impl FnMut(&'g Requirement, &'g Requirement) -> Option<Remark>,
    remarks: &mut Vec<Remark>,
) {
    for (at, b) in same.iter().enumerate().take(MOST_ALIKE) {
        if let Some(a) = same.iter().take(at).find(|a| meet(context, a, b) && !a.alternative && !b.alternative) {
            remarks.extend(tell(a, b));
        }
    }
}

fn unused(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    let guide = context.guide;
    let mut roles = vec![false; guide.roles.len()];
    let mut stages = vec![false; guide.stages.len()];
    let mut places = vec![false; guide.places.len()];
    let mark = |all: &mut Vec<bool>, index: usize| all.get_mut(index).into_iter().for_each(|used| *used = true);
    for requirement in &guide.requirements {
        requirement.roles.iter().for_each(|role| mark(&mut roles, *role));
        mark(&mut stages, requirement.stage);
        requirement.place.into_iter().for_each(|place| mark(&mut places, place));
    }
    for role in guide.roles.iter().zip(roles).filter(|(_, used)| !used).map(|(role, _)| role) {
        // Whoever chooses it is at least spared what others need.
        if guide.requirements.iter().any(|one| !one.roles.is_empty()) {
            continue;
        }
        let at = context.entry("role", &role.id).unwrap_or(0..0);
        let message = format!("nothing is for the role `{}` alone", role.id);
        remarks.push(Remark::of(Rule::RoleUnused, at, message).about(&*role.id));
    }
    for (number, (stage, _)) in guide.stages.iter().zip(stages).enumerate().filter(|(_, (_, used))| !used) {
        let at = context.stage(number, "id").into_iter().next().map_or(0..0, |told| told.span);
        remarks.push(Remark::of(Rule::StageUnused, at, format!("nothing belongs to the stage `{}`", stage.id)).about(&*stage.id));
    }
    for place in guide.places.iter().zip(places).filter(|(_, used)| !used).map(|(place, _)| place) {
        let at = context.entry("place", &place.id).unwrap_or(0..0);
        remarks.push(Remark::of(Rule::PlaceUnused, at, format!("nothing belongs to the place `{}`", place.id)).about(&*place.id));
    }
    for value in &guide.values {
        if !context.text.contains(&format!("{{{}}}", value.id)) {
            let at = context.entry("value", &value.id).unwrap_or(0..0);
            remarks.push(Remark::of(Rule::ValueUnused, at, format!("nothing uses `{{{}}}`", value.id)).about(&*value.id));
        }
    }
}
