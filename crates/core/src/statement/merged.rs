//! Statements on one subject, put together.

#![allow(clippy::wildcard_enum_match_arm, reason = "only programs have several names")]

use super::{Confidence, Restriction, Statement, Topic, canonical};
use crate::prelude::*;
use crate::version::Range;
use alloc::collections::BTreeMap;

/// All that is said on one subject.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Merged {
    /// What it is about; of several names that the firmest statement has.
    pub topic: Topic,
    /// The firmest of its statements that hold everywhere, or the firmest of all.
    pub firmness: Confidence,
    /// What every pinned range allows.
    pub range: Option<Range>,
    /// What the build and its servers use, as far as that is a version.
    pub used: Option<Range>,
    /// Where it applies; everywhere for none.
    pub when: Option<String>,
    /// The statements, the firmest first, as indexes.
    pub statements: Vec<usize>,
    /// Two that cannot both hold, as indexes.
    pub contradictions: Vec<(usize, usize)>,
}

/// Names of programs that do the same work: one is enough.
const FAMILIES: [&[&str]; 3] = [&["cc", "gcc", "clang"], &["c++", "g++", "clang++"], &["awk", "gawk", "mawk"]];

/// What statements on one subject have in common.
pub(super) fn key(topic: &Topic) -> Topic {
    match topic {
        Topic::Tool(name) => {
            let name = canonical(name);
            let family = FAMILIES.iter().find(|family| family.contains(&name)).and_then(|family| family.first());
            Topic::Tool((*family.unwrap_or(&name)).to_owned())
        }
        other => other.clone(),
    }
}

/// Puts together what is on one subject, in the order of the subjects' first statements.
pub fn merge(statements: &[Statement]) -> Vec<Merged> {
    let mut groups: BTreeMap<Topic, Vec<usize>> = BTreeMap::new();
    let mut order: Vec<Topic> = Vec::new();
    for (index, statement) in statements.iter().enumerate() {
        let key = key(&statement.topic);
        let group = groups.entry(key.clone()).or_default();
        if group.is_empty() {
            order.push(key);
        }
        group.push(index);
    }
    order.iter().filter_map(|key| groups.remove(key)).filter_map(|group| together(statements, group)).collect()
}

/// How firm a statement is where anything but a system limits it: then a person has to say what that means for newcomers.
fn firmness(statement: &Statement) -> Confidence {
    if matches!(statement.only, Some(Restriction::Text(_))) { Confidence::Mentioned } else { statement.firmness }
}

fn together(statements: &[Statement], mut group: Vec<usize>) -> Option<Merged> {
    let of = |index: &usize| statements.get(*index);
    group.sort_by_key(|index| (of(index).map(firmness), *index));
    let first = of(group.first()?)?;
    let firm: Vec<&Statement> = group.iter().filter_map(of).filter(|one| firmness(one) == firmness(first)).collect();
    let mut range: Option<(Range, usize)> = None;
    let mut contradictions = Vec::new();
    let mut used: Option<Range> = None;
    for index in &group {
        let Some(statement) = of(index) else { continue };
        let Some(said) = statement.range.as_deref().and_then(|text| Range::parse(text).ok()) else { continue };
        if firmness(statement) == Confidence::Mentioned {
            continue;
        }
        match &range {
            Some((so_far, other)) if so_far.shared(&said).is_none() => contradictions.push((*other, *index)),
            Some((so_far, other)) if statement.firmness == Confidence::Pinned => {
                range = so_far.and(&said).map(|both| (both, *other));
            }
            None if statement.firmness == Confidence::Pinned => range = Some((said.clone(), *index)),
            _ => {}
        }
        if statement.firmness == Confidence::Used {
            let text = used.iter().map(Range::text).chain([said.text()]).collect::<Vec<_>>().join(" || ");
            used = Range::parse(&text).ok();
        }
    }
    Some(Merged {
        topic: first.topic.clone(),
        firmness: firmness(first),
        range: range.map(|(range, _)| range),
        used,
        when: condition(&firm),
        statements: group,
        contradictions,
    })
}

/// Where something applies that is said under these conditions.
fn condition(firm: &[&Statement]) -> Option<String> {
    let mut all: Vec<&str> = Vec::new();
    for one in firm {
        match &one.only {
            Some(Restriction::When(condition)) => {
                if !all.contains(&condition.as_str()) {
                    all.push(condition);
                }
            }
            Some(Restriction::Text(_)) => {}
            None => return None,
        }
    }
    match all.as_slice() {
        [] => None,
        [one] => Some((*one).to_owned()),
        several if several.iter().any(|one| several.contains(&format!("not {one}").as_str())) => None,
        several => Some(several.join(" or ")),
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Confidence, Place, Restriction, Statement, Topic, merge};
    use crate::prelude::*;
    use rstest::rstest;

    fn said(line: usize, firmness: Confidence, tool: &str, range: &str, when: &str) -> Statement {
        let place = Place { file: "a".into(), line, item: String::new() };
        let only = match when {
            "" => None,
            "option" => Some(Restriction::Text("where an option is on".to_owned())),
            when => Some(Restriction::When(when.to_owned())),
        };
        let range = (!range.is_empty()).then(|| range.to_owned());
        Statement { range, only, ..Statement::new(Topic::Tool(tool.to_owned()), firmness, place) }
    }

    #[rstest]
    #[case::both_pins_hold(&[(Confidence::Pinned, ">= 20", ""), (Confidence::Pinned, "20.*", "")], "pinned 20.*")]
    #[case::pins_that_contradict(&[(Confidence::Pinned, ">= 20", ""), (Confidence::Pinned, "18.*", "")], "pinned >= 20, contradicted once")]
    #[case::what_is_used_narrows_nothing(&[(Confidence::Pinned, ">= 18", ""), (Confidence::Used, "20.*", "")], "pinned >= 18")]
    #[case::what_is_used_may_contradict(&[(Confidence::Pinned, ">= 18", ""), (Confidence::Used, "16.*", "")], "pinned >= 18, contradicted once")]
    #[case::on_two_systems(&[(Confidence::Used, "", "linux"), (Confidence::Used, "", "macos")], "used if linux or macos")]
    #[case::on_one_and_everywhere(&[(Confidence::Used, "", "linux"), (Confidence::Used, "", "")], "used")]
    #[case::a_firmer_one_only_there(&[(Confidence::Pinned, "", "windows"), (Confidence::Mentioned, "", "")], "pinned if windows")]
    #[case::only_with_an_option(&[(Confidence::Pinned, "", "option")], "mentioned")]
    fn statements_on_one_subject_are_one(#[case] parts: &[(Confidence, &str, &str)], #[case] wanted: &str) {
        let statements: Vec<Statement> =
            parts.iter().zip(1..).map(|((firmness, range, when), line)| said(line, *firmness, "node", range, when)).collect();
        let [merged] = merge(&statements).try_into().unwrap();
        let mut text = merged.firmness.word().to_owned();
        text.extend(merged.range.iter().map(|range| format!(" {range}")));
        text.extend(merged.when.iter().map(|when| format!(" if {when}")));
        if merged.contradictions.len() == 1 {
            text += ", contradicted once";
        }
        assert_eq!(text, wanted);
    }

    #[test]
    fn names_of_one_program_are_one_subject() {
        let names = ["gcc", "cc", "clang", "nodejs", "node", "g++"];
        let statements: Vec<Statement> =
            names.iter().zip(1..).map(|(name, line)| said(line, Confidence::Used, name, "", "")).collect();
        assert_eq!(merge(&statements).len(), 3);
    }
}
