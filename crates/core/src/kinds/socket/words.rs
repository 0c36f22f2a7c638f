//! What people are told.

use crate::finding::{Met, SocketReason, SocketTrouble};
use crate::guide::{Guide, Requirement, Socket};
use crate::kinds::device::words::only_for;
use crate::kinds::service::words::with_stopped;
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(reason: &SocketReason) -> String {
    let path = &reason.path;
    let text = match &reason.trouble {
        SocketTrouble::Missing => format!("{path} is not there: the program that makes it is not running."),
        SocketTrouble::NotASocket => format!("{path} is there, but it is not a socket: no program listens there."),
        SocketTrouble::Dead => format!("{path} is there, but no program answers behind it any more."),
        SocketTrouble::DeniedUntilSignIn { .. } => {
            format!("You were added to the group that may use {path}, but this session began before that.")
        }
        SocketTrouble::Denied { group } => format!("{path} is there, but you may not use it{}.", only_for(group.as_deref())),
    };
    with_stopped(text, reason.stopped.as_ref())
}

pub(crate) fn found(reason: &SocketReason) -> &'static str {
    match &reason.trouble {
        SocketTrouble::Missing => "not there",
        SocketTrouble::NotASocket => "not a socket",
        SocketTrouble::Dead => "nobody answers",
        SocketTrouble::DeniedUntilSignIn { .. } => "denied until you sign in again",
        SocketTrouble::Denied { .. } => "permission denied",
    }
}

impl ReasonWords for SocketReason {
    fn message(&self, _: &Words<'_>) -> String {
        message(self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self).to_owned())
    }
}

impl SubjectWords for Socket {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        format!("A program answers at {}.", self.path)
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "answers".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some("answers".to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("{} answers you", self.path)
    }
}
