//! What settles it.

use crate::finding::GroupReason;
use crate::fix::Fix;
use crate::fix::case::{Case, sign_in};
use crate::fix::effect::{Change, Effect};
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Group, Subject};
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: GroupReason) -> Option<Fix> {
    let Subject::Group(group) = &case.requirement.subject else { return None };
    let name = &group.name;
    Some(match reason {
        GroupReason::UntilSignIn => sign_in().with_effect(Effect::one(Change::Joined(name.clone()))),
        GroupReason::NotMember => case.join_group(name).with_effect(Effect::one(Change::Joined(name.clone()))),
        GroupReason::Absent if case.here.os != Some(Os::Linux) => {
            Fix::say(format!("This system has no group {name}; ask the project what stands for it here."))
        }
        GroupReason::Absent => {
            let mut fix = case.join_group(name);
            fix.say = format!("Make the group {name}, and become a member of it.");
            // With a command of its own before, it cannot be one with others.
            fix.part = None;
            fix.run.insert(0, case.here.as_admin(&format!("groupadd {}", case.quoted(name))));
            fix.warn("Most groups come with a package or a driver: only make one by hand if the project says so.");
            fix.with_effect(Effect::one(Change::Joined(name.clone())))
        }
    })
}

impl ReasonFixes for GroupReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, *self).into_iter().collect()
    }
}

impl SubjectFixes for Group {}
