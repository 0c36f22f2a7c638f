//! `group`: in force in this session.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::Group;
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::Os;
use crate::prelude::*;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Group) -> Result<Finding, Stop> {
    let account = inquiry.account()?;
    let name = &wanted.name;
    let in_force = || Finding::met("in force", format!("You are in the group {name}."));
    if account.groups.contains(name) {
        return Ok(in_force());
    }
    let is_alike = |one: &String| one.eq_ignore_ascii_case(name);
    let alike = account.groups.iter().any(is_alike);
    if alike || account.root {
        // Windows takes upper and lower case for the same, and asks its administrators for the group like everybody else.
        match inquiry.os()? {
            Some(Os::Windows) if alike => return Ok(in_force()),
            Some(Os::Windows) => {}
            _ if account.root => {
                let message = format!("You are the administrator, who needs no group {name}.");
                return Ok(Finding::met("not needed", message));
            }
            _ => {}
        }
    }
    let finding = if inquiry.database_groups()?.contains(name) {
        let message =
            format!("You were added to the group {name}, but this session began before that: it counts from your next sign-in.");
        Finding::unmet(Cause::GroupUntilSignIn, message).found("from your next sign-in")
    } else if *inquiry.group(name)? {
        Finding::unmet(Cause::GroupNotMember, format!("You are not a member of the group {name}.")).found("not a member")
    } else {
        Finding::unmet(Cause::GroupAbsent, format!("This machine has no group {name}.")).found("no such group")
    };
    Ok(finding.with(Particulars { group: Some(name.clone()), ..Particulars::default() }))
}

/// Whether the account database lists the person in a group that this session does not have yet.
pub(super) fn comes_with_sign_in(inquiry: &mut Inquiry<'_>, group: Option<&str>) -> Result<bool, Stop> {
    let Some(group) = group else { return Ok(false) };
    let has = |groups: &[String]| groups.iter().any(|one| one == group);
    let listed = known(inquiry.database_groups())?.is_some_and(|groups| has(groups));
    let in_session = known(inquiry.account())?.is_some_and(|account| has(&account.groups));
    Ok(listed && !in_session)
}
