//! `port`: it can be bound there by this user, or one of the accepted programs holds it.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::Port;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Binding, Holder, SettingNumber};
use crate::prelude::*;
use crate::probe::{PortPlace, Probe};
use crate::text::join_words;

pub(super) fn find(inquiry: &mut Inquiry<'_>, port: &Port) -> Result<Finding, Stop> {
    let (numbers, place) = match configured(inquiry, port)? {
        Configured::Number(number, place) => (vec![number], Some(place)),
        Configured::Wrong(finding) => return Ok(*finding),
        Configured::Default => (port.numbers.each(), None),
    };
    let places: Vec<PortPlace> = numbers
        .iter()
        .map(|number| PortPlace { protocol: port.protocol, address: port.address.clone(), port: *number })
        .collect();
    for place in &places {
        inquiry.want(Probe::PortBinding(place.clone()));
    }
    let mut held = Vec::new();
    let mut accepted = Vec::new();
    let mut hidden = Vec::new();
    for place in &places {
        match inquiry.port_binding(place)? {
            Binding::Free => {}
            Binding::Held => {
                let holder = match inquiry.port_holder(place) {
                    Ok(holder) => holder.as_ref(),
                    Err(Stop::Pending) => return Err(Stop::Pending),
                    // Who holds it is a help, not a need.
                    Err(Stop::NoAnswer(..)) => None,
                };
                match holder.and_then(|holder| holder.name.as_ref().map(|name| (holder, name))) {
                    Some((holder, name)) if port.held_ok.contains(name) => accepted.push((place, holder)),
                    None if !port.held_ok.is_empty() => hidden.push((place, holder)),
                    _ => held.push((place, holder)),
                }
            }
            Binding::Denied(from) => return with_alternative(inquiry, place, denied(place, *from), Particulars::default()),
            Binding::Reserved => {
                let message = format!("{place} is reserved by the system, although no program uses it.");
                return with_alternative(
                    inquiry,
                    place,
                    Finding::unmet(Cause::PortReserved, message).found("reserved"),
                    Particulars::default(),
                );
            }
            Binding::NoAddress => {
                let address = place.address.as_ref().map(|address| format!(" {address}")).unwrap_or_default();
                let message = format!("This machine does not have the address{address}, so nothing can be served there.");
                return Ok(Finding::unmet(Cause::PortNoAddress, message).found("no such address").with(about(place)));
            }
        }
    }
    if let Some(((place, holder), others)) = held.split_first() {
        return found_held(inquiry, place, *holder, others);
    }
    if let Some((place, holder)) = hidden.first() {
        return Ok(may_be_right(place, *holder, &port.held_ok));
    }
    let what = if let [only] = places.as_slice() { only.to_string() } else { format!("each of the {} ports", places.len()) };
    let because = place.map(|place| format!(" ({place} sets the number)")).unwrap_or_default();
    Ok(match accepted.as_slice() {
        [] => Finding::met("free", format!("{what} is free{because}.")),
        [(place, holder), ..] => {
            Finding::met(format!("held by {holder}"), format!("{place} is held by {holder}, as it should be."))
        }
    })
}

enum Configured {
    Default,
    Number(u16, String),
    Wrong(Box<Finding>),
}

fn configured(inquiry: &mut Inquiry<'_>, port: &Port) -> Result<Configured, Stop> {
    let Some(set_by) = &port.set_by else { return Ok(Configured::Default) };
    Ok(match inquiry.setting_number(&set_by.variable, set_by.env_file.as_deref())? {
        SettingNumber::Unset => Configured::Default,
        SettingNumber::Number(number, place) => match u16::try_from(*number).ok().filter(|number| *number > 0) {
            Some(number) => Configured::Number(number, format!("{} in {place}", set_by.variable)),
            None => Configured::Wrong(Box::new(not_a_port(&set_by.variable, place, &number.to_string()))),
        },
        SettingNumber::NotANumber(place) => {
            Configured::Wrong(Box::new(not_a_port(&set_by.variable, place, "something that is no number")))
        }
    })
}

