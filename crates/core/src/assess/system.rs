//! `system`: the operating system and its version, edition, distribution and architecture are among those that do.

use crate::cause::Cause;
use crate::finding::Finding;
use crate::guide;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::System;
use crate::prelude::*;
use crate::text::join_words;
use crate::version::{Fit, Version};

pub(super) fn find(inquiry: &mut Inquiry<'_>, need: &guide::System) -> Result<Finding, Stop> {
    let system = inquiry.system()?;
    let found = system.to_string();
    let finding = unfit(system, need).unwrap_or_else(|| Finding::met(found.clone(), format!("This is {system}.")));
    Ok(finding.found(found).wanted(wanted(need)))
}

/// What would do, in a few words.
pub(super) fn wanted(need: &guide::System) -> String {
    let name = |(os, range): &(String, Option<crate::version::Range>)| match range {
        Some(range) => format!("{os} {range}"),
        None => os.clone(),
    };
    let mut parts = Vec::new();
    let systems: Vec<String> = need.versions.iter().map(name).collect();
    parts.extend(
        [systems, need.distros.clone(), need.editions.clone(), need.arches.clone()].into_iter().filter(|list| !list.is_empty()),
    );
    parts.iter().map(|list| join_words(list, "or")).collect::<Vec<String>>().join("; ")
}

/// The first thing that does not fit: system, distribution, version, edition, architecture.
fn unfit(system: &System, need: &guide::System) -> Option<Finding> {
    let name = system.os.name();
    let range = need.versions.iter().find(|(os, _)| os == system.os.word());
    if !need.versions.is_empty() && range.is_none() {
        let message = format!("This project does not work on {name}.");
        return Some(Finding::unmet(Cause::SystemOther, message));
    }
    if let Some(finding) = other_distro(system, need) {
        return Some(finding);
    }
    if let Some((_, Some(range))) = range {
        let Some(version) = system.version.as_deref().and_then(|version| Version::parse(version).ok()) else {
            let message = format!("Which version of {name} this is could not be found out; {range} is wanted.");
            return Some(Finding::unknown(Cause::CouldNotLook, message));
        };
        let unmet =
            |cause, how: &str| Finding::unmet(cause, format!("{name} {version} is {how}: this project works with {range}."));
        match range.fit(&version) {
            Fit::Inside => {}
            Fit::TooOld => return Some(unmet(Cause::SystemTooOld, "too old")),
            Fit::TooNew => return Some(unmet(Cause::SystemTooNew, "too new")),
            Fit::Excluded => return Some(unmet(Cause::SystemOther, "ruled out")),
            Fit::Incomparable => {
                let message = format!("The version of {name}, {version}, cannot be compared with {range}.");
                return Some(Finding::unknown(Cause::CouldNotLook, message));
            }
        }
    }
    listed(&need.editions, system.edition.as_deref(), ("edition", Cause::SystemEdition))
        .or_else(|| listed(&need.arches, Some(&system.arch), ("kind of processor", Cause::SystemArch)))
}

/// Distributions are those of Linux: elsewhere there is none to be another one. Families that a distribution says it is like count.
fn other_distro(system: &System, need: &guide::System) -> Option<Finding> {
    if need.distros.is_empty() || system.os != crate::observation::Os::Linux {
        return None;
    }
    let Some(distro) = &system.distro else {
        return Some(Finding::unknown(Cause::CouldNotLook, "Which distribution this is could not be found out."));
    };
    let fits = core::iter::once(distro).chain(&system.distro_like).any(|one| need.distros.contains(one));
    let message = || format!("This is {distro}, and this project works on {}.", join_words(&need.distros, "or"));
    (!fits).then(|| Finding::unmet(Cause::SystemOther, message()))
}

fn listed(allowed: &[String], found: Option<&str>, (what, cause): (&str, Cause)) -> Option<Finding> {
    if allowed.is_empty() {
        return None;
    }
    let Some(found) = found else {
        return Some(Finding::unknown(Cause::CouldNotLook, format!("Which {what} this is could not be found out.")));
    };
    let fits = allowed.iter().any(|one| one.eq_ignore_ascii_case(found));
    let message = || format!("The {what} here is {found}, and this project works with {}.", join_words(allowed, "or"));
    (!fits).then(|| Finding::unmet(cause, message()))
}
