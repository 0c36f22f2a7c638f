//! What settles it.

use crate::finding::{ServiceReason, ServiceTrouble, StoppedService};
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::fix::{Fix, Shell};
use crate::guide::{Requirement, Service};
use crate::kinds::name::fix::unknown_name;
use crate::observation::{Os, SystemService};
use crate::prelude::*;

/// A service that is here is started by the system's own command (systemctl(1); the service commands of PowerShell, or `sc` and `net` in the
/// command prompt).
pub(crate) fn start_service(case: &Case<'_>, service: &StoppedService) -> Fix {
    let name = case.quoted(&service.name);
    let disabled = service.state == SystemService::Disabled;
    let say = match service.state {
        SystemService::Failed => format!("Start the service {} again. If it fails again, what it writes says why.", service.name),
        SystemService::Masked => format!("Let the service {} be started again (it is masked), and start it.", service.name),
        _ if disabled => format!("Allow the service {} to be started, and start it.", service.name),
        SystemService::Missing | SystemService::Running | SystemService::Stopped | SystemService::Disabled => {
            format!("Start the service {}.", service.name)
        }
    };
    let commands = match (case.here.os, case.here.shell) {
        (Some(Os::Windows), Shell::PowerShell) => {
            let allow = disabled.then(|| format!("Set-Service -Name {name} -StartupType Manual"));
            allow.into_iter().chain([format!("Start-Service -Name {name}")]).collect()
        }
        (Some(Os::Windows), _) => {
            let allow = disabled.then(|| format!("sc config {name} start= demand"));
            allow.into_iter().chain([format!("net start {name}")]).collect()
        }
        (Some(Os::Linux), _) if service.state == SystemService::Masked => {
            vec![format!("systemctl unmask {name}"), format!("systemctl restart {name}")]
        }
        (Some(Os::Linux), _) if disabled => vec![format!("systemctl enable --now {name}")],
        (Some(Os::Linux), _) => vec![format!("systemctl restart {name}")],
        (Some(Os::Macos) | None, _) => Vec::new(),
    };
    case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>())
}

pub(crate) fn fix(case: &Case<'_>, reason: &ServiceReason) -> Fix {
    if let Some(service) = &reason.stopped {
        return start_service(case, service);
    }
    Fix::say(match &reason.trouble {
        ServiceTrouble::NoName => return unknown_name(case),
        ServiceTrouble::Refused => "Start the service, then check again.",
        ServiceTrouble::OtherAddress { .. } => {
            "Have it listen at the address that this project uses (its settings name one), and start it again."
        }
        ServiceTrouble::NoAnswer | ServiceTrouble::NoWay { .. } => {
            "Look whether the service has stopped working: start it again, and read what it writes."
        }
        ServiceTrouble::OtherStatus { .. } | ServiceTrouble::OtherText { .. } => {
            "Look at what the service writes: it runs, and something in it is not as it should be."
        }
        ServiceTrouble::OtherProgram { .. } => {
            "Stop the program that has taken the port, or move it to another port; then start the service."
        }
    })
}

impl ReasonFixes for ServiceReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = if let ServiceTrouble::OtherStatus { status, .. } = &self.trouble { Some(status.to_string()) } else { None };
        Fills { found, port: Some(self.port), ..Fills::default() }
    }
}

impl SubjectFixes for Service {}
