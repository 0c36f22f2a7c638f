//! What one copy of a tool is: told by its file, or by what it prints when it is asked for its version.

use crate::catalogue;
use crate::cause::Cause;
use crate::document::shortened;
use crate::driver::Consent;
use crate::guide::Tool;
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::{FileKind, Os, Piece, ProgramCopy, Run, RunEnd, StartEffect, StartFailure};
use crate::prelude::*;
use crate::text::{join_words, seconds};
use crate::version::{self, Version};

/// Arguments that ask for a version and nothing else; only these are passed without the person's consent.
const VERSION_ARGUMENTS: [&str; 9] =
    ["--version", "-version", "version", "-V", "-v", "--client", "--short", "-dumpversion", "-dumpfullversion"];

/// What came of running one copy.
pub(super) enum Outcome {
    /// It said its version, or no version was asked for and it ran.
    Version(Version),
    Ran,
    Silent(String),
    /// It is there, and was not started, since it opens a window; no version is wanted.
    There,
    Failed(Cause, String),
    NotLookedAt(String),
    NoConsent(String),
}

impl Outcome {
    pub(super) fn version_text(&self) -> String {
        match self {
            Self::Version(version) => version.to_string(),
            Self::Ran | Self::There | Self::Silent(_) | Self::Failed(..) | Self::NotLookedAt(_) | Self::NoConsent(_) => {
                "it runs".to_owned()
            }
        }
    }
}

/// Forms that ask for a version and could start no work, tried where a tool that nobody knows rejects the customary one.
const FURTHER_FORMS: [&str; 2] = ["version", "-version"];

/// The guide's arguments, else those of the catalogue, else the customary one.
pub(super) fn arguments(tool: &Tool, name: &str) -> Vec<String> {
    if !tool.args.is_empty() {
        return tool.args.clone();
    }
    let known = catalogue::find(name).map_or(&["--version"][..], |row| row.args);
    known.iter().map(|argument| (*argument).to_owned()).collect()
}

/// Whether nobody says how this tool tells its version.
fn is_unheard_of(tool: &Tool, name: &str) -> bool {
    tool.args.is_empty() && catalogue::find(name).is_none()
}

/// What programs say of an argument that they do not know.
const REJECTIONS: [&str; 9] =
    ["usage", "unknown", "unrecognized", "unrecognised", "invalid", "illegal", "no such option", "not recognized", "unexpected"];

/// Whether a program started well and only did not know the argument.
fn rejects_the_argument(run: &Run) -> bool {
    let text = format!("{}\n{}", run.stderr, run.stdout).to_lowercase();
    matches!(run.end, RunEnd::Exit(status) if status != 0) && REJECTIONS.iter().any(|words| text.contains(words))
}

/// Whether an argument only asks a program for its version, by custom.
pub(crate) fn is_version_argument(argument: &str) -> bool {
    VERSION_ARGUMENTS.contains(&argument)
}

/// Why this copy may not be started without consent; `None` where it may.
pub(super) fn allowed(inquiry: &Inquiry<'_>, tool: &Tool, copy: &ProgramCopy) -> Option<String> {
    if inquiry.context.selection.consent == Consent::Given {
        return None;
    }
    if copy.in_project {
        return Some("it lies in the project's own folder".to_owned());
    }
    let odd = tool.args.iter().find(|argument| !is_version_argument(argument))?;
    Some(format!("the guide passes it `{}`, which is more than asking for a version", shortened(odd)))
}

pub(super) fn examine(inquiry: &mut Inquiry<'_>, tool: &Tool, name: &str, copy: &ProgramCopy) -> Result<Outcome, Stop> {
    if let Some(reason) = allowed(inquiry, tool, copy) {
        let states = stated(inquiry, copy)?.map(|version| format!(" (its file states the version {version})"));
        return Ok(Outcome::NoConsent(reason + &states.unwrap_or_default()));
    }
    if let Some(outcome) = known_by_its_file(inquiry, tool, copy)? {
        return Ok(outcome);
    }
    let run = inquiry.run(&copy.path, &arguments(tool, name))?;
    let outcome = read(tool, name, copy, run);
    if !matches!(outcome, Outcome::Failed(Cause::ToolFailed, _)) || !rejects_the_argument(run) {
        return Ok(outcome);
    }
    for form in FURTHER_FORMS.into_iter().filter(|_| is_unheard_of(tool, name)) {
        let run = inquiry.run(&copy.path, &[form.to_owned()])?;
        if let outcome @ Outcome::Version(_) = read(tool, name, copy, run) {
            return Ok(outcome);
        }
        if !rejects_the_argument(run) {
            break;
        }
    }
    // It runs, and does not know how to say its version.
    if tool.version.is_none() && tool.version_from.is_none() {
        return Ok(Outcome::Ran);
    }
    Ok(Outcome::Silent(format!("{} runs, but does not know how to say its version{}", copy.path, said(run))))
}

