//! What is said of variables, limits, libraries, locales, settings, the working copy and commands.

use super::Words;
use super::tool::{it_said, older};
use crate::finding::{
    CheckoutReason, CommandReason, LibraryReason, LibraryTrouble, LimitReason, LocaleReason, Met, Place, SettingReason,
    VariableReason, VariableTrouble,
};
use crate::guide::{Checkout, Command, EnvironmentVariable, Existence, Limit, LimitKind, Locale, Setting, Subject};
use crate::observation::Fate;
use crate::observation::Unfinished;
use crate::prelude::*;
use crate::text::{join_words, seconds};
use crate::version::Fit;

/// More names than these are only counted.
const MOST_NAMED: usize = 4;

fn place(place: &Place) -> &str {
    match place {
        Place::Environment => "the environment",
        Place::File(file) => file,
    }
}

pub(super) fn met(words: &Words<'_>, met: &Met) -> String {
    match (&words.requirement.subject, met) {
        (Subject::Variable(variable), Met::VariableSet { place: at }) => format!("{} is set in {}.", variable.name, place(at)),
        (Subject::Variable(variable), _) => format!("{} is not set, as wanted.", variable.name),
        (Subject::Limit(limit), Met::LimitHigh { number }) => format!("The limit for {} is {number}.", limited(limit.kind)),
        (Subject::Limit(limit), Met::Unlimited) => format!("There is no limit for {}.", limited(limit.kind)),
        (Subject::Limit(limit), _) => format!("This system allows you {}.", limited(limit.kind)),
        (Subject::Library(library), Met::Library { version }) => format!("The library {} {version} is here.", library.name),
        (Subject::Locale(_), Met::Locale { name }) => format!("The locale {name} is made here."),
        (Subject::Setting(setting), _) => format!("The {} setting {} is set.", setting.of, setting.key),
        (Subject::Checkout(_), _) => "The working copy is as it should be.".to_owned(),
        (Subject::Command(command), _) => format!("`{}` ran as expected.", words.command(&command.words)),
        _ => words.title(),
    }
}

/// Whether a variable chooses a locale (locale(7)).
fn is_locale(name: &str) -> bool {
    name == "LANG" || name.starts_with("LC_")
}

/// Where a variable is set, and why this terminal does not have it.
fn only_in_file(name: &str, (file, line): (&str, Option<usize>), fate: Fate, kept_by: Option<&(String, usize)>) -> String {
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
        Fate::NewTerminal => "but this terminal does not have it: it was opened before.".to_owned(),
        Fate::SignIn => "which is only read when you sign in: you have not signed in since.".to_owned(),
        Fate::NotExported => "but not exported: the shell keeps it for itself, and programs do not get it.".to_owned(),
        Fate::NotRead => "which the shell in this terminal does not read.".to_owned(),
        Fate::Left => format!("but the file is left before that, at {by}."),
        Fate::Removed => format!("and taken away again by {by}."),
    };
    format!("{name} is set in {file}, line {line}, {because}")
}

pub(super) fn variable(words: &Words<'_>, reason: &VariableReason) -> String {
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

pub(super) fn variable_found(reason: &VariableReason) -> String {
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

pub(super) fn variable_wanted(variable: &EnvironmentVariable) -> &'static str {
    match (variable.expect, &variable.matches) {
        (Existence::Absent, _) => "not set",
        (Existence::Present, None) => "set",
        (Existence::Present, Some(_)) => "set, in the right form",
    }
}

/// A limit in words, to stand behind "for" or "allows".
fn limited(kind: LimitKind) -> &'static str {
    match kind {
        LimitKind::OpenFiles => "files that are open at once",
        LimitKind::FileWatches => "files that are watched for changes",
        LimitKind::Processes => "processes at once",
        LimitKind::PathLength => "long paths",
        LimitKind::SymbolicLinks => "to make symbolic links",
    }
}

pub(super) fn limit(words: &Words<'_>, reason: LimitReason) -> String {
    let Subject::Limit(limit) = &words.requirement.subject else { return words.title() };
    let what = limited(limit.kind);
    match reason {
        LimitReason::Lacks => format!("This system does not allow you {what}."),
        LimitReason::Low { number, needed, own } => {
            let yourself = if own { " You may raise it yourself." } else { "" };
            format!("The limit for {what} is {number}, and {needed} is needed.{yourself}")
        }
    }
}

pub(super) fn limit_found(reason: LimitReason) -> String {
    match reason {
        LimitReason::Lacks => "not allowed".to_owned(),
        LimitReason::Low { number, .. } => number.to_string(),
    }
}

pub(super) fn limit_wanted(limit: &Limit) -> String {
    limit.at_least.map_or_else(|| "allowed".to_owned(), |least| format!("{least} or more"))
}

