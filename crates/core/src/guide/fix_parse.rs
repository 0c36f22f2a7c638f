//! The reading of a guide's fixes.

use super::command_line::check_command;
use super::placeholder::{Placeholder, pieces};
use super::reading::{References, condition};
use super::{Edit, GuideFix, Kind, Then};
use crate::cause::{About, Cause};
use crate::condition::{Condition, Fact, Facts, Flag, Truth};
use crate::document::{Fields, Placed, shortened};
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Grammar, Pattern, Sanitised, Size, join_words, parse_duration};
use core::convert::Infallible;

/// Reads one fix of a requirement of a kind, where that is known, that holds under a condition.
pub(super) fn read(
    fields: Fields<'_>,
    words: &References<'_>,
    (kind, holds_when): (Option<Kind>, Option<&Condition>),
) -> Option<GuideFix> {
    let say = fields.required("say");
    let commands = fields.texts("run");
    let run: Vec<String> = commands.iter().map(|text| text.value.to_owned()).collect();
    let edit = fields.table("edit", "fix.edit").and_then(edit);
    let only_while = fields.text("only_while").and_then(|text| only_while(&fields, words, &text));
    let cause = fields.text("cause").and_then(|word| {
        let cause = Cause::from_word(word.value);
        if cause.is_none() {
            let known: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).collect();
            let message = format!("`{}` is not a cause", shortened(word.value));
            let near = crate::text::nearest(word.value, known.iter().copied());
            let note = match near {
                Some(near) => format!("did you mean `{near}`?"),
                None => "the causes are listed in the description of the format".to_owned(),
            };
            let replacement = near.map(ToOwned::to_owned);
            fields.problems().add(crate::problem::Problem {
                kind: ProblemKind::UnknownWord,
                span: word.span.clone(),
                message,
                note: Some(note),
                replacement,
            });
        }
        if let (Some(cause), Some(kind)) = (cause, kind)
            && !kind.can_have(cause)
        {
            let own = Cause::ALL.iter().filter(|cause| cause.about() != About::Any && kind.can_have(**cause));
            let own = join_words(&own.map(|cause| format!("`{}`", cause.word())).collect::<Vec<_>>(), "and");
            let message = format!("`{}` is no cause of a `{}`, which can have {own}", cause.word(), kind.word());
            fields.problems().report(ProblemKind::BadValue, word.span.clone(), message);
        }
        cause
    });
    let fix = GuideFix {
        say: say.as_ref().map(|say| say.value.to_owned()).unwrap_or_default(),
        run,
        edit,
        cause,
        when: condition(&fields),
        only_while,
        prints: fields.read("prints", Pattern::new),
        admin: fields.flag("admin").unwrap_or(false),
        then: fields.word("then", &[("new-shell", Then::NewShell), ("sign-in", Then::SignIn), ("restart", Then::Restart)]),
        download: fields.read("download", Size::parse),
        takes_ms: fields.read("takes", parse_duration),
        caution: fields.owned("caution"),
    };
    check_placeholders(&fields, &fix, kind);
    for text in fix.edit.iter().flat_map(|edit| [&edit.file, &edit.append]) {
        if text.chars().any(|c| c != '\n' && c != '\t' && Sanitised::hides(c)) {
            let message =
                format!("`{}` holds characters that cannot be seen or typed", shortened(&Sanitised::command(text).to_string()));
            fields.problems().report(ProblemKind::BadValue, fields.key_span("edit"), message);
        }
    }
    let windows = [fix.when.as_ref(), holds_when].into_iter().flatten().any(only_on_windows);
    for command in &commands {
        check_command(&fields, command, if windows { Grammar::Windows } else { Grammar::Posix });
    }
    fields.finish(|_| None);
    say.map(|_| fix)
}

/// A change to a file: exactly one of what is added, what is replaced, and what is copied; a copy may be added to.
fn edit(edit: Fields<'_>) -> Option<Edit> {
    let file = edit.required("file");
    let (append, from) = (edit.owned("append"), edit.owned("from"));
    let replace = edit.table("replace", "fix.edit.replace").and_then(|table| {
        let (pattern, with) = (table.read("pattern", Pattern::new), table.owned("with"));
        for key in ["pattern", "with"] {
            if !table.has(key) {
                table.missing(key);
            }
        }
        table.finish(|_| None);
        pattern.zip(with)
    });
    let wrong = match (edit.has("append"), edit.has("replace"), edit.has("from")) {
        (false, false, false) => Some("an edit says what is done to the file: `append`, `replace` or `from`"),
        (true, true, _) | (_, true, true) => Some("an edit that replaces something does nothing else; make it two fixes"),
        (true, false, _) | (false, true, false) | (false, false, true) => None,
    };
    if let Some(message) = wrong {
        edit.problems().report(ProblemKind::BadValue, edit.span(), message);
    }
    edit.finish(|_| None);
    let mut made = Edit::append(file?.value, append.unwrap_or_default());
    made.from = from;
    if let Some((pattern, with)) = replace {
        (made.append, made.replaces) = (with, Some(pattern.source().to_owned()));
    }
    Some(made)
}

