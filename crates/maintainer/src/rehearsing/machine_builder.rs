//! A described machine while it is being made: the tables of its file, changed until they are what is wanted.

use setup_ready_core::draft::quoted;
use setup_ready_core::problem::GuideError;
use setup_ready_observe::Described;
use std::collections::BTreeMap;
use std::fmt::Write;

/// Keys with their values, which are TOML already.
type Keys = BTreeMap<String, String>;

/// The file of a machine, in parts.
#[derive(Debug, Clone, Default)]
pub(crate) struct MachineBuilder {
    top: Keys,
    tables: BTreeMap<String, Keys>,
    /// Lists of tables, each entry with the value of its first key.
    lists: BTreeMap<String, BTreeMap<String, Keys>>,
}

/// A text in TOML.
pub(super) fn text(value: &str) -> String {
    quoted(value)
}

/// A list of texts in TOML.
pub(super) fn texts<T: AsRef<str>>(values: &[T]) -> String {
    format!("[{}]", values.iter().map(|value| quoted(value.as_ref())).collect::<Vec<_>>().join(", "))
}

impl MachineBuilder {
    /// Sets a key that belongs to no table.
    pub(super) fn top(&mut self, key: &str, value: impl Into<String>) {
        self.top.insert(key.to_owned(), value.into());
    }

    /// Sets a key of a table; the key may be any text.
    pub(super) fn set(&mut self, table: &str, key: &str, value: impl Into<String>) {
        self.tables.entry(table.to_owned()).or_default().insert(key.to_owned(), value.into());
    }

    /// Has a table, be it empty.
    pub(super) fn table(&mut self, table: &str) {
        self.tables.entry(table.to_owned()).or_default();
    }

    /// Takes a key of a table away.
    pub(super) fn unset(&mut self, table: &str, key: &str) {
        if let Some(keys) = self.tables.get_mut(table) {
            keys.remove(key);
        }
    }

    /// The value of a key, as it was set.
    pub(super) fn get(&self, table: &str, key: &str) -> Option<&str> {
        self.tables.get(table)?.get(key).map(String::as_str)
    }

    /// Takes a table away.
    pub(super) fn without(&mut self, table: &str) {
        self.tables.remove(table);
    }

    /// Puts an entry into a list of tables, in the place of one that has the same name.
    pub(super) fn put(&mut self, list: &str, (key, name): (&str, &str), fields: &[(&str, String)]) {
        let mut keys: Keys = fields.iter().map(|(key, value)| ((*key).to_owned(), value.clone())).collect();
        keys.insert(key.to_owned(), quoted(name));
        self.lists.entry(list.to_owned()).or_default().insert(name.to_owned(), keys);
    }

    /// The same for an entry that is named by a number.
    pub(super) fn put_number(&mut self, list: &str, (key, number): (&str, u64), fields: &[(&str, String)]) {
        let mut keys: Keys = fields.iter().map(|(key, value)| ((*key).to_owned(), value.clone())).collect();
        keys.insert(key.to_owned(), number.to_string());
        self.lists.entry(list.to_owned()).or_default().insert(number.to_string(), keys);
    }

    /// The same for an entry that has a name only here.
    pub(super) fn put_words(&mut self, list: &str, name: &str, fields: &[(&str, String)]) {
        let keys: Keys = fields.iter().map(|(key, value)| ((*key).to_owned(), value.clone())).collect();
        self.lists.entry(list.to_owned()).or_default().insert(name.to_owned(), keys);
    }

    /// Takes an entry out of a list.
    pub(super) fn drop(&mut self, list: &str, name: &str) {
        if let Some(entries) = self.lists.get_mut(list) {
            entries.remove(name);
        }
    }

    /// Takes all entries out of a list that this says of.
    pub(super) fn drop_where(&mut self, list: &str, is_one: impl Fn(&BTreeMap<String, String>) -> bool) {
        if let Some(entries) = self.lists.get_mut(list) {
            entries.retain(|_, entry| !is_one(entry));
        }
    }

    /// Changes each entry of a list.
    pub(super) fn for_each(&mut self, list: &str, mut change: impl FnMut(&mut BTreeMap<String, String>)) {
        for entry in self.lists.get_mut(list).into_iter().flat_map(BTreeMap::values_mut) {
            change(entry);
        }
    }

    /// Takes all entries out of a list whose names this says of.
    pub(super) fn drop_all(&mut self, list: &str, is_one: impl Fn(&str) -> bool) {
        if let Some(entries) = self.lists.get_mut(list) {
            entries.retain(|name, _| !is_one(name));
        }
    }

    /// An entry of a list, to be changed.
    pub(super) fn entry(&mut self, list: &str, name: &str) -> Option<&mut BTreeMap<String, String>> {
        self.lists.get_mut(list)?.get_mut(name)
    }

    /// Whether a list has an entry of this name.
    pub(super) fn has(&self, list: &str, name: &str) -> bool {
        self.lists.get(list).is_some_and(|entries| entries.contains_key(name))
    }

    /// The file.
    pub(super) fn file(&self) -> String {
        let mut file = String::from("format = 1\n");
        let keys = |file: &mut String, keys: &Keys| {
            for (key, value) in keys {
                let _ = writeln!(file, "{} = {value}", quoted(key));
            }
        };
        keys(&mut file, &self.top);
        for (name, table) in &self.tables {
            let _ = writeln!(file, "\n[{name}]");
            keys(&mut file, table);
        }
        for (name, entries) in &self.lists {
            for entry in entries.values() {
                let _ = writeln!(file, "\n[[{name}]]");
                keys(&mut file, entry);
            }
        }
        file
    }

    /// The machine.
    ///
    /// # Errors
    /// When what was put together is no description.
    pub(crate) fn machine(&self) -> Result<Described, GuideError> {
        Described::parse(&self.file())
    }
}
