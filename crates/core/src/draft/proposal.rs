//! One requirement that a repository suggests, with where it says so.

#![allow(clippy::wildcard_enum_match_arm, reason = "only a few topics differ from the rest")]

use crate::catalogue::libraries::Numbering;
use crate::catalogue::{self, libraries};
use crate::guide::Language;
use crate::observation::Os;
use crate::prelude::*;
use crate::statement::{Confidence, Merged, Statement, Topic};
use crate::text::Sanitised;
use crate::version::Range;
use core::fmt::Write;

/// Whether a requirement is in force.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Standing {
    /// It is.
    Live,
    /// A person has to say.
    Perhaps,
}

/// Where in the order of work it belongs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Stage {
    /// What is installed on the machine.
    Tools,
    /// The copy of the project and its settings.
    Project,
    /// What the project's services take.
    Services,
}

impl Stage {
    /// Its id and its heading.
    pub fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Tools => ("tools", "The tools"),
            Self::Project => ("project", "Your copy of the project"),
            Self::Services => ("services", "What the services need"),
        }
    }
}

/// One requirement that a repository suggests.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Proposal {
    /// Its id.
    pub id: String,
    /// What it is about.
    pub topic: Topic,
    /// Whether it is in force.
    pub standing: Standing,
    /// Where it belongs.
    pub stage: Stage,
    /// What to know of it, as comments: contradictions, what is used, what is left to a person.
    pub notes: Vec<String>,
    /// Where the repository says so.
    pub sources: Vec<String>,
    /// Its keys with their values, as TOML.
    pub keys: Vec<(&'static str, String)>,
}

impl Proposal {
    /// Tells that only one of several ways to build asks for it: nobody but a person knows which of them newcomers go.
    pub(super) fn is_one_way(&mut self, ways: &[&str]) {
        if self.standing == Standing::Live && !self.keys.iter().any(|(key, _)| *key == "level") {
            let ways: Vec<String> = ways.iter().map(ToString::to_string).collect();
            let all = crate::text::join_words(&ways, "or");
            self.notes.push(format!("It can be built with {all}; only one of these asks for this."));
            self.keys.push(("level", quoted("should")));
        }
    }

    /// The tool whose interpreter it is about.
    pub(super) fn interpreter(&self) -> Option<&'static str> {
        match &self.topic {
            Topic::Module(language, _) | Topic::Headers(language) => Some(interpreter(*language)),
            _ => None,
        }
    }
}

/// The program that runs a language, which is also the id of its requirement.
fn interpreter(language: Language) -> &'static str {
    match language {
        Language::Python => "python3",
        Language::Node => "node",
        Language::Ruby => "ruby",
        Language::Perl => "perl",
        Language::Php => "php",
    }
}

/// A text as TOML has it, in one line.
pub fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for c in text.chars() {
        match c {
            '"' | '\\' => {
                out.push('\\');
                out.push(c);
            }
            c if Sanitised::hides(c) || c.is_control() => {
                let _ = write!(out, "\\U{:08X}", c as u32);
            }
            c => out.push(c),
        }
    }
    out.push('"');
    out
}

fn list(names: &[&str]) -> String {
    match names {
        [one] => quoted(one),
        several => format!("[{}]", several.iter().map(|name| quoted(name)).collect::<Vec<_>>().join(", ")),
    }
}

/// The names of a program under which systems have it, and what to call it where its name says little.
fn names(tool: &str) -> (Vec<&str>, Option<&'static str>) {
    match tool {
        "cc" | "gcc" | "clang" => (vec!["cc", "gcc", "clang"], Some("a C compiler")),
        "c++" | "g++" | "clang++" => (vec!["c++", "g++", "clang++"], Some("a C++ compiler")),
        "python3" => (vec!["python3", "python"], Some("Python")),
        "pip3" => (vec!["pip3", "pip"], Some("Python's installer")),
        "node" => (vec!["node"], Some("Node.js")),
        "rustc" => (vec!["rustc"], Some("the Rust compiler")),
        "javac" => (vec!["javac"], Some("the Java compiler")),
        "java" => (vec!["java"], Some("Java")),
        "erl" => (vec!["erl"], Some("Erlang")),
        "dotnet" => (vec!["dotnet"], Some("the .NET kit")),
        "make" => (vec!["make", "gmake"], None),
        "pkg-config" => (vec!["pkg-config", "pkgconf"], None),
        other => (vec![other], None),
    }
}

