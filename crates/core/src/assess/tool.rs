//! `tool`: the first copy on PATH runs, and its version is in the range.

use crate::catalogue;
use crate::cause::Cause;
use crate::document::shortened;
use crate::driver::Consent;
use crate::finding::{Finding, Particulars};
use crate::guide::{Existence, Requirement, Tool};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{FileKind, ProgramCopy, Run, RunEnd, StartFailure};
use crate::prelude::*;
use crate::probe::Probe;
use crate::text::{join_words, seconds};
use crate::version::{self, Fit, Range, Version};

/// Arguments that ask for a version and nothing else; only these are passed without the person's consent.
const VERSION_ARGUMENTS: [&str; 9] =
    ["--version", "-version", "version", "-V", "-v", "--client", "--short", "-dumpversion", "-dumpfullversion"];

pub(super) fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement, tool: &Tool) -> Result<Finding, Stop> {
    for name in &tool.names {
        inquiry.want(Probe::Program { name: name.clone() });
    }
    let mut first = None;
    for name in &tool.names {
        let copies = inquiry.program(name)?;
        if !copies.is_empty() {
            first = Some((name, copies));
            break;
        }
    }
    let title = requirement.title();
    let names = join_words(&tool.names, "or");
    match (first, tool.expect) {
        (None, Existence::Absent) => Ok(Finding::met("absent", format!("{names} is not on PATH, as wanted."))),
        (None, Existence::Present) => nowhere_on_path(inquiry, tool, &names),
        (Some((name, copies)), Existence::Absent) => unwanted(inquiry, tool, name, copies),
        (Some((name, copies)), Existence::Present) => present(inquiry, tool, &Named { title: &title, name }, copies),
    }
}

/// Where PATH has no copy, the usual folders may have one. It is not on PATH, so it is not started without consent.
fn nowhere_on_path(inquiry: &mut Inquiry<'_>, tool: &Tool, names: &str) -> Result<Finding, Stop> {
    for name in &tool.names {
        inquiry.want(Probe::ProgramElsewhere { name: name.clone() });
    }
    for name in &tool.names {
        let copies = match inquiry.program_elsewhere(name) {
            Ok(copies) => copies.as_slice(),
            Err(Stop::Pending) => return Err(Stop::Pending),
            // That it is not on PATH is known all the same.
            Err(Stop::NoAnswer(..)) => continue,
        };
        if let Some(copy) = copies.iter().find(|copy| copy.executable && copy.kind != FileKind::Placeholder) {
            let message =
                format!("{name} is installed at {}, but your shell does not look in that folder (it is not on PATH).", copy.path);
            return Ok(Finding::unmet(Cause::ToolOffPath, message).found("off PATH").with(at(&copy.path)));
        }
    }
    let message = format!("{names} was not found: it is not installed, or not in a folder where your shell looks (PATH).");
    Ok(Finding::unmet(Cause::ToolMissing, message).found("not on PATH"))
}

struct Named<'t> {
    title: &'t str,
    name: &'t str,
}

/// A title as the start of a sentence; names of programs are never changed so.
fn capitalised(title: &str) -> String {
    let mut letters = title.chars();
    letters.next().map(|first| first.to_uppercase().chain(letters).collect()).unwrap_or_default()
}

fn at(path: &str) -> Particulars {
    Particulars { path: Some(path.to_owned()), ..Particulars::default() }
}

/// `expect = "absent"`: with a range, only versions in the range are unwanted.
fn unwanted(inquiry: &mut Inquiry<'_>, tool: &Tool, name: &str, copies: &[ProgramCopy]) -> Result<Finding, Stop> {
    let Some(copy) = copies.iter().find(|copy| copy.executable) else {
        return Ok(Finding::met("not executable", format!("{name} is there but cannot run, so it is not in the way.")));
    };
    let Some(range) = &tool.version else {
        let message = format!("{name} is installed at {}, and this project does not work while it is.", copy.path);
        return Ok(Finding::unmet(Cause::ToolUnwanted, message).found(copy.path.clone()).with(at(&copy.path)));
    };
    let Outcome::Version(version) = examine(inquiry, tool, name, copy)? else {
        let message =
            format!("{name} is installed at {}, and whether it is an unwanted version could not be found out.", copy.path);
        return Ok(Finding::unknown(Cause::ToolSilent, message).found(copy.path.clone()).with(at(&copy.path)));
    };
    if range.fit(&version) == Fit::Inside {
        let message = format!("{name} {version} is installed at {}, and this project does not work with {range}.", copy.path);
        return Ok(Finding::unmet(Cause::ToolUnwanted, message).found(version.to_string()).with(at(&copy.path)));
    }
    Ok(Finding::met(version.to_string(), format!("{name} {version} is not one of the unwanted versions.")))
}

