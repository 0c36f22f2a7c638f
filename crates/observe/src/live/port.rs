use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{Binding, Observation};
use setup_ready_core::probe::PortPlace;
use std::io::{Error, ErrorKind};
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr, TcpListener, UdpSocket};

/// How far above a port a free one is looked for.
const REACH: u16 = 200;

/// Really binds the port, for a moment.
pub(super) fn binding(place: &PortPlace) -> Observation {
    let (first, second) = match place.address.as_deref() {
        // A program may hold the port for the newer family alone.
        None => (Ipv4Addr::UNSPECIFIED.into(), Some(Ipv6Addr::UNSPECIFIED.into())),
        Some("localhost") => (Ipv4Addr::LOCALHOST.into(), Some(Ipv6Addr::LOCALHOST.into())),
        Some(address) => match address.parse::<IpAddr>() {
            Ok(address) => (address, None),
            Err(error) => return Observation::CouldNotLook(error.to_string()),
        },
    };
    let Err(error) = bind(first, second, place) else {
        let taken = super::os::is_taken_beside(place);
        return Observation::PortBinding(if taken { Binding::Held } else { Binding::Free });
    };
    let is = |kind: ErrorKind| error.kind() == kind;
    Observation::PortBinding(if is(ErrorKind::AddrInUse) {
        Binding::Held
    } else if is(ErrorKind::PermissionDenied) {
        super::os::refused(place)
    } else if is(ErrorKind::AddrNotAvailable) {
        Binding::NoAddress
    } else {
        return Observation::CouldNotLook(error.to_string());
    })
}

/// Binds an address, and the other family's one of the same meaning; a machine without that family is no obstacle.
fn bind(first: IpAddr, second: Option<IpAddr>, place: &PortPlace) -> Result<(), Error> {
    let one = |address: IpAddr| match place.protocol {
        Protocol::Tcp => TcpListener::bind((address, place.port)).map(drop),
        Protocol::Udp => UdpSocket::bind((address, place.port)).map(drop),
    };
    one(first)?;
    match second.map(one) {
        Some(Err(error)) if error.kind() == ErrorKind::AddrInUse => Err(error),
        _ => Ok(()),
    }
}

/// The first port above that can be bound there.
pub(super) fn free_above(live: &super::Live, place: &PortPlace) -> Observation {
    // What ordinary users may not bind is no alternative.
    let from = place.port.saturating_add(1).max(1024);
    let free =
        |port: &u16| matches!(binding(&PortPlace { port: *port, ..place.clone() }), Observation::PortBinding(Binding::Free));
    let near = from..=from.saturating_add(REACH);
    // Where all near ones are handed out to connections, one of those has to do.
    let steady = near.clone().filter(|port| !super::os::is_spoken_for(live, *port)).find(free);
    Observation::FreePort(steady.or_else(|| near.clone().find(free)))
}
