//! What people are told.

use crate::finding::{Met, ServiceReason, ServiceTrouble, StoppedService};
use crate::guide::{Guide, Requirement, Service, Subject};
use crate::observation::SystemService;
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn with_stopped(text: String, stopped: Option<&StoppedService>) -> String {
    let Some(service) = stopped else { return text };
    let how = match service.state {
        SystemService::Disabled => "but it is stopped and disabled",
        SystemService::Masked => "but it is masked: somebody has seen to it that nothing can start it",
        SystemService::Failed => "but it has failed",
        SystemService::Stopped | SystemService::Missing | SystemService::Running => "but it is stopped",
    };
    format!("{text} The service {} is installed here, {how}.", service.name)
}

pub(crate) fn message(words: &Words<'_>, reason: &ServiceReason) -> String {
    let place = &reason.place;
    let wanted = if let Subject::Service(service) = &words.requirement.subject { Some(service) } else { None };
    let text = match &reason.trouble {
        ServiceTrouble::Refused => format!("Nothing listens at {place}: the service is not running."),
        ServiceTrouble::OtherAddress { holder } => {
            let port = reason.port;
            format!(
                "Nothing listens at {place}, but port {port} is held by {holder}: it listens at another address of this machine only."
            )
        }
        ServiceTrouble::NoAnswer => format!("{place} does not answer in time."),
        ServiceTrouble::NoWay { reason } => format!("{place} cannot be reached from here: {reason}."),
        ServiceTrouble::NoName => format!("The name in {place} does not lead anywhere on this machine."),
        ServiceTrouble::OtherStatus { url, status } => other_status(url, *status, wanted.and_then(|service| service.status)),
        ServiceTrouble::OtherText { url } => {
            format!("{url} answers, but not with what is expected: {}", words.form())
        }
        ServiceTrouble::OtherProgram { holder } => {
            let who = holder.as_ref().map_or_else(|| "Another program".to_owned(), ToString::to_string);
            format!("{who} answers at {place}, and it does not speak HTTP: it is not the service that is expected there.")
        }
    };
    with_stopped(text, reason.stopped.as_ref())
}

pub(crate) fn other_status(address: &str, status: u16, wanted: Option<u16>) -> String {
    let should = wanted.map(|status| format!(", and {status} is expected")).unwrap_or_default();
    format!("{address} answers with the status {status}{should}.")
}

pub(crate) fn found(reason: &ServiceReason) -> String {
    match &reason.trouble {
        ServiceTrouble::Refused => "connection refused".to_owned(),
        ServiceTrouble::OtherAddress { .. } => "another address".to_owned(),
        ServiceTrouble::NoAnswer => "no answer".to_owned(),
        ServiceTrouble::NoWay { .. } => "cannot be reached".to_owned(),
        ServiceTrouble::NoName => "unknown name".to_owned(),
        ServiceTrouble::OtherStatus { status, .. } => format!("status {status}"),
        ServiceTrouble::OtherText { .. } => "another text".to_owned(),
        ServiceTrouble::OtherProgram { .. } => "another program".to_owned(),
    }
}

pub(crate) fn wanted(service: &Service) -> String {
    match (service.status, &service.http) {
        (Some(status), _) => format!("status {status}"),
        (None, Some(_)) => "answers by HTTP".to_owned(),
        (None, None) => "takes connections".to_owned(),
    }
}

impl ReasonWords for ServiceReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Service {
    fn met(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::ServiceAnswers { url, .. } => format!("{url} answers as it should."),
            _ => format!("{}:{} takes connections.", self.host, self.port),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        if let Met::ServiceAnswers { status, .. } = met { format!("status {status}") } else { "answers".to_owned() }
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        let place = format!("{}:{}{}", self.host, self.port, self.http.as_deref().unwrap_or(""));
        let means = self.contains.as_ref().and(requirement.means.as_ref());
        format!("{place} answers{}", means.map(|means| format!(" with {means}")).unwrap_or_default())
    }
}
