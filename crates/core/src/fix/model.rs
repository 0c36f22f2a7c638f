//! What a fix is.

use super::effect::Effect;
use crate::guide::{Edit, Then};
use crate::manager::Manager;
use crate::prelude::*;

/// A suggested change, filled in for this machine.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Fix {
    /// The step in words.
    pub say: String,
    /// Commands that can be pasted as they stand.
    pub run: Vec<String>,
    /// A line to add to a file.
    pub edit: Option<Edit>,
    /// It needs admin rights.
    pub admin: bool,
    /// What must follow before it takes effect.
    pub then: Option<Then>,
    /// What one should know before.
    pub caution: Option<String>,
    /// Why this one of several that would do.
    pub choice: Option<String>,
    /// How much is downloaded, where it is known.
    pub download_bytes: Option<u64>,
    /// How long it takes in milliseconds, where it is known.
    pub takes_ms: Option<u64>,
    /// What to do instead where this was advised before and did not help.
    pub otherwise: Option<Box<Fix>>,
    /// What was not checked of it, and why: a sentence.
    pub not_checked: Option<String>,
    /// What stands in it for a value that only the person knows.
    pub own_value: Option<String>,
    /// Who suggests it.
    pub source: Source,
    /// It is what most likely remains to be done once what comes before it is settled; only then it can be known.
    pub presumed: bool,
    /// What would be known after it.
    pub(crate) effect: Effect,
    /// What its last command does that can be done in one command with others of the kind.
    pub(crate) part: Option<Part>,
    /// What of it only makes the rest possible, and need not be done twice in one plan.
    pub(crate) prepares: Option<Prepares>,
}

/// What a fix begins with that makes the rest of it possible.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Prepares {
    /// The words that its step begins with, up to those of the rest.
    pub(crate) say: String,
    /// How many of its first commands it is.
    pub(crate) commands: usize,
}

/// What can be done in one command with others of its kind: a package to install, a group to join.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Part {
    /// The kind.
    pub(crate) of: Whole,
    /// The command up to the name.
    pub(crate) before: String,
    /// The name, as the command has it.
    pub(crate) name: String,
    /// The command from the name on.
    pub(crate) after: String,
    /// What it is for, in words.
    pub(crate) title: String,
}

/// What parts make up.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum Whole {
    /// Packages of this manager.
    Packages(Manager),
    /// The lists of packages of this manager, fetched anew: so many days old they are.
    Lists(Manager, u64),
    /// The groups of a user.
    Groups,
}

impl Whole {
    /// The step of several parts, in words.
    pub(crate) fn say(self, titles: &str) -> String {
        match self {
            Self::Packages(manager) => format!("Install {titles} with {}.", manager.word()),
            Self::Lists(manager, days) => format!(
                "Have {} fetch its lists of packages anew, which are {days} days old: newer ones may have what is missing of {titles}. Then \
                 check again.",
                manager.word()
            ),
            Self::Groups => format!("Become a member of the groups {titles}."),
        }
    }

    /// What stands between two names in the command.
    pub(crate) fn between(self) -> &'static str {
        match self {
            Self::Packages(_) | Self::Lists(..) => " ",
            Self::Groups => ",",
        }
    }
}

/// Who suggests a fix.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Source {
    /// The guide.
    Guide,
    /// This software.
    BuiltIn,
}

impl Source {
    /// The word in reports.
    pub fn word(self) -> &'static str {
        match self {
            Self::Guide => "guide",
            Self::BuiltIn => "built-in",
        }
    }
}

