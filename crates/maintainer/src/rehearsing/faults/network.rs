//! What goes wrong with ports, sockets, devices, services, addresses and names.

use super::super::machine_builder::{MachineBuilder, text, texts};
use super::super::satisfy::Wanted;
use super::NotMade;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::{Device, Port, PortNumbers, Protocol, Reach, Service, Socket, Subject, Subnet};
use setup_ready_core::observation::Os;
use std::net::IpAddr;

pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, cause: Cause) -> Result<(), NotMade> {
    match &wanted.requirement.subject {
        Subject::Port(one) => port(sketch, wanted, one, cause),
        Subject::Socket(one) => socket(sketch, one, cause),
        Subject::Device(one) => device(sketch, one, cause),
        Subject::Service(one) => service(sketch, one, cause),
        Subject::Reach(one) => reach(sketch, one, cause),
        Subject::Hostname(host) => {
            match (cause, &host.points_to) {
                (Cause::NameUnknown, _) => sketch.unset("names", &host.name),
                (Cause::NameElsewhere, Some(_)) => sketch.set("names", &host.name, text("192.0.2.99")),
                _ => return Err(NotMade::NotHere),
            }
            Ok(())
        }
        Subject::Subnet(subnet) if cause == Cause::SubnetTaken => {
            let network = format!("tun0 {}/{}", within(subnet), subnet.prefix);
            sketch.set("network", "networks", texts(&["eth0 192.0.2.20/24", &network]));
            Ok(())
        }
        _ => Err(NotMade::NotHere),
    }
}

/// An address in the network that is not its own.
fn within(subnet: &Subnet) -> IpAddr {
    match subnet.address {
        IpAddr::V4(address) => IpAddr::V4((u32::from(address) | u32::from(subnet.prefix < 31) << 1).into()),
        IpAddr::V6(address) => IpAddr::V6((u128::from(address) | u128::from(subnet.prefix < 127) << 1).into()),
    }
}

fn port(sketch: &mut MachineBuilder, wanted: Wanted<'_>, port: &Port, cause: Cause) -> Result<(), NotMade> {
    let number = match &port.numbers {
        PortNumbers::List(list) => list.first().copied().ok_or(NotMade::NotHere)?,
        PortNumbers::Span(first, _) => *first,
        _ => return Err(NotMade::NoWords),
    };
    let protocol = text(if port.protocol == Protocol::Tcp { "tcp" } else { "udp" });
    let mut put = |state: &str, more: &[(&str, String)]| {
        let mut fields = vec![("state", text(state)), ("protocol", protocol.clone())];
        fields.extend(more.iter().cloned());
        sketch.put_number("port", ("port", number.into()), &fields);
    };
    match cause {
        Cause::PortHeld => {
            put("held", &[("holder", text("lighthouse")), ("pid", "4711".to_owned()), ("user", text("newcomer"))]);
        }
        Cause::PortPrivileged if number < 1024 && wanted.os == Os::Linux => put("denied", &[]),
        Cause::PortReserved if wanted.os == Os::Windows => put("reserved", &[]),
        Cause::PortNoAddress if port.address.is_some() => put("no-address", &[]),
        Cause::PortNotAPort => {
            let by = port.set_by.as_ref().and_then(|by| by.variable.clone()).ok_or(NotMade::NotHere)?;
            sketch.set("environment", &by, text("harbour"));
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn socket(sketch: &mut MachineBuilder, socket: &Socket, cause: Cause) -> Result<(), NotMade> {
    let of = |state: &str| vec![("state", text(state)), ("group", text("engine")), ("mode", text("660"))];
    match cause {
        Cause::SocketMissing => sketch.drop("socket", &socket.path),
        Cause::SocketDenied | Cause::SocketDeniedUntilSignIn => {
            sketch.put("socket", ("path", &socket.path), &of("denied"));
            let key = if cause == Cause::SocketDenied { "other_groups" } else { "database_groups" };
            sketch.set("user", key, texts(&["newcomer", "engine"]));
        }
        Cause::SocketDead => sketch.put("socket", ("path", &socket.path), &[("state", text("dead"))]),
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn device(sketch: &mut MachineBuilder, device: &Device, cause: Cause) -> Result<(), NotMade> {
    match cause {
        Cause::DeviceMissing => {
            sketch.drop("device", &device.path);
            sketch.top("usb", "[]");
        }
        Cause::DeviceDenied => {
            let fields = [("state", text("denied")), ("group", text("dialout")), ("mode", text("660"))];
            sketch.put("device", ("path", &device.path), &fields);
            sketch.set("user", "other_groups", texts(&["dialout"]));
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn service(sketch: &mut MachineBuilder, service: &Service, cause: Cause) -> Result<(), NotMade> {
    let place = format!("{}:{}{}", service.host, service.port, service.http.as_deref().unwrap_or(""));
    let place = place.trim_end_matches('/');
    match cause {
        Cause::ServiceRefused => {
            sketch.put("service", ("at", place), &[("fails", text("refused"))]);
        }
        Cause::ServiceNoAnswer => sketch.put("service", ("at", place), &[("fails", text("no-answer"))]),
        Cause::ServiceOtherAnswer if service.http.is_some() => {
            sketch.put("service", ("at", place), &[("status", "503".to_owned()), ("text", text("closed"))]);
        }
        // Whose port it is is told where it is known whose it should be.
        Cause::ServiceOtherHolder => return Err(NotMade::NoWords),
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn reach(sketch: &mut MachineBuilder, reach: &Reach, cause: Cause) -> Result<(), NotMade> {
    let url = reach.url.trim_end_matches('/');
    let mut put = |fields: &[(&str, String)]| sketch.put("site", ("url", url), fields);
    match cause {
        Cause::ReachOffline => {
            put(&[("fails", text("no-name"))]);
            sketch.set("network", "online", "false");
        }
        Cause::ReachNoNames => return Err(NotMade::NoWords),
        Cause::ReachNoName => put(&[("fails", text("no-name"))]),
        Cause::ReachRefused => put(&[("fails", text("refused"))]),
        Cause::ReachNoAnswer => put(&[("fails", text("no-answer"))]),
        Cause::ReachTls => put(&[("fails", text("not-secure")), ("reason", text("its certificate is out of date"))]),
        Cause::ReachProxy => put(&[("fails", text("proxy")), ("reason", text("it asks for a name and a password"))]),
        Cause::ReachStatus => put(&[("status", "403".to_owned())]),
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}
