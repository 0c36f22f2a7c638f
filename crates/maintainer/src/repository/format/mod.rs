//! Texts of common formats as one kind of tree, whose every value knows its line. The parsers are kept ones; here is only what bounds them.

mod json;
mod toml;
mod yaml;

pub(super) use json::json;
pub(super) use toml::toml;
pub(super) use yaml::yaml;

/// More values than this are not read from one file, aliases of YAML counted as often as they are used.
const MOST_VALUES: usize = 200_000;
/// Nothing that people write lies deeper.
const DEEPEST: usize = 64;

/// Why a text could not be read, and in which line.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Unreadable {
    pub(super) line: usize,
    pub(super) reason: String,
}

/// A value and the line where it starts; of a text over several lines, the first of these.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Node {
    pub(super) line: usize,
    pub(super) value: Value,
}

#[derive(Debug, Clone, PartialEq)]
pub(super) enum Value {
    Text(String),
    List(Vec<Node>),
    Map(Vec<Entry>),
}

/// An entry of a mapping, with the line of its key.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Entry {
    pub(super) key: String,
    pub(super) line: usize,
    pub(super) node: Node,
}

impl Node {
    pub(super) fn entries(&self) -> &[Entry] {
        if let Value::Map(entries) = &self.value { entries } else { &[] }
    }

    pub(super) fn items(&self) -> &[Node] {
        if let Value::List(items) = &self.value { items } else { &[] }
    }

    pub(super) fn text(&self) -> Option<&str> {
        if let Value::Text(text) = &self.value { Some(text) } else { None }
    }

    pub(super) fn entry(&self, key: &str) -> Option<&Entry> {
        self.entries().iter().find(|entry| entry.key == key)
    }

    pub(super) fn get(&self, key: &str) -> Option<&Node> {
        self.entry(key).map(|entry| &entry.node)
    }

    /// The entry at the end of a path of keys.
    pub(super) fn at(&self, path: &[&str]) -> Option<&Entry> {
        let (last, before) = path.split_last()?;
        before.iter().try_fold(self, |node, key| node.get(key))?.entry(last)
    }

    /// One text or a list of them, each with its line.
    pub(super) fn texts(&self) -> Vec<(&str, usize)> {
        match &self.value {
            Value::Text(text) => vec![(text, self.line)],
            Value::List(items) => items.iter().filter_map(|item| Some((item.text()?, item.line))).collect(),
            Value::Map(_) => Vec::new(),
        }
    }
}

/// The number of the line in which a byte stands.
pub(super) fn line_at(text: &str, offset: usize) -> usize {
    text.get(..setup_ready_core::text::floor_char_boundary(text, offset)).unwrap_or(text).matches('\n').count() + 1
}

#[cfg(test)]
mod tests;