/// The line that tells most of what a failing program said, as the end of a sentence.
pub(in crate::assess) fn said(run: &Run) -> String {
    let telling = |text: &str| {
        let mut lines = text.lines().map(str::trim).filter(|line| line.chars().any(char::is_alphanumeric));
        let first = lines.next().map(ToOwned::to_owned);
        lines.find(|line| line.to_lowercase().contains("error")).map(ToOwned::to_owned).or(first)
    };
    match [&run.stderr, &run.stdout].into_iter().find_map(|text| telling(text)) {
        Some(line) => format!(". It said: {}", words_of(&line)),
        None => ".".to_owned(),
    }
}

/// The version that a file states, where one can be told without starting it.
pub(super) fn stated(inquiry: &mut Inquiry<'_>, copy: &ProgramCopy) -> Result<Option<Version>, Stop> {
    // There it would be asked in vain.
    if inquiry.os()? == Some(Os::Linux) {
        return Ok(None);
    }
    let text = known(inquiry.file_version(&copy.path))?.and_then(Option::as_deref);
    Ok(text.and_then(|text| Version::parse(text).ok()))
}

/// What need not be started to be known: a placeholder, what is built for another processor, and what would trouble the person.
pub(super) fn known_by_its_file(inquiry: &mut Inquiry<'_>, tool: &Tool, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
    match by_kind(inquiry, copy)? {
        Some(outcome) => Ok(Some(outcome)),
        None => by_effect(inquiry, tool, copy),
    }
}

/// What opens a window is started only with consent, and what the system would ask about never.
fn by_effect(inquiry: &mut Inquiry<'_>, tool: &Tool, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
    let path = &copy.path;
    match copy.start {
        StartEffect::Quiet => Ok(None),
        StartEffect::Question => {
            let message = format!(
                "{path} is marked as downloaded, and nobody has allowed it yet: the system would stop it and ask. It was not started."
            );
            Ok(Some(Outcome::Failed(Cause::ToolQuarantined, message)))
        }
        StartEffect::Window => Ok(match stated(inquiry, copy)? {
            Some(version) => Some(Outcome::Version(version)),
            None if tool.version.is_none() && tool.version_from.is_none() => Some(Outcome::There),
            None if inquiry.context.selection.consent == Consent::Given => None,
            None => Some(Outcome::Silent(format!(
                "{path} is there. It opens a window, so it was not started, and its file does not state a version. Look in its window, \
                 or have it started with --allow-commands."
            ))),
        }),
    }
}

fn by_kind(inquiry: &mut Inquiry<'_>, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
    let path = &copy.path;
    match &copy.kind {
        FileKind::Placeholder => {
            let message = format!(
                "{path} only stands in for the program: starting it would offer to install the real one. It was not started."
            );
            Ok(Some(Outcome::Failed(Cause::ToolPlaceholder, message)))
        }
        FileKind::Built(arches) => {
            if inquiry.arch()?.is_none_or(|machine| arches.iter().any(|arch| may_run(arch, machine))) {
                return Ok(lacking(copy));
            }
            let machine = &inquiry.system()?.arch;
            let message =
                format!("{path} is built for {}, and this machine's processor is {machine}.", join_words(arches, "and"));
            Ok(Some(Outcome::Failed(Cause::ToolWrongArch, message)))
        }
        FileKind::Script(_) | FileKind::Unknown => Ok(lacking(copy)),
    }
}

/// A piece without which it cannot start.
fn lacking(copy: &ProgramCopy) -> Option<Outcome> {
    let (first, more) = copy.lacks.split_first()?;
    let path = &copy.path;
    let message = match first {
        Piece::Interpreter(name) => format!("{path} is a script for {name}, and {name} is not there."),
        Piece::Loader(name) => format!("{path} is started by {name}, which this system does not have."),
        Piece::Library(_) => {
            let names: Vec<&str> = core::iter::once(first).chain(more).map(Piece::name).collect();
            let (libraries, are) = if more.is_empty() { ("library", "is") } else { ("libraries", "are") };
            format!(
                "{path} needs the {libraries} {}, which {are} not where the system looks for libraries.",
                join_words(&names, "and")
            )
        }
    };
    Some(Outcome::Failed(Cause::ToolBroken, message))
}

/// Some systems run programs of an older or a translated architecture: those are tried.
fn may_run(arch: &str, machine: &str) -> bool {
    arch == machine || matches!((arch, machine), ("i686", "x86_64") | ("x86_64" | "i686" | "arm", "aarch64"))
}

/// What loaders and `env` say where a piece of a program is missing (glibc's ld.so, musl, dyld, coreutils).
const MISSING_PIECES: [&str; 5] = [
    "error while loading shared libraries",
    "Error loading shared library",
    "Library not loaded",
    "bad interpreter",
    "No such file or directory",
];

