//! `group`: in force in this session.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, GroupReason, Met};
use crate::guide::Group;
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Group) -> Result<Conclusion, Stop> {
    let account = inquiry.account()?;
    let name = &wanted.name;
    if account.groups.contains(name) {
        return Ok(Met::GroupInForce.into());
    }
    let is_alike = |one: &String| one.eq_ignore_ascii_case(name);
    let alike = account.groups.iter().any(is_alike);
    if alike || account.root {
        // Windows takes upper and lower case for the same, and asks its administrators for the group like everybody else.
        match inquiry.os()? {
            Some(Os::Windows) if alike => return Ok(Met::GroupInForce.into()),
            Some(Os::Windows) => {}
            _ if account.root => return Ok(Met::GroupNotNeeded.into()),
            _ => {}
        }
    }
    Ok(if inquiry.database_groups()?.contains(name) {
        GroupReason::UntilSignIn
    } else if *inquiry.group(name)? {
        GroupReason::NotMember
    } else {
        GroupReason::Absent
    }
    .into())
}

/// Whether the account database lists the person in a group that this session does not have yet.
pub(crate) fn comes_with_sign_in(inquiry: &mut Inquiry<'_>, group: Option<&str>) -> Result<bool, Stop> {
    let Some(group) = group else { return Ok(false) };
    let has = |groups: &[String]| groups.iter().any(|one| one == group);
    let listed = if_known(inquiry.database_groups())?.is_some_and(|groups| has(groups));
    let in_session = if_known(inquiry.account())?.is_some_and(|account| has(&account.groups));
    Ok(listed && !in_session)
}

impl Assess for Group {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
