//! Fixes: what would settle a requirement on this machine. The software shows them and never carries them out.

mod built_in;
mod case;
mod connection;
mod fill;
mod package;
mod path;
mod shell;
mod workspace;

pub use shell::{Shell, quote};

use crate::cause::Cause;
use crate::condition::Truth;
use crate::finding::{Finding, Verdict};
use crate::guide::{Edit, Guide, GuideFix, Requirement, Then};
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::{Account, Os};
use crate::prelude::*;
use crate::text::join_words;

/// A suggested change, filled in for this machine.
#[derive(Debug, Clone, PartialEq, Eq)]
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
    /// Who suggests it.
    pub source: Source,
    /// What its last command does that can be done in one command with others of the kind.
    pub part: Option<Part>,
}

/// What can be done in one command with others of its kind: a package to install, a group to join.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Part {
    /// The kind.
    pub of: Whole,
    /// The command up to the name.
    pub before: String,
    /// The name, as the command has it.
    pub name: String,
    /// The command from the name on.
    pub after: String,
    /// What it is for, in words.
    pub title: String,
}

/// What parts make up.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Whole {
    /// Packages of this manager.
    Packages(String),
    /// The groups of a user.
    Groups,
}

impl Whole {
    /// The step of several parts, in words.
    pub fn say(&self, titles: &str) -> String {
        match self {
            Self::Packages(manager) => format!("Install {titles} with {manager}."),
            Self::Groups => format!("Become a member of the groups {titles}."),
        }
    }

    /// What stands between two names in the command.
    pub fn between(&self) -> &'static str {
        match self {
            Self::Packages(_) => " ",
            Self::Groups => ",",
        }
    }
}

/// Who suggests a fix.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
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

impl Fix {
    /// There is a command to run or a line to write; else words alone tell what to do.
    pub fn acts(&self) -> bool {
        !self.run.is_empty() || self.edit.is_some()
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
            download_bytes: None,
            takes_ms: None,
            source: Source::BuiltIn,
            part: None,
        }
    }
}

/// What fixes need to know about the machine; what could not be found out is absent.
#[derive(Debug)]
pub(crate) struct Bench<'a> {
    pub(crate) os: Option<Os>,
    /// A Linux inside Windows.
    pub(crate) inside_windows: bool,
    pub(crate) account: Option<&'a Account>,
    pub(crate) managers: &'a [String],
    pub(crate) shell: Shell,
}

impl<'a> Bench<'a> {
    fn look(inquiry: &mut Inquiry<'a>) -> Result<Self, Stop> {
        use crate::probe::Probe;
        for probe in [Probe::System, Probe::Surroundings, Probe::Account, Probe::Managers] {
            inquiry.want(probe);
        }
        let os = known(inquiry.system())?.map(|system| system.os);
        let inside_windows = known(inquiry.surroundings())?.is_some_and(|around| around.wsl == Some(true));
        let account = known(inquiry.account())?;
        let managers = known(inquiry.managers())?.map_or(&[][..], Vec::as_slice);
        let shell = Shell::of(account.and_then(|account| account.shell.as_deref()), os);
        Ok(Self { os, inside_windows, account, managers, shell })
    }

    /// The command as it must be typed here to run with admin rights.
    pub(crate) fn as_admin(&self, command: &str) -> String {
        match self.account {
            Some(account) if !account.root => match &account.elevate {
                Some(elevate) => format!("{elevate} {command}"),
                None => command.to_owned(),
            },
            _ => command.to_owned(),
        }
    }

    /// What to know before a step that needs admin rights.
    pub(crate) fn admin_caution(&self) -> Option<String> {
        let account = self.account?;
        if account.root {
            None
        } else if account.admin == Some(false) {
            Some("You have no admin rights here: ask whoever looks after this machine to do it.".to_owned())
        } else if self.os == Some(Os::Windows) {
            Some("Do it in a terminal that was started as administrator.".to_owned())
        } else if account.elevate.is_none() {
            Some("There is no sudo here: do it as root.".to_owned())
        } else {
            None
        }
    }
}

