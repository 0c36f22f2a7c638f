//! Values that a project lets people move: stated once, used wherever a text stands, and followed where they were moved to.

use super::names;
use super::placeholder::{Placeholder, pieces};
use super::reading::check_id;
use crate::document::{Fields, MOST_ENTRIES, as_number, shortened};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use alloc::collections::BTreeMap;
use core::net::IpAddr;
use toml::de::{DeArray, DeString, DeTable, DeValue};

/// `[value.ID]`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Value {
    /// Its id.
    pub id: String,
    /// What the project uses unless told otherwise.
    pub is: String,
    /// What kind of thing it is, by that.
    pub shape: ValueShape,
    /// What tells it otherwise.
    pub set_by: SetBy,
}

/// Where a project lets one set something: the environment first, then the `.env`-style file, then the other file.
#[derive(Debug, Clone, Default, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[non_exhaustive]
pub struct SetBy {
    /// The environment variable, and the key of the `.env`-style file.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub variable: Option<String>,
    /// A `.env`-style file that may hold it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub env_file: Option<String>,
    /// A file of the project in another format, and the key in it, with dots between its parts.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub entry: Option<(String, String)>,
}

impl SetBy {
    /// A variable, which a `.env`-style file may hold too.
    pub fn variable(name: impl Into<String>, env_file: Option<String>) -> Self {
        Self { variable: Some(name.into()), env_file, entry: None }
    }

    /// What people call it: the variable, or the key.
    pub fn name(&self) -> &str {
        self.variable.as_deref().or(self.entry.as_ref().map(|(_, key)| key.as_str())).unwrap_or_default()
    }

    /// The files of the project that may hold it.
    pub fn files(&self) -> impl Iterator<Item = &str> {
        self.env_file.as_deref().into_iter().chain(self.entry.as_ref().map(|(file, _)| file.as_str()))
    }
}

/// What kind of thing a value is. Only what has the kind of what the guide states is followed, and shown: so no secret can be read by way of a value.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum ValueShape {
    /// A number from 1 to 65535.
    Number,
    /// An IP address.
    Address,
    /// A network, such as `10.77.0.0/24`.
    Network,
    /// The name of a host: of this machine, or one whose last two parts are those of this name.
    Host(String),
    /// A path that begins with `/`, `~`, `.` or a drive.
    Path,
}

/// The names that only ever lead to this machine or its own network (RFC 6761, RFC 6762, RFC 8375, and the one reserved in 2024).
const OWN_NAMES: [&str; 5] = [".test", ".localhost", ".local", ".home.arpa", ".internal"];

impl ValueShape {
    /// The shape of what a guide states; none where it has none of them.
    pub fn of(is: &str) -> Option<Self> {
        // A word without a dot may be anything, also a secret.
        let host = (is == "localhost" || is.contains('.')).then(|| Self::Host(is.to_owned()));
        let shapes = [Self::Number, Self::Address, Self::Network, Self::Path];
        shapes.into_iter().chain(host).find(|shape| shape.fits(is))
    }

    /// Whether a text has it.
    pub fn fits(&self, text: &str) -> bool {
        match self {
            Self::Number => text.parse::<u16>().is_ok_and(|number| number > 0) && text.bytes().all(|byte| byte.is_ascii_digit()),
            Self::Address => text.parse::<IpAddr>().is_ok(),
            Self::Network => text.split_once('/').is_some_and(|(address, prefix)| {
                address.parse::<IpAddr>().is_ok() && prefix.parse::<u8>().is_ok_and(|prefix| prefix <= 128)
            }),
            Self::Path => is_path(text),
            Self::Host(stated) => {
                let own = text == "localhost"
                    || text.parse::<IpAddr>().is_ok_and(|address| address.is_loopback())
                    || OWN_NAMES.iter().any(|end| text.ends_with(end));
                let beside = last_two(text).is_some_and(|parts| last_two(stated) == Some(parts));
                is_host(text) && (text == stated || own || beside)
            }
        }
    }

    /// What it must be, in words.
    pub fn words(&self) -> &'static str {
        match self {
            Self::Number => "a number from 1 to 65535",
            Self::Address => "an IP address",
            Self::Network => "a network, such as 10.77.0.0/24",
            Self::Host(_) => "the name of a host: of this machine, or one that ends as the guide's does",
            Self::Path => "a path of letters, digits and ._-+@/ that begins with /, ~/ or ./",
        }
    }
}

