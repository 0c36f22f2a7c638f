//! `service`: accepts a connection, and answers as stated.

use super::system_service::{names_for_port, with_stopped};
use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::{Protocol, Service};
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::{Connection, Fetched, Way};
use crate::prelude::*;
use crate::probe::PortPlace;

pub(super) fn find(inquiry: &mut Inquiry<'_>, wanted: &Service) -> Result<Finding, Stop> {
    if inquiry.context.selection.offline && !is_here(&wanted.host) {
        return Ok(Finding::skipped(super::reach::OFFLINE));
    }
    let place = format!("{}:{}", wanted.host, wanted.port);
    let finding = match &wanted.http {
        None => connected(&place, inquiry.connection(&wanted.host, wanted.port)?),
        Some(path) => {
            let host = if wanted.host.contains(':') { format!("[{}]", wanted.host) } else { wanted.host.clone() };
            let url = format!("http://{host}:{}/{}", wanted.port, path.trim_start_matches('/'));
            match inquiry.fetch(&url, wanted.contains.as_ref(), Way::Direct)? {
                Fetched::Answer(status, holds) => answered(wanted, &url, *status, *holds),
                Fetched::Failed(connection) => connected(&place, connection),
                Fetched::NotHttp | Fetched::Insecure(_) | Fetched::Proxy(_) => another_program(inquiry, wanted, &place)?,
            }
        }
    };
    let finding = finding.with(Particulars { port: Some(wanted.port), ..Particulars::default() });
    if finding.cause != Some(Cause::ServiceRefused) || !is_here(&wanted.host) {
        return Ok(finding);
    }
    let names = names_for_port(inquiry, wanted.port)?;
    with_stopped(inquiry, finding, &names)
}

fn connected(place: &str, connection: &Connection) -> Finding {
    match connection {
        Connection::Taken => Finding::met("answers", format!("{place} takes connections.")),
        Connection::Refused => {
            let message = format!("Nothing listens at {place}: the service is not running.");
            Finding::unmet(Cause::ServiceRefused, message).found("connection refused")
        }
        Connection::NoAnswer => {
            let message = format!("{place} does not answer in time.");
            Finding::unmet(Cause::ServiceNoAnswer, message).found("no answer")
        }
        Connection::NoName => {
            let message = format!("The name in {place} does not lead anywhere on this machine.");
            Finding::unmet(Cause::NameUnknown, message).found("unknown name")
        }
        Connection::NoWay(reason) => {
            let message = format!("{place} cannot be reached from here: {reason}.");
            Finding::unmet(Cause::ServiceNoAnswer, message).found("cannot be reached")
        }
    }
}

/// The status that is wanted; where none is stated, any that is no error.
pub(super) fn status_fits(wanted: Option<u16>, status: u16) -> bool {
    wanted.map_or_else(|| (200..400).contains(&status), |wanted| wanted == status)
}

fn answered(wanted: &Service, url: &str, status: u16, holds: Option<bool>) -> Finding {
    if !status_fits(wanted.status, status) {
        let should = wanted.status.map(|status| format!(", and {status} is expected")).unwrap_or_default();
        let message = format!("{url} answers with the status {status}{should}.");
        return Finding::unmet(Cause::ServiceOtherAnswer, message).found(format!("status {status}"));
    }
    match (holds, &wanted.contains) {
        (Some(false), Some(pattern)) => {
            let message = format!("{url} answers, but not with what is expected: {}", pattern.source());
            Finding::unmet(Cause::ServiceOtherAnswer, message).found("another text")
        }
        _ => Finding::met(format!("status {status}"), format!("{url} answers as it should.")),
    }
}

/// Whether a host's name or address is this machine's own.
pub(super) fn is_here(host: &str) -> bool {
    host == "localhost" || host.parse::<core::net::IpAddr>().is_ok_and(|address| address.is_loopback())
}

/// Something answers there that does not speak as the service does.
fn another_program(inquiry: &mut Inquiry<'_>, wanted: &Service, place: &str) -> Result<Finding, Stop> {
    let holder = if is_here(&wanted.host) {
        let port = PortPlace { protocol: Protocol::Tcp, address: None, port: wanted.port };
        known(inquiry.port_holder(&port))?.and_then(Option::as_ref)
    } else {
        None
    };
    let who = holder.map_or_else(|| "another program".to_owned(), ToString::to_string);
    let message = format!("{who} answers at {place}, and it does not speak HTTP: it is not the service that is expected there.");
    Ok(Finding::unmet(Cause::ServiceOtherHolder, message).found("another program"))
}
