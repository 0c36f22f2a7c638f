//! What would make known what could not be found out: each such requirement has a step, too.

use super::Fix;
use crate::finding::{CommandReason, General, Reason, ToolTrouble};
use crate::fix::case::Case;
use crate::fix::kind::ReasonFixes;
use crate::guide::{Component, ComponentSort, Language, Requirement, Subject};
use crate::prelude::*;

/// The step that would make it known; none where nobody knows one.
pub(super) fn step(requirement: &Requirement, reason: &Reason) -> Option<Fix> {
    let title = requirement.title();
    let consent =
        || Fix::say(format!("Read what the guide wants to start for {title}. If you trust it, allow it and check again."));
    if let Reason::Command(CommandReason::NoConsent) = reason {
        return Some(consent());
    }
    if let Reason::Tool(tool) = reason {
        if let ToolTrouble::Stuck { .. } = tool.trouble {
            let program = tool.program.as_deref().unwrap_or(&title);
            return Some(Fix::say(format!(
                "Run {program} yourself with the argument that asks for its version, and see what it waits for. If it is only slow, give it \
                 more time."
            )));
        }
        if matches!(tool.trouble, ToolTrouble::NoConsent { .. }) {
            return Some(consent());
        }
        if matches!(tool.trouble, ToolTrouble::Silent { .. } | ToolTrouble::Incomparable { .. }) {
            let program = tool.program.as_deref().unwrap_or(&title);
            return Some(Fix::say(format!(
                "Find out which version {program} is, from its own help or its page, and tell those who look after the guide how it says so."
            )));
        }
    }
    if let Subject::Component(Component { sort: ComponentSort::Module(language), name, .. }) = &requirement.subject {
        let command = match language {
            Language::Python => format!("python3 -c 'import {name}'"),
            Language::Node => format!("node -e 'require(\"{name}\")'"),
            Language::Ruby => format!("ruby -e 'require \"{name}\"'"),
            Language::Perl => format!("perl -M{name} -e 1"),
            Language::Php => "php -m".to_owned(),
        };
        let seen =
            if *language == Language::Php { "it is there where the list has it" } else { "it is there where that says nothing" };
        return Some(Fix::say(format!("See for yourself whether {} loads {name}: {seen}.", language.name())).run(vec![command]));
    }
    let Reason::General(General::CouldNotLook { reason }) = reason else { return None };
    Some(Fix::say(format!(
        "Do away with what kept {title} from being looked at, and check again: {}.",
        reason.trim_end_matches('.')
    )))
}

impl ReasonFixes for General {
    fn fixes(&self, _: &Case<'_>) -> Vec<Fix> {
        match self {
            Self::ValueUnfit { set_at, must_be } => {
                vec![Fix::say(format!("Correct {}, in {}: it must be {must_be}.", set_at.variable, set_at.place))]
            }
            Self::CouldNotLook { .. } | Self::NotSupported { .. } | Self::ConditionUnknown | Self::Interrupted => Vec::new(),
        }
    }
}
