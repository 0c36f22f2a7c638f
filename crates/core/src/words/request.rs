//! One text for whoever looks after this machine: all that only they can do.

use crate::guide::Guide;
use crate::plan::Plan;
use crate::prelude::*;

/// What to send them, a line each; empty where nothing needs them.
///
/// `user` is who asks, where the system tells.
pub(crate) fn request(guide: &Guide, plan: &Plan, user: Option<&str>) -> Vec<String> {
    let asked: Vec<_> = plan.steps.iter().filter(|step| step.fix.admin).collect();
    if asked.is_empty() {
        return Vec::new();
    }
    let whom = user.map(|user| format!(" for the user {user}")).unwrap_or_default();
    let mut lines = vec![format!("To get this machine ready for {}{whom}, please do this:", guide.project.name)];
    for step in asked {
        lines.push(format!("- {}", step.fix.say));
        lines.extend(step.fix.run.iter().map(|command| format!("    {command}")));
        if let Some(edit) = &step.fix.edit {
            lines.push(format!("    {} {}", edit.task(), edit.append));
        }
    }
    lines
}
