//! `system`: the operating system and its version, edition, distribution and architecture are among those that do.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, SystemReason, SystemTrouble, SystemUnknown};
use crate::guide::Systems;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Os, System};
use crate::prelude::*;
use crate::version::{RangePosition, Version};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, need: &Systems) -> Result<Conclusion, Stop> {
    let system = inquiry.system()?;
    Ok(match trouble(system, need) {
        None => Met::System(Box::new(system.clone())).into(),
        Some(trouble) => SystemReason { system: system.to_string(), name: system.os.name(), trouble }.into(),
    })
}

/// The first thing that does not fit: system, distribution, version, edition, architecture.
fn trouble(system: &System, need: &Systems) -> Option<SystemTrouble> {
    let range = need.versions.iter().find(|(os, _)| *os == system.os);
    if !need.versions.is_empty() && range.is_none() {
        return Some(SystemTrouble::Other);
    }
    if let Some(trouble) = other_distribution(system, need) {
        return Some(trouble);
    }
    if let Some((_, Some(range))) = range {
        let Some(found) = system.version.as_deref().and_then(|version| Version::parse(version).ok()) else {
            return Some(SystemTrouble::Unknown { what: SystemUnknown::Version });
        };
        let range = range.clone();
        match range.judge(&found) {
            RangePosition::Inside => {}
            RangePosition::Outside(miss) => return Some(SystemTrouble::OutOfRange { found, range, miss }),
            RangePosition::Incomparable => return Some(SystemTrouble::Incomparable { found, range }),
        }
    }
    let is_among = |all: &[String], found: &str| all.is_empty() || all.iter().any(|one| one.eq_ignore_ascii_case(found));
    match &system.edition {
        None if !need.editions.is_empty() => return Some(SystemTrouble::Unknown { what: SystemUnknown::Edition }),
        Some(edition) if !is_among(&need.editions, edition) => return Some(SystemTrouble::Edition { found: edition.clone() }),
        _ => {}
    }
    (!is_among(&need.arches, &system.arch)).then(|| SystemTrouble::Arch { found: system.arch.clone() })
}

/// Distributions are those of Linux: elsewhere there is none to be another one. Families that a distribution says it is like count.
fn other_distribution(system: &System, need: &Systems) -> Option<SystemTrouble> {
    if need.distros.is_empty() || system.os != Os::Linux {
        return None;
    }
    let Some(distro) = &system.distro else {
        return Some(SystemTrouble::Unknown { what: SystemUnknown::Distribution });
    };
    let fits = core::iter::once(distro).chain(&system.distro_like).any(|one| need.distros.contains(one));
    (!fits).then(|| SystemTrouble::OtherDistribution { found: distro.clone() })
}

impl Assess for Systems {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
