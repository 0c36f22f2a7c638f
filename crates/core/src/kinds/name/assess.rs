//! `hostname`: leads where it should. `subnet`: overlaps no network that this machine is on.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, NameReason};
use crate::guide::{Hostname, Subnet};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::Network;
use crate::prelude::*;
use core::net::{IpAddr, Ipv4Addr};

pub(crate) fn assess_hostname(inquiry: &mut Inquiry<'_>, wanted: &Hostname) -> Result<Conclusion, Stop> {
    let addresses = inquiry.addresses(&wanted.name)?;
    if addresses.is_empty() {
        return Ok(NameReason::Unknown.into());
    }
    let target: Option<IpAddr> = wanted.points_to.as_deref().and_then(|target| target.parse().ok());
    // This machine has several addresses of its own: any of them will do for another.
    let fits =
        |address: &IpAddr| target.is_some_and(|target| *address == target || (address.is_loopback() && target.is_loopback()));
    let addresses = addresses.clone();
    // Programs take the first that answers, in this order.
    Ok(if wanted.points_to.is_none() || addresses.first().is_some_and(fits) {
        Met::NameLeads { addresses }.into()
    } else {
        NameReason::Elsewhere { addresses }.into()
    })
}

pub(crate) fn assess_subnet(inquiry: &mut Inquiry<'_>, wanted: &Subnet) -> Result<Conclusion, Stop> {
    let overlaps = |network: &&Network| network.overlaps(wanted.address, wanted.prefix);
    let all = inquiry.networks()?;
    let networks: Vec<Network> = all.iter().filter(overlaps).cloned().collect();
    if networks.is_empty() {
        return Ok(Met::SubnetUnused.into());
    }
    Ok(NameReason::SubnetTaken { networks, free: free_network(all, wanted.prefix) }.into())
}

/// A private network (RFC 1918) of a size that nothing here overlaps, seldom used by others.
fn free_network(networks: &[Network], prefix: u8) -> Option<String> {
    if !(16..=30).contains(&prefix) {
        return None;
    }
    let candidates = (1..=9_u8).map(|part| Ipv4Addr::new(10, 200 + part * 5, 0, 0));
    let mut free = candidates.filter(|address| !networks.iter().any(|network| network.overlaps(IpAddr::V4(*address), prefix)));
    free.next().map(|address| format!("{address}/{prefix}"))
}

impl Assess for Hostname {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess_hostname(inquiry, self)
    }
}

impl Assess for Subnet {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess_subnet(inquiry, self)
    }
}