/// The fixes for a finding on this machine: the guide's first one that fits, else those that the software knows.
///
/// # Errors
/// When answers are still to come.
pub fn suggest(inquiry: &mut Inquiry<'_>, requirement: &Requirement, finding: &Finding) -> Result<Vec<Fix>, Stop> {
    let Some(cause) = finding.cause.filter(|_| finding.verdict == Verdict::Unmet) else { return Ok(Vec::new()) };
    let bench = Bench::look(inquiry)?;
    for fix in requirement.fixes.iter().filter(|fix| fix.cause.is_none_or(|only| only == cause)) {
        let fits = fix.when.as_ref().map_or(Ok(Truth::True), |when| when.evaluate(inquiry))?;
        if fits == Truth::True {
            return Ok(vec![fill_guide_fix(fix, finding, &bench)]);
        }
    }
    if cause == Cause::NoneOf {
        let ordered = cheapest_first(inquiry, &finding.alternatives)?;
        let choice = choice(inquiry.context.guide, &ordered);
        let mut fixes: Vec<Fix> = ordered.into_iter().filter_map(|(_, fix)| fix).collect();
        if let Some(first) = fixes.first_mut() {
            first.choice = choice;
        }
        return Ok(fixes);
    }
    let offer = package::offer(inquiry, requirement, (finding, cause), &bench)?;
    if let Some(fix) = offer.fix {
        return Ok(vec![fix]);
    }
    let own = match (&finding.particulars.path, cause) {
        (Some(path), Cause::ToolNotExecutable) => is_own(inquiry, path)?,
        _ => None,
    };
    let mut fixes = built_in::fixes(requirement, finding, cause, (&bench, &offer.refused, own));
    fixes.truncate(1);
    Ok(fixes)
}

/// Whether a file is this person's own; `None` where it cannot be found out.
///
/// # Errors
/// When the answer is still to come.
fn is_own(inquiry: &mut Inquiry<'_>, path: &str) -> Result<Option<bool>, Stop> {
    Ok(known(inquiry.path(path, None))?.and_then(|state| state.mine))
}

/// The alternatives of a finding with the best fix of each, the cheapest first: without admin rights, without a restart, with little to
/// download, soon done.
///
/// # Errors
/// When answers are still to come.
pub(crate) fn cheapest_first(inquiry: &mut Inquiry<'_>, alternatives: &[usize]) -> Result<Vec<(usize, Option<Fix>)>, Stop> {
    let guide = inquiry.context.guide;
    let mut all = Vec::new();
    for index in alternatives {
        let Some(requirement) = guide.requirements.get(*index) else { continue };
        let finding = inquiry.finding(*index)?;
        all.push((*index, suggest(inquiry, requirement, finding)?.into_iter().next()));
    }
    // What only words describe costs nobody knows what.
    let cost = |fix: &Fix| (!fix.acts(), fix.admin, fix.then, fix.download_bytes.unwrap_or(0), fix.takes_ms.unwrap_or(0));
    all.sort_by_key(|(_, fix)| (fix.is_none(), fix.as_ref().map(cost)));
    Ok(all)
}

/// Whether both are known, and the first is less.
fn is_less(first: Option<u64>, second: Option<u64>) -> bool {
    first.zip(second).is_some_and(|(first, second)| first < second)
}

/// Why the first of several that would do is the one to take: what it is ahead of the second by.
fn choice(guide: &Guide, ordered: &[(usize, Option<Fix>)]) -> Option<String> {
    let titles: Vec<String> =
        ordered.iter().filter_map(|(index, _)| guide.requirements.get(*index)).map(Requirement::title).collect();
    let ((_, Some(first)), second) = (ordered.first()?, ordered.get(1)?.1.as_ref()) else { return None };
    let reason = match second {
        None => "is the one that this software knows how to get here",
        Some(second) if first.acts() != second.acts() => "is the one that a command brings",
        Some(second) if first.admin != second.admin => "needs no admin rights",
        Some(second) if first.then != second.then && first.then.is_none() => "works at once",
        Some(second) if first.then != second.then => "interrupts you less",
        Some(second) if is_less(first.download_bytes, second.download_bytes) => "is the smaller download",
        Some(second) if (first.download_bytes, first.takes_ms) == (second.download_bytes, second.takes_ms) => {
            "comes first in the guide"
        }
        Some(second) if is_less(first.takes_ms, second.takes_ms) => "is done sooner",
        Some(_) => "costs less, as far as that is known",
    };
    Some(format!("{} will do; {} {reason}.", join_words(&titles, "or"), titles.first()?))
}

fn fill_guide_fix(fix: &GuideFix, finding: &Finding, bench: &Bench<'_>) -> Fix {
    let words = |text: &str| fill::fill(text, finding, bench, fill::Quoting::Plain);
    let command = |text: &String| {
        let filled = fill::fill(text, finding, bench, fill::Quoting::Shell);
        let already = ["sudo ", "doas "].iter().any(|elevate| filled.starts_with(elevate));
        if fix.admin && !already { bench.as_admin(&filled) } else { filled }
    };
    Fix {
        say: words(&fix.say),
        run: fix.run.iter().map(command).collect(),
        edit: fix.edit.as_ref().map(|edit| Edit { file: words(&edit.file), append: words(&edit.append) }),
        admin: fix.admin,
        then: fix.then,
        caution: fix.caution.clone().or_else(|| if fix.admin { bench.admin_caution() } else { None }),
        choice: None,
        download_bytes: fix.download.map(|size| size.0),
        takes_ms: fix.takes_ms,
        source: Source::Guide,
        part: None,
    }
}

#[cfg(test)]
mod tests;
