//! Files, variables, libraries, settings, the working copy, commands and limits of a described machine.

use super::fields::{mode, named_texts, read_run, tables, texts};
use super::shape::{Contents, DescribedPath, Shape, resolve};
use crate::read::{EnvEntry, env_value, sets_variable};
use setup_ready_core::document::{Fields, MOST_TABLES, as_number, shortened};
use setup_ready_core::guide::LimitKind;
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{
    AccessDenied, Candidate, CheckoutState, FileType, LibraryState, LimitState, Observation, Offered, PathState, Pinned,
    StartupOutcome, Value, VariableState,
};
use setup_ready_core::problem::ProblemKind;
use setup_ready_core::text::{Pattern, Size};
use std::collections::HashMap;

impl Contents {
    fn put(&mut self, path: String, described: DescribedPath) {
        let small = self.small.entry(path.to_lowercase()).or_insert_with(|| path.clone());
        if path < *small {
            small.clone_from(&path);
        }
        let mut above = path.as_str();
        while let Some((folder, _)) = above.rsplit_once('/') {
            if !self.folders.insert(folder.to_owned()) {
                break;
            }
            above = folder;
        }
        self.paths.insert(path, described);
    }
}

pub(super) fn read(top: &Fields<'_>, shape: &mut Shape) {
    if let Some(fields) = top.table("environment", "environment") {
        shape.contents.environment = named_texts(&fields);
    }
    for (key, folder) in [("file", false), ("folder", true)] {
        for fields in tables(top, key) {
            if let Some(path) = fields.required("path") {
                let path = resolve(shape, path.value);
                let described = DescribedPath {
                    folder,
                    text: fields.owned("text").unwrap_or_default(),
                    mode: mode(&fields),
                    owner: fields.owned("owner"),
                    open_to: fields.has("open_to").then(|| texts(&fields, "open_to")),
                    writable: fields.flag("writable"),
                    executable: fields.flag("executable"),
                    link_to: fields.owned("link_to").map(|target| resolve(shape, &target)),
                };
                shape.contents.put(path, described);
            }
            fields.finish(|_| None);
        }
    }
    for fields in tables(top, "library") {
        if let Some(name) = fields.required("name").map(|name| name.value.to_owned()) {
            let version = fields.owned("version");
            let file = fields.owned("described_by").unwrap_or_else(|| format!("/usr/lib/pkgconfig/{name}.pc"));
            let state = LibraryState {
                description: version.map(|version| (file, version)),
                lacks: None,
                others: Vec::new(),
                loaded_from: fields.owned("loaded_from"),
            };
            shape.contents.libraries.insert(name, state);
        }
        fields.finish(|_| None);
    }
    super::component::read(top, shape);
    if let Some(fields) = top.table("settings", "settings") {
        shape.contents.settings = Some(named_texts(&fields));
    }
    if let Some(fields) = top.table("checkout", "checkout") {
        shape.contents.checkout = Some(CheckoutState {
            present: fields.flag("present").unwrap_or(true),
            branch: fields.owned("branch"),
            submodules: texts(&fields, "submodules_not_fetched"),
            large_files: texts(&fields, "large_files_not_fetched"),
            shallow: fields.flag("shallow").unwrap_or(false),
            no_tags: fields.flag("no_tags").unwrap_or(false),
            windows_ends: Some(
                fields.number("windows_line_ends").map_or(0, |number| usize::try_from(number.value).unwrap_or(usize::MAX)),
            ),
            changed: fields.number("changed").and_then(|number| usize::try_from(number.value).ok()).or(Some(0)),
            untracked: fields.number("untracked").map_or(0, |number| usize::try_from(number.value).unwrap_or(usize::MAX)),
            ..CheckoutState::default()
        });
        fields.finish(|_| None);
    }
    for fields in tables(top, "command") {
        let words: Vec<String> = fields.some_texts("words").into_iter().map(|word| word.value.to_owned()).collect();
        shape.contents.commands.insert(words, read_run(&fields));
        fields.finish(|_| None);
    }
    read_limits(top, shape);
    shape.contents.locales = top.has("locales").then(|| texts(top, "locales"));
    for (manager, fields) in top.named_tables("candidates", MOST_TABLES) {
        let known = Manager::from_word(manager.value);
        if known.is_none() {
            let message = format!("`{}` is not a package manager that is known here", shortened(manager.value));
            let wrong = (manager.value, Manager::WORDS);
            top.problems().unknown_word(ProblemKind::UnknownWord, manager.span.clone(), message, wrong);
        }
        let offers = offers(&fields);
        shape.contents.candidates.extend(known.map(|manager| (manager, offers)));
    }
}

