//! `service`: accepts a connection, and answers as stated.

use crate::assess::kind::Assess;
use crate::assess::system_service::{names_for_port, stopped};
use crate::finding::{Conclusion, LeftOut, Met, ServiceReason, ServiceTrouble};
use crate::guide::{Protocol, Service};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{Connection, Fetched, Holder, Way};
use crate::prelude::*;
use crate::probe::PortPlace;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Service) -> Result<Conclusion, Stop> {
    if inquiry.context.selection.offline && !is_here(&wanted.host) {
        return Ok(Conclusion::LeftOut(LeftOut::Offline));
    }
    let trouble = match &wanted.http {
        None => match inquiry.connection(&wanted.host, wanted.port)? {
            Connection::Taken => return Ok(Met::ServiceTakesConnections.into()),
            connection @ (Connection::NoName | Connection::Refused | Connection::NoAnswer | Connection::NoWay(_)) => {
                not_connected(connection)
            }
        },
        Some(path) => {
            let host = if wanted.host.contains(':') { format!("[{}]", wanted.host) } else { wanted.host.clone() };
            let url = format!("http://{host}:{}/{}", wanted.port, path.trim_start_matches('/'));
            match inquiry.fetch(&url, wanted.contains.as_ref(), Way::Direct)? {
                Fetched::Answer(status, _) if !status_fits(wanted.status, *status) => {
                    ServiceTrouble::OtherStatus { url, status: *status }
                }
                Fetched::Answer(_, Some(false)) if wanted.contains.is_some() => ServiceTrouble::OtherText { url },
                Fetched::Answer(status, _) => return Ok(Met::ServiceAnswers { url, status: *status }.into()),
                Fetched::Failed(connection) => not_connected(connection),
                Fetched::NotHttp | Fetched::Insecure(_) | Fetched::Proxy(_) => {
                    ServiceTrouble::OtherProgram { holder: holder(inquiry, wanted)? }
                }
            }
        }
    };
    let stopped = if trouble == ServiceTrouble::Refused && is_here(&wanted.host) {
        let names = names_for_port(inquiry, wanted.port)?;
        stopped(inquiry, &names)?
    } else {
        None
    };
    let trouble = match holder_elsewhere(inquiry, wanted, &trouble, stopped.is_some())? {
        Some(holder) => ServiceTrouble::OtherAddress { holder },
        None => trouble,
    };
    let place = format!("{}:{}", wanted.host, wanted.port);
    Ok(ServiceReason { place, port: wanted.port, trouble, stopped }.into())
}

/// Who listens on that port all the same, where nobody does at the address that is wanted.
fn holder_elsewhere(
    inquiry: &mut Inquiry<'_>,
    wanted: &Service,
    trouble: &ServiceTrouble,
    stopped: bool,
) -> Result<Option<Holder>, Stop> {
    if *trouble == ServiceTrouble::Refused && !stopped { holder(inquiry, wanted) } else { Ok(None) }
}

fn not_connected(connection: &Connection) -> ServiceTrouble {
    match connection {
        Connection::Refused => ServiceTrouble::Refused,
        Connection::NoAnswer | Connection::Taken => ServiceTrouble::NoAnswer,
        Connection::NoName => ServiceTrouble::NoName,
        Connection::NoWay(reason) => ServiceTrouble::NoWay { reason: reason.clone() },
    }
}

/// The status that is wanted; where none is stated, any that is no error.
pub(crate) fn status_fits(wanted: Option<u16>, status: u16) -> bool {
    wanted.map_or_else(|| (200..400).contains(&status), |wanted| wanted == status)
}

/// Whether a host's name or address is this machine's own.
pub(crate) fn is_here(host: &str) -> bool {
    host == "localhost" || host.parse::<core::net::IpAddr>().is_ok_and(|address| address.is_loopback())
}

/// Who answers there, where this machine can tell.
fn holder(inquiry: &mut Inquiry<'_>, wanted: &Service) -> Result<Option<Holder>, Stop> {
    if !is_here(&wanted.host) {
        return Ok(None);
    }
    let port = PortPlace { protocol: Protocol::Tcp, address: None, port: wanted.port };
    Ok(if_known(inquiry.port_holder(&port))?.cloned().flatten())
}

impl Assess for Service {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