/// Programs that builds have elsewhere, and that Windows has otherwise or not at all.
const NOT_OF_WINDOWS: [&str; 12] =
    ["cc", "gcc", "clang", "c++", "g++", "make", "pkg-config", "autoconf", "automake", "autoreconf", "libtoolize", "autopoint"];

/// Where it holds: as the repository says, and not where there is no such thing.
fn condition(merged: &Merged, systems: &[Os]) -> Option<String> {
    let unix = match &merged.topic {
        Topic::Library(_) => true,
        Topic::Tool(name) => NOT_OF_WINDOWS.contains(&name.as_str()),
        _ => false,
    };
    let single = matches!(systems, [Os::Linux | Os::Macos]);
    match &merged.when {
        // A condition that says nothing where only that system is promised.
        Some(when) if systems.len() == 1 && systems.first().is_some_and(|os| os.word() == when) => None,
        Some(when) => Some(when.clone()),
        None if unix && !single => Some("not windows".to_owned()),
        None => None,
    }
}

/// What a requirement is made of.
struct Parts {
    standing: Standing,
    stage: Stage,
    level: Option<&'static str>,
    notes: Vec<String>,
    keys: Vec<(&'static str, String)>,
}

impl Parts {
    fn key(&mut self, name: &'static str, value: String) {
        self.keys.push((name, value));
    }

