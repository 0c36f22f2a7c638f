//! The reading of a guide's fixes.

use super::placeholder::{Placeholder, pieces};
use super::reading::condition;
use super::{Edit, GuideFix, Then};
use crate::cause::Cause;
use crate::document::{Fields, shortened};
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Size, parse_duration};

/// Reads one fix.
pub(super) fn read(fields: Fields<'_>) -> Option<GuideFix> {
    let say = fields.required("say");
    let run: Vec<String> = fields.texts("run").into_iter().map(|text| text.value.to_owned()).collect();
    let edit = fields.table("edit", "fix.edit").and_then(|edit| {
        let (file, append) = (edit.required("file"), edit.required("append"));
        edit.finish(|_| None);
        Some(Edit { file: file?.value.to_owned(), append: append?.value.to_owned() })
    });
    let cause = fields.text("cause").and_then(|word| {
        let cause = Cause::from_word(word.value);
        if cause.is_none() {
            let known: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).collect();
            let message = format!("`{}` is not a cause", shortened(word.value));
            let near = crate::text::nearest(word.value, known.iter().copied());
            let note = match near {
                Some(near) => format!("did you mean `{near}`?"),
                None => "`setup-ready explain` lists the causes".to_owned(),
            };
            let replacement = near.map(ToOwned::to_owned);
            fields.problems().add(crate::problem::Problem {
                kind: ProblemKind::UnknownWord,
                span: word.span,
                message,
                note: Some(note),
                replacement,
            });
        }
        cause
    });
    let fix = GuideFix {
        say: say.as_ref().map(|say| say.value.to_owned()).unwrap_or_default(),
        run,
        edit,
        cause,
        when: condition(&fields),
        admin: fields.flag("admin").unwrap_or(false),
        then: fields.word("then", &[("new-shell", Then::NewShell), ("sign-in", Then::SignIn), ("restart", Then::Restart)]),
        download: fields.read("download", Size::parse),
        takes_ms: fields.read("takes", parse_duration),
        caution: fields.owned("caution"),
    };
    check_placeholders(&fields, &fix);
    fields.finish(|_| None);
    say.map(|_| fix)
}

/// Reports words in braces that are no placeholders.
fn check_placeholders(fields: &Fields<'_>, fix: &GuideFix) {
    let known: Vec<&str> = Placeholder::ALL.iter().map(|one| one.word()).collect();
    let edit = fix.edit.iter().flat_map(|edit| [("edit", &edit.file), ("edit", &edit.append)]);
    let texts = core::iter::once(("say", &fix.say)).chain(fix.run.iter().map(|run| ("run", run))).chain(edit);
    for (key, text) in texts {
        for word in pieces(text).into_iter().filter_map(Result::ok).filter(|word| !known.contains(word)) {
            let message = format!("`{{{}}}` is not a placeholder", shortened(word));
            let span = fields.key_span(key);
            fields.problems().unknown_word(ProblemKind::UnknownWord, span, message, (word, &known));
        }
    }
}