/// With what the effect of a command is gone, by its first word; none where it lasts, or where that cannot be told.
fn command_lost_with(command: &str) -> Option<Then> {
    const OF_A_TERMINAL: [&str; 9] = ["export", "unset", "set", "setenv", "unsetenv", "ulimit", "limit", "source", "."];
    let mut words = command.split_whitespace().skip_while(|word| matches!(*word, "sudo" | "doas"));
    let (first, second) = (words.next()?, words.next().unwrap_or_default());
    let scripts = ["/bin/activate", "\\Scripts\\activate", "\\Scripts\\Activate.ps1"];
    let of_a_terminal = match first {
        "Remove-Item" => second.starts_with("Env:"),
        word => OF_A_TERMINAL.contains(&word) || word.starts_with("$env:") || scripts.iter().any(|end| word.ends_with(end)),
    };
    // `-w` and a file are for good (sysctl(8) reads files at each start).
    let of_this_start = match first {
        "sysctl" => second.contains('='),
        "systemctl" => matches!(second, "stop" | "start" | "restart"),
        "modprobe" => true,
        _ => false,
    };
    if of_a_terminal { Some(Then::NewShell) } else { of_this_start.then_some(Then::Restart) }
}

impl Fix {
    /// There is a command to run or a line to write; else words alone tell what to do.
    pub fn acts(&self) -> bool {
        !self.run.is_empty() || self.edit.is_some()
    }

    /// It gets something from elsewhere, or installs it.
    pub(crate) fn fetches(&self) -> bool {
        self.download_bytes.is_some() || self.part.as_ref().is_some_and(|part| part.of != Whole::Groups)
    }

    /// With what its effect is gone again: a variable of one terminal with that, what only the running system knows with a restart.
    pub(crate) fn lost_with(&self) -> Option<Then> {
        if self.edit.is_some() || self.then.is_some() {
            return None;
        }
        self.run.iter().filter_map(|command| command_lost_with(command)).min()
    }

    /// Whether what would come of it was worked out, and meets the requirement; else it cannot be told before.
    pub fn is_foreseen(&self) -> bool {
        self.effect != Effect::Unknown
    }

    /// The package that it installs or brings up to date, and with what; none where it does something else.
    pub fn installs(&self) -> Option<(Manager, &str)> {
        match &self.part {
            Some(Part { of: Whole::Packages(manager), name, .. }) => Some((*manager, name)),
            _ => None,
        }
    }

    /// With what would be known after it.
    pub(crate) fn with_effect(mut self, effect: Effect) -> Self {
        self.effect = effect;
        self
    }

    /// This one, and then another: one list of commands for one purpose.
    pub(crate) fn and_then(self, next: Self) -> Option<Self> {
        if self.edit.is_some() && next.edit.is_some() {
            return None;
        }
        let mut both = Self {
            say: format!("{} {}", self.say, next.say),
            run: self.run.into_iter().chain(next.run).collect(),
            edit: self.edit.or(next.edit),
            admin: self.admin || next.admin,
            then: self.then.max(next.then),
            effect: self.effect.and(next.effect),
            part: None,
            source: self.source,
            presumed: self.presumed,
            choice: self.choice.or(next.choice),
            not_checked: self.not_checked.or(next.not_checked),
            ..Self::say("")
        };
        both.caution = self.caution;
        if let Some(caution) = next.caution
            && both.caution.as_ref() != Some(&caution)
        {
            both.warn(&caution);
        }
        Some(both)
    }

    /// Says one more thing to know before, ahead of the others.
    pub(crate) fn warn(&mut self, caution: &str) {
        self.caution = Some(match self.caution.take() {
            Some(other) => format!("{caution} {other}"),
            None => caution.to_owned(),
        });
    }

    /// A fix of the software's own, in words.
    pub(crate) fn say(say: impl Into<String>) -> Self {
        Self {
            say: say.into(),
            run: Vec::new(),
            edit: None,
            admin: false,
            then: None,
            caution: None,
            choice: None,
            not_checked: None,
            download_bytes: None,
            takes_ms: None,
            own_value: None,
            source: Source::BuiltIn,
            otherwise: None,
            presumed: false,
            effect: Effect::Unknown,
            part: None,
            prepares: None,
        }
    }

    /// With something that must follow.
    pub(crate) fn then(mut self, then: Then) -> Self {
        self.then = Some(then);
        self
    }

    /// With commands.
    pub(crate) fn run(mut self, commands: Vec<String>) -> Self {
        self.run = commands;
        self
    }
}
