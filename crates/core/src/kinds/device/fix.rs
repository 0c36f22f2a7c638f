//! What settles it.

use crate::finding::{DeviceReason, DeviceTrouble};
use crate::fix::Fix;
use crate::fix::case::{Case, sign_in};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Device, Requirement};
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn let_in(case: &Case<'_>, path: &str, group: Option<&str>) -> Fix {
    match group {
        Some(group) if group != "root" && case.here.os == Some(Os::Linux) => case.join_group(group),
        _ => Fix::say(format!("Ask whoever looks after this machine to let you use {path}.")),
    }
}

pub(crate) fn fix(case: &Case<'_>, reason: &DeviceReason) -> Fix {
    let path = &reason.path;
    match &reason.trouble {
        DeviceTrouble::Denied { until_sign_in: true, .. } => sign_in(),
        DeviceTrouble::Denied { group, .. } => let_in(case, path, group.as_deref()),
        DeviceTrouble::NotConnected { .. } => {
            let mut fix = Fix::say("Connect the device, with a cable that carries data. This lists what is connected now:");
            fix.run = if case.here.os == Some(Os::Linux) { vec!["lsusb".to_owned()] } else { Vec::new() };
            fix
        }
        DeviceTrouble::Missing | DeviceTrouble::Dead => {
            let serial = ["ttyUSB", "ttyACM"].iter().any(|name| path.contains(name));
            let mut fix = Fix::say(format!("Connect the device, with a cable that carries data, and look again for {path}."));
            if serial && case.here.os == Some(Os::Linux) {
                fix.say.push_str(" This lists the serial devices that are here now:");
                fix.run = vec!["ls -l /dev/serial/by-id".to_owned()];
            }
            fix
        }
    }
}

impl ReasonFixes for DeviceReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, _: &Requirement) -> Fills {
        Fills { path: Some(self.path.clone()), ..Fills::default() }
    }
}

impl SubjectFixes for Device {}