pub(super) fn library(words: &Words<'_>, reason: &LibraryReason) -> String {
    let Subject::Library(library) = &words.requirement.subject else { return words.title() };
    let name = &library.name;
    let range = library.version.as_ref().map(ToString::to_string).unwrap_or_default();
    if let Some(other) = &reason.other {
        let first = match &reason.trouble {
            LibraryTrouble::OutOfRange { found, .. } => format!("Builds find {name} {found} first"),
            LibraryTrouble::Incomparable { found } => format!("Builds find {name} first that calls its version {found}"),
            LibraryTrouble::Missing | LibraryTrouble::Lacks { .. } | LibraryTrouble::NoHeaders { .. } => {
                format!("Builds do not find {name}")
            }
        };
        return format!("{first}, but one that would do is here: {}, described in {}.", other.version, other.at);
    }
    match &reason.trouble {
        LibraryTrouble::Missing => format!("The library {name} is not installed."),
        LibraryTrouble::Lacks { other } => {
            format!("The library {name} is here, but to build against it {other} is needed too, and that is not installed.")
        }
        LibraryTrouble::NoHeaders { loaded_from } => {
            format!("The library {name} is here ({loaded_from}), but not what is needed to build against it.")
        }
        LibraryTrouble::OutOfRange { found, miss } if miss.fit == Fit::TooOld => {
            older(&format!("The library {name}"), found, &miss.nearest)
        }
        LibraryTrouble::OutOfRange { found, .. } => {
            format!("The library {name} is {found}, and this project works with {range}.")
        }
        LibraryTrouble::Incomparable { found } => {
            format!("The library {name} calls its version {found}, which cannot be compared with {range}.")
        }
    }
}

pub(super) fn library_found(reason: &LibraryReason) -> String {
    match &reason.trouble {
        LibraryTrouble::Missing => "not installed".to_owned(),
        LibraryTrouble::Lacks { other } => format!("without {other}"),
        LibraryTrouble::NoHeaders { .. } => "only to run with".to_owned(),
        LibraryTrouble::OutOfRange { found, .. } => found.to_string(),
        LibraryTrouble::Incomparable { found } => found.clone(),
    }
}

pub(super) fn locale(words: &Words<'_>, reason: &LocaleReason) -> String {
    let name = if let Subject::Locale(locale) = &words.requirement.subject { locale.name.as_str() } else { "" };
    match reason {
        LocaleReason::Missing { others } if others.is_empty() => format!("The locale {name} is not made on this machine."),
        LocaleReason::Missing { others } => {
            let are = if others.len() == 1 { "is" } else { "are" };
            format!("The locale {name} is not made on this machine. There {are} {}.", join_words(others, "and"))
        }
        LocaleReason::OtherEncoding { encoding } if encoding.is_empty() => {
            format!("The locale {name} is here, but its characters are not UTF-8.")
        }
        LocaleReason::OtherEncoding { encoding } => {
            format!("The locale {name} is here, but its characters are {encoding}, and UTF-8 is needed.")
        }
    }
}

pub(super) fn locale_found(reason: &LocaleReason) -> String {
    match reason {
        LocaleReason::Missing { .. } => "not made here".to_owned(),
        LocaleReason::OtherEncoding { encoding } if encoding.is_empty() => "another encoding".to_owned(),
        LocaleReason::OtherEncoding { encoding } => encoding.clone(),
    }
}

pub(super) fn locale_wanted(locale: &Locale) -> String {
    if locale.utf8 { format!("{}, with UTF-8", locale.name) } else { locale.name.clone() }
}

pub(super) fn setting(words: &Words<'_>, reason: SettingReason) -> String {
    let Subject::Setting(setting) = &words.requirement.subject else { return words.title() };
    let (of, key) = (&setting.of, &setting.key);
    match reason {
        SettingReason::Unset => format!("The {of} setting {key} is not set."),
        SettingReason::Shape => {
            format!("The {of} setting {key} does not have the form that is needed: {}", words.form())
        }
    }
}

pub(super) fn setting_found(reason: SettingReason) -> &'static str {
    match reason {
        SettingReason::Unset => "not set",
        SettingReason::Shape => "another form",
    }
}

pub(super) fn setting_wanted(setting: &Setting) -> &'static str {
    if setting.matches.is_some() { "set, in the right form" } else { "set" }
}

fn some(names: &[String]) -> String {
    let mut shown: Vec<String> = names.iter().take(MOST_NAMED).cloned().collect();
    if names.len() > MOST_NAMED {
        shown.push(format!("{} more", names.len() - MOST_NAMED));
    }
    join_words(&shown, "and")
}

