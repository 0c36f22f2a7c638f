use super::kind_keys::KindKeys;
use super::reading::{References, check_id};
use super::supply_parse::packages;
use super::vocabulary::OTHER_WORDS;
use super::{Library, Subject, Tool};
use crate::document::{Fields, Placed, shortened};
use crate::guide::reading::bad;
use crate::kinds::tool::tool;
use crate::kinds::{KINDS, Kind};
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Pattern, Sanitised, join_words};
use crate::version::Range;

/// What to say about a key that belongs to another kind.
pub(super) fn elsewhere(key: &str) -> Option<String> {
    if let Some(meant) = meant(key) {
        return Some(format!("did you mean `{meant}`?"));
    }
    let has = |kind: &&KindKeys| kind.further.iter().any(|further| further.name == key);
    let kinds: Vec<String> = KINDS.iter().filter(has).map(|kind| format!("`{}`", kind.subject.name)).collect();
    (!kinds.is_empty()).then(|| format!("`{key}` goes with {}", join_words(&kinds, "and")))
}

/// The key that somebody means who writes another word for it.
fn meant(key: &str) -> Option<&'static str> {
    OTHER_WORDS.iter().find(|(word, _)| *word == key).map(|(_, key)| *key)
}

/// Reads the one subject of a requirement, or several that share all else, each with its name; none or two are reported.
pub(super) fn read<'t>(fields: &Fields<'t>, words: &References<'_>) -> Vec<(Option<Placed<&'t str>>, Subject)> {
    let mut kinds: Vec<(Kind, bool)> = Vec::with_capacity(1);
    let with_key = |kind: Kind, key: &str| {
        if kind.word() == key { Some((kind, false)) } else { (kind.several() == Some(key)).then_some((kind, true)) }
    };
    kinds.extend(fields.keys().filter_map(|key| Kind::ALL.into_iter().find_map(|kind| with_key(kind, key))));
    match kinds.as_slice() {
        [(kind, several)] => {
            let subjects = if *several {
                each(fields, *kind)
            } else {
                kind.read(fields, words).map(|subject| (None, subject)).into_iter().collect()
            };
            if subjects.is_empty() {
                // Where the subject itself is wrong, its further keys are still known ones.
                know_keys(fields, &[*kind]);
            }
            subjects
        }
        [] => {
            let all: Vec<&str> = Kind::ALL.into_iter().map(Kind::word).collect();
            let message = format!("{} does not say what is checked", fields.place());
            let is_kind =
                |word: &&'static str| all.contains(word) || Kind::ALL.into_iter().any(|kind| kind.several() == Some(word));
            let meant = |key: &str| meant(key).filter(is_kind).or_else(|| crate::text::nearest(key, all.clone()));
            let near = fields.entries().into_iter().find_map(|(key, _)| Some((key.span, key.value, meant(key.value)?)));
            // With which kind the others go is not known.
            know_keys(fields, &Kind::ALL);
            let (span, note) = match near {
                Some((span, key, near)) => {
                    fields.pass_over(key);
                    (span, format!("`{}` is not a kind; did you mean `{near}`?", shortened(key)))
                }
                None => (fields.span(), format!("it needs one of {}", join_words(&all, "or"))),
            };
            let problem =
                crate::problem::Problem { kind: ProblemKind::Subject, span, message, note: Some(note), replacement: None };
            fields.problems().add(problem);
            Vec::new()
        }
        [_, second, ..] => {
            let key = |(kind, several): &(Kind, bool)| kind.several().filter(|_| *several).unwrap_or(kind.word());
            let named: Vec<String> = kinds.iter().map(|one| format!("`{}`", key(one))).collect();
            let message =
                format!("{} checks {} at once; make it one requirement for each", fields.place(), join_words(&named, "and"));
            fields.problems().report(ProblemKind::Subject, fields.key_span(key(second)), message);
            know_keys(fields, &kinds.iter().map(|(kind, _)| *kind).collect::<Vec<_>>());
            Vec::new()
        }
    }
}

/// Several of a kind that has names, each with its own.
fn each<'t>(fields: &Fields<'t>, kind: Kind) -> Vec<(Option<Placed<&'t str>>, Subject)> {
    let key = kind.several().unwrap_or_default();
    let names = fields.some_texts(key);
    for name in &names {
        check_id(name, fields.problems());
    }
    let each = |subject: &dyn Fn(&str) -> Subject| {
        names.iter().map(|name| (Some(name.clone()), subject(name.value))).collect::<Vec<_>>()
    };
    if kind == Kind::Library {
        let version = fields.read("version", Range::parse);
        let packages = packages(fields);
        let library = |name: &str| Library { name: name.to_owned(), version: version.clone(), packages: packages.clone() };
        return each(&|name| Subject::Library(library(name)));
    }
    let Some(tool) = tool(fields, key) else { return Vec::new() };
    each(&|name| Subject::Tool(Tool { names: vec![name.to_owned()], ..tool.clone() }))
}

/// What the pattern of a subject means, in words.
pub(super) fn means(fields: &Fields<'_>, subject: &Subject) -> Option<String> {
    with_pattern(fields, subject, "means")?;
    fields.one_line("means")
}

/// Something that fits the pattern of a subject.
pub(super) fn example(fields: &Fields<'_>, subject: &Subject) -> Option<String> {
    let pattern = with_pattern(fields, subject, "example")?;
    let example = fields.text("example")?;
    if example.value.chars().any(Sanitised::hides) {
        bad(fields, example.span, "an example has only characters that can be seen and typed");
        return None;
    }
    if !pattern.matches(example.value) {
        bad(fields, example.span, format!("the example does not fit the pattern {}", shortened(pattern.source())));
        return None;
    }
    Some(example.value.to_owned())
}

/// The pattern that a key speaks of; without one, the key is reported.
fn with_pattern<'s>(fields: &Fields<'_>, subject: &'s Subject, key: &'static str) -> Option<&'s Pattern> {
    let takes = |kind: &KindKeys| kind.kind == subject.kind() && kind.further.iter().any(|further| further.name == key);
    if !KINDS.iter().any(takes) || !fields.has(key) {
        return None;
    }
    let pattern = subject.pattern();
    if pattern.is_none() {
        bad(fields, fields.key_span(key), format!("`{key}` tells people about a pattern, and there is none here"));
    }
    pattern
}

fn know_keys(fields: &Fields<'_>, kinds: &[Kind]) {
    for kind in KINDS.iter().filter(|keys| kinds.contains(&keys.kind)) {
        fields.pass_over(kind.subject.name);
        kind.several.into_iter().for_each(|key| fields.pass_over(key));
        kind.further.iter().for_each(|key| fields.pass_over(key.name));
    }
}
