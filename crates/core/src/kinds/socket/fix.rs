//! What settles it.

use crate::finding::{SocketReason, SocketTrouble};
use crate::fix::Fix;
use crate::fix::case::{Case, sign_in};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Requirement, Socket};
use crate::kinds::device::fix::let_in;
use crate::kinds::service::fix::start_service;
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: &SocketReason) -> Fix {
    let path = &reason.path;
    if let Some(service) = &reason.stopped {
        return start_service(case, service);
    }
    match &reason.trouble {
        SocketTrouble::DeniedUntilSignIn { .. } => sign_in(),
        SocketTrouble::Denied { group } => let_in(case, path, group.as_deref()),
        SocketTrouble::Missing if case.here.inside_windows => Fix::say(format!(
            "Start the program that makes {path} on the Windows side, and in its settings have it passed in to this Linux."
        )),
        SocketTrouble::Missing => {
            Fix::say(format!("Start the program that makes {path}; if it is not installed, install it first."))
        }
        SocketTrouble::NotASocket | SocketTrouble::Dead => Fix::say(format!(
            "Start the program behind {path} again. If it complains that the address is in use, delete {path} first."
        )),
    }
}

impl ReasonFixes for SocketReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, _: &Requirement) -> Fills {
        Fills { path: Some(self.path.clone()), ..Fills::default() }
    }
}

impl SubjectFixes for Socket {}