/// Packages with their versions, or with what else their manager tells of them.
fn offers(fields: &Fields<'_>) -> HashMap<String, Offered> {
    let mut offers = HashMap::new();
    for (name, value) in fields.entries() {
        if let Some(version) = value.get_ref().as_str() {
            offers.insert(name.value.to_owned(), version.into());
        } else if let Some(fields) = fields.entry_table(value, "candidates") {
            let version = fields.required("version");
            let download = fields.read("download", Size::parse);
            let others = fields.number("others").and_then(|count| usize::try_from(count.value).ok());
            fields.finish(|_| None);
            if let Some(version) = version {
                let offered = Offered { download_bytes: download.map(|size| size.0), others, ..version.value.into() };
                offers.insert(name.value.to_owned(), offered);
            }
        } else {
            fields.problems().report(ProblemKind::WrongType, value.span(), "a version in quotes, or a table, stands here");
        }
    }
    offers
}

fn read_limits(top: &Fields<'_>, shape: &mut Shape) {
    let Some(fields) = top.table("limits", "limits") else { return };
    for (name, value) in fields.entries() {
        let inner = value.get_ref();
        let pair = inner.as_array().map(|list| list.iter().map(|one| as_number(one.get_ref())).collect::<Vec<_>>());
        let limit = match (as_number(inner), inner.as_bool(), inner.as_str(), pair.as_deref()) {
            (Some(number), ..) => Some(LimitState::Number(number, None)),
            (_, Some(able), ..) => Some(LimitState::Able(able)),
            (_, _, Some("unlimited"), _) => Some(LimitState::Unlimited),
            (_, _, _, Some([Some(now), most])) => Some(LimitState::Number(*now, *most)),
            _ => None,
        };
        let Some(kind) = LimitKind::from_word(name.value) else {
            let message = format!("`{}` is not a limit", shortened(name.value));
            let known = LimitKind::ALL.map(LimitKind::word);
            fields.problems().unknown_word(ProblemKind::UnknownWord, name.span.clone(), message, (name.value, &known));
            continue;
        };
        if let Some(limit) = limit {
            shape.contents.limits.insert(kind, limit);
        } else {
            let message = "a number, [now, most], \"unlimited\", or true or false stands here";
            fields.problems().report(ProblemKind::WrongType, value.span(), message);
        }
    }
}

fn shape_of(source: Option<&String>) -> Option<Pattern> {
    source.and_then(|source| Pattern::new(source).ok())
}

pub(super) fn path(shape: &Shape, path: &str, wanted: Option<&String>) -> Observation {
    Observation::Path(path_state(shape, path, shape_of(wanted).as_ref()))
}

/// Whether a file has a line.
pub(super) fn has_line(shape: &Shape, file: &str, line: &str) -> bool {
    shape.contents.paths.get(&resolve(shape, file)).is_some_and(|file| file.text.lines().any(|other| other.trim() == line))
}

pub(super) fn variable_answer(shape: &Shape, name: &str, env_file: Option<&str>, wanted: Option<&String>) -> Observation {
    Observation::Variable(variable(shape, name, env_file, shape_of(wanted).as_ref()))
}

pub(super) fn library(shape: &Shape, name: &str) -> Observation {
    let absent = LibraryState { description: None, lacks: None, others: Vec::new(), loaded_from: None };
    Observation::Library(shape.contents.libraries.get(name).cloned().unwrap_or(absent))
}

pub(super) fn setting(shape: &Shape, key: &str, wanted: Option<&String>) -> Option<Observation> {
    let value = shape.contents.settings.as_ref()?.get(key).map(|value| Value::of(value, shape_of(wanted).as_ref()));
    Some(Observation::Setting(value.unwrap_or(Value::Unset)))
}

/// The working copy, and of it what is asked for.
pub(super) fn checkout(shape: &Shape, submodules: bool, large_files: bool, clean: bool) -> Option<Observation> {
    let mut state = shape.contents.checkout.clone()?;
    if !submodules {
        state.submodules.clear();
    }
    if !large_files {
        state.large_files.clear();
    }
    state.changed = state.changed.filter(|_| clean);
    if !clean {
        state.untracked = 0;
    }
    Some(Observation::Checkout(state))
}

pub(super) fn command(shape: &Shape, words: &[String]) -> Option<Observation> {
    shape.contents.commands.get(words).cloned().map(Observation::Run)
}

pub(super) fn limit(shape: &Shape, name: LimitKind) -> Option<Observation> {
    shape.contents.limits.get(&name).copied().map(Observation::Limit)
}

pub(super) fn locales(shape: &Shape) -> Option<Observation> {
    shape.contents.locales.clone().map(Observation::Locales)
}

pub(super) fn candidate(shape: &Shape, manager: Manager, package: &str) -> Option<Observation> {
    let offered = shape.contents.candidates.get(&manager)?.get(package).cloned();
    Some(Observation::Candidate(offered.map_or(Candidate::Absent, Candidate::Version)))
}