pub(super) fn checkout(words: &Words<'_>, reason: &CheckoutReason) -> String {
    let Subject::Checkout(wanted) = &words.requirement.subject else { return words.title() };
    match reason {
        CheckoutReason::NoWorkingCopy => {
            let place = if wanted.path == "." { "This folder" } else { &wanted.path };
            format!("{place} is not a working copy of a repository.")
        }
        CheckoutReason::Branch { branch } => {
            let found = branch.as_ref().map_or_else(|| "no branch".to_owned(), |branch| format!("the branch {branch}"));
            let wanted = wanted.branch.as_deref().unwrap_or_default();
            format!("The working copy is on {found}, and it should be on {wanted}.")
        }
        CheckoutReason::Submodules { missing } => {
            format!("Parts of the project from other repositories were not fetched: {}.", some(missing))
        }
        CheckoutReason::Unfinished { what: Unfinished::Locked(lock) } => {
            format!("A git is running in this working copy, or one that crashed has left its lock behind: {lock}.")
        }
        CheckoutReason::Unfinished { what } => {
            format!("A {} was begun in this working copy and is not finished: git wants that done first.", what.verb())
        }
        CheckoutReason::Foreign { folder, owner } => {
            let owner = owner.as_deref().unwrap_or("another user");
            format!("{folder} belongs to {owner}, and git refuses to work in a working copy of another user's.")
        }
        CheckoutReason::SubmodulesMoved { moved } => format!(
            "Parts of the project from other repositories stand at another commit than the project records: {}.",
            some(moved)
        ),
        CheckoutReason::SubmodulesEmptied { emptied } => {
            format!("Parts of the project from other repositories were fetched, but their files are gone: {}.", some(emptied))
        }
        CheckoutReason::LargeFiles { missing } => format!("Of some large files only the pointers are here: {}.", some(missing)),
        CheckoutReason::Dirty { changed, .. } => format!("The working copy has changes that are not committed ({changed})."),
        CheckoutReason::Shallow => "Only the last part of the project's history is here.".to_owned(),
        CheckoutReason::NoTags => "The project's tags are not here.".to_owned(),
        CheckoutReason::WindowsEnds { texts } => {
            format!(
                "Texts of the working copy end their lines as on Windows ({texts}): scripts and tests may not work with that."
            )
        }
        CheckoutReason::EndsUnknown => {
            "How the texts of the working copy end their lines could not be found out: git did not say.".to_owned()
        }
        CheckoutReason::ChangesUnknown => {
            "Whether anything is uncommitted could not be found out: git did not say, or it would have started \
                                           what this working copy's own settings name."
                .to_owned()
        }
    }
}

pub(super) fn checkout_found(reason: &CheckoutReason) -> Option<String> {
    Some(match reason {
        CheckoutReason::NoWorkingCopy => "no working copy".to_owned(),
        CheckoutReason::Branch { branch } => {
            branch.as_ref().map_or_else(|| "no branch".to_owned(), |branch| format!("the branch {branch}"))
        }
        CheckoutReason::Submodules { missing } | CheckoutReason::LargeFiles { missing } => {
            format!("{} not fetched", missing.len())
        }
        CheckoutReason::Unfinished { what: Unfinished::Locked(_) } => "a lock of git's".to_owned(),
        CheckoutReason::Unfinished { what } => format!("a {} that is not finished", what.verb()),
        CheckoutReason::Foreign { owner, .. } => format!("of {}", owner.as_deref().unwrap_or("another user")),
        CheckoutReason::SubmodulesMoved { moved } => format!("{} at another commit", moved.len()),
        CheckoutReason::SubmodulesEmptied { emptied } => format!("{} without files", emptied.len()),
        CheckoutReason::Dirty { changed, .. } => format!("{changed} changed"),
        CheckoutReason::Shallow => "a part of the history".to_owned(),
        CheckoutReason::NoTags => "no tags".to_owned(),
        CheckoutReason::WindowsEnds { texts } => format!("{texts} with line ends of Windows"),
        CheckoutReason::ChangesUnknown | CheckoutReason::EndsUnknown => return None,
    })
}

pub(super) fn checkout_wanted_of(words: &Words<'_>, reason: &CheckoutReason) -> Option<String> {
    let Subject::Checkout(wanted) = &words.requirement.subject else { return None };
    match reason {
        CheckoutReason::NoWorkingCopy => Some("a working copy".to_owned()),
        CheckoutReason::Branch { .. } => wanted.branch.clone(),
        CheckoutReason::Submodules { .. } | CheckoutReason::LargeFiles { .. } => Some("all fetched".to_owned()),
        CheckoutReason::Unfinished { what: Unfinished::Locked(_) } => Some("no git at work".to_owned()),
        CheckoutReason::Unfinished { .. } => Some("nothing half done".to_owned()),
        CheckoutReason::Foreign { .. } => Some("yours".to_owned()),
        CheckoutReason::SubmodulesMoved { .. } | CheckoutReason::SubmodulesEmptied { .. } => {
            Some("as the project records them".to_owned())
        }
        CheckoutReason::Dirty { .. } => Some("nothing uncommitted".to_owned()),
        CheckoutReason::Shallow => Some("all of it".to_owned()),
        CheckoutReason::NoTags => Some("with its tags".to_owned()),
        CheckoutReason::WindowsEnds { .. } => Some("line ends of Unix".to_owned()),
        CheckoutReason::ChangesUnknown | CheckoutReason::EndsUnknown => None,
    }
}

