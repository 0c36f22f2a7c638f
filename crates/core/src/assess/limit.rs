//! `limit`: the one in force for this user is high enough, or the ability is there.

use crate::cause::Cause;
use crate::finding::{Finding, Whose};
use crate::guide::Limit;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::LimitState;
use crate::prelude::*;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Limit) -> Result<Finding, Stop> {
    let what = described(&wanted.name);
    Ok(match inquiry.limit(&wanted.name)? {
        LimitState::Unlimited => Finding::met("no limit", format!("There is no limit for {what}.")),
        LimitState::Able(true) => Finding::met("allowed", format!("This system allows {what}.")),
        LimitState::Able(false) => {
            Finding::unmet(Cause::LimitLacks, format!("This system does not allow you {what}.")).found("not allowed")
        }
        LimitState::Number(number, most) => {
            let needed = wanted.at_least.unwrap_or(0);
            if *number >= needed {
                return Ok(Finding::met(number.to_string(), format!("The limit for {what} is {number}.")));
            }
            let yourself =
                if most.is_none_or(|most| most >= needed) && most.is_some() { " You may raise it yourself." } else { "" };
            let message = format!("The limit for {what} is {number}, and {needed} is needed.{yourself}");
            let mut finding =
                Finding::unmet(Cause::LimitLow, message).found(number.to_string()).wanted(format!("{needed} or more"));
            finding.particulars.whose = if yourself.is_empty() { Whose::Unknown } else { Whose::Own };
            finding
        }
    })
}

/// A limit in words, to stand behind "for" or "allows".
fn described(name: &str) -> &str {
    match name {
        "open-files" => "files that are open at once",
        "file-watches" => "files that are watched for changes",
        "processes" => "processes at once",
        "path-length" => "long paths",
        "symbolic-links" => "to make symbolic links",
        other => other,
    }
}
