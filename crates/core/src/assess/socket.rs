//! `socket` and `device`: there, and this user may open it; behind a socket somebody answers.

use super::group::comes_with_sign_in;
use super::is_met;
use super::system_service::{names_for_socket, stopped};
use crate::finding::{Conclusion, DeviceReason, DeviceTrouble, Met, Reason, SocketReason, SocketTrouble};
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

/// Of several, the first that may be opened does; else what stands in the way of the first that is there.
pub(super) fn assess_device(inquiry: &mut Inquiry<'_>, wanted: &Device) -> Result<Conclusion, Stop> {
    if let Some(usb) = &wanted.usb
        && !*inquiry.usb(usb)?
    {
        let trouble = DeviceTrouble::NotConnected { usb: usb.clone() };
        return Ok(DeviceReason { path: wanted.path.clone(), access: wanted.access, trouble }.into());
    }
    let missing = |conclusion: &Conclusion| {
        matches!(conclusion, Conclusion::Open(Reason::Device(DeviceReason { trouble: DeviceTrouble::Missing, .. })))
    };
    let mut best = one_device(inquiry, wanted)?;
    for other in &wanted.or {
        if is_met(&best) {
            break;
        }
        let next = one_device(inquiry, &Device { path: other.clone(), ..wanted.clone() })?;
        if is_met(&next) || (missing(&best) && !missing(&next)) {
            best = next;
        }
    }
    Ok(best)
}

fn one_device(inquiry: &mut Inquiry<'_>, wanted: &Device) -> Result<Conclusion, Stop> {
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