/// What version managers say where no version is chosen.
const NOTHING_CHOSEN: [&str; 7] = [
    "no version is set",
    "no version set",
    "could not choose a version",
    "no default toolchain",
    "is not installed (set by",
    "command exists in these",
    "no version of",
];

/// A line of a program's own words, cut where it becomes a paragraph.
fn words_of(line: &str) -> String {
    line.trim().chars().take(160).collect()
}

/// Why a program that started and failed did so, where its own words prove it.
fn failed_because(path: &str, run: &Run) -> Option<Outcome> {
    let text = format!("{}\n{}", run.stderr, run.stdout);
    if let Some(line) = text.lines().find(|line| NOTHING_CHOSEN.iter().any(|words| line.to_lowercase().contains(words))) {
        let message = format!("A version manager is in charge of {path}, and no version is chosen here: {}", words_of(line));
        return Some(Outcome::Failed(Cause::ToolUnselected, message));
    }
    // 126 and 127 are what shells and loaders end with when something cannot be started (POSIX Shell 2.8.2); dyld ends by a signal.
    let by_loader = matches!(run.end, RunEnd::Exit(126 | 127) | RunEnd::Signal(_));
    let line = text.lines().find(|line| MISSING_PIECES.iter().any(|words| line.contains(words))).filter(|_| by_loader)?;
    let message = format!("{path} is there, but a piece that it needs is missing: {}", words_of(line));
    Some(Outcome::Failed(Cause::ToolBroken, message))
}

fn read(tool: &Tool, name: &str, copy: &ProgramCopy, run: &Run) -> Outcome {
    let path = &copy.path;
    match &run.end {
        RunEnd::TimeUp(ms) => {
            let message =
                format!("{path} was still running after {} s and was stopped, with all that it had started.", seconds(*ms));
            return Outcome::Failed(Cause::ToolStuck, message);
        }
        RunEnd::Interrupted => return Outcome::NotLookedAt("it was interrupted before it answered".to_owned()),
        RunEnd::NotStarted(failure, reason) => return not_started(path, *failure, reason),
        RunEnd::Exit(_) | RunEnd::Signal(_) => {}
    }
    if run.end != RunEnd::Exit(0)
        && let Some(outcome) = failed_because(path, run)
    {
        return outcome;
    }
    let found = match &tool.pattern {
        Some(pattern) => [&run.stdout, &run.stderr]
            .into_iter()
            .find_map(|text| pattern.capture(text))
            .and_then(|text| Version::parse(text).ok()),
        None => {
            [&run.stdout, &run.stderr].into_iter().find_map(|text| version::find(text, said_by(name))).map(|found| found.version)
        }
    };
    if let Some(version) = found {
        return Outcome::Version(version);
    }
    match run.end {
        RunEnd::Exit(0) if tool.version.is_none() && tool.version_from.is_none() => Outcome::Ran,
        RunEnd::Exit(0) => Outcome::Silent(if tool.pattern.is_some() {
            format!("{path} ran, but what it printed does not hold what the guide's pattern looks for.")
        } else {
            format!("{path} ran, but nothing that it printed looks like a version.")
        }),
        RunEnd::Signal(signal) => {
            Outcome::Failed(Cause::ToolFailed, format!("{path} crashed (signal {signal}) when asked for its version."))
        }
        RunEnd::Exit(status) => Outcome::Failed(
            Cause::ToolFailed,
            format!("{path} ended with an error (exit status {status}) when asked for its version{}", said(run)),
        ),
        RunEnd::TimeUp(_) | RunEnd::Interrupted | RunEnd::NotStarted(..) => Outcome::Ran,
    }
}

fn not_started(path: &str, failure: StartFailure, reason: &str) -> Outcome {
    match failure {
        StartFailure::PieceMissing => {
            let message = format!("{path} is there, but its loader or the interpreter named in its first line is missing.");
            Outcome::Failed(Cause::ToolBroken, message)
        }
        StartFailure::LibraryMissing => {
            let message = format!("{path} is there, but a library that it needs is missing or does not fit: {reason}.");
            Outcome::Failed(Cause::ToolBroken, message)
        }
        StartFailure::Format => {
            let message = format!("{path} is not a program for this machine's kind of processor, or not a program at all.");
            Outcome::Failed(Cause::ToolWrongArch, message)
        }
        StartFailure::Denied => Outcome::Failed(Cause::ToolNotExecutable, format!("The system does not let you execute {path}.")),
        StartFailure::NothingStarts => Outcome::NotLookedAt(format!("no program can be started here: {reason}")),
        StartFailure::NotFound | StartFailure::Other => {
            Outcome::Failed(Cause::ToolFailed, format!("{path} could not be started: {reason}."))
        }
    }
}

/// What a tool calls itself before its version.
fn said_by(name: &str) -> &str {
    catalogue::find(name).map(|row| row.says).filter(|says| !says.is_empty()).unwrap_or(name)
}
