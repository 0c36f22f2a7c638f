//! `socket` and `device`: there, and this user may open it; behind a socket somebody answers.

use super::group::comes_with_sign_in;
use super::system_service::{names_for_socket, stopped};
use crate::finding::{Conclusion, DeviceReason, DeviceTrouble, Met, SocketReason, SocketTrouble};
use crate::guide::{Device, Socket};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{DeviceState, SocketState};

pub(super) fn assess_socket(inquiry: &mut Inquiry<'_>, wanted: &Socket) -> Result<Conclusion, Stop> {
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

pub(super) fn assess_device(inquiry: &mut Inquiry<'_>, wanted: &Device) -> Result<Conclusion, Stop> {
    let trouble = match inquiry.device(&wanted.path, wanted.access)? {
        DeviceState::Opens => return Ok(Met::DeviceOpens.into()),
        DeviceState::Busy => return Ok(Met::DeviceBusy.into()),
        DeviceState::Missing => DeviceTrouble::Missing,
        DeviceState::Dead => DeviceTrouble::Dead,
        DeviceState::Denied(group, _) => {
            DeviceTrouble::Denied { until_sign_in: comes_with_sign_in(inquiry, group.as_deref())?, group: group.clone() }
        }
    };
    Ok(DeviceReason { path: wanted.path.clone(), access: wanted.access, trouble }.into())
}
