//! `library`: its description for builds is here, with a version in the range.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, LibraryReason, LibraryTrouble, Met, OtherDescription};
use crate::guide::Library;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::LibraryState;
use crate::version::{RangePosition, Version};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Library) -> Result<Conclusion, Stop> {
    let state = inquiry.library(&wanted.name)?;
    let Some((file, version)) = &state.description else {
        let trouble = match &state.loaded_from {
            Some(library) => LibraryTrouble::NoHeaders { loaded_from: library.clone() },
            None => LibraryTrouble::Missing,
        };
        return Ok(LibraryReason { description: None, other: other(state, wanted), trouble }.into());
    };
    if let Some(other) = &state.lacks {
        let trouble = LibraryTrouble::Lacks { other: other.clone() };
        return Ok(LibraryReason { description: Some(file.clone()), other: None, trouble }.into());
    }
    let met = || Met::Library { version: version.clone() }.into();
    let Some(range) = &wanted.version else { return Ok(met()) };
    let trouble = match Version::parse(version) {
        Ok(found) => match range.judge(&found) {
            RangePosition::Inside => return Ok(met()),
            RangePosition::Outside(miss) => LibraryTrouble::OutOfRange { found, miss },
            RangePosition::Incomparable => LibraryTrouble::Incomparable { found: version.clone() },
        },
        Err(_) => LibraryTrouble::Incomparable { found: version.clone() },
    };
    Ok(LibraryReason { description: Some(file.clone()), other: other(state, wanted), trouble }.into())
}

/// The first other description whose version would do.
fn other(state: &LibraryState, wanted: &Library) -> Option<OtherDescription> {
    let fits = |version: &str| {
        wanted
            .version
            .as_ref()
            .is_none_or(|range| Version::parse(version).is_ok_and(|found| range.judge(&found) == RangePosition::Inside))
    };
    let (at, version) = state.others.iter().find(|(_, version)| fits(version))?;
    Some(OtherDescription { at: at.clone(), version: version.clone() })
}

impl Assess for Library {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
