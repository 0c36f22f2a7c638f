//! What settles it.

use crate::finding::LocaleReason;
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::effect::{Change, Effect};
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Locale, Subject};
use crate::observation::Os;
use crate::prelude::*;

/// Locales are made from a list (locale-gen(8) of Debian and those like it) or by name (localedef(1)).
pub(crate) fn fix(case: &Case<'_>, reason: &LocaleReason) -> Option<Fix> {
    let Subject::Locale(locale) = &case.requirement.subject else { return None };
    let name = &locale.name;
    let wanted = match reason {
        LocaleReason::Missing { .. } => name.clone(),
        LocaleReason::OtherEncoding { .. } => format!("{}.UTF-8", name.split(['.', '@']).next().unwrap_or(name)),
    };
    if case.here.os != Some(Os::Linux) {
        return Some(Fix::say(format!("Add the language and region of {wanted} in the system's settings.")));
    }
    let plain = wanted.split('@').next().unwrap_or(&wanted);
    let (language, encoding) = plain.split_once('.').unwrap_or((plain, "UTF-8"));
    let command = format!("localedef -i {} -f {} {}", case.quoted(language), case.quoted(encoding), case.quoted(&wanted));
    // A name stands for one encoding: what is made has another one.
    if let LocaleReason::OtherEncoding { .. } = reason {
        let say = format!("Make the locale {wanted}, and tell the guide's maintainer that {name} is another one.");
        return Some(case.admin_step(say, &[&command]));
    }
    let made = Effect::one(Change::Locale(wanted.clone()));
    Some(case.admin_step(format!("Make the locale {wanted}."), &[&command]).with_effect(made))
}

impl ReasonFixes for LocaleReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }
}

impl SubjectFixes for Locale {}
