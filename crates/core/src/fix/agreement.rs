//! No fix undoes what another requirement needs: held against all that is met, before anything is shown.

use super::Fix;
use super::effect::{Change, Effect};
use super::predict::predicted;
use crate::assess::finding_with_evidence;
use crate::finding::Verdict;
use crate::inquiry::{Context, Inquiry};
use crate::observation::Observation;
use crate::prelude::*;
use crate::settled::RequirementResult;
use hashbrown::HashMap;

/// What came of all, without fixes that would make what is met unmet.
pub(crate) fn agreed(context: Context<'_>) -> Vec<(usize, Vec<Fix>)> {
    // Whoever rests on what is at a path, by that path.
    let mut by_path: HashMap<&str, Vec<&RequirementResult>> = HashMap::new();
    for one in context.settled.iter().flatten().filter(|one| one.finding.verdict() == Verdict::Met) {
        for answer in &one.finding.evidence {
            if let Observation::Path(state) = &*answer.observation {
                by_path.entry(state.path.as_str()).or_default().push(one);
            }
        }
    }
    let mut changed = Vec::new();
    for one in context.settled.iter().flatten().filter(|one| !one.fixes.is_empty()) {
        let undone = |fix: &Fix| undoes(context, &by_path, fix);
        let Some(title) = one.fixes.iter().find_map(undone) else { continue };
        let mut kept: Vec<Fix> = one.fixes.iter().filter(|fix| undone(fix).is_none()).cloned().collect();
        if kept.is_empty() {
            kept.push(Fix::say(format!(
                "What would settle this would undo what {title} needs: the guide asks for two things here that cannot both be. Ask those \
                 who look after it."
            )));
        }
        changed.push((one.index, kept));
    }
    changed
}

/// The title of a met requirement that would not be met after a fix.
fn undoes(context: Context<'_>, by_path: &HashMap<&str, Vec<&RequirementResult>>, fix: &Fix) -> Option<String> {
    let Effect::Changes(changes) = &fix.effect else { return None };
    for change in changes {
        let Change::Path { path, .. } = change else { continue };
        for other in by_path.get(path.as_str()).into_iter().flatten() {
            let requirement = context.guide.requirements.get(other.index)?;
            let predicted = predicted(&other.finding, changes);
            let mut then = Inquiry::new(Context { predicted: Some(&predicted), ahead: true, ..context });
            let after = finding_with_evidence(&mut then, other.index, requirement);
            if after.is_some_and(|after| after.verdict() == Verdict::Unmet) {
                return Some(requirement.title());
            }
        }
    }
    None
}
