//! What the parser itself refuses, so that one command finds everything.

use super::{Correction, Remark, Replacement, Rule};
use crate::prelude::*;
use crate::problem::{Problem, ProblemKind};

pub(super) fn remark(problem: &Problem) -> Remark {
    let rule = match problem.kind {
        ProblemKind::TooLarge => Rule::TooLarge,
        ProblemKind::Syntax => Rule::Syntax,
        ProblemKind::Format | ProblemKind::Needs => Rule::Format,
        ProblemKind::UnknownKey => Rule::UnknownKey,
        ProblemKind::MissingKey => Rule::MissingKey,
        ProblemKind::WrongType => Rule::WrongType,
        ProblemKind::BadValue => Rule::BadValue,
        ProblemKind::UnknownWord => Rule::UnknownWord,
        ProblemKind::Subject => Rule::Subject,
        ProblemKind::Duplicate => Rule::Duplicate,
        ProblemKind::Cycle => Rule::Cycle,
    };
    let mut remark = Remark::of(rule, problem.span.clone(), problem.message.clone());
    remark.note.clone_from(&problem.note);
    if let Some(right) = &problem.replacement {
        // A key stands bare, a word in its marks.
        let text = if rule == Rule::UnknownKey { right.clone() } else { format!("\"{right}\"") };
        let says = format!("write `{right}`");
        remark.correction = Some(Correction::new(says, vec![Replacement { span: problem.span.clone(), text }]));
    }
    remark
}
