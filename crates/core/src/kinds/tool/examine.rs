//! What one copy of a tool is: told by its file, or by what it prints when it is asked for its version.

use super::recorded::{is_inside, is_stated, recorded};
pub(crate) use crate::consent::arguments;
use crate::consent::asks_for_a_version;
use crate::document::shortened;
use crate::finding::{Breakage, ConsentNeed, Failure, NeededArch, Refusal, Silence, ToolTrouble};
use crate::guide::{Existence, Tool};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{Choice, FileKind, Os, ProgramCopy, Run, RunEnd, RunsOn, StartEffect, StartFailure};
use crate::prelude::*;
use crate::probe::Permission;
use crate::selection::Consent;
use crate::version::{Range, Version};
use crate::{catalogue, version};

/// What came of looking at one copy.
pub(crate) enum Outcome {
    /// It said its version.
    Version(Version),
    /// Its file, or its installation, states its version: it was not started.
    Stated(Version),
    /// It ran, and no version is wanted.
    Ran,
    /// It is there, and was not started, since it opens a window; no version is wanted.
    There,
    /// It will not do, or nobody knows.
    Trouble(ToolTrouble),
}

impl Outcome {
    pub(crate) fn into_version(self) -> Option<Version> {
        match self {
            Self::Version(version) | Self::Stated(version) => Some(version),
            Self::Ran | Self::There | Self::Trouble(_) => None,
        }
    }
}

/// What programs say of an argument that they do not know.
const REJECTIONS: [&str; 9] =
    ["usage", "unknown", "unrecognized", "unrecognised", "invalid", "illegal", "no such option", "not recognized", "unexpected"];

/// Whether a program started well and only did not know the argument.
fn rejects_the_argument(run: &Run) -> bool {
    let text = format!("{}\n{}", run.stderr, run.stdout).to_lowercase();
    matches!(run.end, RunEnd::Exit(status) if status != 0) && REJECTIONS.iter().any(|words| text.contains(words))
}

/// By what permission this copy may be started; why it may not be, without the person's consent.
pub(crate) fn permission(
    inquiry: &Inquiry<'_>,
    (tool, name): (&Tool, &str),
    copy: &ProgramCopy,
) -> Result<Permission, ConsentNeed> {
    let need = if copy.in_project {
        ConsentNeed::InProject
    } else if copy.by_relative_entry {
        ConsentNeed::RelativeEntry
    } else if copy.choice == Choice::Unclear {
        ConsentNeed::ChoosesByFolder
    } else if asks_for_a_version(tool, name) {
        return Ok(Permission::Question);
    } else {
        ConsentNeed::Argument(shortened(&tool.args.join(" ")))
    };
    let words: Vec<String> = core::iter::once(copy.asked().to_owned()).chain(arguments(tool, name)).collect();
    inquiry.context.selection.consent.permits(&words).ok_or(need)
}

pub(crate) fn examine(inquiry: &mut Inquiry<'_>, tool: &Tool, name: &str, copy: &ProgramCopy) -> Result<Outcome, Stop> {
    if let Choice::Absent { what, said_in } = &copy.choice {
        return Ok(Outcome::Trouble(ToolTrouble::VersionAbsent { what: what.clone(), said_in: said_in.clone() }));
    }
    let permission = match permission(inquiry, (tool, name), copy) {
        Ok(permission) => permission,
        Err(need) => return Ok(Outcome::Trouble(ToolTrouble::NoConsent { need, states: stated(inquiry, copy)? })),
    };
    if let Some(outcome) = known_by_its_file(inquiry, (tool, name), copy)? {
        return Ok(outcome);
    }
    if permission.is_question()
        && let Some((version, runs_on)) = recorded(inquiry, (tool, name), copy)?
        && runs_on.map_or(Ok(true), |runs_on| is_there(inquiry, runs_on))?
    {
        if_known(inquiry.recorded_version(name, copy.asked()))?;
        return Ok(Outcome::Stated(version));
    }
    let run = inquiry.run(copy.asked(), &arguments(tool, name), permission)?;
    let outcome = read(inquiry, (tool, name), run);
    if copy.kind == FileKind::Unknown
        && matches!(outcome, Outcome::Trouble(ToolTrouble::Failed { .. }))
        && if_known(inquiry.path(&copy.path, None))?.is_some_and(|state| !state.readable)
    {
        return Ok(Outcome::Trouble(ToolTrouble::NotExecutable { by: Refusal::Unreadable, place: None }));
    }
    if !matches!(outcome, Outcome::Trouble(ToolTrouble::Failed { .. })) || !rejects_the_argument(run) {
        return Ok(outcome);
    }
    // It runs, and does not know how to say its version. Another form is not tried: to some program it names an action.
    if wants_no_version(tool) {
        return Ok(Outcome::Ran);
    }
    Ok(silent(Silence::DoesNotKnow(said(run))))
}

