//! Where readers put what they find.

use super::format::Unreadable;
use super::names::Names;
use setup_ready_core::guide::Language;
use setup_ready_core::manager::Manager;
use setup_ready_core::statement::{Confidence, Place, Provided, Restriction, Statement, Topic, canonical, package_provides};
use std::cell::RefCell;
use std::sync::Arc;

/// A file of the repository.
#[derive(Debug, Clone, Copy)]
pub(super) struct Source<'r> {
    /// From the root of the repository, with `/` between folders.
    pub(super) path: &'r str,
    pub(super) text: &'r str,
    /// What else is there.
    pub(super) names: &'r Names,
}

impl Source<'_> {
    pub(super) fn name(&self) -> &str {
        self.path.rsplit('/').next().unwrap_or(self.path)
    }

    /// The folder, with a `/` at its end where it is not the root.
    pub(super) fn folder(&self) -> &str {
        self.path.rfind('/').and_then(|at| self.path.get(..=at)).unwrap_or("")
    }

    /// Whether a file of this name lies beside it.
    pub(super) fn has_beside(&self, name: &str) -> bool {
        self.names.has(&format!("{}{name}", self.folder()))
    }
}

/// What a reader comes to.
pub(super) type Read = Result<(), Unreadable>;

/// What was found so far in one file.
#[derive(Debug)]
pub(super) struct StatementSink {
    file: Arc<str>,
    found: RefCell<Vec<Statement>>,
    /// What limits all that is said now.
    limits: RefCell<Vec<Restriction>>,
    /// As firm as anything may be now.
    softened: RefCell<usize>,
}

/// How to say one thing.
#[derive(Debug, Clone, Default)]
pub(super) struct As {
    pub(super) line: usize,
    pub(super) item: String,
    pub(super) range: Option<String>,
}

impl From<usize> for As {
    fn from(line: usize) -> Self {
        Self { line, ..Self::default() }
    }
}

impl From<(usize, &str)> for As {
    fn from((line, item): (usize, &str)) -> Self {
        Self { line, item: item.to_owned(), range: None }
    }
}

impl From<(usize, &str, Option<String>)> for As {
    fn from((line, item, range): (usize, &str, Option<String>)) -> Self {
        Self { line, item: item.to_owned(), range: range.filter(|range| !range.is_empty()) }
    }
}

impl StatementSink {
    pub(super) fn of(file: &str) -> Self {
        Self { file: file.into(), found: RefCell::default(), limits: RefCell::default(), softened: RefCell::default() }
    }

    /// Everything, without what says the same of the same again.
    pub(super) fn into_statements(self) -> Vec<Statement> {
        self.found.into_inner()
    }

    /// Says what is said meanwhile only with this limit.
    pub(super) fn only<T>(&self, limit: Option<Restriction>, say: impl FnOnce() -> T) -> T {
        let limited = limit.is_some();
        self.limits.borrow_mut().extend(limit);
        let result = say();
        if limited {
            self.limits.borrow_mut().pop();
        }
        result
    }

    /// Says what is said meanwhile only with all of these.
    pub(super) fn only_all(&self, limits: &[Restriction], say: &dyn Fn()) {
        match limits.split_first() {
            Some((first, rest)) => self.only(Some(first.clone()), || self.only_all(rest, say)),
            None => say(),
        }
    }

    /// Says what is said meanwhile only as mentioned.
    pub(super) fn softly<T>(&self, soft: bool, say: impl FnOnce() -> T) -> T {
        *self.softened.borrow_mut() += usize::from(soft);
        let result = say();
        *self.softened.borrow_mut() -= usize::from(soft);
        result
    }

