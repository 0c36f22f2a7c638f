//! What settles a thing that must run: bringing its package where it is not installed, and starting it as the guide says.

use super::case::{Case, Seen};
use super::{Circumstances, Fix};
use crate::finding::{CommandReason, Reason, ServiceTrouble, SocketTrouble};
use crate::guide::{Requirement, Supply};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{InstalledState, Os};
use crate::prelude::*;

/// Whether a finding is that nobody is there: then who brings it, and how it is started, is the answer.
pub(super) fn is_nobody(reason: &Reason) -> bool {
    if let Reason::Service(service) = reason {
        matches!(service.trouble, ServiceTrouble::Refused) && service.stopped.is_none()
    } else if let Reason::Socket(socket) = reason {
        matches!(socket.trouble, SocketTrouble::Missing | SocketTrouble::Dead) && socket.stopped.is_none()
    } else {
        matches!(reason, Reason::Command(CommandReason::NotFound))
    }
}

/// Whether a package that the guide names for it is installed already; unknown is taken for no.
///
/// # Errors
/// When the answer is still to come.
pub(super) fn is_installed(inquiry: &mut Inquiry<'_>, supply: &Supply, here: &Circumstances<'_>) -> Result<bool, Stop> {
    for manager in here.managers {
        if let Some((_, package)) = supply.packages.iter().find(|(of, _)| of == manager) {
            let state = if_known(inquiry.installed(*manager, package))?;
            return Ok(matches!(state, Some(InstalledState::Here { .. })));
        }
    }
    Ok(false)
}

/// Starting it, as the guide says.
pub(super) fn start(requirement: &Requirement, here: &Circumstances<'_>) -> Option<Fix> {
    let supply = requirement.subject.supply()?;
    let case = Case { requirement, here, refused: &[], own: None, seen: Seen::default() };
    let title = requirement.title();
    if let Some(unit) = supply.unit.as_ref().filter(|_| here.os == Some(Os::Linux)) {
        return Some(case.admin_step(format!("Start {title}."), &[&format!("systemctl start {}", case.quoted(unit))]));
    }
    supply.start.as_ref().map(|start| Fix::say(format!("Start {title}.")).run(vec![start.clone()]))
}
