//! What people are told.

use crate::finding::{ComponentReason, ComponentTrouble, Met};
use crate::guide::{Component, ComponentSort, Guide, Requirement, Subject};
use crate::kinds::tool::words::older;
use crate::prelude::*;
use crate::text::join_words;
use crate::version::RangeMatch;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

/// The thing, as a sentence begins with it.
fn called(component: &Component) -> String {
    let name = &component.name;
    match component.sort {
        // The language first: behind it, the module's version would be taken for the language's.
        ComponentSort::Module(language) => format!("The {} module {name}", language.name()),
        ComponentSort::Headers(language) => format!("The headers of {}", language.name()),
        ComponentSort::SystemPackage => format!("The package {name}"),
        ComponentSort::KernelModule => format!("The kernel's module {name}"),
    }
}

pub(crate) fn met_by(component: &Component, version: Option<&str>, at: Option<&str>) -> String {
    let version = version.map(|version| format!(" {version}")).unwrap_or_default();
    let at = at.map(|at| format!(", at {at}")).unwrap_or_default();
    let there = match component.sort {
        ComponentSort::KernelModule => "is loaded",
        ComponentSort::Module(_) | ComponentSort::SystemPackage => "is here",
        ComponentSort::Headers(_) => "are here",
    };
    format!("{}{version} {there}{at}.", called(component))
}

pub(crate) fn message(words: &Words<'_>, reason: &ComponentReason) -> String {
    let Subject::Component(component) = &words.requirement.subject else { return words.title() };
    let what = called(component);
    let program = reason.program.as_deref().unwrap_or("the interpreter");
    match &reason.trouble {
        ComponentTrouble::Missing { lacks: Some(part) } => {
            format!("{what} cannot be used by {program}: {part}, without which it does nothing, is not there.")
        }
        ComponentTrouble::Missing { lacks: None } => match component.sort {
            ComponentSort::Module(_) => format!("{what} is not among the modules that {program} finds."),
            ComponentSort::Headers(_) => format!("{what}, which programs in C are compiled with, are not here for {program}."),
            ComponentSort::SystemPackage => format!("{what} is not installed."),
            ComponentSort::KernelModule => format!("{what} is not loaded."),
        },
        ComponentTrouble::OutOfRange { found, miss } if miss.fit == RangeMatch::TooOld => older(&what, found, &miss.nearest),
        ComponentTrouble::OutOfRange { found, .. } => {
            let range = component.version.as_ref().map(ToString::to_string).unwrap_or_default();
            format!("{what} {found} is not one that will do: this project works with {range}.")
        }
        ComponentTrouble::NoVersion => format!("{what} is here, but which version it is could not be found out."),
        ComponentTrouble::Incomparable { found } => format!("{what} is here, but its version {found} cannot be compared."),
        ComponentTrouble::NoManager => {
            let managers: Vec<String> = component.packages.iter().map(|(manager, _)| manager.word().to_owned()).collect();
            format!(
                "Whether it is installed cannot be found out here: the guide names packages for {} only.",
                join_words(&managers, "and")
            )
        }
    }
}

pub(crate) fn found(reason: &ComponentReason) -> Option<String> {
    match &reason.trouble {
        ComponentTrouble::Missing { lacks: Some(part) } => Some(format!("without {part}")),
        ComponentTrouble::Missing { lacks: None } if matches!(reason.sort, ComponentSort::KernelModule) => {
            Some("not loaded".to_owned())
        }
        ComponentTrouble::Missing { lacks: None } => Some("not installed".to_owned()),
        ComponentTrouble::OutOfRange { found, .. } => Some(found.to_string()),
        ComponentTrouble::Incomparable { found } => Some(found.clone()),
        ComponentTrouble::NoVersion => Some("no version".to_owned()),
        ComponentTrouble::NoManager => None,
    }
}

pub(crate) fn wanted(component: &Component) -> String {
    let there = if component.sort == ComponentSort::KernelModule { "loaded" } else { "installed" };
    component.version.as_ref().map_or_else(|| there.to_owned(), ToString::to_string)
}

impl ReasonWords for ComponentReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        found(self)
    }
}

impl SubjectWords for Component {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        let Met::Installed { version, at } = met else { return words.title() };
        met_by(self, version.as_deref(), at.as_deref())
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        let Met::Installed { version, .. } = met else { return words.title() };
        let there = if self.sort == ComponentSort::KernelModule { "loaded" } else { "there" };
        version.clone().unwrap_or_else(|| there.to_owned())
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let what = requirement.title.as_ref().map(|_| match self.sort {
            ComponentSort::Module(language) => format!("the module {} of {}", self.name, language.name()),
            ComponentSort::Headers(language) => format!("the headers of {}", language.name()),
            ComponentSort::SystemPackage => format!("the package {}", self.name),
            ComponentSort::KernelModule => format!("the kernel module {}, loaded", self.name),
        });
        let version = self.version.as_ref().map(|range| format!("version {range}"));
        what.into_iter().chain(version).collect::<Vec<_>>().join(", ")
    }
}