/// Whether what a tool runs on is there, in a version on which it runs.
fn is_there(inquiry: &mut Inquiry<'_>, runs_on: &RunsOn) -> Result<bool, Stop> {
    let Ok(range) = Range::parse(&runs_on.range) else { return Ok(false) };
    let copies = if_known(inquiry.program(&runs_on.name))?.map_or(&[][..], Vec::as_slice);
    let first = copies.iter().find(|copy| copy.executable);
    if let Some(path) = &runs_on.path
        && first.is_none_or(|copy| copy.path != *path && copy.real_path != *path)
    {
        return is_stated(inquiry, (&runs_on.name, path), &range);
    }
    let Some(copy) = first.filter(|copy| copy.is_the_persons()) else { return Ok(false) };
    let wanted = Tool {
        names: vec![runs_on.name.clone()],
        version: Some(range.clone()),
        version_from: None,
        tested: None,
        args: Vec::new(),
        pattern: None,
        packages: Vec::new(),
        installers: Vec::new(),
        arch: None,
        expect: Existence::Present,
    };
    let version = if_known(examine(inquiry, &wanted, &runs_on.name, copy))?.and_then(Outcome::into_version);
    Ok(version.is_some_and(|version| is_inside(&range, &version)))
}

fn wants_no_version(tool: &Tool) -> bool {
    tool.version.is_none() && tool.version_from.is_none() && tool.tested.is_none()
}

fn silent(silence: Silence) -> Outcome {
    Outcome::Trouble(ToolTrouble::Silent { silence })
}

fn broken(breakage: Breakage) -> Outcome {
    Outcome::Trouble(ToolTrouble::Broken { breakage })
}

fn failed(failure: Failure) -> Outcome {
    Outcome::Trouble(ToolTrouble::Failed { failure })
}

/// The line that tells most of what a failing program said.
pub(crate) fn said(run: &Run) -> Option<String> {
    let telling = |text: &str| {
        let mut lines = text.lines().map(str::trim).filter(|line| line.chars().any(char::is_alphanumeric));
        let first = lines.next().map(ToOwned::to_owned);
        lines.find(|line| line.to_lowercase().contains("error")).map(ToOwned::to_owned).or(first)
    };
    [&run.stderr, &run.stdout].into_iter().find_map(|text| telling(text)).map(|line| words_of(&line))
}

/// The version that a file states, where one can be told without starting it.
pub(crate) fn stated(inquiry: &mut Inquiry<'_>, copy: &ProgramCopy) -> Result<Option<Version>, Stop> {
    // There it would be asked in vain.
    if inquiry.os()? == Some(Os::Linux) {
        return Ok(None);
    }
    let text = if_known(inquiry.file_version(&copy.path))?.and_then(Option::as_deref);
    Ok(text.and_then(|text| Version::parse(text).ok()))
}

/// What need not be started to be known: a placeholder, what is built for another processor, and what would trouble the person.
pub(crate) fn known_by_its_file(
    inquiry: &mut Inquiry<'_>,
    (tool, name): (&Tool, &str),
    copy: &ProgramCopy,
) -> Result<Option<Outcome>, Stop> {
    if let Some(outcome) = by_kind(inquiry, copy)? {
        return Ok(Some(outcome));
    }
    let leads_to = copy.real_path.rsplit(['/', '\\']).next().unwrap_or_default();
    if tool.args.is_empty() && (catalogue::is_never_started(name) || catalogue::is_never_started(leads_to)) {
        return Ok(Some(match stated(inquiry, copy)? {
            Some(version) => Outcome::Stated(version),
            None if wants_no_version(tool) => Outcome::There,
            None => silent(Silence::MightAct),
        }));
    }
    by_effect(inquiry, tool, copy)
}

/// What opens a window is started only with consent, and what the system would ask about never.
fn by_effect(inquiry: &mut Inquiry<'_>, tool: &Tool, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
    match copy.start {
        StartEffect::Quiet => Ok(None),
        StartEffect::Question => Ok(Some(Outcome::Trouble(ToolTrouble::Quarantined))),
        StartEffect::Window => Ok(match stated(inquiry, copy)? {
            Some(version) => Some(Outcome::Stated(version)),
            None if wants_no_version(tool) => Some(Outcome::There),
            None if inquiry.context.selection.consent == Consent::Given => None,
            None => Some(silent(Silence::OpensWindow)),
        }),
    }
}