    fn text(&mut self, name: &'static str, value: &str) {
        self.keys.push((name, quoted(value)));
    }
}

/// The requirement for what is said on one subject; none for what is told elsewhere in the guide.
pub(super) fn of(merged: &Merged, statements: &[Statement], systems: &[Os]) -> Option<Proposal> {
    let all: Vec<&Statement> = merged.statements.iter().filter_map(|index| statements.get(*index)).collect();
    let mut parts = Parts {
        standing: if merged.firmness == Confidence::Mentioned { Standing::Perhaps } else { Standing::Live },
        stage: Stage::Tools,
        level: (merged.firmness == Confidence::Used).then_some("should"),
        notes: Vec::new(),
        keys: Vec::new(),
    };
    match &merged.topic {
        Topic::Tool(name) if name == "git-lfs" && merged.firmness == Confidence::Pinned => {
            parts.stage = Stage::Project;
            parts.text("checkout", ".");
            parts.key("large_files", "true".to_owned());
        }
        Topic::Tool(name) => tool(name, merged, &all, &mut parts),
        Topic::Library(name) => library(name, merged, &all, &mut parts),
        Topic::Headers(Language::Python) => {
            parts.text("headers", interpreter(Language::Python));
            parts.keys.extend(packages([("apt", "python3-dev"), ("dnf", "python3-devel")].into_iter()));
        }
        Topic::Module(language, name) => {
            parts.text("module", name);
            parts.text("of", interpreter(*language));
            let told = all.iter().filter_map(|one| one.package.as_ref()).take(1);
            parts.keys.extend(packages(told.map(|(manager, name)| (manager.word(), name.as_str()))));
        }
        Topic::Package(manager, name) => {
            parts.notes.push("What it brings is not known here.".to_owned());
            // What a build was seen to read of it is no guess.
            if merged.firmness != Confidence::Pinned {
                parts.standing = Standing::Perhaps;
            }
            parts.key("system_package", format!("{{ {} = {} }}", manager.word(), quoted(name)));
        }
        Topic::Port(number) => port(*number, &all, &mut parts),
        Topic::Variable(name) => {
            parts.stage = Stage::Project;
            parts.text("variable", name);
            parts.keys.extend(all.iter().find_map(|one| one.env_file.as_ref()).map(|file| ("env_file", quoted(file))));
            if all.iter().any(|one| one.secret) {
                parts.key("secret", "true".to_owned());
            }
        }
        Topic::Service(name, port) => {
            parts.stage = Stage::Services;
            parts.notes.push(format!("The build server starts it for the tests: {name}."));
            parts.text("service", &format!("localhost:{port}"));
        }
        Topic::ContainerEngine => {
            parts.stage = Stage::Services;
            parts.text("title", "something that runs containers");
            parts.key("tool", list(&["docker", "podman"]));
            let all = [("apt", "docker.io"), ("dnf", "moby-engine"), ("pacman", "docker"), ("apk", "docker")];
            parts.keys.extend(packages(all.into_iter()));
        }
        Topic::Submodules => {
            parts.stage = Stage::Project;
            parts.level = None;
            parts.text("title", "the working copy");
            parts.text("checkout", ".");
            parts.key("submodules", "true".to_owned());
        }
        Topic::System(_) | Topic::Headers(_) => return None,
    }
    let Parts { standing, stage, level, notes, mut keys } = parts;
    keys.extend(level.filter(|_| standing == Standing::Live).map(|level| ("level", quoted(level))));
    keys.extend(condition(merged, systems).map(|when| ("when", quoted(&when))));
    let sources = all.iter().map(|one| source(one)).collect();
    Some(Proposal { id: id(merged, &all), topic: merged.topic.clone(), standing, stage, notes, sources, keys })
}

fn tool(name: &str, merged: &Merged, all: &[&Statement], parts: &mut Parts) {
    let (names, title) = names(name);
    parts.keys.extend(title.map(|title| ("title", quoted(title))));
    parts.key("tool", list(&names));
    versions(merged, all, (&mut parts.keys, &mut parts.notes));
    parts.keys.extend(packages_of_tool(name, all));
}

fn library(name: &str, merged: &Merged, all: &[&Statement], parts: &mut Parts) {
    let known = libraries::named(name);
    let numbering = known.map(|one| one.numbering);
    if numbering == Some(Numbering::Without) {
        let note = "No file for pkg-config tells of it on every system, so a person has to say how it is seen.";
        parts.notes.push(note.to_owned());
        parts.standing = Standing::Perhaps;
    }
    parts.text("library", name);
    if numbering == Some(Numbering::OtherThan) && merged.range.is_some() {
        let note = "Its file for pkg-config counts otherwise than its releases do, so the version is left to you.";
        parts.notes.push(note.to_owned());
    } else {
        versions(merged, all, (&mut parts.keys, &mut parts.notes));
        // These are for programs.
        parts.keys.retain(|(key, _)| *key != "tested" && *key != "version_from");
    }
    parts.keys.extend(known.and_then(|one| packages(one.packages().map(|(manager, name)| (manager.word(), name)))));
}

fn port(number: u16, all: &[&Statement], parts: &mut Parts) {
    parts.stage = Stage::Services;
    parts.key("port", number.to_string());
    if let Some((variable, file)) = all.iter().find_map(|one| Some((one.variable.as_ref()?, one.env_file.as_ref()))) {
        let file = file.map(|file| format!(", env_file = {}", quoted(file))).unwrap_or_default();
        parts.key("set_by", format!("{{ variable = {}{file} }}", quoted(variable)));
    }
    // What the project's own container holds is held as it should be.
    if all.iter().any(|one| one.place.line > 0) {
        parts.text("held_ok", "docker-proxy");
    }
}

/// Where a statement stands, with what it says there.
fn source(statement: &Statement) -> String {
    let mut text = statement.place.to_string();
    if !statement.place.item.is_empty() {
        text = format!("{text} {}", statement.place.item);
    }
    if let Some(range) = &statement.range {
        text = format!("{text} says {range}");
    }
    if let Some(only) = &statement.only {
        text = format!("{text} ({only})");
    }
    Sanitised::line(&text).to_string()
}

/// Which versions do: as a file says it, where one does; else what all pins allow.
fn versions(merged: &Merged, all: &[&Statement], (keys, notes): (&mut Vec<(&'static str, String)>, &mut Vec<String>)) {
    if !merged.contradictions.is_empty() {
        let told: Vec<String> = all
            .iter()
            .filter(|one| one.firmness != Confidence::Mentioned)
            .filter_map(|one| Some(format!("{} ({})", one.range.as_ref()?, one.place)))
            .collect();
        notes.push(format!("The repository contradicts itself here, so no version is asked for: {}.", told.join(", ")));
        return;
    }
    if let Some(range) = &merged.range {
        let pin = all.iter().find(|one| one.is_pin && one.range.as_deref() == Some(range.text()) && one.only.is_none());
        match pin {
            Some(pin) => keys.push(("version_from", quoted(&pin.place.file))),
            None => keys.push(("version", quoted(range.text()))),
        }
    } else if let Some(used) = &merged.used {
        keys.push(("tested", quoted(&sorted(used))));
    }
}

/// The alternatives of a range, each once.
fn sorted(range: &Range) -> String {
    let mut all: Vec<&str> = Vec::new();
    for one in range.text().split("||").map(str::trim) {
        if !all.contains(&one) {
            all.push(one);
        }
    }
    all.join(" || ")
}

fn packages<'p>(all: impl Iterator<Item = (&'static str, &'p str)>) -> Option<(&'static str, String)> {
    let each: Vec<String> = all.map(|(manager, name)| format!("{manager} = {}", quoted(name))).collect();
    (!each.is_empty()).then(|| ("packages", format!("{{ {} }}", each.join(", "))))
}

/// Packages of a program; those that the catalogue knows need not be written down.
fn packages_of_tool(name: &str, all: &[&Statement]) -> Option<(&'static str, String)> {
    if catalogue::find(name).is_some_and(|row| !row.packages.is_empty()) {
        return None;
    }
    let mut found: Vec<(&'static str, &str)> = Vec::new();
    for (manager, package) in all.iter().filter_map(|one| one.package.as_ref()) {
        if !found.iter().any(|(known, _)| *known == manager.word()) {
            found.push((manager.word(), package));
        }
    }
    packages(found.into_iter())
}

fn id(merged: &Merged, all: &[&Statement]) -> String {
    let text = match &merged.topic {
        Topic::Tool(name) => match name.as_str() {
            "cc" | "gcc" | "clang" => "c-compiler".to_owned(),
            "c++" | "g++" | "clang++" => "cxx-compiler".to_owned(),
            "git-lfs" if merged.firmness == Confidence::Pinned => "large-files".to_owned(),
            other => other.to_owned(),
        },
        Topic::Library(name) | Topic::Package(_, name) | Topic::Service(name, _) => name.to_owned(),
        Topic::Headers(language) => format!("{}-headers", language.word()),
        Topic::Module(language, name) => format!("{}-{name}", language.word()),
        Topic::Port(number) => {
            let named = all.iter().find_map(|one| one.place.item.strip_prefix("services.")?.strip_suffix(".ports"));
            named.map_or_else(|| format!("port-{number}"), |service| format!("{service}-port"))
        }
        Topic::Variable(name) => name.replace('_', "-"),
        Topic::ContainerEngine => "container-engine".to_owned(),
        Topic::Submodules => "checkout".to_owned(),
        Topic::System(os) => os.word().to_owned(),
    };
    let right = |c: char| if c.is_ascii_alphanumeric() || "-_.".contains(c) { c.to_ascii_lowercase() } else { '-' };
    text.chars().map(right).take(60).collect()
}

/// Gives each an id of its own.
pub(super) fn name_apart(live: &mut [Proposal], perhaps: &mut [Proposal]) {
    let mut taken: Vec<String> = Vec::new();
    for one in live.iter_mut().chain(perhaps) {
        let wanted = one.id.clone();
        let suffixed = || {
            let kind = match &one.topic {
                Topic::Library(_) => "library".to_owned(),
                Topic::Port(number) => number.to_string(),
                Topic::Service(..) => "service".to_owned(),
                Topic::Package(..) => "package".to_owned(),
                _ => "more".to_owned(),
            };
            format!("{wanted}-{kind}")
        };
        let mut id = if taken.contains(&wanted) { suffixed() } else { wanted.clone() };
        let mut number = 2;
        while taken.contains(&id) {
            id = format!("{wanted}-{number}");
            number += 1;
        }
        taken.push(id.clone());
        one.id = id;
    }
}