    fn add(&self, mut statement: Statement) {
        let limits = self.limits.borrow();
        // What no guide can say goes before what it can.
        let otherwise = limits.iter().find(|limit| matches!(limit, Restriction::Text(_)));
        let whens: Vec<&str> = limits
            .iter()
            .filter_map(|limit| if let Restriction::When(when) = limit { Some(when.as_str()) } else { None })
            .collect();
        if let Some(otherwise) = otherwise {
            statement.only = Some(otherwise.clone());
        } else if let Some(when) = all_of(&whens) {
            statement.only = Some(Restriction::When(when));
        }
        if otherwise.is_some() || *self.softened.borrow() > 0 {
            statement.firmness = Confidence::Mentioned;
        }
        let mut found = self.found.borrow_mut();
        let same = |one: &Statement| {
            one.topic == statement.topic
                && one.range == statement.range
                && one.only == statement.only
                && one.package == statement.package
                && one.variable == statement.variable
                && one.firmness <= statement.firmness
        };
        if !found.iter().rev().take(MOST_COMPARED).any(same) {
            found.push(statement);
        }
    }

    pub(super) fn topic(&self, topic: Topic, firmness: Confidence, how: impl Into<As>) {
        self.with(topic, firmness, how, |_| {});
    }

    pub(super) fn with(&self, topic: Topic, firmness: Confidence, how: impl Into<As>, change: impl FnOnce(&mut Statement)) {
        let how = how.into();
        let place = Place { file: self.file.clone(), line: how.line.max(1), item: how.item };
        let mut statement = Statement { range: how.range, ..Statement::new(topic, firmness, place) };
        change(&mut statement);
        self.add(statement);
    }

    /// A program, under the name that people know.
    pub(super) fn tool(&self, name: &str, firmness: Confidence, how: impl Into<As>) {
        if is_name(name) {
            self.topic(Topic::Tool(canonical(name).to_owned()), firmness, how);
        }
    }

    /// A library, by the name that pkg-config knows.
    pub(super) fn library(&self, name: &str, firmness: Confidence, how: impl Into<As>) {
        if is_name(name) {
            self.topic(Topic::Library(name.to_owned()), firmness, how);
        }
    }

    pub(super) fn module(&self, language: Language, name: &str, firmness: Confidence, how: impl Into<As>) {
        if is_name(name) {
            self.topic(Topic::Module(language, name.to_owned()), firmness, how);
        }
    }

    /// A package, as what it brings.
    pub(super) fn package(&self, manager: Manager, name: &str, firmness: Confidence, how: impl Into<As>) {
        let how = how.into();
        let told = |statement: &mut Statement| statement.package = Some((manager, name.to_owned()));
        match package_provides(manager, name) {
            Provided::Topics(topics) => {
                for topic in topics {
                    self.with(topic, firmness, how.clone(), told);
                }
            }
            Provided::Unknown if is_name(name) => self.with(Topic::Package(manager, name.to_owned()), firmness, how, told),
            Provided::Unknown | Provided::Nothing => {}
        }
    }

    /// A variable of an example file.
    pub(super) fn variable(&self, name: &str, secret: bool, line: usize, env_file: &str) {
        self.with(Topic::Variable(name.to_owned()), Confidence::Mentioned, line, |statement| {
            statement.secret = secret;
            statement.env_file = Some(env_file.to_owned());
        });
    }
}

/// What was said longer ago in a file is not compared, so that the time stays in step with its size.
const MOST_COMPARED: usize = 400;

/// Whether a text can be a name of anything here: no variable, no pattern, no path, no option.
pub(super) fn is_name(name: &str) -> bool {
    let right = |c: char| c.is_ascii_alphanumeric() || "-_.+@".contains(c);
    name.starts_with(|c: char| c.is_ascii_alphanumeric()) && name.len() <= 80 && name.chars().all(right)
}

/// Several conditions as one; none for none. One of a system says more than that it is not another.
fn all_of(whens: &[&str]) -> Option<String> {
    let mut all: Vec<&str> = Vec::new();
    for when in whens {
        if !all.contains(when) {
            all.push(when);
        }
    }
    let one_system = all.iter().any(|when| setup_ready_core::observation::Os::from_word(when).is_some());
    all.retain(|when| !(one_system && when.starts_with("not ")));
    if all.is_empty() { None } else { Some(all.join(" and ")) }
}
