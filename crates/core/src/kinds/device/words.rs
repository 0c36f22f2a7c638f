//! What people are told.

use crate::finding::{DeviceReason, DeviceTrouble, Met};
use crate::guide::{Access, Device, Guide, Requirement};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

fn verb(access: Access) -> &'static str {
    match access {
        Access::Write => "read and write",
        Access::Read => "read",
    }
}

pub(crate) fn only_for(group: Option<&str>) -> String {
    group.filter(|group| *group != "root").map(|group| format!(": it is for the group {group}")).unwrap_or_default()
}

pub(crate) fn message(reason: &DeviceReason) -> String {
    let path = &reason.path;
    match &reason.trouble {
        DeviceTrouble::Missing => format!("{path} is not there: the device is not connected, or has another name."),
        DeviceTrouble::NotConnected { usb } => {
            format!("No device is connected by USB that says it is {usb} (vendor and product).")
        }
        DeviceTrouble::Dead => format!("{path} is there, but no device answers behind it: its driver is not loaded."),
        DeviceTrouble::Denied { group, until_sign_in } => {
            let soon = if *until_sign_in { " You were added to that group, but this session began before that." } else { "" };
            format!("{path} is there, but you may not {} it{}.{soon}", verb(reason.access), only_for(group.as_deref()))
        }
    }
}

pub(crate) fn found(reason: &DeviceReason) -> &'static str {
    match &reason.trouble {
        DeviceTrouble::Missing => "not there",
        DeviceTrouble::NotConnected { .. } => "not connected",
        DeviceTrouble::Dead => "no device behind it",
        DeviceTrouble::Denied { .. } => "permission denied",
    }
}

impl ReasonWords for DeviceReason {
    fn message(&self, _: &Words<'_>) -> String {
        message(self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self).to_owned())
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Device {
    fn met(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::DeviceBusy => format!("{} is there; another program is using it now.", self.path),
            _ => format!("You may {} {}.", verb(self.access), self.path),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        if let Met::DeviceBusy = met { "in use" } else { "opens" }.to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some("may be opened by you".to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        let how = if self.access == Access::Write { "you may write to" } else { "you may read" };
        format!("{how} {}", self.path)
    }
}