/// Nothing that a shell could take for anything but a part of a name.
fn is_path(text: &str) -> bool {
    let begins = text.starts_with(['/', '.']) || text == "~" || text.starts_with("~/");
    let drive = text.as_bytes().get(1) == Some(&b':') && text.starts_with(|c: char| c.is_ascii_alphabetic());
    let rest = text.get(if drive { 2 } else { 0 }..).unwrap_or_default().trim_start_matches('~');
    let right = |c: char| c.is_alphanumeric() || "._-+@/\\".contains(c);
    (begins || drive) && text.len() <= 200 && rest.chars().all(right)
}

fn is_host(text: &str) -> bool {
    let right = |c: char| c.is_ascii_alphanumeric() || c == '-' || c == '.';
    text.starts_with(|c: char| c.is_ascii_alphanumeric()) && text.len() <= 253 && text.chars().all(right)
}

/// The last two parts of a name of three or more.
fn last_two(name: &str) -> Option<(&str, &str)> {
    let mut parts = name.rsplit('.');
    Some((parts.next()?, parts.next()?)).filter(|_| parts.next().is_some())
}

/// Reads `[value.ID]`.
pub(super) fn read(top: &Fields<'_>) -> Vec<Value> {
    top.named_tables("value", MOST_ENTRIES)
        .into_iter()
        .filter_map(|(name, fields)| {
            check_id(&name, top.problems());
            let is_word = name.value.len() <= 20 && name.value.bytes().all(|byte| byte.is_ascii_lowercase() || byte == b'-');
            let taken = Placeholder::ALL.iter().any(|word| word.word() == name.value);
            if taken || !is_word {
                let why = if taken {
                    "fixes fill in something else for it"
                } else {
                    "it stands in braces: up to 20 small letters and `-`"
                };
                bad(&fields, name.span.clone(), format!("`{}` cannot be the id of a value: {why}", shortened(name.value)));
            }
            let value = one(name.value, &fields);
            fields.finish(|_| None);
            value
        })
        .collect()
}

fn one(id: &str, fields: &Fields<'_>) -> Option<Value> {
    let set_by = set_by(fields);
    if !fields.has("is") {
        fields.missing("is");
    }
    let is = fields.value("is", "a text or a whole number", |value| {
        value.as_str().map(ToOwned::to_owned).or_else(|| as_number(value).map(|number| number.to_string()))
    })?;
    let Some(shape) = ValueShape::of(&is.value) else {
        let message = format!(
            "`{}` is none of what a value may be: a number from 1 to 65535, an IP address, a network, a host name with a dot or `localhost`, \
             or a path that begins with `/`, `~/` or `./`",
            shortened(&is.value)
        );
        bad(fields, is.span, message);
        return None;
    };
    Some(Value { id: id.to_owned(), is: is.value, shape, set_by })
}

/// Formats whose keys can be found.
pub(crate) const FORMATS: [&str; 5] = ["toml", "json", "yaml", "yml", "properties"];

/// Where a value may be set.
fn set_by(fields: &Fields<'_>) -> SetBy {
    let variable = if fields.has("variable") { names::variable(fields) } else { None };
    let env_file = names::project_file(fields, "env_file");
    let (file, key) = (names::project_file(fields, "file"), fields.owned("key"));
    let slipped = fields.has_besides(&["is", "variable", "env_file", "file", "key"]);
    if fields.has("env_file") && !fields.has("variable") && !slipped {
        bad(fields, fields.key_span("env_file"), "`env_file` needs `variable`, the name in it");
    }
    if fields.has("file") != fields.has("key") && !slipped {
        let (has, lacks) = if fields.has("file") { ("file", "key") } else { ("key", "file") };
        bad(
            fields,
            fields.key_span(has),
            format!("`{has}` needs `{lacks}`: the file of the project, and the key in it, such as `server.port`"),
        );
    }
    if let Some(file) = &file {
        let format = file.rsplit_once('.').map_or("", |(_, end)| end);
        if !FORMATS.contains(&format) {
            bad(fields, fields.key_span("file"), format!("keys are found in files that end in .{}", FORMATS.join(", .")));
        }
    }
    if !slipped && variable.is_none() && file.is_none() && !fields.has("variable") && !fields.has("file") {
        bad(
            fields,
            fields.span(),
            format!("{} says nothing that moves it: a `variable`, or a `file` with a `key`", fields.place()),
        );
    }
    SetBy { variable, env_file, entry: file.zip(key) }
}