pub(super) fn checkout_wanted(checkout: &Checkout) -> String {
    let words = [
        checkout.branch.as_ref().map(|branch| format!("on branch {branch}")),
        checkout.submodules.then(|| "with its submodules".to_owned()),
        checkout.large_files.then(|| "with its large files".to_owned()),
        checkout.clean.then(|| "with nothing uncommitted".to_owned()),
        checkout.history.then(|| "with all of its history".to_owned()),
        checkout.tags.then(|| "with its tags".to_owned()),
        checkout.line_ends.then(|| "with line ends of Unix".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "a working copy".to_owned() } else { join_words(&words, "and") }
}

pub(super) fn command(words: &Words<'_>, reason: &CommandReason) -> String {
    let Subject::Command(wanted) = &words.requirement.subject else { return words.title() };
    let shown = words.command(&wanted.words);
    match reason {
        CommandReason::NoConsent => format!(
            "`{shown}` was not run: a command of the guide needs your consent. Read it, and allow it with --allow-commands."
        ),
        CommandReason::NotFound => {
            let program = wanted.words.first().map_or("", String::as_str);
            format!("`{shown}` cannot be run: {program} was not found.")
        }
        CommandReason::NotStarted { reason } => format!("`{shown}` could not be started: {reason}."),
        CommandReason::NothingStarts { reason } => {
            format!("`{shown}` could not be run: no program can be started here: {reason}.")
        }
        CommandReason::TimeUp { after_ms } => {
            format!("`{shown}` was still running after {} s and was stopped, with all that it had started.", seconds(*after_ms))
        }
        CommandReason::Interrupted => format!("`{shown}` was interrupted before it ended."),
        CommandReason::Crashed { signal, said } => format!("`{shown}` crashed (signal {signal}){}", it_said(said.as_deref())),
        CommandReason::Status { status, said } => {
            let should = if wanted.exit == 0 { String::new() } else { format!(", and {} is expected", wanted.exit) };
            format!("`{shown}` ended with the exit status {status}{should}{}", it_said(said.as_deref()))
        }
        CommandReason::Output { printed } => {
            let pattern = if words.requirement.means.is_some() { "" } else { "what fits this pattern, " };
            let form = words.form();
            if printed.is_empty() {
                format!("`{shown}` ran, but printed nothing. What is expected is {pattern}{form}")
            } else {
                format!("`{shown}` ran, but printed something else than what is expected: {pattern}{form}")
            }
        }
    }
}

pub(super) fn command_found(reason: &CommandReason) -> Option<String> {
    Some(match reason {
        CommandReason::NoConsent => "not run".to_owned(),
        CommandReason::NotFound => "not found".to_owned(),
        CommandReason::NotStarted { .. } => "did not start".to_owned(),
        CommandReason::TimeUp { .. } => "did not end".to_owned(),
        CommandReason::Crashed { .. } => "crashed".to_owned(),
        CommandReason::Status { status, .. } => format!("exit status {status}"),
        CommandReason::Output { printed } if printed.is_empty() => "nothing printed".to_owned(),
        CommandReason::Output { printed } => printed.clone(),
        CommandReason::NothingStarts { .. } | CommandReason::Interrupted => return None,
    })
}

/// A command that did not run is wanted to run; only one that did is held against its pattern.
pub(super) fn command_wanted_of(words: &Words<'_>, reason: &CommandReason) -> Option<String> {
    let Subject::Command(command) = &words.requirement.subject else { return None };
    match reason {
        CommandReason::Output { .. } => None,
        _ if command.exit == 0 => Some("runs without an error".to_owned()),
        CommandReason::NoConsent
        | CommandReason::NotFound
        | CommandReason::NotStarted { .. }
        | CommandReason::NothingStarts { .. }
        | CommandReason::TimeUp { .. }
        | CommandReason::Interrupted
        | CommandReason::Crashed { .. }
        | CommandReason::Status { .. } => Some(format!("exit status {}", command.exit)),
    }
}

pub(super) fn command_wanted(command: &Command) -> String {
    match (command.exit, &command.matches) {
        (0, None) => "runs without an error".to_owned(),
        (0, Some(pattern)) => format!("prints what fits {}", pattern.source()),
        (status, _) => format!("exit status {status}"),
    }
}
