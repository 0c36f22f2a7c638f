//! What settles it.

use crate::finding::ClockReason;
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::Clock;
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>) -> Fix {
    match case.here.os {
        Some(Os::Linux) if case.here.inside_windows => {
            case.admin_step("Take the time over from Windows; it is lost when the machine sleeps.", &["hwclock -s"])
        }
        Some(Os::Linux) => case.admin_step("Have the system set its clock by the network.", &["timedatectl set-ntp true"]),
        Some(Os::Windows) => case.admin_step("Have the system set its clock by the network.", &["w32tm /resync"]),
        Some(Os::Macos) => Fix::say("Switch on \"Set time and date automatically\" in the system's settings."),
        None => Fix::say("Set the clock by the network."),
    }
}

impl ReasonFixes for ClockReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case)]
    }
}

impl SubjectFixes for Clock {}