/// `ID`, or `ID CAUSE`: only while that requirement is not met, or only for that cause.
fn only_while(fields: &Fields<'_>, words: &References<'_>, text: &Placed<&str>) -> Option<(usize, Option<Cause>)> {
    let (id, cause) = text.value.split_once(' ').map_or((text.value, None), |(id, cause)| (id, Some(cause.trim())));
    let found = words.requirement(fields, &Placed { value: id, span: text.span.clone() })?;
    let cause = match cause.map(|word| (word, Cause::from_word(word))) {
        None => None,
        Some((_, Some(cause))) => Some(cause),
        Some((word, None)) => {
            let known: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).collect();
            let message = format!("`{}` is not a cause", shortened(word));
            fields.problems().unknown_word(ProblemKind::UnknownWord, text.span.clone(), message, (word, &known));
            None
        }
    };
    Some((found.start, cause))
}

/// Whether a condition rules every other system out.
fn only_on_windows(condition: &Condition) -> bool {
    [Flag::Linux, Flag::Macos].into_iter().all(|flag| condition.evaluate(&mut OnlyOs(flag)) == Ok(Truth::False))
}

/// A machine of which nothing is known but the system.
struct OnlyOs(Flag);

impl Facts<Infallible> for OnlyOs {
    fn flag(&mut self, flag: Flag) -> Result<Option<bool>, Infallible> {
        Ok(match flag {
            Flag::Linux | Flag::Macos | Flag::Windows => Some(flag == self.0),
            Flag::Wsl | Flag::Container | Flag::VirtualMachine | Flag::Ci | Flag::Admin => None,
        })
    }

    fn values(&mut self, _: Fact) -> Result<Option<Vec<String>>, Infallible> {
        Ok(None)
    }
}

/// Reports words in braces that are no placeholders, or that no finding which the fix is for can fill: such a fix would never be offered.
fn check_placeholders(fields: &Fields<'_>, fix: &GuideFix, kind: Option<Kind>) {
    let groups: &[About] = kind.map_or(&[], Kind::about);
    let concerned = |about: &About| fix.cause.map(Cause::about).is_none_or(|own| own == *about || own == About::Any);
    let never = |placeholder: &Placeholder| {
        let filling = placeholder.about().filter(|_| kind.is_some());
        let without = *placeholder == Placeholder::Captured && fix.prints.is_none();
        without || filling.is_some_and(|filling| !groups.iter().any(|about| concerned(about) && filling.contains(about)))
    };
    let never: Vec<&str> = Placeholder::ALL.iter().filter(|one| never(one)).map(|one| one.word()).collect();
    let known: Vec<&str> = Placeholder::ALL.iter().map(|one| one.word()).collect();
    let edit = fix.edit.iter().flat_map(|edit| [("edit", &edit.file), ("edit", &edit.append)]);
    let texts = core::iter::once(("say", &fix.say)).chain(fix.run.iter().map(|run| ("run", run))).chain(edit);
    for (key, text) in texts {
        for word in pieces(text).into_iter().filter_map(Result::ok) {
            if never.contains(&word) {
                let of = fix.cause.map(Cause::word).or(kind.map(Kind::word)).unwrap_or("this");
                let message = if word == "captured" {
                    "`{captured}` is what `prints` finds in what a `command` printed, and nothing here is".to_owned()
                } else {
                    format!("nothing that is found with `{of}` fills `{{{word}}}`: this fix would never be offered")
                };
                fields.problems().report(ProblemKind::BadValue, fields.key_span(key), message);
            }
            if known.contains(&word) {
                continue;
            }
            let message = format!("`{{{}}}` is not a placeholder", shortened(word));
            let span = fields.key_span(key);
            fields.problems().unknown_word(ProblemKind::UnknownWord, span, message, (word, &known));
        }
    }
}
