//! Who holds a port, and the networks that this machine is on.

use super::registry;
use crate::host::Interrupt;
use crate::live::Live;
use crate::read::reserved_ports;
use crate::run::{ExecEnv, Isolated, Limits, run};
use crate::windows_calls as call;
use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{Binding, Holder, Network, Observation};
use setup_ready_core::probe::PortPlace;
use std::net::IpAddr;
use std::sync::OnceLock;

/// Who holds a port.
pub(in crate::live) fn port_holder(_: &Live, place: &PortPlace) -> Observation {
    // Zero is no program: the system does not tell.
    let pid = listener(place).filter(|pid| *pid != 0);
    Observation::PortHolder(pid.map(|pid| {
        let processes = call::processes().unwrap_or_default();
        // Guides name programs as they do on other systems.
        let plain = |name: String| {
            let stem = name.to_ascii_lowercase().strip_suffix(".exe").map(str::len);
            stem.and_then(|length| name.get(..length)).map_or_else(|| name.clone(), ToOwned::to_owned)
        };
        let name = processes.into_iter().find(|process| process.id == pid).map(|process| plain(process.name));
        Holder { pid: Some(pid), name, command: None, user: None, outgoing: None, unit: None }
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
pub(in crate::live) fn is_spoken_for(_: &Live, port: u16) -> bool {
    port >= 49_152
}

/// A port that the system refuses: it has reserved the number for itself, or a program holds it for itself alone.
pub(in crate::live) fn refused(place: &PortPlace) -> Binding {
    let newer = place.address.as_deref().is_some_and(|address| address.contains(':'));
    if reserved(newer, place.protocol).iter().any(|(first, last)| (*first..=*last).contains(&place.port)) {
        Binding::Reserved
    } else if listener(place).is_some() {
        Binding::Held
    } else {
        Binding::Denied(None)
    }
}

/// The ranges of ports that the system has reserved, asked once for each family and protocol: a free port is looked for among many.
fn reserved(newer: bool, protocol: Protocol) -> &'static [(u16, u16)] {
    static KNOWN: [OnceLock<Vec<(u16, u16)>>; 4] = [const { OnceLock::new() }; 4];
    let [a, b, c, d] = &KNOWN;
    let (known, family, protocol) = match (newer, protocol) {
        (false, Protocol::Tcp) => (a, "ipv4", "protocol=tcp"),
        (false, Protocol::Udp) => (b, "ipv4", "protocol=udp"),
        (true, Protocol::Tcp) => (c, "ipv6", "protocol=tcp"),
        (true, Protocol::Udp) => (d, "ipv6", "protocol=udp"),
    };
    known.get_or_init(|| {
        let words = ["interface", family, "show", "excludedportrange", protocol].map(ToOwned::to_owned);
        let limits = Limits { time: Live::TIME_LIMIT, interrupt: Interrupt::default(), environment: &[] };
        reserved_ports(
            &run(&super::own_program("netsh.exe"), &words, &ExecEnv::Isolated(Isolated::of_the_system()), &limits).stdout,
        )
    })
}

/// Whether a program has a port on an address of its own: the system lets two share a number, of which one answers on all other addresses,
/// and what connects to this machine reaches the wrong one.
pub(in crate::live) fn is_taken_beside(place: &PortPlace) -> bool {
    place.address.is_none() && listener(place).is_some()
}

/// The process that has a port, where the system's tables list one; zero where they do not tell which.
fn listener(place: &PortPlace) -> Option<u32> {
    let listeners = call::listeners(place.protocol == Protocol::Tcp).unwrap_or_default();
    let address = place.address.as_deref().and_then(|address| address.parse::<IpAddr>().ok());
    let covers =
        |held: &IpAddr| held.is_unspecified() || address.is_none_or(|address| address == *held || address.is_unspecified());
    listeners.into_iter().find(|(held, port, _)| *port == place.port && covers(held)).map(|(_, _, pid)| pid)
}

/// The proxy that the settings of this user name.
pub(in crate::live) fn system_proxy() -> Observation {
    Observation::SystemProxy(registry::proxy())
}
