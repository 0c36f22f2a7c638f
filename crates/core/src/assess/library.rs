//! `library`: its description for builds is here, with a version in the range.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::Library;
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;
use crate::version::{Fit, Version};

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Library) -> Result<Finding, Stop> {
    let state = inquiry.library(&wanted.name)?;
    let name = &wanted.name;
    let Some((file, version)) = &state.description else {
        return Ok(match &state.loaded_from {
            Some(library) => {
                let message = format!("The library {name} is here ({library}), but not what is needed to build against it.");
                Finding::unmet(Cause::LibraryNoHeaders, message).found("only to run with")
            }
            None => Finding::unmet(Cause::LibraryMissing, format!("The library {name} is not installed.")).found("not installed"),
        });
    };
    let Some(range) = &wanted.version else {
        return Ok(Finding::met(version.clone(), format!("The library {name} {version} is here.")));
    };
    let fit = Version::parse(version).map_or(Fit::Incomparable, |version| range.fit(&version));
    let edge = range.edge(fit).unwrap_or(range.text()).to_owned();
    let finding = match fit {
        Fit::Inside => Finding::met(version.clone(), format!("The library {name} {version} is here.")),
        Fit::TooOld => {
            let message = format!("The library {name} {version} is older than {edge}, which this project needs.");
            Finding::unmet(Cause::LibraryTooOld, message)
        }
        Fit::TooNew | Fit::Excluded => {
            let message = format!("The library {name} is {version}, and this project works with {}.", range.text());
            Finding::unmet(Cause::LibraryTooNew, message)
        }
        Fit::Incomparable => {
            let message =
                format!("The library {name} calls its version {version}, which cannot be compared with {}.", range.text());
            Finding::unknown(Cause::CouldNotLook, message)
        }
    };
    Ok(finding.found(version.clone()).with(Particulars { path: Some(file.clone()), ..Particulars::default() }))
}
