//! Reading TOML by hand, key by key: what is taken is known, what is left over is a mistake.
//!
//! Guides and described machines are read with it, so both get the same messages.

use crate::prelude::*;
use crate::problem::{GuideError, Problem, ProblemKind, Problems};
use core::cell::RefCell;
use core::fmt::Display;
use core::ops::Range;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// The largest text that is read, in bytes. A guide of 10,000 requirements has about 2 MB.
pub const LARGEST_BYTES: usize = 4 << 20;

/// The most entries that a list or a table of tables may have, unless more is said.
pub const MOST_ENTRIES: usize = 1_000;

/// The most tables of one kind that a described machine may have.
pub const MOST_TABLES: usize = 10_000;

/// How deep values may lie in each other.
const DEEPEST: usize = 32;

/// A value with its place in the text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Placed<T> {
    /// The value.
    pub value: T,
    /// Where it stands, in bytes.
    pub span: Range<usize>,
}

/// Parses a text into its spanned tree.
///
/// # Errors
/// The problem of size, or up to three problems of syntax.
pub fn parse(text: &str) -> Result<Spanned<DeTable<'_>>, GuideError> {
    let problems = Problems::default();
    if text.len() > LARGEST_BYTES {
        let message = format!("this file has {} bytes; at most {LARGEST_BYTES} are read", text.len());
        problems.report(ProblemKind::TooLarge, 0..0, message);
        return Err(problems.into_mistakes(""));
    }
    let (table, errors) = DeTable::parse_recoverable(text);
    if errors.is_empty() {
        if let Some(span) = too_deep(&table) {
            problems.report(ProblemKind::TooLarge, span, format!("nested deeper than {DEEPEST} levels, which is not read"));
            return Err(problems.into_mistakes(text));
        }
        return Ok(table);
    }
    // One slip of the pen makes the parser stumble several times: the first three are enough.
    for error in errors.iter().take(3) {
        let span = error.span().unwrap_or(0..0);
        match error.message() {
            "recursion limit" | "cannot recurse further; max recursion depth met" => {
                problems.report(ProblemKind::TooLarge, span, format!("nested deeper than {DEEPEST} levels, which is not read"));
            }
            message => {
                let first = message.lines().next().unwrap_or("unreadable");
                problems.report(ProblemKind::Syntax, span, format!("this is not TOML: {first}"));
            }
        }
    }
    Err(problems.into_mistakes(text))
}

/// Where a value lies deeper than is read. The parser itself stops at 80 levels.
fn too_deep(table: &Spanned<DeTable<'_>>) -> Option<Range<usize>> {
    fn within(value: &Spanned<DeValue<'_>>, depth: usize) -> Option<Range<usize>> {
        if depth > DEEPEST {
            return Some(value.span());
        }
        match value.get_ref() {
            DeValue::Array(list) => list.iter().find_map(|value| within(value, depth + 1)),
            DeValue::Table(table) => table.values().find_map(|value| within(value, depth + 1)),
            DeValue::String(_) | DeValue::Integer(_) | DeValue::Float(_) | DeValue::Boolean(_) | DeValue::Datetime(_) => None,
        }
    }
    table.get_ref().values().find_map(|value| within(value, 1))
}

/// A table whose keys are taken one by one.
#[derive(Debug)]
pub struct Fields<'t> {
    table: &'t DeTable<'t>,
    span: Range<usize>,
    section: &'static str,
    name: &'t str,
    problems: &'t Problems,
    known: RefCell<Vec<&'t str>>,
}

impl<'t> Fields<'t> {
    /// The fields of the whole document.
    pub fn of_document(table: &'t Spanned<DeTable<'t>>, problems: &'t Problems) -> Self {
        Self::new((table.get_ref(), table.span()), "", "", problems)
    }

    fn new((table, span): (&'t DeTable<'t>, Range<usize>), section: &'static str, name: &'t str, problems: &'t Problems) -> Self {
        Self { table, span, section, name, problems, known: RefCell::new(Vec::with_capacity(32)) }
    }

