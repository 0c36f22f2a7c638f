//! How it is looked at.

use crate::assess::kind::Assess;
use crate::assess::system_service::{names_for_socket, stopped};
use crate::finding::{Conclusion, Met, SocketReason, SocketTrouble};
use crate::guide::Socket;
use crate::inquiry::{Inquiry, Stop};
use crate::kinds::group::assess::comes_with_sign_in;
use crate::observation::SocketState;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Socket) -> Result<Conclusion, Stop> {
    let path = &wanted.path;
    let trouble = match inquiry.socket(path)? {
        SocketState::Answers => return Ok(Met::SocketAnswers.into()),
        SocketState::Missing => SocketTrouble::Missing,
        SocketState::NoSocket => SocketTrouble::NotASocket,
        SocketState::Dead => SocketTrouble::Dead,
        SocketState::Denied(group, _) => {
            let group = group.clone();
            let soon = comes_with_sign_in(inquiry, group.as_deref())?;
            let trouble = if soon { SocketTrouble::DeniedUntilSignIn { group } } else { SocketTrouble::Denied { group } };
            return Ok(SocketReason { path: path.clone(), trouble, stopped: None }.into());
        }
    };
    let stopped = stopped(inquiry, &names_for_socket(path))?;
    Ok(SocketReason { path: path.clone(), trouble, stopped }.into())
}

impl Assess for Socket {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
