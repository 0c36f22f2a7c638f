//! What people are told.

use crate::finding::{Met, PortMet, PortReason, PortTrouble};
use crate::guide::{Guide, Port, PortNumbers, Protocol, Requirement};
use crate::observation::Holder;
use crate::prelude::*;
use crate::probe::PortPlace;
use crate::text::join_words;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn met_by(met: &PortMet) -> String {
    match met {
        PortMet::Own { place, url } => format!("{place} is held by the project itself: {url} answers as the guide says."),
        PortMet::Accepted { place, holder } => format!("{place} is held by {holder}, as it should be."),
        PortMet::Free { place, count, set_at } => {
            let what = match place {
                Some(place) if *count == 1 => place.to_string(),
                _ => format!("Each of the {count} ports"),
            };
            let because = set_at
                .as_ref()
                .map(|set_at| format!(" ({} in {} sets the number)", set_at.variable, set_at.place))
                .unwrap_or_default();
            format!("{what} is free{because}.")
        }
    }
}

pub(crate) fn met_briefly(met: &PortMet) -> String {
    match met {
        PortMet::Free { .. } => "free".to_owned(),
        PortMet::Own { .. } => "held by the project itself".to_owned(),
        PortMet::Accepted { holder, .. } => format!("held by {holder}"),
    }
}

pub(crate) fn message(reason: &PortReason) -> String {
    let (place, trouble) = match reason {
        PortReason::At { place, trouble, .. } => (place, trouble),
        PortReason::NotAPort { set_at, found } => {
            let found = found.map_or_else(|| "something that is no number".to_owned(), |number| number.to_string());
            return format!("{}, set in {}, holds {found}. A port is a number from 1 to 65535.", set_at.variable, set_at.place);
        }
    };
    match trouble {
        PortTrouble::Held { holder, also } => {
            let also: Vec<String> = also.iter().map(u16::to_string).collect();
            let more = if also.is_empty() { String::new() } else { format!(" Also in use: {}.", join_words(&also, "and")) };
            held(place, holder.as_ref()) + &more
        }
        PortTrouble::HolderHidden { user, accepted } => {
            let whose = user.as_ref().map(|user| format!(" of user {user}")).unwrap_or_default();
            format!(
                "{place} is in use by a program{whose} whose name only the administrator can see. If it is {}, all is well.",
                join_words(accepted, "or")
            )
        }
        PortTrouble::Privileged { from } => {
            format!("{place} is below {from}, and only the administrator may open such ports on this machine.")
        }
        PortTrouble::Denied => format!("The system does not let you open {place}."),
        PortTrouble::Reserved => format!("{place} is reserved by the system, although no program uses it."),
        PortTrouble::NoAddress => {
            let address = place.address.as_ref().map(|address| format!(" {address}")).unwrap_or_default();
            format!("This machine does not have the address{address}, so nothing can be served there.")
        }
    }
}

fn held(place: &PortPlace, holder: Option<&Holder>) -> String {
    let told = holder.filter(|holder| holder.is_told());
    if let Some((first, last)) = holder.and_then(|holder| holder.outgoing) {
        let whose = told.map_or_else(|| "a program".to_owned(), ToString::to_string);
        return format!(
            "{place} is in use at the moment by an outgoing connection of {whose}: the system takes numbers from {first} to {last} for \
             such connections, so this can happen at any time."
        );
    }
    match (told, holder.and_then(|holder| holder.user.as_ref())) {
        (Some(holder), _) => format!("{place} is already in use by {holder}."),
        (None, Some(user)) => {
            format!("{place} is already in use by a program of user {user}; only the administrator can see which one.")
        }
        (None, None) => {
            format!("{place} is already in use by another user's program; only the administrator can see which one.")
        }
    }
}

pub(crate) fn found(reason: &PortReason) -> String {
    let trouble = match reason {
        PortReason::At { trouble, .. } => trouble,
        PortReason::NotAPort { .. } => return "not a port".to_owned(),
    };
    match trouble {
        PortTrouble::Held { holder, .. } => match holder {
            Some(holder) if holder.outgoing.is_some() => "in use by a connection".to_owned(),
            Some(holder) if holder.is_told() => format!("held by {holder}"),
            Some(Holder { user: Some(user), .. }) => format!("held by user {user}"),
            Some(_) | None => "held by somebody".to_owned(),
        },
        PortTrouble::HolderHidden { .. } => "held by a program that is not named".to_owned(),
        PortTrouble::Privileged { .. } | PortTrouble::Denied => "permission denied".to_owned(),
        PortTrouble::Reserved => "reserved".to_owned(),
        PortTrouble::NoAddress => "no such address".to_owned(),
    }
}

impl ReasonWords for PortReason {
    fn message(&self, _: &Words<'_>) -> String {
        message(self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

impl SubjectWords for Port {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Port(facts) = met { met_by(facts) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Port(facts) = met { met_briefly(facts) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some("free".to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        let kind = if self.protocol == Protocol::Udp { "UDP port" } else { "port" };
        let numbers = match &self.numbers {
            PortNumbers::List(list) => join_words(&list.iter().map(u16::to_string).collect::<Vec<_>>(), "and"),
            PortNumbers::Span(first, last) => format!("{first} to {last}"),
        };
        let moved = self.set_by.as_ref().map(|by| format!(" (or what {} says)", by.name())).unwrap_or_default();
        format!("{kind} {numbers} free{moved}")
    }
}
