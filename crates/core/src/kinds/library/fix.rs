//! What settles it.

use crate::finding::{LibraryReason, LibraryTrouble};
use crate::fix::Fix;
use crate::fix::case::{Case, in_a_version};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Library, Requirement, Subject};
use crate::prelude::*;
use crate::version::RangeMatch;

pub(crate) fn fix(case: &Case<'_>, reason: &LibraryReason) -> Option<Fix> {
    let Subject::Library(library) = &case.requirement.subject else { return None };
    let range = library.version.as_ref();
    if let Some(other) = &reason.other
        && let Some((folder, _)) = other.at.rsplit_once('/')
    {
        let say = format!("Let builds find the description of {} in {folder} first, by PKG_CONFIG_PATH.", case.title());
        let line = case.here.shell.prepend_to("PKG_CONFIG_PATH", folder);
        let (at, version) = (other.at.clone(), other.version.clone());
        let found = Effect::one(Change::Library { name: library.name.clone(), at, version });
        return Some(case.in_startup_file(Fix::say(say), line).with_effect(found));
    }
    Some(match &reason.trouble {
        // Where packages were named and none does, that is what there is to say.
        LibraryTrouble::NoHeaders { .. } if case.refused.is_empty() => Fix::say(format!(
            "Install what is needed to build against {}: in most systems a package of its own, whose name ends in -dev or -devel.",
            case.title()
        )),
        LibraryTrouble::OutOfRange { miss, .. } if miss.fit != RangeMatch::TooOld => Fix::say(format!(
            "Install another release of {}{} beside this one, and name its pkgconfig folder in PKG_CONFIG_PATH.",
            case.title(),
            in_a_version(range)
        )),
        LibraryTrouble::Lacks { other } => Fix::say(format!(
            "Install what is needed to build against {other}: in most systems a package whose name ends in -dev or -devel."
        )),
        LibraryTrouble::Incomparable { .. } => return None,
        LibraryTrouble::Missing | LibraryTrouble::NoHeaders { .. } | LibraryTrouble::OutOfRange { .. } => case.install(range),
    })
}

impl ReasonFixes for LibraryReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = match &self.trouble {
            LibraryTrouble::OutOfRange { found, .. } => Some(found.to_string()),
            LibraryTrouble::Incomparable { found } => Some(found.clone()),
            LibraryTrouble::Missing | LibraryTrouble::NoHeaders { .. } | LibraryTrouble::Lacks { .. } => None,
        };
        Fills { found, path: self.description.clone(), ..Fills::default() }
    }
}

impl SubjectFixes for Library {}
