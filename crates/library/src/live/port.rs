use crate::guide::Protocol;
use crate::observation::{Binding, Observation};
use crate::probe::PortPlace;
use std::io::{Error, ErrorKind};
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr, TcpListener, UdpSocket};

/// How far above a port a free one is looked for.
const REACH: u16 = 200;

/// Really binds the port, for a moment.
pub(super) fn binding(place: &PortPlace) -> Observation {
    let wanted = match place.address.as_deref().map(str::parse::<IpAddr>) {
        None => None,
        Some(Ok(address)) => Some(address),
        Some(Err(error)) => return Observation::CouldNotLook(error.to_string()),
    };
    let Err(error) = bind(wanted, place) else { return Observation::PortBinding(Binding::Free) };
    let is = |kind: ErrorKind| error.kind() == kind;
    Observation::PortBinding(if is(ErrorKind::AddrInUse) {
        Binding::Held
    } else if is(ErrorKind::PermissionDenied) {
        Binding::Denied(super::os::first_free_for_all())
    } else if is(ErrorKind::AddrNotAvailable) {
        Binding::NoAddress
    } else {
        return Observation::CouldNotLook(error.to_string());
    })
}

/// Binds the address, or every address of both families.
fn bind(address: Option<IpAddr>, place: &PortPlace) -> Result<(), Error> {
    let one = |address: IpAddr| match place.protocol {
        Protocol::Tcp => TcpListener::bind((address, place.port)).map(drop),
        Protocol::Udp => UdpSocket::bind((address, place.port)).map(drop),
    };
    let Some(address) = address else {
        one(Ipv4Addr::UNSPECIFIED.into())?;
        // A program may hold the port for the newer family alone; a machine without that family is no obstacle.
        return match one(Ipv6Addr::UNSPECIFIED.into()) {
            Err(error) if error.kind() == ErrorKind::AddrInUse => Err(error),
            _ => Ok(()),
        };
    };
    one(address)
}

/// The first port above that can be bound there.
pub(super) fn free_above(place: &PortPlace) -> Observation {
    // What ordinary users may not bind is no alternative.
    let from = place.port.saturating_add(1).max(1024);
    let free =
        |port: &u16| matches!(binding(&PortPlace { port: *port, ..place.clone() }), Observation::PortBinding(Binding::Free));
    Observation::FreePort((from..=from.saturating_add(REACH)).find(free))
}
