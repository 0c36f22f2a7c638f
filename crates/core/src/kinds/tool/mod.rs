//! `tool`: a program on PATH.

pub(crate) mod assess;
pub(crate) mod examine;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod recorded;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, shortened};
use crate::guide::Installer;
use crate::guide::reading::{bad, existence, flag, owned};
use crate::guide::supply_parse::packages_in;
use crate::guide::vocabulary::Shape::{Either, Flag, Table, Text, Texts};
use crate::guide::vocabulary::{ALL_PACKAGES, EXPECT, Key, may, needed};
use crate::guide::{Existence, Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::Pattern;
use crate::version;
use crate::version::Range;

/// `tool = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Tool {
    /// Its names; the first that is found counts.
    pub names: Vec<String>,
    /// The versions that do.
    pub version: Option<version::Range>,
    /// A file of the repository that pins the version.
    pub version_from: Option<VersionFrom>,
    /// The versions that the project is tried with: a newer one is remarked on.
    pub tested: Option<version::Range>,
    /// The arguments that make it say its version; the usual ones where empty.
    pub args: Vec<String>,
    /// How to find the version in what it prints.
    pub pattern: Option<Pattern>,
    /// Its package per package manager.
    pub packages: Vec<(Manager, String)>,
    /// Its name for each language's own installer.
    pub installers: Vec<(Installer, String)>,
    /// The architecture that it must be built for.
    pub arch: Option<String>,
    /// Whether it must be there.
    pub expect: Existence,
}

/// `version_from = ...`: a file of the project that says a version.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct VersionFrom {
    /// The file.
    pub file: String,
    /// What finds the version in it: the first group, or the whole match; where there is none, the file's own way is known.
    pub pattern: Option<Pattern>,
    /// A newer one does too.
    pub at_least: bool,
}

/// A file of the project that says a version in its own way.
const PIN: [Key; 3] = [needed("file", Text), may("pattern", Text), may("at_least", Flag)];

/// How guides say it.
pub(crate) const TOOL: Entry<Tool> = Entry {
    shape: Texts,
    further: &[
        may("version", Text),
        may("version_from", Either(&[Text, Table(&PIN)])),
        may("tested", Text),
        may("args", Texts),
        may("pattern", Text),
        ALL_PACKAGES,
        may("arch", Text),
        EXPECT,
    ],
    several: Some("tools"),
    about: &[About::Tool, About::Command],
    looks_ahead: true,
    read: |fields, _| tool(fields, "tool"),
};

impl SubjectEntry for Tool {
    fn kind(&self) -> Kind {
        Kind::Tool
    }

    fn title(&self) -> String {
        self.names.first().cloned().unwrap_or_default()
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.packages
    }

    fn topics(&self) -> Vec<Topic> {
        let engine = self.names.iter().any(|name| ["docker", "podman", "nerdctl"].contains(&name.as_str()));
        self.names.iter().cloned().map(Topic::Tool).chain(engine.then_some(Topic::ContainerEngine)).collect()
    }

    fn asks(&self) -> Option<String> {
        (self.pattern.is_none() && self.args.is_empty()).then(|| format!("tool {}", self.names.join(" ")))
    }
}

pub(crate) fn tool(fields: &Fields<'_>, key: &'static str) -> Option<Tool> {
    let names = fields.some_texts(key);
    for name in &names {
        // A path would start a file of the guide's choosing; PATH is the person's choice.
        if name.value.trim().is_empty()
            || name.value.contains(['/', '\\', '\0'])
            || name.value.starts_with('-')
            || name.value.len() > 100
        {
            bad(fields, name.span.clone(), format!("`{}` is not the name of a program on PATH", shortened(name.value)));
        }
    }
    let args = fields.texts("args");
    if let Some(many) = args.get(20) {
        bad(fields, many.span.clone(), "at most 20 arguments are passed");
    }
    let (packages, installers) = packages_in(fields, "packages");
    let tool = Tool {
        names: owned(names),
        version: fields.read("version", Range::parse),
        version_from: version_from(fields),
        tested: fields.read("tested", Range::parse),
        args: owned(args),
        pattern: fields.read("pattern", Pattern::new),
        packages,
        installers,
        arch: fields.owned("arch"),
        expect: existence(fields),
    };
    if tool.version.is_some() && tool.version_from.is_some() {
        bad(fields, fields.key_span("version_from"), "`version` and `version_from` both say which version is wanted; keep one");
    }
    (!tool.names.is_empty()).then_some(tool)
}

/// A file that says a version: its name alone where its own way is known, else with what finds the version in it.
fn version_from(fields: &Fields<'_>) -> Option<VersionFrom> {
    if !fields.is_table("version_from") {
        let file = names::project_file(fields, "version_from")?;
        return Some(VersionFrom { file, pattern: None, at_least: false });
    }
    let table = fields.table("version_from", "version_from")?;
    let at_least = flag(&table, "at_least");
    let (file, pattern) = (names::project_file(&table, "file"), table.read("pattern", Pattern::new));
    if !table.has("file") {
        table.missing("file");
    }
    table.finish(|_| None);
    Some(VersionFrom { file: file?, pattern, at_least })
}