fn bad(fields: &Fields<'_>, span: core::ops::Range<usize>, message: impl Into<String>) {
    fields.problems().report(ProblemKind::BadValue, span, message);
}

/// The values that each requirement uses, and the one that its port is.
#[derive(Debug, Default)]
pub(super) struct Uses {
    pub(super) values: Vec<usize>,
    pub(super) port: Option<usize>,
}

/// In these, braces are signs of patterns.
const PATTERNS: [&str; 5] = ["matches", "contains", "pattern", "means", "example"];
/// In these, a word in braces can only be a value.
const NAMES: [&str; 15] = [
    "port",
    "service",
    "http",
    "reach",
    "hostname",
    "points_to",
    "address",
    "subnet",
    "at",
    "file",
    "folder",
    "socket",
    "device",
    "env_file",
    "by",
];

/// Puts values in the place of their ids, wherever a requirement, a stage or the project speaks of them.
pub(super) fn fill_in(
    tree: &mut DeTable<'_>,
    values: &[Value],
    settings: &[String],
    problems: &Problems,
) -> BTreeMap<String, Uses> {
    let mut all = BTreeMap::new();
    let filling = Filling { in_fix: false, values, settings, problems };
    let Some(DeValue::Table(requirements)) = tree.get_mut("require").map(toml::Spanned::get_mut) else { return all };
    for (name, requirement) in requirements.iter_mut() {
        let DeValue::Table(table) = requirement.get_mut() else { continue };
        let mut uses = Uses::default();
        filling.table(table, &mut uses);
        all.insert(name.get_ref().to_string(), uses);
    }
    let mut uses = Uses::default();
    for key in ["stage", "project"] {
        if let Some(value) = tree.get_mut(key) {
            filling.value(key, value, &mut uses);
        }
    }
    all
}

#[derive(Clone, Copy)]
struct Filling<'v> {
    /// References of fixes stand for other things too.
    in_fix: bool,
    values: &'v [Value],
    settings: &'v [String],
    problems: &'v Problems,
}

impl Filling<'_> {
    fn table(&self, table: &mut DeTable<'_>, uses: &mut Uses) {
        for (key, value) in table.iter_mut() {
            let key: &str = key.get_ref().as_ref();
            if !PATTERNS.contains(&key) {
                Self { in_fix: self.in_fix || key == "fix", ..*self }.value(key, value, uses);
            }
        }
    }

    fn value(&self, key: &str, value: &mut toml::Spanned<DeValue<'_>>, uses: &mut Uses) {
        let span = value.span();
        match value.get_mut() {
            DeValue::Table(table) => self.table(table, uses),
            DeValue::Array(list) => self.list(key, list, uses),
            DeValue::String(text) => {
                if let Some(filled) = self.text(key, text, span, uses) {
                    *text = filled;
                }
            }
            DeValue::Integer(_) | DeValue::Float(_) | DeValue::Boolean(_) | DeValue::Datetime(_) => {}
        }
    }

    fn list(&self, key: &str, list: &mut DeArray<'_>, uses: &mut Uses) {
        list.iter_mut().for_each(|value| self.value(key, value, uses));
    }

    fn text<'t>(&self, key: &str, text: &str, span: core::ops::Range<usize>, uses: &mut Uses) -> Option<DeString<'t>> {
        if !text.contains('{') {
            return None;
        }
        let mut filled = String::new();
        let mut any = false;
        for piece in pieces(text) {
            match piece {
                Err(plain) => filled.push_str(plain),
                Ok(word) => {
                    if let Some(index) = self.values.iter().position(|value| value.id == word) {
                        any = true;
                        uses.values.push(index);
                        filled.push_str(self.settings.get(index).map_or("", String::as_str));
                        if key == "port" && text.len() == word.len() + 2 {
                            uses.port = Some(index);
                        }
                    } else {
                        filled.extend(["{", word, "}"]);
                        if NAMES.contains(&key) && !self.in_fix {
                            let known: Vec<&str> = self.values.iter().map(|value| value.id.as_str()).collect();
                            let message = format!("`{{{word}}}` names no value of this guide");
                            self.problems.unknown_word(ProblemKind::UnknownWord, span.clone(), message, (word, &known));
                            any = true;
                        }
                    }
                }
            }
        }
        uses.values.sort_unstable();
        uses.values.dedup();
        any.then(|| filled.into())
    }
}
