//! `variable`: a variable of the environment, or of a file.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::programs::Programs;
use crate::guide::reading::{References, bad, existence, flag};
use crate::guide::vocabulary::Shape::{Flag, Text};
use crate::guide::vocabulary::{EXAMPLE, EXPECT, MEANS, may};
use crate::guide::{Existence, Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::Pattern;

/// `variable = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct EnvironmentVariable {
    /// Its name.
    pub name: String,
    /// A `.env`-style file that may set it.
    pub env_file: Option<String>,
    /// The shape of its value.
    pub matches: Option<Pattern>,
    /// The index of the tool that it must lead to the kit of.
    pub of: Option<usize>,
    /// Nothing about its value may be told.
    pub secret: bool,
    /// Whether it must be set.
    pub expect: Existence,
}

/// How guides say it.
pub(crate) const VARIABLE: Entry<EnvironmentVariable> = Entry {
    shape: Text,
    further: &[may("env_file", Text), may("of", Text), may("matches", Text), MEANS, EXAMPLE, may("secret", Flag), EXPECT],
    several: None,
    about: &[About::Variable],
    looks_ahead: true,
    read: |fields, references| variable(fields, references),
};

impl SubjectEntry for EnvironmentVariable {
    fn kind(&self) -> Kind {
        Kind::Variable
    }

    fn title(&self) -> String {
        format!("variable {}", self.name)
    }

    fn pattern(&self) -> Option<&Pattern> {
        self.matches.as_ref()
    }

    fn topics(&self) -> Vec<Topic> {
        vec![Topic::Variable(self.name.clone())]
    }

    fn needs(&self, _: &Programs<'_>) -> Vec<usize> {
        self.of.into_iter().collect()
    }

    fn asks(&self) -> Option<String> {
        Some(format!("variable {}", self.name))
    }

    fn paths(&self) -> Vec<(&'static str, &str)> {
        self.env_file.as_deref().map(|file| ("env_file", file)).into_iter().collect()
    }
}

fn variable(fields: &Fields<'_>, words: &References<'_>) -> Option<EnvironmentVariable> {
    let variable = EnvironmentVariable {
        name: names::variable(fields)?,
        env_file: names::project_file(fields, "env_file"),
        of: fields.text("of").and_then(|id| words.one(fields, &id)),
        matches: fields.read("matches", Pattern::new),
        secret: flag(fields, "secret"),
        expect: existence(fields),
    };
    // Whether a pattern fits tells something about the value; with many of them, all of it.
    if variable.secret && variable.matches.is_some() {
        bad(fields, fields.key_span("matches"), "of a `secret` variable only whether it is set is told; leave out `matches`");
    }
    Some(variable)
}