fn not_a_port(variable: &str, place: &str, found: &str) -> Finding {
    let message = format!("{variable}, set in {place}, holds {found}. A port is a number from 1 to 65535.");
    let particulars = Particulars { path: Some(place.to_owned()), ..Particulars::default() };
    Finding::unmet(Cause::PortNotAPort, message).found("not a port").with(particulars)
}

/// The port is held, perhaps by whom it should be: the system hides the name.
fn may_be_right(place: &PortPlace, holder: Option<&Holder>, accepted: &[String]) -> Finding {
    let whose = holder.and_then(|holder| holder.user.as_ref()).map(|user| format!(" of user {user}")).unwrap_or_default();
    let message = format!(
        "{place} is in use by a program{whose} whose name only the administrator can see. If it is {}, all is well.",
        join_words(accepted, "or")
    );
    Finding::unknown(Cause::CouldNotLook, message).found("held by a program that is not named").with(about(place))
}

fn about(place: &PortPlace) -> Particulars {
    Particulars { port: Some(place.port), ..Particulars::default() }
}

fn denied(place: &PortPlace, from: Option<u16>) -> Finding {
    match from {
        Some(from) if place.port < from => {
            let message = format!("{place} is below {from}, and only the administrator may open such ports on this machine.");
            Finding::unmet(Cause::PortPrivileged, message)
        }
        _ => Finding::unmet(Cause::PortReserved, format!("The system does not let you open {place}.")),
    }
    .found("permission denied")
}

fn found_held(
    inquiry: &mut Inquiry<'_>,
    place: &PortPlace,
    holder: Option<&Holder>,
    others: &[(&PortPlace, Option<&Holder>)],
) -> Result<Finding, Stop> {
    let named = holder.filter(|holder| holder.pid.is_some() || holder.name.is_some());
    let user = holder.and_then(|holder| holder.user.as_ref());
    let (found, who) = match (named, user) {
        _ if let Some((first, last)) = holder.and_then(|holder| holder.outgoing) => {
            let whose = named.map_or_else(|| "a program".to_owned(), ToString::to_string);
            let message = format!(
                "{place} is in use at the moment by an outgoing connection of {whose}: the system takes numbers from {first} to {last} \
                 for such connections, so this can happen at any time."
            );
            ("in use by a connection".to_owned(), message)
        }
        (Some(holder), _) => (format!("held by {holder}"), format!("{place} is already in use by {holder}.")),
        (None, Some(user)) => (
            format!("held by user {user}"),
            format!("{place} is already in use by a program of user {user}; only the administrator can see which one."),
        ),
        (None, None) => (
            "held by somebody".to_owned(),
            format!("{place} is already in use by another user's program; only the administrator can see which one."),
        ),
    };
    let more: Vec<String> = others.iter().map(|(place, _)| place.port.to_string()).collect();
    let more = if more.is_empty() { String::new() } else { format!(" Also in use: {}.", join_words(&more, "and")) };
    let particulars = Particulars {
        holder: named.map(ToString::to_string),
        pid: named.and_then(|holder| holder.pid),
        passing: holder.is_some_and(|holder| holder.outgoing.is_some()),
        ..Particulars::default()
    };
    with_alternative(inquiry, place, Finding::unmet(Cause::PortHeld, who + &more).found(found), particulars)
}

/// Adds a port that is free, where one was found.
fn with_alternative(
    inquiry: &mut Inquiry<'_>,
    place: &PortPlace,
    finding: Finding,
    particulars: Particulars,
) -> Result<Finding, Stop> {
    let free_port = match inquiry.free_port(place) {
        Ok(free) => *free,
        Err(Stop::Pending) => return Err(Stop::Pending),
        Err(Stop::NoAnswer(..)) => None,
    };
    Ok(finding.with(Particulars { port: Some(place.port), free_port, ..particulars }))
}
