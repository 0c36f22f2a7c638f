//! What a guide wants to run beyond asking programs for their version, and so only with the person's consent.

use crate::catalogue::version_arguments;
use crate::guide::{Guide, Requirement, Subject, Tool};
use crate::prelude::*;
use crate::selection::Selection;

/// What may want consent of the selected requirements and of all that they wait for or choose among, in the order of the guide: their
/// commands, and their tools with each name under which they may be here and the arguments that would follow it.
pub fn concerned<'g>(guide: &'g Guide, selection: &Selection) -> Vec<(&'g Requirement, ConsentRequest<'g>)> {
    let mut waiting: Vec<usize> = (0..guide.requirements.len()).collect();
    waiting.retain(|index| guide.requirements.get(*index).is_some_and(|one| selection.includes(one, *index)));
    let mut seen = vec![false; guide.requirements.len()];
    while let Some(index) = waiting.pop() {
        let (Some(requirement), Some(seen)) = (guide.requirements.get(index), seen.get_mut(index)) else { continue };
        let later = guide.stages.get(requirement.stage).is_some_and(|stage| stage.after_start) && !selection.after_start;
        if core::mem::replace(seen, true) || later || !requirement.concerns(selection.role) {
            continue;
        }
        waiting.extend(requirement.after.iter().chain(&requirement.needs));
        if let Subject::AnyOf(any) = &requirement.subject {
            waiting.extend(&any.alternatives);
        }
    }
    // Those that were left out above have no part in it either.
    let takes_part = |(index, one): &(usize, &Requirement)| {
        let later = guide.stages.get(one.stage).is_some_and(|stage| stage.after_start) && !selection.after_start;
        seen.get(*index).is_some_and(|seen| *seen) && !later && one.concerns(selection.role)
    };
    let chosen = guide.requirements.iter().enumerate().filter(takes_part).map(|(_, requirement)| requirement);
    let mut wishes = Vec::new();
    for requirement in chosen {
        if let Subject::Command(command) = &requirement.subject {
            wishes.push((requirement, ConsentRequest::Command(&command.words)));
        } else if let Subject::Tool(tool) = &requirement.subject {
            // Any of its names may be the one that is here.
            let wish = |name: &'g String| {
                (
                    requirement,
                    ConsentRequest::Tool { name, arguments: arguments(tool, name), odd: !asks_for_a_version(tool, name) },
                )
            };
            wishes.extend(tool.names.iter().map(wish));
        }
    }
    wishes
}

/// Something that a requirement may have started.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum ConsentRequest<'g> {
    /// A command, word by word.
    Command(&'g [String]),
    /// A tool, to say its version.
    Tool {
        /// The name.
        name: &'g str,
        /// What it is started with.
        arguments: Vec<String>,
        /// Whether that is more than a question which is known to be harmless; if not, only its place may want consent.
        odd: bool,
    },
}

/// The guide's arguments, else those of the catalogue, else the customary one.
pub(crate) fn arguments(tool: &Tool, name: &str) -> Vec<String> {
    if !tool.args.is_empty() {
        return tool.args.clone();
    }
    version_arguments(name).iter().map(|argument| (*argument).to_owned()).collect()
}

/// Whether a tool is started only as a program of this name is known to say its version.
pub(crate) fn asks_for_a_version(tool: &Tool, name: &str) -> bool {
    tool.args.is_empty() || tool.args == version_arguments(name)
}
