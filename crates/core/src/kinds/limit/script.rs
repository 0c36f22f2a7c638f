//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Guide, Limit, LimitKind};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};

pub(crate) fn check(limit: &Limit) -> Option<ScriptCheck> {
    if !matches!(limit.kind, LimitKind::OpenFiles | LimitKind::FileWatches) {
        return None;
    }
    Some(ScriptCheck::new(format!("limit {} {}", limit.kind.word(), limit.at_least?), &[Part::Limit]))
}

impl SubjectScript for Limit {
    fn script(&self, _: &Guide) -> Option<ScriptCheck> {
        check(self)
    }
}
