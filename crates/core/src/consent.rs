//! What a guide wants to run beyond asking programs for their version, and so only with the person's consent.

use crate::catalogue::version_arguments;
use crate::guide::{Guide, Requirement, Subject, Tool};
use crate::prelude::*;
use crate::selection::Selection;

/// The commands of the selected requirements that need consent, word by word, in the order of the guide. Programs that lie inside the
/// project, which only the machine shows, are not among them.
pub fn asked_for<'g>(guide: &'g Guide, selection: &Selection) -> Vec<(&'g Requirement, Vec<String>)> {
    let chosen = guide.requirements.iter().enumerate().filter(|(index, requirement)| {
        let later = guide.stages.get(requirement.stage).is_some_and(|stage| stage.after_start) && !selection.after_start;
        selection.includes(requirement, *index) && requirement.concerns(selection.role) && !later
    });
    let mut asked = Vec::new();
    for (_, requirement) in chosen {
        if let Subject::Command(command) = &requirement.subject {
            asked.push((requirement, command.words.clone()));
        } else if let Subject::Tool(tool) = &requirement.subject {
            // Any of its names may be the one that is here.
            let odd = tool.names.iter().filter(|name| !asks_for_a_version(tool, name));
            asked.extend(odd.map(|name| (requirement, [name].into_iter().chain(&tool.args).cloned().collect())));
        }
    }
    asked
}

/// Whether a tool is started only as a program of this name is known to say its version.
pub(crate) fn asks_for_a_version(tool: &Tool, name: &str) -> bool {
    tool.args.is_empty() || tool.args == version_arguments(name)
}
