//! What newcomers will miss.

use super::context::Context;
use super::{Remark, Rule};
use crate::guide::Subject;
use crate::prelude::*;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    if context.guide.project.help.is_none() && context.guide.project.home.is_none() {
        let at = context.section("project");
        remarks.push(Remark::of(Rule::HelpMissing, at, "nothing says where a newcomer may ask"));
    }
    for (_, requirement) in context.requirements() {
        // An alternative is spoken for by what names it.
        if requirement.why.is_none() && !requirement.alternative {
            let message = format!("`{}` does not say why the project needs it", requirement.id);
            remarks.push(Remark::of(Rule::WhyMissing, requirement.span.clone(), message).about(&*requirement.id));
        }
        // What a command printed is shown as it is.
        let shown = matches!(requirement.subject, Subject::Variable(_) | Subject::Setting(_));
        if shown && context.says(requirement, "matches") && requirement.means.is_none() {
            let message = format!("nothing says in words what the pattern of `{}` means", requirement.id);
            remarks.push(Remark::of(Rule::MeansMissing, context.at(requirement, "matches"), message).about(&*requirement.id));
        }
    }
    // They come by requirement.
    for of in context.evidence.unfixed.chunk_by(|(a, ..), (b, ..)| a == b) {
        let Some((index, _, cause)) = of.first() else { continue };
        let Some(requirement) = context.guide.requirements.get(*index) else { continue };
        let systems: Vec<String> = of.iter().map(|(_, os, _)| os.name().to_owned()).collect();
        let where_to = crate::text::join_words(&systems, "or");
        let message = format!("on a new machine with {where_to} this is `{}`, and no fix is known", cause.word());
        remarks.push(Remark::of(Rule::FixMissing, requirement.span.clone(), message).about(&*requirement.id));
    }
}
