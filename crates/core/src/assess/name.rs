//! `hostname`: leads where it should. `subnet`: overlaps no network that this machine is on.

use crate::cause::Cause;
use crate::finding::Finding;
use crate::guide::{Hostname, Subnet};
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;
use crate::text::join_words;

pub(super) fn hostname(inquiry: &mut Inquiry<'_>, wanted: &Hostname) -> Result<Finding, Stop> {
    let addresses = inquiry.addresses(&wanted.name)?;
    let name = &wanted.name;
    let found = join_words(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>(), "and");
    if addresses.is_empty() {
        return Ok(Finding::unmet(Cause::NameUnknown, format!("The name {name} does not lead anywhere on this machine."))
            .found("unknown"));
    }
    let Some(target) = &wanted.points_to else {
        return Ok(Finding::met(found.clone(), format!("{name} leads to {found}.")));
    };
    let target: Option<core::net::IpAddr> = target.parse().ok();
    // This machine has several addresses of its own: any of them will do for another.
    let fits = |address: &core::net::IpAddr| {
        target.is_some_and(|target| *address == target || (address.is_loopback() && target.is_loopback()))
    };
    if addresses.iter().all(fits) {
        return Ok(Finding::met(found.clone(), format!("{name} leads to {found}.")));
    }
    let should = wanted.points_to.as_deref().unwrap_or_default();
    let message = format!("The name {name} leads to {found}, and it should lead to {should}.");
    Ok(Finding::unmet(Cause::NameElsewhere, message).found(found).wanted(should))
}

pub(super) fn subnet(inquiry: &mut Inquiry<'_>, wanted: &Subnet) -> Result<Finding, Stop> {
    let networks = inquiry.networks()?;
    let name = format!("{}/{}", wanted.address, wanted.prefix);
    let taken: Vec<String> =
        networks.iter().filter(|network| network.overlaps(wanted.address, wanted.prefix)).map(ToString::to_string).collect();
    if taken.is_empty() {
        return Ok(Finding::met("not in use", format!("This machine is on no network that overlaps {name}.")));
    }
    let message =
        format!("This machine is on {}, which overlaps {name}: addresses there would be ambiguous.", join_words(&taken, "and"));
    Ok(Finding::unmet(Cause::SubnetTaken, message).found(join_words(&taken, "and")))
}
