//! What people are told.

use crate::finding::{Met, ReachReason, ReachTrouble};
use crate::guide::{Guide, Reach, Requirement, Subject};
use crate::kinds::service::words::other_status;
use crate::observation::SystemProxy;
use crate::prelude::*;
use crate::text::without_credentials;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &ReachReason) -> String {
    let address = &reason.address;
    let wanted = if let Subject::Reach(reach) = &words.requirement.subject { reach.status } else { None };
    let text = match &reason.trouble {
        ReachTrouble::Offline => {
            "This machine is offline: nothing outside can be reached. What needs the network cannot be checked until it is online."
                .to_owned()
        }
        ReachTrouble::NoNames => {
            "No host name can be looked up on this machine, although it is connected to a network: either that network leads nowhere, or its \
             name service (DNS) does not work. What needs the network cannot be checked until it does."
                .to_owned()
        }
        ReachTrouble::NoName => format!("The host name in {address} cannot be looked up."),
        ReachTrouble::Refused => format!("{address} refuses the connection."),
        ReachTrouble::NoAnswer => format!("{address} does not answer in time."),
        ReachTrouble::NoWay { reason } => format!("{address} cannot be reached from here: {reason}."),
        ReachTrouble::Insecure { reason } => format!("The connection to {address} cannot be made secure: {reason}."),
        ReachTrouble::Proxy { reason } => format!("The proxy does not let {address} through: {reason}."),
        ReachTrouble::Status { status } => other_status(address, *status, wanted),
        ReachTrouble::NotHttp => format!("Something answers at {address}, but it does not speak HTTP."),
    };
    match &reason.system_proxy {
        // Browsers know the proxy of the system's settings, programs in a terminal do not: that is why one works and the other does not.
        Some(SystemProxy { address: Some(proxy), .. }) => format!(
            "{text} This system's settings name the proxy {proxy}, which browsers use; programs in this terminal do not know it."
        ),
        Some(SystemProxy { address: None, .. }) => format!(
            "{text} This system's settings leave it to a script to choose a proxy. Browsers can run it, and programs in a terminal cannot."
        ),
        None => text,
    }
}

pub(crate) fn found(reason: &ReachReason) -> String {
    if reason.system_proxy.is_some() {
        return "the proxy is not known here".to_owned();
    }
    match &reason.trouble {
        ReachTrouble::Offline => "offline".to_owned(),
        ReachTrouble::NoNames => "no names are looked up".to_owned(),
        ReachTrouble::NoName => "unknown name".to_owned(),
        ReachTrouble::Refused => "connection refused".to_owned(),
        ReachTrouble::NoAnswer => "no answer".to_owned(),
        ReachTrouble::NoWay { .. } => "cannot be reached".to_owned(),
        ReachTrouble::Insecure { .. } => "not secure".to_owned(),
        ReachTrouble::Proxy { .. } => "stopped by the proxy".to_owned(),
        ReachTrouble::Status { status } => format!("status {status}"),
        ReachTrouble::NotHttp => "not HTTP".to_owned(),
    }
}

pub(crate) fn wanted(reach: &Reach) -> String {
    reach.status.map_or_else(|| "can be reached".to_owned(), |status| format!("status {status}"))
}

impl ReasonWords for ReachReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

impl SubjectWords for Reach {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Reached { address, .. } = met { format!("{address} can be reached.") } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Reached { status, .. } = met { format!("status {status}") } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("{} can be reached", without_credentials(&self.url))
    }
}
