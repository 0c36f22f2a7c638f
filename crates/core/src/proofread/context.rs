//! What every rule sees: the guide, and where each of its keys stands in the text.

use super::Evidence;
use crate::guide::{Guide, Requirement};
use crate::prelude::*;
use core::ops::Range;
use hashbrown::HashMap;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// What every rule sees.
pub(super) struct Context<'g> {
    pub(super) guide: &'g Guide,
    pub(super) text: &'g str,
    pub(super) evidence: &'g Evidence,
    tree: &'g DeTable<'g>,
    /// The table of each requirement by its id.
    tables: HashMap<&'g str, &'g DeTable<'g>>,
}

/// A text of the guide, and where it stands with its quotation marks.
#[derive(Debug, Clone)]
pub(super) struct Told<'g> {
    pub(super) text: &'g str,
    pub(super) span: Range<usize>,
}

impl<'g> Context<'g> {
    pub(super) fn new(guide: &'g Guide, text: &'g str, tree: &'g DeTable<'g>, evidence: &'g Evidence) -> Self {
        let mut tables = HashMap::new();
        let all = tree.get("require").and_then(|value| value.get_ref().as_table());
        for (name, value) in all.into_iter().flatten() {
            let Some(table) = value.get_ref().as_table() else { continue };
            let several = ["tools", "libraries"].iter().filter_map(|key| table.get(*key)?.get_ref().as_array()).flatten();
            for id in several.filter_map(|one| one.get_ref().as_str()) {
                tables.insert(id, table);
            }
            tables.insert(name.get_ref().as_ref(), table);
        }
        Self { guide, text, evidence, tree, tables }
    }

    /// Every requirement with its index.
    pub(super) fn requirements(&self) -> impl Iterator<Item = (usize, &'g Requirement)> {
        self.guide.requirements.iter().enumerate()
    }

    fn value(&self, requirement: &Requirement, key: &str) -> Option<&'g Spanned<DeValue<'g>>> {
        self.tables.get(requirement.id.as_str())?.get(key)
    }

    /// Where a key of a requirement has its value; where its name stands, if it has none.
    pub(super) fn at(&self, requirement: &Requirement, key: &str) -> Range<usize> {
        self.value(requirement, key).map_or_else(|| requirement.span.clone(), Spanned::span)
    }

    /// Whether a requirement says this itself.
    pub(super) fn says(&self, requirement: &Requirement, key: &str) -> bool {
        self.value(requirement, key).is_some()
    }

    /// The text of a key.
    pub(super) fn told(&self, requirement: &Requirement, key: &str) -> Option<Told<'g>> {
        let value = self.value(requirement, key)?;
        Some(Told { text: value.get_ref().as_str()?, span: value.span() })
    }

    fn fix(&self, requirement: &Requirement, number: usize) -> Option<&'g DeTable<'g>> {
        self.value(requirement, "fix")?.get_ref().as_array()?.get(number)?.get_ref().as_table()
    }

    /// The texts of a key of a fix.
    pub(super) fn fix_texts(&self, requirement: &Requirement, number: usize, key: &str) -> Vec<Told<'g>> {
        let Some(value) = self.fix(requirement, number).and_then(|table| table.get(key)) else { return Vec::new() };
        texts(value)
    }

    /// Where a fix has a key's value, or where the requirement is named.
    pub(super) fn fix_at(&self, requirement: &Requirement, number: usize, key: &str) -> Range<usize> {
        self.fix(requirement, number).and_then(|table| table.get(key)).map_or_else(|| requirement.span.clone(), Spanned::span)
    }

    /// Where a table of the top has an entry: `role`, `value`, `place`, or `project` with a key.
    pub(super) fn entry(&self, section: &str, name: &str) -> Option<Range<usize>> {
        let table = self.tree.get(section)?.get_ref().as_table()?;
        table.get_key_value(name).map(|(key, _)| key.span())
    }

    /// Where a table of the top is named, or the start of the text.
    pub(super) fn section(&self, section: &str) -> Range<usize> {
        self.tree.get_key_value(section).map_or(0..0, |(key, _)| key.span())
    }

    /// The value of a key of `[project]`.
    pub(super) fn project(&self, key: &str) -> Option<&'g Spanned<DeValue<'g>>> {
        self.tree.get("project")?.get_ref().as_table()?.get(key)
    }

    /// The texts of a key of a stage, by the stage's index in the text.
    pub(super) fn stage(&self, number: usize, key: &str) -> Vec<Told<'g>> {
        let stages = self.tree.get("stage").and_then(|value| value.get_ref().as_array());
        let value = stages.and_then(|all| all.get(number)?.get_ref().as_table()?.get(key));
        value.map(texts).unwrap_or_default()
    }

    /// Every line that the guide tells people to type, with the requirement and the number of the fix.
    pub(super) fn commands(&self) -> impl Iterator<Item = (&'g Requirement, usize, Told<'g>)> {
        self.requirements().flat_map(move |(_, requirement)| {
            (0..requirement.fixes.len()).flat_map(move |number| {
                self.fix_texts(requirement, number, "run").into_iter().map(move |told| (requirement, number, told))
            })
        })
    }
}

/// One text, or a list of them.
fn texts<'g>(value: &'g Spanned<DeValue<'g>>) -> Vec<Told<'g>> {
    let one = |value: &'g Spanned<DeValue<'g>>| Some(Told { text: value.get_ref().as_str()?, span: value.span() });
    match value.get_ref().as_array() {
        Some(list) => list.iter().filter_map(one).collect(),
        None => one(value).into_iter().collect(),
    }
}
