//! What the repository says otherwise.

#![allow(clippy::wildcard_enum_match_arm, reason = "only what repositories speak of is compared")]

use super::context::Context;
use super::{Correction, Remark, Replacement, Rule};
use crate::guide::{PortNumbers, Requirement, Subject};
use crate::observation::Pinned;
use crate::prelude::*;
use crate::statement::{Confidence, Coverage, Restriction, Statement, Topic, merge};
use crate::version::Range;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    pins(context, remarks);
    let statements = &context.evidence.statements;
    let coverage = Coverage::of(context.guide);
    let merged = merge(statements);
    for one in &merged {
        for (a, b) in &one.contradictions {
            let (Some(a), Some(b)) = (statements.get(*a), statements.get(*b)) else { continue };
            let at = coverage
                .requirement_for(a)
                .and_then(|index| context.guide.requirements.get(index))
                .map_or(0..0, |one| one.span.clone());
            let said = |one: &Statement| format!("{} says {}", one.place, one.range.as_deref().unwrap_or("any"));
            let message = format!("the repository asks for two versions of {}: {}, and {}", name(&one.topic), said(a), said(b));
            let mut remark = Remark::of(Rule::PinsDisagree, at, message).about(one.topic.to_string());
            remark.elsewhere = vec![a.place.clone(), b.place.clone()];
            remarks.push(remark);
        }
        let all: Vec<&Statement> = one.statements.iter().filter_map(|index| statements.get(*index)).collect();
        let Some(first) = all.first() else { continue };
        if let Topic::System(os) = &one.topic {
            if !context.guide.project.systems.is_empty()
                && !context.guide.project.systems.contains(os)
                && one.firmness != Confidence::Mentioned
            {
                let at = context.project("systems").map_or_else(|| context.section("project"), toml::Spanned::span);
                let message = format!("{} builds on {}, which `systems` does not name", first.place, os.name());
                remarks.push(with_place(Remark::of(Rule::SystemUnpromised, at, message).about(one.topic.to_string()), first));
            }
            continue;
        }
        match all.iter().find_map(|statement| coverage.requirement_for(statement)) {
            Some(index) => {
                if let Some(requirement) = context.guide.requirements.get(index) {
                    // Where the repository contradicts itself, that is what is told.
                    if one.contradictions.is_empty() {
                        versions(context, requirement, &all, remarks);
                    }
                }
            }
            None => unlisted(context, &one.topic, one.firmness, first, remarks),
        }
    }
    variables(context, remarks);
    moved_ports(context, remarks);
}

fn name(topic: &Topic) -> String {
    match topic {
        Topic::Tool(name) => name.clone(),
        Topic::Library(name) => format!("the library {name}"),
        other => other.to_string(),
    }
}

fn with_place(mut remark: Remark, statement: &Statement) -> Remark {
    remark.elsewhere.push(statement.place.clone());
    remark
}

/// What `version_from` names.
fn pins(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    for (index, pinned) in &context.evidence.pins {
        let Some(requirement) = context.guide.requirements.get(*index) else { continue };
        let Subject::Tool(tool) = &requirement.subject else { continue };
        let Some(from) = &tool.version_from else { continue };
        let trouble = match pinned {
            Pinned::NoFile => format!("{} is not there", from.file),
            Pinned::Unreadable(place) => format!("what {place} says cannot be read as a version"),
            Pinned::Silent => format!("{} says no version of {}", from.file, tool.names.first().map_or("it", String::as_str)),
            Pinned::Range(..) | Pinned::Version(..) | Pinned::Any(_) => continue,
        };
        remarks.push(Remark::of(Rule::PinUnread, context.at(requirement, "version_from"), trouble).about(&*requirement.id));
    }
}

/// The range of a requirement, where it has one of its own.
fn range(requirement: &Requirement) -> Option<&Range> {
    match &requirement.subject {
        Subject::Tool(tool) => tool.version.as_ref(),
        Subject::Library(library) => library.version.as_ref(),
        _ => None,
    }
}

fn versions(context: &Context<'_>, requirement: &Requirement, all: &[&Statement], remarks: &mut Vec<Remark>) {
    let Some(own) = range(requirement) else { return };
    let at = context.at(requirement, "version");
    // What holds only somewhere is compared only with what holds only there.
    let firm = all.iter().filter(|one| one.firmness == Confidence::Pinned && !matches!(one.only, Some(Restriction::Text(_))));
    for statement in firm {
        let Some(said) = statement.range.as_deref().and_then(|text| Range::parse(text).ok()) else { continue };
        if matches!(&statement.topic, Topic::Library(name) if crate::catalogue::libraries::named(name).is_some_and(|one| one.numbering != crate::catalogue::libraries::Numbering::Of))
        {
            continue;
        }
        let (rule, message) = if own.shared(&said).is_none() {
            (Rule::PinContradicted, format!("{} asks for {said}, and this for {own}: no version is both", statement.place))
        } else if let Some(beyond) = own.beyond(&said) {
            (Rule::PinExceeded, format!("{} asks for {said}, and this accepts {beyond} too", statement.place))
        } else if said.beyond(own).is_none() && statement.is_pin {
            (Rule::PinRepeated, format!("{} says {said} already", statement.place))
        } else {
            continue;
        };
        let mut remark = with_place(Remark::of(rule, at.clone(), message).about(&*requirement.id), statement);
        // Where the guide rules out more than the file does, or one of the two is out of date, a person has to choose.
        if rule != Rule::PinContradicted && said.beyond(own).is_none() {
            remark.correction = follow(context, requirement, statement);
        }
        remarks.push(remark);
        return;
    }
}

