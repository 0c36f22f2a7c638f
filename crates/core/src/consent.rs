//! What a guide wants to run beyond asking programs for their version, and so only with the person's consent.

use crate::assess::is_version_argument;
use crate::guide::{Guide, Requirement, Subject};
use crate::prelude::*;
use crate::selection::Selection;

/// The commands of the selected requirements that need consent, word by word, in the order of the guide. Programs that lie inside the
/// project, which only the machine shows, are not among them.
pub fn asked_for<'g>(guide: &'g Guide, selection: &Selection) -> Vec<(&'g Requirement, Vec<String>)> {
    let chosen = guide.requirements.iter().enumerate().filter(|(index, requirement)| {
        let later = guide.stages.get(requirement.stage).is_some_and(|stage| stage.after_start) && !selection.after_start;
        selection.includes(requirement, *index) && requirement.concerns(selection.role) && !later
    });
    let words = |requirement: &'g Requirement| {
        if let Subject::Command(command) = &requirement.subject {
            return Some(command.words.clone());
        }
        let Subject::Tool(tool) = &requirement.subject else { return None };
        let odd = !tool.args.iter().all(|argument| is_version_argument(argument));
        odd.then(|| tool.names.iter().take(1).chain(&tool.args).cloned().collect())
    };
    chosen.filter_map(|(_, requirement)| Some((requirement, words(requirement)?))).collect()
}
