//! What settles it.

use crate::finding::SettingReason;
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Setting, Subject};
use crate::kinds::variable::fix::YOURS;
use crate::prelude::*;

/// The ways to a setting, the best first.
pub(crate) fn fixes(case: &Case<'_>, reason: SettingReason) -> Vec<Fix> {
    let Subject::Setting(setting) = &case.requirement.subject else { return Vec::new() };
    let key = case.quoted(&setting.key);
    let say = match reason {
        SettingReason::Unset => format!("Give git your {}: put it in the place of {YOURS}.", setting.key),
        SettingReason::Shape => format!("Give git another {}: put it in the place of {YOURS}.", setting.key),
    };
    let mut ways = vec![Fix::say(say).run(vec![format!("git config --global {key} {YOURS}")])];
    if reason == SettingReason::Shape {
        let say = format!("Give git another {} for this repository alone, whose own settings go before yours.", setting.key);
        ways.push(Fix::say(say).run(vec![format!("git config {key} {YOURS}")]));
    }
    ways
}

impl ReasonFixes for SettingReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fixes(case, *self)
    }
}

impl SubjectFixes for Setting {}