    /// What a message calls this table: `[require.cmake]`.
    pub fn place(&self) -> String {
        match (self.section, self.name) {
            ("", _) => "the top of the file".to_owned(),
            (section, "") => format!("[{section}]"),
            (section, name) => format!("[{section}.{name}]"),
        }
    }

    /// Where the table starts.
    pub fn span(&self) -> Range<usize> {
        self.span.clone()
    }

    /// Where problems about these fields go.
    pub fn problems(&self) -> &'t Problems {
        self.problems
    }

    /// Whether the key is there, taking note that it is a known one.
    pub fn has(&self, key: &'static str) -> bool {
        self.raw(key).is_some()
    }

    /// Whether it has a key besides these: then a slip of the pen is told, and what lacks because of it is not.
    pub fn has_besides(&self, keys: &[&str]) -> bool {
        self.table.keys().any(|key| !keys.contains(&key.get_ref().as_ref()))
    }

    /// Passes a key over, because a better message about it was given.
    pub fn pass_over(&self, key: &'t str) {
        self.known.borrow_mut().push(key);
    }

    /// Every key, without taking it.
    pub fn keys(&self) -> impl Iterator<Item = &'t str> {
        self.table.keys().map(|key| key.get_ref().as_ref())
    }

    /// Where a key stands, or the table where it is missing.
    pub fn key_span(&self, key: &str) -> Range<usize> {
        self.table.get_key_value(key).map_or(self.span(), |(key, _)| key.span())
    }

    /// The value of a key, whatever its type.
    pub fn raw(&self, key: &'static str) -> Option<&'t Spanned<DeValue<'t>>> {
        self.known.borrow_mut().push(key);
        self.table.get(key)
    }

    /// A value read by the caller; `None` from it means another type, which is reported as "must be `wanted`".
    pub fn value<T>(
        &self,
        key: &'static str,
        wanted: &str,
        read: impl FnOnce(&'t DeValue<'t>) -> Option<T>,
    ) -> Option<Placed<T>> {
        let value = self.raw(key)?;
        let taken = read(value.get_ref());
        if taken.is_none() {
            let message = format!("`{key}` must be {wanted}, not {}", type_name(value.get_ref()));
            self.problems.report(ProblemKind::WrongType, value.span(), message);
        }
        taken.map(|taken| Placed { value: taken, span: value.span() })
    }

    /// A text.
    pub fn text(&self, key: &'static str) -> Option<Placed<&'t str>> {
        self.value(key, "text in quotes", DeValue::as_str)
    }

    /// A text of the caller's own.
    pub fn owned(&self, key: &'static str) -> Option<String> {
        self.text(key).map(|text| text.value.to_owned())
    }

    /// A text of the caller's own in one line: a title that held line ends could pass for words of ours.
    pub fn one_line(&self, key: &'static str) -> Option<String> {
        self.owned(key).map(|text| text.split_whitespace().collect::<Vec<_>>().join(" "))
    }

    /// A text that must be there and not be empty; what is missing is reported.
    pub fn required(&self, key: &'static str) -> Option<Placed<&'t str>> {
        if !self.has(key) {
            self.missing(key);
        }
        let text = self.text(key)?;
        if text.value.trim().is_empty() {
            self.problems.report(ProblemKind::BadValue, text.span, format!("`{key}` is empty"));
            return None;
        }
        Some(text)
    }

    /// Reports that a key is missing.
    pub fn missing(&self, key: &str) {
        self.problems.report(ProblemKind::MissingKey, self.span(), self.needs(key));
    }

    fn needs(&self, key: &str) -> String {
        format!("{} needs `{key}`", self.place())
    }

    /// `true` or `false`.
    pub fn flag(&self, key: &'static str) -> Option<bool> {
        self.value(key, "true or false", DeValue::as_bool).map(|flag| flag.value)
    }

    /// A whole number, zero or more.
    pub fn number(&self, key: &'static str) -> Option<Placed<u64>> {
        self.value(key, "a whole number", |value| as_number(value))
    }

    /// One text or a list of them.
    pub fn texts(&self, key: &'static str) -> Vec<Placed<&'t str>> {
        let Some(value) = self.raw(key) else { return Vec::new() };
        let wrong = |value: &Spanned<DeValue<'_>>| {
            let message = format!("`{key}` must be text or a list of texts, not {}", type_name(value.get_ref()));
            self.problems.report(ProblemKind::WrongType, value.span(), message);
        };
        let one = |value: &'t Spanned<DeValue<'t>>| {
            let text = value.get_ref().as_str().map(|text| Placed { value: text, span: value.span() });
            if text.is_none() {
                wrong(value);
            }
            text
        };
        match value.get_ref().as_array() {
            None => one(value).into_iter().collect(),
            Some(list) if self.is_too_long(key, list.len(), MOST_ENTRIES, value.span()) => Vec::new(),
            Some(list) => list.iter().filter_map(one).collect(),
        }
    }

    /// As [`Fields::texts`], where an empty list has no meaning and is reported.
    pub fn some_texts(&self, key: &'static str) -> Vec<Placed<&'t str>> {
        if let Some(value) = self.raw(key).filter(|value| value.get_ref().as_array().is_some_and(|list| list.is_empty())) {
            self.problems.report(ProblemKind::BadValue, value.span(), format!("`{key}` is an empty list"));
        }
        self.texts(key)
    }

    /// A text read by `read`, whose error is reported at the text.
    pub fn read<T, E: Display>(&self, key: &'static str, read: impl FnOnce(&str) -> Result<T, E>) -> Option<T> {
        let text = self.text(key)?;
        read(text.value).map_err(|error| self.problems.report(ProblemKind::BadValue, text.span, error.to_string())).ok()
    }

    /// One of a list of words.
    pub fn word<T: Clone>(&self, key: &'static str, words: &[(&str, T)]) -> Option<T> {
        let text = self.text(key)?;
        let found = words.iter().find(|(word, _)| *word == text.value).map(|(_, meaning)| meaning.clone());
        if found.is_none() {
            let known: Vec<&str> = words.iter().map(|(word, _)| *word).collect();
            let message = format!("`{key}` cannot be `{}`", shortened(text.value));
            self.problems.unknown_word(ProblemKind::UnknownWord, text.span, message, (text.value, &known));
        }
        found
    }

    /// The texts of a list, without a word about what is none: whoever reads the list itself tells that.
    pub fn listed(&self, key: &str) -> Vec<Placed<&'t str>> {
        let list = self.table.get(key).and_then(|value| value.get_ref().as_array());
        let text = |value: &'t Spanned<DeValue<'t>>| Some(Placed { value: value.get_ref().as_str()?, span: value.span() });
        list.into_iter().flat_map(|list| list.iter().take(MOST_ENTRIES)).filter_map(text).collect()
    }

    /// Whether a key has a table behind it.
    pub fn is_table(&self, key: &str) -> bool {
        self.table.get(key).is_some_and(|value| value.get_ref().is_table())
    }

    /// A table, called `section` in messages.
    pub fn table(&self, key: &'static str, section: &'static str) -> Option<Fields<'t>> {
        let table = self.value(key, "a table", DeValue::as_table)?;
        Some(Fields::new((table.value, table.span), section, "", self.problems))
    }

    /// Reports a list or a table of tables that has more entries than are read.
    fn is_too_long(&self, key: &str, length: usize, most: usize, span: Range<usize>) -> bool {
        if length > most {
            self.problems.report(ProblemKind::TooLarge, span, format!("`{key}` has {length} entries; at most {most} are read"));
        }
        length > most
    }

    /// A list of at most so many tables, called `section` in messages.
    pub fn tables(&self, key: &'static str, section: &'static str, most: usize) -> Vec<Fields<'t>> {
        let Some(list) = self.value(key, "a list of tables", DeValue::as_array) else { return Vec::new() };
        if self.is_too_long(key, list.value.len(), most, self.key_span(key)) {
            return Vec::new();
        }
        let mut tables = Vec::new();
        for value in list.value {
            if let Some(table) = value.get_ref().as_table() {
                tables.push(Fields::new((table, value.span()), section, "", self.problems));
            } else {
                self.problems.report(ProblemKind::WrongType, value.span(), format!("each `{key}` must be a table"));
            }
        }
        tables
    }

    /// The tables under `key` by name, at most so many, in the order of the text: `[require.cmake]`, `[require.ninja]`.
    pub fn named_tables(&self, key: &'static str, most: usize) -> Vec<(Placed<&'t str>, Fields<'t>)> {
        let Some(all) = self.value(key, "a table of tables", DeValue::as_table) else { return Vec::new() };
        if self.is_too_long(key, all.value.len(), most, self.key_span(key)) {
            return Vec::new();
        }
        let mut tables = Vec::with_capacity(all.value.len());
        for (name, value) in all.value {
            let placed = Placed { value: name.get_ref().as_ref(), span: name.span() };
            if let Some(table) = value.get_ref().as_table() {
                let fields = Fields::new((table, name.span()), key, placed.value, self.problems);
                tables.push((placed, fields));
            } else {
                let message = format!("`{key}.{}` must be a table, not {}", shortened(placed.value), type_name(value.get_ref()));
                self.problems.report(ProblemKind::WrongType, value.span(), message);
            }
        }
        tables.sort_by_key(|(name, _)| name.span.start);
        tables
    }

    /// The table that an entry of this one is, called `section` in messages.
    pub fn entry_table(&self, value: &'t Spanned<DeValue<'t>>, section: &'static str) -> Option<Fields<'t>> {
        Some(Fields::new((value.get_ref().as_table()?, value.span()), section, "", self.problems))
    }

    /// All keys with their values, in the order of the text, for a table whose keys are free.
    pub fn entries(&self) -> Vec<(Placed<&'t str>, &'t Spanned<DeValue<'t>>)> {
        let place = |(key, value): (&'t Spanned<_>, _)| {
            let text: &'t toml::de::DeString<'t> = key.get_ref();
            (Placed { value: text.as_ref(), span: key.span() }, value)
        };
        let mut entries: Vec<_> = self.table.iter().map(place).collect();
        entries.sort_by_key(|(key, _)| key.span.start);
        entries
    }

    /// Reports every key that nobody took, with the nearest known word, or with what `elsewhere` says about it.
    pub fn finish(self, elsewhere: impl Fn(&str) -> Option<String>) {
        let known = self.known.borrow();
        for key in self.table.keys() {
            let name = key.get_ref().as_ref();
            if known.contains(&name) {
                continue;
            }
            let message = format!("`{}` is not a key of {}", shortened(name), self.place());
            if let Some(note) = elsewhere(name) {
                self.problems.add(Problem {
                    kind: ProblemKind::UnknownKey,
                    span: key.span(),
                    message,
                    note: Some(note),
                    replacement: None,
                });
            } else {
                self.problems.unknown_word(ProblemKind::UnknownKey, key.span(), message, (name, &known));
                // What lacks only because of this slip is told by it.
                if let Some(meant) = crate::text::nearest(name, known.iter().copied()) {
                    self.problems.forget(ProblemKind::MissingKey, &self.needs(meant));
                }
            }
        }
    }
}

/// A whole number, zero or more.
pub fn as_number(value: &DeValue<'_>) -> Option<u64> {
    let integer = value.as_integer()?;
    u64::from_str_radix(integer.as_str(), integer.radix()).ok()
}

fn type_name(value: &DeValue<'_>) -> &'static str {
    match value {
        DeValue::String(_) => "text",
        DeValue::Integer(number) if number.as_str().starts_with('-') => "a negative number",
        DeValue::Integer(_) => "a number",
        DeValue::Float(_) => "a fraction",
        DeValue::Boolean(_) => "true or false",
        DeValue::Datetime(_) => "a date",
        DeValue::Array(_) => "a list",
        DeValue::Table(_) => "a table",
    }
}

/// At most 60 characters of a stranger's word.
pub fn shortened(text: &str) -> String {
    shortened_to(text, 60)
}

/// The first so many characters of a text.
pub fn shortened_to(text: &str, most: usize) -> String {
    let mut short: String = text.chars().take(most).collect();
    if short.len() < text.len() {
        short.push('…');
    }
    short
}