fn present(inquiry: &mut Inquiry<'_>, tool: &Tool, named: &Named<'_>, copies: &[ProgramCopy]) -> Result<Finding, Stop> {
    let Some(first) = copies.iter().find(|copy| copy.executable) else {
        let path = copies.first().map_or("", |copy| &copy.path);
        let message = format!("{path} is there, but you may not execute it, so your shell passes it by.");
        return Ok(Finding::unmet(Cause::ToolNotExecutable, message).found("not executable").with(at(path)));
    };
    let outcome = examine(inquiry, tool, named.name, first)?;
    let finding = judge(tool, named, first, &outcome);
    if finding.verdict == crate::finding::Verdict::Met || matches!(outcome, Outcome::NoConsent(_)) {
        return Ok(finding);
    }
    // The first copy will not do: does a later one? One file under two names is one copy.
    let mut seen = vec![first.real_path.as_str()];
    let mut others = Vec::new();
    for copy in copies.iter().filter(|copy| copy.executable) {
        if !seen.contains(&copy.real_path.as_str()) {
            seen.push(&copy.real_path);
            // What its file gives away, a placeholder above all, is not started here either.
            if allowed(inquiry, tool, copy).is_none() && known_by_its_file(inquiry, copy)?.is_none() {
                inquiry.want(Probe::Run { path: copy.path.clone(), arguments: arguments(tool, named.name) });
                others.push(copy);
            }
        }
    }
    for copy in others {
        let outcome = match examine(inquiry, tool, named.name, copy) {
            Ok(outcome) => outcome,
            Err(Stop::Pending) => return Err(Stop::Pending),
            // A copy that nobody could ask changes nothing about the first one.
            Err(Stop::NoAnswer(..)) => continue,
        };
        if judge(tool, named, copy, &outcome).verdict == crate::finding::Verdict::Met {
            let good = outcome.version_text();
            let message = format!(
                "{} A copy that would do ({good}) is at {}, but PATH names the folder of {} first.",
                finding.message, copy.path, first.path
            );
            let shadowed = Finding::unmet(Cause::ToolShadowed, message);
            return Ok(Finding { found: finding.found, ..shadowed }.with(at(&copy.path)));
        }
    }
    Ok(finding)
}

/// What came of running one copy.
enum Outcome {
    /// It said its version, or no version was asked for and it ran.
    Version(Version),
    Ran,
    Silent(String),
    Failed(Cause, String),
    NotLookedAt(String),
    NoConsent(String),
}

impl Outcome {
    fn version_text(&self) -> String {
        match self {
            Self::Version(version) => version.to_string(),
            Self::Ran | Self::Silent(_) | Self::Failed(..) | Self::NotLookedAt(_) | Self::NoConsent(_) => "it runs".to_owned(),
        }
    }
}

/// The guide's arguments, else those of the catalogue, else the customary one.
fn arguments(tool: &Tool, name: &str) -> Vec<String> {
    if !tool.args.is_empty() {
        return tool.args.clone();
    }
    let known = catalogue::find(name).map_or(&["--version"][..], |row| row.args);
    known.iter().map(|argument| (*argument).to_owned()).collect()
}

/// Why this copy may not be started without consent; `None` where it may.
fn allowed(inquiry: &Inquiry<'_>, tool: &Tool, copy: &ProgramCopy) -> Option<String> {
    if inquiry.context.selection.consent == Consent::Given {
        return None;
    }
    if copy.in_project {
        return Some("it lies in the project's own folder".to_owned());
    }
    let odd = tool.args.iter().find(|argument| !VERSION_ARGUMENTS.contains(&argument.as_str()))?;
    Some(format!("the guide passes it `{}`, which is more than asking for a version", shortened(odd)))
}

fn examine(inquiry: &mut Inquiry<'_>, tool: &Tool, name: &str, copy: &ProgramCopy) -> Result<Outcome, Stop> {
    if let Some(reason) = allowed(inquiry, tool, copy) {
        return Ok(Outcome::NoConsent(reason));
    }
    if let Some(outcome) = known_by_its_file(inquiry, copy)? {
        return Ok(outcome);
    }
    let run = inquiry.run(&copy.path, &arguments(tool, name))?;
    Ok(read(tool, name, copy, run))
}

