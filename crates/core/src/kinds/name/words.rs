//! What people are told.

use crate::finding::{Met, NameReason};
use crate::fix::{Shell, quote};
use crate::guide::{Guide, Hostname, Requirement, Subject, Subnet};
use crate::prelude::*;
use crate::text::join_words;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};
use core::net::IpAddr;

pub(crate) fn addresses(addresses: &[IpAddr]) -> String {
    join_words(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>(), "and")
}

pub(crate) fn message(words: &Words<'_>, reason: &NameReason) -> String {
    match (&words.requirement.subject, reason) {
        (Subject::Subnet(subnet), NameReason::SubnetTaken { networks, .. }) => {
            let taken = join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and");
            format!(
                "This machine is on {taken}, which overlaps {}/{}: addresses there would be ambiguous.",
                subnet.address, subnet.prefix
            )
        }
        (Subject::Hostname(host), NameReason::Elsewhere { addresses }) => {
            let should = host.points_to.as_deref().unwrap_or_default();
            format!("The name {} leads to {}, and it should lead to {should}.", host.name, self::addresses(addresses))
        }
        (Subject::Hostname(host), _) => format!("The name {} does not lead anywhere on this machine.", host.name),
        _ => words.title(),
    }
}

pub(crate) fn found(reason: &NameReason) -> String {
    match reason {
        NameReason::Unknown => "unknown".to_owned(),
        NameReason::Elsewhere { addresses } => self::addresses(addresses),
        NameReason::SubnetTaken { networks, .. } => {
            join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and")
        }
    }
}

impl ReasonWords for NameReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Hostname {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        match met {
            Met::NameLeads { addresses } => format!("{} leads to {}.", self.name, self::addresses(addresses)),
            _ => words.title(),
        }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::NameLeads { addresses } = met { self::addresses(addresses) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(self.points_to.clone().unwrap_or_else(|| "known".to_owned()))
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        let then = match &self.points_to {
            Some(address) => format!("shows {address}"),
            None => "shows an address".to_owned(),
        };
        shell.is_unix().then(|| (format!("getent hosts {}", quote(&self.name, shell)), then))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        match &self.points_to {
            Some(address) => format!("{} leads to {address}", self.name),
            None => format!("{} leads somewhere", self.name),
        }
    }
}

impl SubjectWords for Subnet {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        format!("This machine is on no network that overlaps {}/{}.", self.address, self.prefix)
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "not in use".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some("in no use".to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("{}/{} is not in use here", self.address, self.prefix)
    }
}
