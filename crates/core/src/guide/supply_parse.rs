//! The reading of what brings a thing: packages, installers, units; and of what is installed by them.

use super::Installer;
use super::names;
use super::reading::check_word;
use super::subject::Supply;
use super::vocabulary::MANAGERS_AND_INSTALLERS;
use crate::document::{Fields, shortened};
use crate::manager::Manager;
use crate::prelude::*;
use crate::problem::ProblemKind;

fn bad(fields: &Fields<'_>, span: core::ops::Range<usize>, message: impl Into<String>) {
    fields.problems().report(ProblemKind::BadValue, span, message);
}

/// Who brings a thing that must run, and how it is started.
pub(crate) fn supply(fields: &Fields<'_>) -> Supply {
    let unit = names::optional(fields, "unit");
    let start = super::command_line::commands(fields, "start").into_iter().next();
    Supply { packages: packages(fields), unit, start }
}

pub(crate) fn packages(fields: &Fields<'_>) -> Vec<(Manager, String)> {
    let (packages, installers) = packages_in(fields, "packages");
    if let Some((installer, _)) = installers.first() {
        let message = format!("`{}` brings no such thing; it goes with `tool` and `module`", installer.word());
        bad(fields, fields.key_span("packages"), message);
    }
    packages
}

/// The packages for each manager, and for each language's own installer.
pub(crate) type Packages = (Vec<(Manager, String)>, Vec<(Installer, String)>);

pub(crate) fn packages_in(fields: &Fields<'_>, key: &'static str) -> Packages {
    let Some(table) = fields.table(key, key) else { return Packages::default() };
    let mut packages = Vec::new();
    let mut installers = Vec::new();
    for (manager, value) in table.entries() {
        if let Some(installer) = Installer::from_word(manager.value) {
            match value.get_ref().as_str() {
                Some(name) if installer.takes(name) => installers.push((installer, name.to_owned())),
                Some(name) => {
                    let message = format!("`{}` cannot be the name of a package of {}", shortened(name), installer.word());
                    bad(fields, value.span(), message);
                }
                None => {
                    fields.problems().report(ProblemKind::WrongType, value.span(), "a package's name must be text in quotes");
                }
            }
            continue;
        }
        check_word(fields, "package manager that is known here", &manager, &MANAGERS_AND_INSTALLERS);
        match value.get_ref().as_str() {
            // A package's name goes into a command that a person pastes: nothing but a name may pass.
            Some(name) if names::is_package(name) => {
                packages.extend(Manager::from_word(manager.value).map(|manager| (manager, name.to_owned())));
            }
            Some(name) => {
                let message = format!("`{}` cannot be the name of a package: {}", shortened(name), names::PACKAGE_RULE);
                bad(fields, value.span(), message);
            }
            None => fields.problems().report(ProblemKind::WrongType, value.span(), "a package's name must be text in quotes"),
        }
    }
    (packages, installers)
}
