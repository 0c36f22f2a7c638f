//! `socket` and `device`: there, and this user may open it; behind a socket somebody answers.

use super::group::comes_with_sign_in;
use super::system_service::names_for_socket;
use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::{self, Access};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{self, SocketState};
use crate::prelude::*;

pub(super) fn socket(inquiry: &mut Inquiry<'_>, wanted: &guide::Socket) -> Result<Finding, Stop> {
    let path = &wanted.path;
    let unmet = |cause: Cause, found: &str, message: String| Finding::unmet(cause, message).found(found);
    let finding = match inquiry.socket(path)? {
        SocketState::Answers => Finding::met("answers", format!("A program answers at {path}.")),
        SocketState::Missing => {
            unmet(Cause::SocketMissing, "not there", format!("{path} is not there: the program that makes it is not running."))
        }
        SocketState::NoSocket => unmet(
            Cause::SocketDead,
            "not a socket",
            format!("{path} is there, but it is not a socket: no program listens there."),
        ),
        SocketState::Dead => {
            unmet(Cause::SocketDead, "nobody answers", format!("{path} is there, but no program answers behind it any more."))
        }
        SocketState::Denied(group, _) => {
            let finding = if comes_with_sign_in(inquiry, group.as_deref())? {
                let message = format!("You were added to the group that may use {path}, but this session began before that.");
                unmet(Cause::SocketDeniedUntilSignIn, "denied until you sign in again", message)
            } else {
                let whose = only_for(group.as_deref());
                unmet(Cause::SocketDenied, "permission denied", format!("{path} is there, but you may not use it{whose}."))
            };
            return Ok(finding.with(about(path, group.as_deref())));
        }
    };
    super::system_service::with_stopped(inquiry, finding.with(about(path, None)), &names_for_socket(path))
}

pub(super) fn device(inquiry: &mut Inquiry<'_>, wanted: &guide::Device) -> Result<Finding, Stop> {
    let path = &wanted.path;
    let verb = if wanted.access == Access::Write { "read and write" } else { "read" };
    let missing = |found: &str, message: String| Finding::unmet(Cause::DeviceMissing, message).found(found);
    let finding = match inquiry.device(path, wanted.access)? {
        observation::Device::Opens => Finding::met("opens", format!("You may {verb} {path}.")),
        observation::Device::Busy => Finding::met("in use", format!("{path} is there; another program is using it now.")),
        observation::Device::Missing => {
            missing("not there", format!("{path} is not there: the device is not connected, or has another name."))
        }
        observation::Device::Dead => {
            missing("no device behind it", format!("{path} is there, but no device answers behind it: its driver is not loaded."))
        }
        observation::Device::Denied(group, _) => {
            let soon = if comes_with_sign_in(inquiry, group.as_deref())? {
                " You were added to that group, but this session began before that."
            } else {
                ""
            };
            let message = format!("{path} is there, but you may not {verb} it{}.{soon}", only_for(group.as_deref()));
            let finding = Finding::unmet(Cause::DeviceDenied, message).found("permission denied");
            return Ok(finding.with(Particulars { passing: !soon.is_empty(), ..about(path, group.as_deref()) }));
        }
    };
    Ok(finding.with(about(path, None)))
}

fn only_for(group: Option<&str>) -> String {
    group.filter(|group| *group != "root").map(|group| format!(": it is for the group {group}")).unwrap_or_default()
}

fn about(path: &str, group: Option<&str>) -> Particulars {
    Particulars { path: Some(path.to_owned()), group: group.map(ToOwned::to_owned), ..Particulars::default() }
}