/// What need not be started to be known: a placeholder, and what is built for another processor.
fn known_by_its_file(inquiry: &mut Inquiry<'_>, copy: &ProgramCopy) -> Result<Option<Outcome>, Stop> {
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
                return Ok(None);
            }
            let machine = &inquiry.system()?.arch;
            let message =
                format!("{path} is built for {}, and this machine's processor is {machine}.", join_words(arches, "and"));
            Ok(Some(Outcome::Failed(Cause::ToolWrongArch, message)))
        }
        FileKind::Script(_) | FileKind::Unknown => Ok(None),
    }
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
            format!("{path} ended with an error (exit status {status}) when asked for its version."),
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
        StartFailure::Format => {
            let message = format!("{path} is not a program for this machine's kind of processor, or not a program at all.");
            Outcome::Failed(Cause::ToolWrongArch, message)
        }
        StartFailure::Denied => Outcome::Failed(Cause::ToolNotExecutable, format!("The system does not let you execute {path}.")),
        StartFailure::NothingStarts => Outcome::NotLookedAt(format!("no program can be started here: {reason}")),
        StartFailure::Other => Outcome::Failed(Cause::ToolFailed, format!("{path} could not be started: {reason}.")),
    }
}

/// What a tool calls itself before its version.
fn said_by(name: &str) -> &str {
    catalogue::find(name).map(|row| row.says).filter(|says| !says.is_empty()).unwrap_or(name)
}

fn judge(tool: &Tool, named: &Named<'_>, copy: &ProgramCopy, outcome: &Outcome) -> Finding {
    let path = copy.path.as_str();
    let finding = match outcome {
        Outcome::Version(version) => {
            return judge_version(tool.version.as_ref(), tool.version_from.as_deref(), named, (version, path));
        }
        Outcome::Ran => return Finding::met("runs", format!("{} runs, at {path}.", named.title)).with(at(path)),
        Outcome::Silent(message) => Finding::unknown(Cause::ToolSilent, message.clone()).found("no version"),
        Outcome::Failed(cause, message) => Finding::unmet(*cause, message.clone()).found("does not run"),
        Outcome::NotLookedAt(reason) => {
            Finding::unknown(Cause::CouldNotLook, format!("{} at {path} could not be asked: {reason}.", named.title))
        }
        Outcome::NoConsent(reason) => {
            let message = format!("{path} was not run, because {reason}, and that needs your consent.");
            Finding::unknown(Cause::CommandNoConsent, message).found("not run")
        }
    };
    finding.with(at(path))
}

fn judge_version(range: Option<&Range>, from: Option<&str>, named: &Named<'_>, (version, path): (&Version, &str)) -> Finding {
    let name =
        if named.title == named.name { named.name.to_owned() } else { format!("{} ({})", capitalised(named.title), named.name) };
    let Some(range) = range else {
        let Some(file) = from else {
            return Finding::met(version.to_string(), format!("{name} {version} is at {path}.")).with(at(path));
        };
        let message = format!(
            "{name} {version} runs, but reading the wanted version from {file} is not supported yet. Compare the two yourself."
        );
        return Finding::unknown(Cause::NotSupportedHere, message).found(version.to_string()).with(at(path));
    };
    let edge = |fit| range.edge(fit).unwrap_or(range.text());
    let finding = match range.fit(version) {
        Fit::Inside => Finding::met(version.to_string(), format!("{name} {version} is at {path}.")),
        fit @ Fit::TooOld => {
            let message = format!("{name} {version} is older than {}, which this project needs.", edge(fit));
            Finding::unmet(Cause::ToolTooOld, message)
        }
        Fit::TooNew => {
            let message = format!("{name} {version} is too new: this project works with {}.", range.text());
            Finding::unmet(Cause::ToolTooNew, message)
        }
        Fit::Excluded => {
            let message = format!("{name} {version} is ruled out: this project works with {}.", range.text());
            Finding::unmet(Cause::ToolExcluded, message)
        }
        Fit::Incomparable => {
            let message = format!(
                "{name} calls its version {version}, which cannot be compared with {}. Compare them yourself.",
                range.text()
            );
            Finding::unknown(Cause::ToolSilent, message)
        }
    };
    finding.found(version.to_string()).with(at(path))
}
