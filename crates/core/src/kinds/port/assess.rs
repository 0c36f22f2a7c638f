//! `port`: it can be bound there by this user, or one of the accepted programs holds it.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, PortMet, PortReason, PortTrouble, SetAt};
use crate::guide::{Port, Protocol, Subject};
use crate::inquiry::{Context, Inquiry, Stop, if_known};
use crate::kinds::service::assess::is_here;
use crate::observation::{Binding, Holder, SettingNumber};
use crate::prelude::*;
use crate::probe::{PortPlace, Probe};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, port: &Port) -> Result<Conclusion, Stop> {
    let (numbers, set_at) = match configured(inquiry, port)? {
        Configured::Number(number, set_at) => (vec![number], Some(set_at)),
        Configured::Wrong(reason) => return Ok(reason.into()),
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
        let trouble = match inquiry.port_binding(place)? {
            Binding::Free => continue,
            Binding::Held => {
                // Who holds it is a help, not a need.
                let holder = if_known(inquiry.port_holder(place))?.and_then(Option::as_ref);
                match holder.and_then(|holder| holder.name.as_ref().map(|name| (holder, name))) {
                    Some((holder, name)) if port.held_ok.contains(name) => accepted.push((place, holder)),
                    _ if let Some(url) = answers_as_stated(inquiry, place)? => {
                        return Ok(Met::Port(PortMet::Own { place: place.clone(), url }).into());
                    }
                    None if !port.held_ok.is_empty() => hidden.push((place, holder)),
                    _ => held.push((place, holder)),
                }
                continue;
            }
            Binding::Denied(Some(from)) if place.port < *from => PortTrouble::Privileged { from: *from },
            Binding::Denied(_) => PortTrouble::Denied,
            Binding::Reserved => PortTrouble::Reserved,
            Binding::NoAddress => return Ok(at(place, PortTrouble::NoAddress, None)),
        };
        return with_free_port(inquiry, place, trouble);
    }
    if let Some(((place, holder), others)) = held.split_first() {
        let also = others.iter().map(|(place, _)| place.port).collect();
        return with_free_port(inquiry, place, PortTrouble::Held { holder: holder.cloned(), also });
    }
    if let Some((place, holder)) = hidden.first() {
        let user = holder.and_then(|holder: &Holder| holder.user.clone());
        return Ok(at(place, PortTrouble::HolderHidden { user, accepted: port.held_ok.clone() }, None));
    }
    let met = match accepted.first() {
        Some((place, holder)) => PortMet::Accepted { place: (*place).clone(), holder: (*holder).clone() },
        None => PortMet::Free { place: places.first().cloned(), count: places.len(), set_at },
    };
    Ok(Met::Port(met).into())
}

/// Where the guide's own service answers at this place, and as the guide says: the project itself runs.
///
/// One that only takes connections tells nothing, and neither does one whose answer has no text to be known by.
fn answers_as_stated(inquiry: &mut Inquiry<'_>, place: &PortPlace) -> Result<Option<String>, Stop> {
    let Context { guide, ports, .. } = inquiry.context;
    for requirement in ports.services_at(place.port).iter().filter_map(|index| guide.requirements.get(*index)) {
        if let Subject::Service(service) = &requirement.subject
            && place.protocol == Protocol::Tcp
            && service.http.is_some()
            && service.contains.is_some()
            && is_here(&service.host)
            && let Some(Conclusion::Met(Met::ServiceAnswers { url, .. })) =
                if_known(crate::kinds::service::assess::assess(inquiry, service))?
        {
            return Ok(Some(url));
        }
    }
    Ok(None)
}

enum Configured {
    Default,
    Number(u16, SetAt),
    Wrong(PortReason),
}

fn configured(inquiry: &mut Inquiry<'_>, port: &Port) -> Result<Configured, Stop> {
    let Some(set_by) = &port.set_by else { return Ok(Configured::Default) };
    let set_at = |place: &str| SetAt { variable: set_by.name().to_owned(), place: place.to_owned() };
    Ok(match inquiry.setting_number(set_by)? {
        SettingNumber::Unset => Configured::Default,
        SettingNumber::Number(number, place) => match u16::try_from(*number).ok().filter(|number| *number > 0) {
            Some(number) => Configured::Number(number, set_at(place)),
            None => Configured::Wrong(PortReason::NotAPort { set_at: set_at(place), found: Some(*number) }),
        },
        SettingNumber::NotANumber(place) => Configured::Wrong(PortReason::NotAPort { set_at: set_at(place), found: None }),
    })
}

fn at(place: &PortPlace, trouble: PortTrouble, free_port: Option<u16>) -> Conclusion {
    PortReason::At { place: place.clone(), trouble, free_port }.into()
}

/// With a port that is free, where one is found.
fn with_free_port(inquiry: &mut Inquiry<'_>, place: &PortPlace, trouble: PortTrouble) -> Result<Conclusion, Stop> {
    let mut free = if_known(inquiry.free_port(place))?.copied().flatten();
    // Others of the guide's ports may have to move, too: each looks above those before it, so that no two are sent to one place.
    for _ in 0..inquiry.context.ports.moving_before(place.port, NEAR, MOST_APART) {
        let Some(taken) = free else { break };
        free = if_known(inquiry.free_port(&PortPlace { port: taken, ..place.clone() }))?.copied().flatten();
    }
    Ok(at(place, trouble, free))
}

/// How far above a port a free one is looked for: closer ones may be sent to the same place.
const NEAR: u16 = 200;

/// More ports than these are not kept apart.
const MOST_APART: usize = 20;

impl Assess for Port {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
