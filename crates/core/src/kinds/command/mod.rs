//! `command`: a command of the guide.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::programs::Programs;
use crate::guide::reading::{bad, owned};
use crate::guide::supply_parse::packages;
use crate::guide::vocabulary::Shape::{Duration, Number, Text, Texts};
use crate::guide::vocabulary::{MEANS, PACKAGES, may};
use crate::guide::{Kind, Supply};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::{Pattern, parse_duration};

/// `command = [...]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Command {
    /// The program and its arguments.
    pub words: Vec<String>,
    /// Who brings its program.
    pub supply: Supply,
    /// The exit status expected.
    pub exit: u8,
    /// What it must print.
    pub matches: Option<Pattern>,
    /// Its time limit in milliseconds.
    pub timeout_ms: Option<u64>,
}

/// How guides say it.
pub(crate) const COMMAND: Entry<Command> = Entry {
    shape: Texts,
    further: &[may("exit", Number), may("matches", Text), MEANS, may("timeout", Duration), PACKAGES],
    several: None,
    about: &[About::Command],
    looks_ahead: false,
    read: |fields, _| command(fields),
};

impl SubjectEntry for Command {
    fn kind(&self) -> Kind {
        Kind::Command
    }

    fn title(&self) -> String {
        format!("command {}", self.words.join(" "))
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.supply.packages
    }

    fn supply(&self) -> Option<&Supply> {
        Some(&self.supply)
    }

    fn pattern(&self) -> Option<&Pattern> {
        self.matches.as_ref()
    }

    fn wanted_value(&self) -> Option<String> {
        Some(self.exit.to_string())
    }

    fn topics(&self) -> Vec<Topic> {
        self.words.first().cloned().map(Topic::Tool).into_iter().collect()
    }

    fn needs(&self, programs: &Programs<'_>) -> Vec<usize> {
        self.words.first().and_then(|name| programs.tool(name)).into_iter().collect()
    }
}

fn command(fields: &Fields<'_>) -> Option<Command> {
    let words = owned(fields.some_texts("command"));
    let number = fields.number("exit");
    let exit = number.as_ref().and_then(|number| u8::try_from(number.value).ok());
    if let Some(number) = number.filter(|_| exit.is_none()) {
        bad(fields, number.span, "an exit status is a number from 0 to 255");
    }
    let timeout_ms = fields.read("timeout", parse_duration);
    let matches = fields.read("matches", Pattern::new);
    let supply = Supply { packages: packages(fields), ..Supply::default() };
    (!words.is_empty()).then(|| Command { words, supply, exit: exit.unwrap_or(0), matches, timeout_ms })
}