/// `version = "..."` becomes `version_from = "FILE"`, where that file is read so.
fn follow(context: &Context<'_>, requirement: &Requirement, statement: &Statement) -> Option<Correction> {
    if !statement.is_pin || !matches!(requirement.subject, Subject::Tool(_)) || context.says(requirement, "version_from") {
        return None;
    }
    let value = context.told(requirement, "version")?.span;
    let before = context.text.get(..value.start)?;
    let key = before.rfind("version")?;
    // Nothing but the sign stands between a key and its value.
    before.get(key + "version".len()..)?.trim().strip_prefix('=').filter(|rest| rest.is_empty())?;
    let text = format!("version_from = \"{}\"", statement.place.file);
    Some(Correction::new(
        format!("write `version_from = \"{}\"`", statement.place.file),
        vec![Replacement { span: key..value.end, text }],
    ))
}

fn unlisted(context: &Context<'_>, topic: &Topic, firmness: Confidence, first: &Statement, remarks: &mut Vec<Remark>) {
    let (rule, how) = match firmness {
        Confidence::Pinned => (Rule::PinnedUnlisted, "asks for"),
        Confidence::Used => (Rule::UsedUnlisted, "uses"),
        Confidence::Mentioned => return,
    };
    let told = match &first.package {
        Some((manager, package)) if !matches!(topic, Topic::Package(..)) => {
            format!(" (the package {package} of {})", manager.word())
        }
        _ => String::new(),
    };
    let message = format!("{} {how} {}{told}, and no requirement speaks of it", first.place, name(topic));
    let remark = Remark::of(rule, context.section("require"), message).about(topic.to_string());
    remarks.push(with_place(remark, first).note("a draft of what the guide lacks has a requirement for it"));
}

/// Ports that the repository publishes under the same variable with another number.
fn moved_ports(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    for (_, requirement) in context.requirements() {
        let Subject::Port(port) = &requirement.subject else { continue };
        let Some(variable) = port.set_by.as_ref().and_then(|set_by| set_by.variable.as_ref()) else { continue };
        let same = |one: &&Statement| one.variable.as_ref() == Some(variable) && one.firmness != Confidence::Mentioned;
        let published: Vec<&Statement> = context.evidence.statements.iter().filter(same).collect();
        let numbers = match &port.numbers {
            PortNumbers::List(list) => list.clone(),
            PortNumbers::Span(first, last) => (*first..=*last).collect(),
        };
        let agrees = published.iter().any(|one| matches!(one.topic, Topic::Port(number) if numbers.contains(&number)));
        if let Some(first) = published.first().filter(|_| !agrees)
            && let Topic::Port(number) = first.topic
        {
            let message = format!(
                "{} has {variable} at {number}, and this checks {}",
                first.place,
                numbers.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ")
            );
            remarks.push(with_place(
                Remark::of(Rule::PortMoved, context.at(requirement, "port"), message).about(&*requirement.id),
                first,
            ));
        }
    }
}

/// Variables that the example file beside the environment file does not have.
fn variables(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    let known: Vec<(&str, &str)> = context
        .evidence
        .statements
        .iter()
        .filter_map(
            |one| if let Topic::Variable(name) = &one.topic { Some((name.as_str(), one.env_file.as_deref()?)) } else { None },
        )
        .collect();
    for (_, requirement) in context.requirements() {
        let Subject::Variable(variable) = &requirement.subject else { continue };
        let Some(file) = variable.env_file.as_deref() else { continue };
        let of_file: Vec<&str> = known.iter().filter(|(_, of)| *of == file).map(|(name, _)| *name).collect();
        if of_file.is_empty() || of_file.contains(&variable.name.as_str()) {
            continue;
        }
        let near = crate::text::nearest(&variable.name, of_file.iter().copied());
        let message = format!("the example of {file} has no {}", variable.name);
        let mut remark = Remark::of(Rule::VariableUnknown, context.at(requirement, "variable"), message).about(&*requirement.id);
        remark.note = near.map(|near| format!("it has {near}"));
        remarks.push(remark);
    }
}
