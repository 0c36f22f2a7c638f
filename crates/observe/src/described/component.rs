//! Modules, headers and packages of a described machine.

use super::fields::{named_texts, tables, texts};
use super::shape::Shape;
use setup_ready_core::document::{Fields, MOST_TABLES, shortened};
use setup_ready_core::guide::Language;
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{InstalledState, Leads, Observation};
use setup_ready_core::problem::ProblemKind;

pub(super) fn read(top: &Fields<'_>, shape: &mut Shape) {
    let components = &mut shape.contents.components;
    for fields in tables(top, "module") {
        let language = fields.word("of", &LANGUAGES);
        if let (Some(language), Some(name)) = (language, fields.required("name")) {
            let version = fields.owned("version");
            let at = fields.owned("at").unwrap_or_else(|| format!("/usr/lib/modules-of-{}/{}", language.name(), name.value));
            let state = match fields.owned("lacks") {
                Some(part) => InstalledState::Absent { lacks: Some(part) },
                None => InstalledState::Here { version, at },
            };
            components.modules.insert((language, name.value.to_owned()), state);
        }
        fields.finish(|_| None);
    }
    components.usb = top.has("usb").then(|| texts(top, "usb"));
    for fields in tables(top, "headers") {
        if let Some(language) = fields.word("of", &LANGUAGES) {
            let at = fields.owned("at").unwrap_or_else(|| format!("/usr/include/{}", language.name()));
            components.modules.insert((language, String::new()), InstalledState::Here { version: None, at });
        }
        fields.finish(|_| None);
    }
    for (manager, fields) in top.named_tables("installed", MOST_TABLES) {
        let Some(known) = Manager::from_word(manager.value) else {
            let message = format!("`{}` is not a package manager that is known here", shortened(manager.value));
            top.problems().unknown_word(ProblemKind::UnknownWord, manager.span, message, (manager.value, Manager::WORDS));
            continue;
        };
        components.installed.insert(known, named_texts(&fields));
    }
}

/// The words for languages.
const LANGUAGES: [(&str, Language); 5] = [
    ("python", Language::Python),
    ("node", Language::Node),
    ("ruby", Language::Ruby),
    ("perl", Language::Perl),
    ("php", Language::Php),
];

/// A module that is not mentioned is not there.
pub(super) fn module(shape: &Shape, language: Language, name: &str) -> Observation {
    let found = shape.contents.components.modules.get(&(language, name.to_owned())).cloned();
    Observation::Installed(found.unwrap_or(InstalledState::Absent { lacks: None }))
}

pub(super) fn headers(shape: &Shape, language: Language) -> Observation {
    module(shape, language, "")
}

/// What hangs on USB, where it is said.
pub(super) fn usb(shape: &Shape, id: &str) -> Option<Observation> {
    shape.contents.components.usb.as_ref().map(|all| Observation::Usb(all.iter().any(|one| one == id)))
}

pub(super) fn installed(shape: &Shape, manager: Manager, package: &str) -> Observation {
    let Some(all) = shape.contents.components.installed.get(&manager) else {
        return Observation::CouldNotLook("the description does not say which packages are installed".to_owned());
    };
    let at = format!("the notes of {}", manager.word());
    let state = all.get(package).map(|version| InstalledState::Here { version: Some(version.clone()), at });
    Observation::Installed(state.unwrap_or(InstalledState::Absent { lacks: None }))
}

/// A kit is the folder above the one of its programs.
pub(super) fn leads_to(shape: &Shape, variable: &str, program: &str) -> Observation {
    let above = |path: &str| path.rsplit_once('/').map(|(above, _)| above.to_owned());
    let kit = above(program).and_then(|folder| above(&folder)).unwrap_or_default();
    Observation::Leads(match shape.contents.environment.get(variable) {
        None => Leads::Unset,
        Some(value) if value.trim_end_matches('/') == kit => Leads::There,
        Some(_) => Leads::Elsewhere(kit),
    })
}
