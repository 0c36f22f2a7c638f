//! What people are told.

use crate::finding::{Met, Place, VariableReason, VariableTrouble};
use crate::fix::{Shell, quote};
use crate::guide::{EnvironmentVariable, Existence, Guide, Requirement, Subject};
use crate::observation::StartupOutcome;
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

fn place(place: &Place) -> &str {
    match place {
        Place::Environment => "the environment",
        Place::File(file) => file,
    }
}

/// Whether a variable chooses a locale (locale(7)).
fn is_locale(name: &str) -> bool {
    name == "LANG" || name.starts_with("LC_")
}

/// Where a variable is set, and why this terminal does not have it.
fn only_in_file(
    name: &str,
    (file, line): (&str, Option<usize>),
    fate: StartupOutcome,
    kept_by: Option<&(String, usize)>,
) -> String {
    let Some(line) = line else {
        return format!(
            "{name} is set in {file}, but this terminal does not have it: it was opened before, or does not read that file."
        );
    };
    let by = |other: &(String, usize)| {
        if other.0 == file { format!("line {}", other.1) } else { format!("line {} of {}", other.1, other.0) }
    };
    let by = kept_by.map_or_else(|| "another line".to_owned(), by);
    let because = match fate {
        StartupOutcome::NewTerminal => "but this terminal does not have it: it was opened before.".to_owned(),
        StartupOutcome::SignIn => "which is only read when you sign in: you have not signed in since.".to_owned(),
        StartupOutcome::NotExported => "but not exported: the shell keeps it for itself, and programs do not get it.".to_owned(),
        StartupOutcome::NotRead => "which the shell in this terminal does not read.".to_owned(),
        StartupOutcome::Left => format!("but the file is left before that, at {by}."),
        StartupOutcome::Removed => format!("and taken away again by {by}."),
    };
    format!("{name} is set in {file}, line {line}, {because}")
}

pub(crate) fn message(words: &Words<'_>, reason: &VariableReason) -> String {
    let name = &reason.name;
    let wanted = if let Subject::Variable(variable) = &words.requirement.subject { Some(variable) } else { None };
    match &reason.trouble {
        VariableTrouble::Unset => {
            let file = wanted.and_then(|variable| variable.env_file.as_ref());
            let nor = file.map(|file| format!(", and {file} does not set it either")).unwrap_or_default();
            format!("{name} is not set in this terminal{nor}.")
        }
        VariableTrouble::Empty { place: at } => format!("{name} is set in {}, but to nothing.", place(at)),
        VariableTrouble::Shape { place: at } => {
            format!("{name} is set in {}, but its value does not have the form that is needed: {}", place(at), words.form())
        }
        VariableTrouble::OnlyInFile { file, line, fate, kept_by } => only_in_file(name, (file, *line), *fate, kept_by.as_ref()),
        VariableTrouble::OtherLineEnds { place: at } => format!(
            "{name} is set in {}, but that file was saved as on Windows (its line ends, or a mark at its beginning): some programs then \
             read an invisible character as a part of the value.",
            place(at)
        ),
        VariableTrouble::LeadsNowhere { place: at } => {
            let what = if is_locale(name) { "a locale that is not made on this machine" } else { "a place where nothing is" };
            format!("{name} is set in {}, but its value names {what}.", place(at))
        }
        VariableTrouble::OtherKit { place: at, program, kit } => format!(
            "{name} is set in {}, but it does not lead to {kit}, to which {program} belongs: some programs would use the one, some the other.",
            place(at)
        ),
        VariableTrouble::Unwanted { place: at } => {
            format!("{name} is set in {}, and this project does not work while it is.", place(at))
        }
    }
}

pub(crate) fn found(reason: &VariableReason) -> String {
    match &reason.trouble {
        VariableTrouble::Unset => "not set".to_owned(),
        VariableTrouble::Empty { .. } => "empty".to_owned(),
        VariableTrouble::Shape { .. } => "another form".to_owned(),
        VariableTrouble::OnlyInFile { file, .. } => format!("only in {file}"),
        VariableTrouble::OtherLineEnds { .. } => "saved as on Windows".to_owned(),
        VariableTrouble::LeadsNowhere { .. } => "leads nowhere".to_owned(),
        VariableTrouble::OtherKit { .. } => "leads elsewhere".to_owned(),
        VariableTrouble::Unwanted { .. } => "set".to_owned(),
    }
}

pub(crate) fn wanted(variable: &EnvironmentVariable) -> &'static str {
    match (variable.expect, &variable.matches) {
        (Existence::Absent, _) => "not set",
        (Existence::Present, None) => "set",
        (Existence::Present, Some(_)) => "set, in the right form",
    }
}

impl ReasonWords for VariableReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for EnvironmentVariable {
    fn met(&self, _: &Words<'_>, met: &Met) -> String {
        match met {
            Met::VariableSet { place: at } => format!("{} is set in {}.", self.name, place(at)),
            _ => format!("{} is not set, as wanted.", self.name),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        if let Met::VariableUnset = met { "not set" } else { "set" }.to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self).to_owned())
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        if !shell.is_unix() || self.env_file.is_some() {
            return None;
        }
        let then = if self.expect == Existence::Present { "shows your value" } else { "shows nothing" };
        Some((format!("printenv {}", quote(&self.name, shell)), then.to_owned()))
    }

    fn listed(&self, requirement: &Requirement, guide: &Guide) -> String {
        let set = if self.expect == Existence::Absent { "not set" } else { "set" };
        let place = self.env_file.as_ref().map(|file| format!(" in the environment or in {file}")).unwrap_or_default();
        let shape = requirement.means.as_ref().map(|means| format!(", to {means}")).unwrap_or_default();
        let kit = self.of.and_then(|of| guide.requirements.get(of)).map(|of| format!(", to the kit of {}", of.title()));
        let name = if requirement.title.is_some() { format!("the variable {}", self.name) } else { String::new() };
        format!("{name} {set}{place}{shape}{}", kit.unwrap_or_default())
    }
}