fn by_kind(inquiry: &mut Inquiry<'_>, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
    match &copy.kind {
        FileKind::Placeholder => Ok(Some(Outcome::Trouble(ToolTrouble::Placeholder))),
        FileKind::Built(arches) => {
            if inquiry.arch()?.is_none_or(|machine| arches.iter().any(|arch| may_run(arch, machine))) {
                return Ok(lacking(copy));
            }
            let needed = NeededArch::Machine(inquiry.system()?.arch.clone());
            Ok(Some(Outcome::Trouble(ToolTrouble::WrongArch { built_for: arches.clone(), needed })))
        }
        FileKind::Script(_) | FileKind::Unknown => Ok(lacking(copy)),
    }
}

/// Pieces without which it cannot start.
fn lacking(copy: &ProgramCopy) -> Option<Outcome> {
    (!copy.lacks.is_empty()).then(|| broken(Breakage::Lacks(copy.lacks.clone())))
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
fn failed_because(run: &Run) -> Option<Outcome> {
    let text = format!("{}\n{}", run.stderr, run.stdout);
    if let Some(line) = text.lines().find(|line| NOTHING_CHOSEN.iter().any(|words| line.to_lowercase().contains(words))) {
        return Some(Outcome::Trouble(ToolTrouble::Unselected { said: words_of(line) }));
    }
    // 126 and 127 are what shells and loaders end with when something cannot be started (POSIX Shell 2.8.2); dyld ends by a signal.
    let by_loader = matches!(run.end, RunEnd::Exit(126 | 127) | RunEnd::Signal(_));
    let line = text.lines().find(|line| MISSING_PIECES.iter().any(|words| line.contains(words))).filter(|_| by_loader)?;
    Some(broken(Breakage::Said(words_of(line))))
}

fn read(inquiry: &Inquiry<'_>, (tool, name): (&Tool, &str), run: &Run) -> Outcome {
    match &run.end {
        RunEnd::TimeUp(ms) => return Outcome::Trouble(ToolTrouble::Stuck { after_ms: *ms }),
        RunEnd::Interrupted => return Outcome::Trouble(ToolTrouble::NotAsked { reason: None }),
        RunEnd::NotStarted(failure, reason) => return not_started(*failure, reason),
        RunEnd::Exit(_) | RunEnd::Signal(_) => {}
    }
    if run.end != RunEnd::Exit(0)
        && let Some(outcome) = failed_because(run)
    {
        return outcome;
    }
    let found = if let Some(pattern) = &tool.pattern {
        let captured = [&run.stdout, &run.stderr].into_iter().find_map(|text| pattern.capture(text));
        captured.and_then(|text| Version::parse(text).ok())
    } else {
        inquiry.version_in(name, run, || told(name, run))
    };
    if let Some(version) = found {
        return Outcome::Version(version);
    }
    match run.end {
        RunEnd::Exit(0) if wants_no_version(tool) => Outcome::Ran,
        RunEnd::Exit(0) if tool.pattern.is_some() => silent(Silence::PatternMissed),
        RunEnd::Exit(0) => silent(Silence::NothingLikeAVersion(said(run))),
        RunEnd::Signal(signal) => failed(Failure::Signal(signal)),
        RunEnd::Exit(status) => failed(Failure::Status(status, said(run))),
        RunEnd::TimeUp(_) | RunEnd::Interrupted | RunEnd::NotStarted(..) => Outcome::Ran,
    }
}

/// The version that a program tells of itself.
fn told(name: &str, run: &Run) -> Option<Version> {
    let texts = [&run.stdout, &run.stderr];
    let refused = run.end != RunEnd::Exit(0) || texts.into_iter().any(|text| version::refuses(text));
    let asked = version::Asked { refused, ..catalogue::asked(name) };
    let found = texts.into_iter().find_map(|text| version::find(text, &asked))?;
    // Behind the name of another tool that is known it is that one's.
    (!found.named.as_deref().is_some_and(catalogue::has)).then_some(found.version)
}

fn not_started(failure: StartFailure, reason: &str) -> Outcome {
    let reason = || reason.to_owned();
    match failure {
        StartFailure::PieceMissing => broken(Breakage::LoaderOrInterpreter),
        StartFailure::LibraryMissing => broken(Breakage::Library(reason())),
        StartFailure::Format => Outcome::Trouble(ToolTrouble::WrongArch { built_for: Vec::new(), needed: NeededArch::Refused }),
        StartFailure::Denied => Outcome::Trouble(ToolTrouble::NotExecutable { by: Refusal::System, place: None }),
        StartFailure::NothingStarts => Outcome::Trouble(ToolTrouble::NotAsked { reason: Some(reason()) }),
        StartFailure::NotFound | StartFailure::Other => failed(Failure::NotStarted(reason())),
    }
}
