//! What is said of requirements of any kind.

use super::Words;
use crate::document::shortened_to;
use crate::finding::{General, LeftOut, Waiting};
use crate::prelude::*;
use crate::text::{capitalised, join_words};
use crate::words::kind::ReasonWords;

/// A reason of the system's is a sentence; what is longer is no reason.
const LONGEST_REASON: usize = 240;

pub(super) fn waiting(words: &Words<'_>, waiting: &Waiting) -> String {
    if waiting.online {
        return "Not checked yet: this machine must be online first.".to_owned();
    }
    format!("Not checked yet: it needs {} first.", words.titles(&waiting.on, "and"))
}

pub(super) fn left_out(words: &Words<'_>, left_out: LeftOut) -> String {
    match left_out {
        LeftOut::OtherRole => {
            let roles = words.requirement.roles.iter().filter_map(|role| words.guide.roles.get(*role));
            let roles: Vec<&str> = roles.map(|role| role.id.as_str()).collect();
            format!("Only for the role {}.", join_words(&roles, "or"))
        }
        LeftOut::UntilStarted => "Checked only once the project is running.".to_owned(),
        LeftOut::OtherMachine => "The guide asks for it on other machines only.".to_owned(),
        LeftOut::OtherPlace => {
            let place = words.requirement.place.and_then(|index| words.guide.places.get(index));
            format!("Checked in {}.", place.map_or("another place", |place| place.title.as_str()))
        }
        LeftOut::Offline => "Not checked: it needs the network, which this check was told to leave out.".to_owned(),
        LeftOut::NoAlternative => "None of the alternatives is for this machine.".to_owned(),
    }
}

fn message(words: &Words<'_>, reason: &General) -> String {
    let title = capitalised_title(words);
    match reason {
        General::CouldNotLook { reason } => format!("{title} could not be checked: {}.", shortened_to(reason, LONGEST_REASON)),
        General::NotSupported { reason } => {
            format!("{title} cannot be checked on this system: {}.", shortened_to(reason, LONGEST_REASON))
        }
        General::ConditionUnknown => {
            "Whether this applies here depends on something that could not be found out about this machine.".to_owned()
        }
        General::ValueUnfit { set_at, must_be } => format!(
            "{title} depends on {}, and what is set there ({}) cannot be used: it must be {must_be}.",
            set_at.variable, set_at.place
        ),
        General::Interrupted => "The check was interrupted before this was known.".to_owned(),
    }
}

/// The title as the start of a sentence, but for names, which are written as they are.
fn capitalised_title(words: &Words<'_>) -> String {
    let title = words.title();
    if words.requirement.subject.kind() == crate::guide::Kind::Tool { title } else { capitalised(&title) }
}

impl ReasonWords for General {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        None
    }
}
