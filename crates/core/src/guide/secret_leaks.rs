//! A pattern tells one thing about a value; many of them would spell it out.

use super::{Requirement, Subject};
use crate::prelude::*;
use crate::problem::{ProblemKind, Problems};
use crate::text::Pattern;
use hashbrown::HashMap;

/// Reports values that are not to be told and are asked for more than one shape: variables and settings. A variable that is `secret` anywhere is
/// asked for none.
pub(super) fn report(requirements: &[Requirement], problems: &Problems) {
    let mut asked: HashMap<(&str, &str), (Option<&str>, bool)> = HashMap::new();
    for requirement in requirements {
        let (kind, name, pattern, secret) = if let Subject::Variable(one) = &requirement.subject {
            ("variable", one.name.as_str(), one.matches.as_ref(), one.secret)
        } else if let Subject::Setting(one) = &requirement.subject {
            ("setting", one.key.as_str(), one.matches.as_ref(), false)
        } else {
            continue;
        };
        let pattern = pattern.map(Pattern::source);
        let (before, was_secret) = asked.entry((kind, name)).or_insert((None, false));
        let several = matches!((&before, pattern), (Some(before), Some(pattern)) if *before != pattern);
        *before = before.or(pattern);
        *was_secret |= secret;
        if several {
            let message =
                format!("the {kind} `{name}` is asked for several patterns, which together would tell its value; make it one");
            problems.report(ProblemKind::BadValue, requirement.span.clone(), message);
        } else if *was_secret && before.is_some() {
            let message =
                format!("the {kind} `{name}` is `secret`, so only whether it is set is told; leave out `matches` everywhere");
            problems.report(ProblemKind::BadValue, requirement.span.clone(), message);
        }
    }
}
