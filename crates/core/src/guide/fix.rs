use super::placeholder;
use crate::cause::Cause;
use crate::condition::Condition;
use crate::document::{Fields, shortened};
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Size, parse_duration};

/// A fix that the guide suggests.
#[derive(Debug, Clone, PartialEq)]
pub struct GuideFix {
    /// The step in words.
    pub say: String,
    /// Commands, shown and never run.
    pub run: Vec<String>,
    /// A line to add to a file, shown as an edit.
    pub edit: Option<Edit>,
    /// Only for this cause.
    pub cause: Option<Cause>,
    /// Only on such a machine.
    pub when: Option<Condition>,
    /// It needs admin rights.
    pub admin: bool,
    /// What must follow before it takes effect.
    pub then: Option<Then>,
    /// How much is downloaded.
    pub download: Option<Size>,
    /// How long it takes, in milliseconds.
    pub takes_ms: Option<u64>,
    /// What one should know before.
    pub caution: Option<String>,
}

/// A line to append to a file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Edit {
    /// The file.
    pub file: String,
    /// The line.
    pub append: String,
}

/// What must follow a fix before it takes effect; the later, the more it interrupts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Then {
    /// A new terminal.
    NewShell,
    /// Signing out and in again.
    SignIn,
    /// A restart.
    Restart,
}

impl Then {
    /// The word in the guide.
    pub fn word(self) -> &'static str {
        match self {
            Self::NewShell => "new-shell",
            Self::SignIn => "sign-in",
            Self::Restart => "restart",
        }
    }
}

impl GuideFix {
    pub(super) fn read(fields: Fields<'_>) -> Option<Self> {
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
        let fix = Self {
            say: say.as_ref().map(|say| say.value.to_owned()).unwrap_or_default(),
            run,
            edit,
            cause,
            when: super::parse::condition(&fields),
            admin: fields.flag("admin").unwrap_or(false),
            then: fields.word("then", &[("new-shell", Then::NewShell), ("sign-in", Then::SignIn), ("restart", Then::Restart)]),
            download: fields.read("download", Size::parse),
            takes_ms: fields.read("takes", parse_duration),
            caution: fields.owned("caution"),
        };
        placeholder::check(&fields, &fix);
        fields.finish(|_| None);
        say.map(|_| fix)
    }
}
