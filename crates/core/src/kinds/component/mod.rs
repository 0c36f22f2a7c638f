//! `module`, `headers`, `system_package` and `kernel_module`: what is installed and is neither a program nor a library.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, shortened};
use crate::guide::programs::Programs;
use crate::guide::reading::{References, bad};
use crate::guide::supply_parse::packages_in;
use crate::guide::vocabulary::Shape::{Named, Text};
use crate::guide::vocabulary::{ALL_PACKAGES, MANAGERS, PACKAGES, may, needed};
use crate::guide::{Installer, Kind, Language, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::version::Range;

/// `module`, `headers`, `system_package` or `kernel_module`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Component {
    /// Which of them.
    pub sort: ComponentSort,
    /// What it is called: the module, or the package; of headers, the language.
    pub name: String,
    /// The index of the tool whose interpreter is meant.
    pub of: Option<usize>,
    /// The versions that do.
    pub version: Option<Range>,
    /// Its package for each manager; of a system's package, those that are meant.
    pub packages: Vec<(Manager, String)>,
    /// Its name for each language's own installer.
    pub installers: Vec<(Installer, String)>,
}

/// The sorts of components.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ComponentSort {
    /// A module of an interpreter.
    Module(Language),
    /// The headers of an interpreter, to compile against.
    Headers(Language),
    /// A package of the system.
    SystemPackage,
    /// A module of the kernel.
    KernelModule,
}

/// How guides say it.
pub(crate) const MODULE: Entry<Component> = Entry {
    shape: Text,
    further: &[needed("of", Text), may("version", Text), ALL_PACKAGES],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, references| component(fields, references, ComponentSort::Module(Language::Python)),
};

/// How guides say it.
pub(crate) const HEADERS: Entry<Component> = Entry {
    shape: Text,
    further: &[PACKAGES],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, references| component(fields, references, ComponentSort::Headers(Language::Python)),
};

/// How guides say it.
pub(crate) const SYSTEM_PACKAGE: Entry<Component> = Entry {
    shape: Named(MANAGERS),
    further: &[may("version", Text)],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, _| system_package(fields),
};

/// How guides say it.
pub(crate) const KERNEL_MODULE: Entry<Component> = Entry {
    shape: Text,
    further: &[],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, references| component(fields, references, ComponentSort::KernelModule),
};

impl SubjectEntry for Component {
    fn kind(&self) -> Kind {
        match self.sort {
            ComponentSort::Module(_) => Kind::Module,
            ComponentSort::Headers(_) => Kind::Headers,
            ComponentSort::SystemPackage => Kind::SystemPackage,
            ComponentSort::KernelModule => Kind::KernelModule,
        }
    }

    fn title(&self) -> String {
        match self.sort {
            ComponentSort::Module(language) => format!("module {} of {}", self.name, language.name()),
            ComponentSort::Headers(language) => format!("headers of {}", language.name()),
            ComponentSort::SystemPackage => format!("package {}", self.name),
            ComponentSort::KernelModule => format!("kernel module {}", self.name),
        }
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.packages
    }

    fn wanted_value(&self) -> Option<String> {
        self.version.as_ref().map(ToString::to_string)
    }

    fn topics(&self) -> Vec<Topic> {
        match self.sort {
            ComponentSort::Module(language) => vec![Topic::Module(language, self.name.clone())],
            ComponentSort::Headers(language) => vec![Topic::Headers(language)],
            ComponentSort::SystemPackage | ComponentSort::KernelModule => Vec::new(),
        }
    }

    fn needs(&self, _: &Programs<'_>) -> Vec<usize> {
        self.of.into_iter().collect()
    }
}

/// A module, headers or a module of the kernel. Which language it is of is told by the tool that it names, once all are read.
pub(crate) fn component(fields: &Fields<'_>, words: &References<'_>, sort: ComponentSort) -> Option<Component> {
    let (key, of) = match sort {
        ComponentSort::Module(_) => ("module", fields.required("of")),
        ComponentSort::Headers(_) => ("headers", fields.required("headers")),
        ComponentSort::SystemPackage | ComponentSort::KernelModule => ("kernel_module", None),
    };
    let name = names::placed(fields, key)?;
    // It becomes a part of paths.
    let right = |c: char| c.is_alphanumeric() || "._-:@/".contains(c);
    if !name.value.chars().all(right) || name.value.contains("..") || name.value.starts_with('/') || name.value.len() > 200 {
        bad(fields, name.span.clone(), format!("`{}` cannot be the name of a module", shortened(name.value)));
        return None;
    }
    let of = match of {
        Some(id) => Some(words.one(fields, &id)?),
        None => None,
    };
    let is_module = matches!(sort, ComponentSort::Module(_));
    let (packages, installers) = packages_in(fields, "packages");
    let version = if is_module { fields.read("version", Range::parse) } else { None };
    Some(Component { sort, name: name.value.to_owned(), of, version, packages, installers })
}

fn system_package(fields: &Fields<'_>) -> Option<Component> {
    let named = packages_in(fields, "system_package").0;
    let name = named.first().map(|(_, name)| name.clone())?;
    let version = fields.read("version", Range::parse);
    let sort = ComponentSort::SystemPackage;
    Some(Component { sort, name, of: None, version, packages: named, installers: Vec::new() })
}