pub(super) fn pinned(shape: &Shape, file: &str, tools: &[String], pattern: Option<&str>) -> Observation {
    Observation::Pinned(match shape.contents.paths.get(&resolve(shape, file)) {
        Some(path) => crate::pinned::version_in(file, &path.text, tools, pattern),
        None => Pinned::NoFile,
    })
}

fn variable(shape: &Shape, name: &str, env_file: Option<&str>, pattern: Option<&Pattern>) -> VariableState {
    let contents = &shape.contents;
    let environment = contents.environment.get(name).map_or(Value::Unset, |value| Value::of(value, pattern));
    let text = |path: &str| contents.paths.get(&resolve(shape, path)).map(|path| path.text.as_str());
    let said = env_file.and_then(text).and_then(|text| env_value(text, name));
    let line = said.as_ref().and_then(EnvEntry::only_line);
    let file = env_file.map(|file| match said {
        Some(entry) => (format!("{file}, line {}", entry.lines.start()), Value::of(&entry.value, pattern)),
        None => (file.to_owned(), Value::Unset),
    });
    let own = shape.account.as_ref().and_then(|account| account.startup_file.as_deref());
    let startup = own.into_iter().chain(["~/.profile"]).find(|path| text(path).is_some_and(|text| sets_variable(text, name)));
    VariableState {
        environment,
        file,
        line,
        of_another_system: false,
        leads_nowhere: false,
        startup: startup.filter(|_| environment == Value::Unset).map(ToOwned::to_owned),
        startup_line: None,
        fate: StartupOutcome::NewTerminal,
        kept_by: None,
    }
}

fn path_state(shape: &Shape, path: &str, pattern: Option<&Pattern>) -> PathState {
    let path = resolve(shape, path);
    let mut state = PathState::nothing(path.clone());
    let paths = &shape.contents.paths;
    let Some(described) = paths.get(&path) else {
        // A folder is there when something in it is.
        let known = path == shape.project || Some(&path) == shape.home.as_ref() || shape.contents.folders.contains(&path);
        if known {
            state.nature = FileType::Folder;
            state.executable = true;
            state.mine = Some(true);
            state.holds = pattern.map(|pattern| lists(paths.keys(), &path, pattern));
        } else {
            let alike = shape.contents.small.get(&path.to_lowercase());
            state.alike = alike.and_then(|other| other.rsplit('/').next()).map(ToOwned::to_owned);
            let example = [".example", ".sample", ".template", ".dist"].iter().map(|end| format!("{path}{end}"));
            let example = example.into_iter().find(|example| paths.contains_key(example));
            state.example = example.and_then(|example| example.rsplit('/').next().map(ToOwned::to_owned));
        }
        return state;
    };
    if let Some(target) = described.link_to.as_ref().filter(|target| !paths.contains_key(*target)) {
        state.nature = FileType::Dangling(target.clone());
        return state;
    }
    let user = shape.account.as_ref().and_then(|account| account.name.clone());
    let root = shape.account.as_ref().is_some_and(|account| account.root);
    let mine = described.owner.is_none() || described.owner == user;
    state.nature = if described.folder { FileType::Folder } else { FileType::File };
    let unix = shape.system.as_ref().is_none_or(|system| system.os != setup_ready_core::observation::Os::Windows);
    state.mode = described.mode.or(unix.then_some(if described.folder { 0o755 } else { 0o644 }));
    state.mine = Some(mine);
    state.open_to.clone_from(&described.open_to);
    state.owner = described.owner.clone().or(user);
    state.writable = described.writable.unwrap_or(mine || root);
    state.executable = described.executable.unwrap_or(described.folder || described.mode.is_some_and(|mode| mode & 0o111 != 0));
    state.holds = pattern
        .map(|pattern| if described.folder { lists(paths.keys(), &path, pattern) } else { pattern.matches(&described.text) });
    state
}

/// The first thing in a folder that is not the person's to change.
pub(super) fn within(shape: &Shape, folder: &str) -> Observation {
    let folder = resolve(shape, folder);
    let inside = |path: &&String| path.strip_prefix(&folder).is_some_and(|rest| rest.starts_with('/'));
    let states = shape.contents.paths.keys().filter(inside).map(|path| path_state(shape, path, None));
    let barrier = states.filter(|state| state.mine == Some(false) && !state.writable).min_by(|a, b| a.path.cmp(&b.path));
    Observation::Within(barrier.map(|state| AccessDenied { path: state.path, owner: state.owner, mine: false }))
}

fn lists<'p>(mut paths: impl Iterator<Item = &'p String>, folder: &str, pattern: &Pattern) -> bool {
    paths.any(|path| {
        let rest = path.strip_prefix(folder).and_then(|rest| rest.strip_prefix('/'));
        rest.and_then(|rest| rest.split('/').next()).is_some_and(|name| pattern.matches(name))
    })
}
