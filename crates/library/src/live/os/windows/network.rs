//! Who holds a port, and the networks that this machine is on.

use crate::guide::Protocol;
use crate::observation::{Holder, Network, Observation};
use crate::probe::PortPlace;
use crate::windows_calls as call;
use std::net::IpAddr;

/// Who holds a port.
pub(in crate::live) fn port_holder(place: &PortPlace) -> Observation {
    let listeners = match call::listeners(place.protocol == Protocol::Tcp) {
        Ok(listeners) => listeners,
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let address = place.address.as_deref().and_then(|address| address.parse::<IpAddr>().ok());
    let covers =
        |held: &IpAddr| held.is_unspecified() || address.is_none_or(|address| address == *held || address.is_unspecified());
    let found = listeners.iter().find(|(held, port, _)| *port == place.port && covers(held));
    // Zero is no program: the system does not tell.
    let pid = found.map(|(_, _, pid)| *pid).filter(|pid| *pid != 0);
    Observation::PortHolder(pid.map(|pid| {
        let processes = call::processes().unwrap_or_default();
        let name = processes.into_iter().find(|process| process.id == pid).map(|process| process.name);
        Holder { pid: Some(pid), name, command: None, user: None, outgoing: None }
    }))
}

/// The networks that this machine is on.
pub(in crate::live) fn networks() -> Observation {
    match all() {
        Ok(networks) => Observation::Networks(networks),
        Err(error) => Observation::CouldNotLook(error),
    }
}

fn all() -> Result<Vec<Network>, String> {
    let interfaces = if_addrs::get_if_addrs().map_err(|error| error.to_string())?;
    let network = |interface: if_addrs::Interface| {
        let (address, prefix) = match &interface.addr {
            if_addrs::IfAddr::V4(v4) => (IpAddr::V4(v4.ip), v4.prefixlen),
            if_addrs::IfAddr::V6(v6) => (IpAddr::V6(v6.ip), v6.prefixlen),
        };
        (!address.is_loopback()).then_some(Network { interface: interface.name, address, prefix })
    };
    Ok(interfaces.into_iter().filter_map(network).collect())
}

/// Whether any network could lead out of this machine: one with an address that others can reach.
///
/// # Errors
/// When the networks cannot be looked at, with the reason.
pub(in crate::live) fn has_way_out() -> Result<bool, String> {
    let reaches = |address: &IpAddr| match address {
        IpAddr::V4(address) => !address.is_link_local(),
        IpAddr::V6(address) => !address.is_unicast_link_local(),
    };
    Ok(all()?.iter().any(|network| reaches(&network.address)))
}

/// The range that systems hand out to connections unless they are told otherwise (RFC 6335, section 6).
pub(in crate::live) fn is_spoken_for(port: u16) -> bool {
    port >= 49_152
}

/// Windows has no such limit.
pub(in crate::live) fn first_free_for_all() -> Option<u16> {
    None
}
