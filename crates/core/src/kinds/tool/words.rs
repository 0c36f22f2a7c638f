//! What people are told.

use crate::catalogue;
use crate::document::shortened;
use crate::finding::{
    Breakage, ConsentNeed, Failure, Met, NeededArch, OtherPlace, PinTrouble, Refusal, Silence, ToolMet, ToolReason, ToolRemark,
    ToolTrouble,
};
use crate::fix::{Shell, quote};
use crate::guide::{Existence, Guide, Requirement, Subject, Tool};
use crate::observation::Piece;
use crate::prelude::*;
use crate::text::{capitalised, join_words, seconds};
use crate::version::{Bound, Mismatch, RangeMatch, Sign, Version};
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

/// The tool as a sentence calls it: by its name, with the guide's title before where that says more.
fn named(words: &Words<'_>, name: &str) -> String {
    match &words.requirement.title {
        Some(title) if title != name => format!("{} ({name})", capitalised(title)),
        _ => name.to_owned(),
    }
}

fn names(words: &Words<'_>) -> String {
    if let Subject::Tool(tool) = &words.requirement.subject { join_words(&tool.names, "or") } else { words.title() }
}

/// What is worth knowing of a tool that does.
fn remark(found: Option<&Version>, remark: &ToolRemark) -> String {
    match remark {
        ToolRemark::Untried(tested) => {
            let found = found.map_or_else(|| "this version".to_owned(), ToString::to_string);
            format!("The project is only tried with {tested}, and {found} is newer: if something odd happens, think of that.")
        }
        ToolRemark::PinUnread(pin) => {
            format!("Which version is wanted is not known ({}): tell that to whoever looks after the guide.", pin_unread(pin))
        }
    }
}

/// What is worth knowing of what is met.
pub(crate) fn met_remark(met: &ToolMet) -> Option<String> {
    let ToolMet::Here { found, remark: Some(of), .. } = met else { return None };
    Some(remark(found.as_ref(), of))
}

/// The same in a few words.
pub(crate) fn met_remark_briefly(met: &ToolMet) -> Option<&'static str> {
    let ToolMet::Here { remark: Some(of), .. } = met else { return None };
    Some(match of {
        ToolRemark::Untried(_) => "newer than what the project is tried with",
        ToolRemark::PinUnread(_) => "which version is wanted is not known",
    })
}

pub(crate) fn met_by(words: &Words<'_>, met: &ToolMet) -> String {
    match met_remark(met) {
        Some(remark) => format!("{} {remark}", plainly_met(words, met)),
        None => plainly_met(words, met),
    }
}

fn plainly_met(words: &Words<'_>, met: &ToolMet) -> String {
    match met {
        ToolMet::Here { name, program, found: Some(version), .. } => format!("{} {version} is at {program}.", named(words, name)),
        ToolMet::Here { program, found: None, started: true, .. } => format!("{} runs, at {program}.", words.title()),
        ToolMet::Here { program, found: None, started: false, .. } => {
            format!("{} is at {program}. It opens a window, so it was not started.", words.title())
        }
        ToolMet::Absent => format!("{} is not on PATH, as wanted.", names(words)),
        ToolMet::CannotRun { name } => format!("{name} is there but cannot run, so it is not in the way."),
        ToolMet::NotUnwanted { name, found } => format!("{name} {found} is not one of the unwanted versions."),
    }
}

pub(crate) fn met_briefly(met: &ToolMet) -> String {
    match met {
        ToolMet::Here { found: Some(version), .. } | ToolMet::NotUnwanted { found: version, .. } => version.to_string(),
        ToolMet::Here { started: true, .. } => "runs".to_owned(),
        ToolMet::Here { started: false, .. } => "there".to_owned(),
        ToolMet::Absent => "not there".to_owned(),
        ToolMet::CannotRun { .. } => "not executable".to_owned(),
    }
}

pub(crate) fn message(words: &Words<'_>, reason: &ToolReason) -> String {
    let mut text = trouble(words, reason);
    if let Some(place) = reason.wanted.as_ref().and_then(|wanted| Some((wanted.said_in.as_ref()?, &wanted.range))) {
        text = format!("{text} ({} says {}.)", place.0, place.1);
    }
    let Some(other) = &reason.other else { return text };
    let at = &other.at;
    let good = other.version.as_ref().map_or_else(|| "it runs".to_owned(), ToString::to_string);
    match other.place {
        OtherPlace::LaterOnPath => {
            let first = reason.program.as_deref().unwrap_or_default();
            format!("{text} A copy that would do ({good}) is at {at}, but PATH names the folder of {first} first.")
        }
        OtherPlace::OffPath => {
            format!(
                "{text} A copy that would do ({good}) is at {at}, but your shell does not look in that folder (it is not on PATH)."
            )
        }
        OtherPlace::NotStarted => {
            let states = other.version.as_ref().map(|version| format!(" Its file states the version {version}."));
            format!(
                "{text} Another copy is at {at}, in a folder that is not on PATH; it was not started, because that needs your consent.{}",
                states.unwrap_or_default()
            )
        }
    }
}

fn not_executable(path: &str, by: Refusal, place: Option<&str>) -> String {
    let place = place.unwrap_or("another place");
    match by {
        Refusal::Permissions => format!("{path} is there, but you may not execute it, so your shell passes it by."),
        Refusal::Unreadable => format!("{path} may be executed and not read; it is a script, and its interpreter must read it."),
        Refusal::Barred => format!("{path} is there, but it leads into {place}, which you may not enter."),
        Refusal::LeadsNowhere => format!("{path} is a link to {place}, and nothing is there any more."),
        Refusal::System => format!("The system does not let you execute {path}."),
    }
}

fn trouble(words: &Words<'_>, reason: &ToolReason) -> String {
    let name = &reason.name;
    let path = reason.program.as_deref().unwrap_or_default();
    match &reason.trouble {
        ToolTrouble::Missing { windows_side } => {
            let text =
                format!("{} was not found: it is not installed, or not in a folder where your shell looks (PATH).", names(words));
            match windows_side {
                Some(copy) => format!("{text} The one at {copy} is on the Windows side: this Linux needs one of its own."),
                None => text,
            }
        }
        ToolTrouble::OtherName { called, at, version } => {
            let version = version.as_ref().map(|version| format!("{version}, ")).unwrap_or_default();
            format!(
                "{} was not found under that name. This machine calls it {called} ({version}at {at}), and the project does not know that.",
                names(words)
            )
        }
        ToolTrouble::OffPath { at } => {
            format!("{name} is installed at {at}, but your shell does not look in that folder (it is not on PATH).")
        }
        ToolTrouble::NotExecutable { by, place } => not_executable(path, *by, place.as_deref()),
        ToolTrouble::WrongArch { built_for, needed } => wrong_arch(path, built_for, needed),
        ToolTrouble::Broken { breakage } => broken(path, breakage),
        ToolTrouble::Placeholder => {
            format!("{path} only stands in for the program: starting it would offer to install the real one. It was not started.")
        }
        ToolTrouble::Quarantined => format!(
            "{path} is marked as downloaded, and nobody has allowed it yet: the system would stop it and ask. It was not started."
        ),
        ToolTrouble::Unselected { said } => {
            format!("A version manager is in charge of {path}, and no version is chosen here: {said}")
        }
        ToolTrouble::VersionAbsent { what, said_in } => {
            let said_in = if said_in.is_empty() { String::new() } else { format!(", which {} asks for", shortened(said_in)) };
            format!(
                "{path} belongs to a version manager, and what it would start here is not installed: {}{said_in}.",
                shortened(what)
            )
        }
        ToolTrouble::Silent { silence } => silent(path, silence),
        ToolTrouble::Stuck { after_ms } => {
            format!("{path} was still running after {} s and was stopped, with all that it had started.", seconds(*after_ms))
        }
        ToolTrouble::Failed { failure } => failed(path, failure),
        ToolTrouble::OutOfRange { found, miss } => out_of_range(&named(words, name), reason, found, miss),
        ToolTrouble::Incomparable { found } => format!(
            "{} calls its version {found}, which cannot be compared with {}. Compare them yourself.",
            named(words, name),
            reason.range().map(ToString::to_string).unwrap_or_default()
        ),
        ToolTrouble::Unwanted { found: None } => {
            format!("{name} is installed at {path}, and this project does not work while it is.")
        }
        ToolTrouble::Unwanted { found: Some(version) } => format!(
            "{name} {version} is installed at {path}, and this project does not work with {}.",
            reason.range().map(ToString::to_string).unwrap_or_default()
        ),
        ToolTrouble::PerhapsUnwanted => {
            format!("{name} is installed at {path}, and whether it is an unwanted version could not be found out.")
        }
        ToolTrouble::NoConsent { need, states } => no_consent(path, need, states.as_ref()),
        ToolTrouble::NotAsked { reason: None } => {
            format!("{} at {path} could not be asked: it was interrupted before it answered.", words.title())
        }
        ToolTrouble::NotAsked { reason: Some(reason) } => {
            format!("{} at {path} could not be asked: no program can be started here: {reason}.", words.title())
        }
        ToolTrouble::PinUnread { found, pin } => {
            let found = found.as_ref().map_or_else(|| "it runs".to_owned(), ToString::to_string);
            format!("{} is here ({found}), but {}.", words.title(), pin_unread(pin))
        }
    }
}

fn no_consent(path: &str, need: &ConsentNeed, states: Option<&Version>) -> String {
    let why = match need {
        ConsentNeed::InProject => "the project brings it".to_owned(),
        ConsentNeed::RelativeEntry => {
            "PATH finds it by an entry that is no whole path: it means another folder wherever you are, and whoever owns that one decides what is started"
                .to_owned()
        }
        ConsentNeed::ChoosesByFolder => {
            "which program it starts is decided by files of the project in a way that cannot be read".to_owned()
        }
        ConsentNeed::Argument(argument) => {
            format!(
                "the guide starts it with `{}`, which is more than a question that is known to be harmless",
                shortened(argument)
            )
        }
    };
    let states = states.map(|version| format!(" (its file states the version {version})")).unwrap_or_default();
    format!("{path} was not run, because {why}{states}, and that needs your consent.")
}

fn out_of_range(named: &str, reason: &ToolReason, found: &Version, miss: &Mismatch) -> String {
    let range = reason.range().map(ToString::to_string).unwrap_or_default();
    match miss.fit {
        RangeMatch::TooOld => older(named, found, &miss.nearest),
        RangeMatch::TooNew => format!("{named} {found} is too new: this project works with {range}."),
        RangeMatch::Inside | RangeMatch::Excluded | RangeMatch::Incomparable => {
            format!("{named} {found} is ruled out: this project works with {range}.")
        }
    }
}

fn pin_unread(pin: &PinTrouble) -> String {
    match pin {
        PinTrouble::NoFile(file) => format!("{file}, which says the version that is wanted, is not there"),
        PinTrouble::Silent(file) => format!("{file} does not say which version is wanted"),
        PinTrouble::NotAVersion(place) => format!("what stands in {place} is no version"),
        PinTrouble::Unreadable(place) => format!("the version in {place} cannot be read"),
    }
}

/// What is too old, in words that are true for the bound: `> 4` is not met by 4, which is not older than 4.
pub(crate) fn older(name: &str, found: &Version, bound: &Bound) -> String {
    match bound.sign() {
        Sign::Above => format!("{name} {found} is not newer than {}, which this project needs it to be.", bound.limit()),
        Sign::AtLeast | Sign::AtMost | Sign::Below | Sign::Equal | Sign::Not => {
            format!("{name} {found} is older than {}, which this project needs.", bound.limit())
        }
    }
}

fn wrong_arch(path: &str, built_for: &[String], needed: &NeededArch) -> String {
    let built = join_words(built_for, "and");
    match needed {
        NeededArch::Machine(machine) => format!("{path} is built for {built}, and this machine's processor is {machine}."),
        NeededArch::Guide(wanted) => {
            format!("{path} is built for {built}, and this project needs one that is built for {wanted}.")
        }
        NeededArch::Refused => format!("{path} is not a program for this machine's kind of processor, or not a program at all."),
    }
}

fn broken(path: &str, breakage: &Breakage) -> String {
    match breakage {
        Breakage::LoaderOrInterpreter => {
            format!("{path} is there, but its loader or the interpreter named in its first line is missing.")
        }
        Breakage::Library(reason) => {
            format!("{path} is there, but a library that it needs is missing or does not fit: {reason}.")
        }
        Breakage::Said(line) => format!("{path} is there, but a piece that it needs is missing: {line}"),
        Breakage::Lacks(pieces) => match pieces.first() {
            Some(Piece::Interpreter(name)) => format!("{path} is a script for {name}, and {name} is not there."),
            Some(Piece::Loader(name)) => format!("{path} is started by {name}, which this system does not have."),
            Some(Piece::Library(_)) | None => {
                let names: Vec<&str> = pieces.iter().map(Piece::name).collect();
                let (libraries, are) = if names.len() == 1 { ("library", "is") } else { ("libraries", "are") };
                format!(
                    "{path} needs the {libraries} {}, which {are} not where the system looks for libraries.",
                    join_words(&names, "and")
                )
            }
        },
    }
}

fn silent(path: &str, silence: &Silence) -> String {
    match silence {
        Silence::PatternMissed => {
            format!("{path} ran, but what it printed does not hold what the guide's pattern looks for.")
        }
        Silence::NothingLikeAVersion(said) => {
            format!("{path} ran, but nothing that it printed looks like a version{}", it_said(said.as_deref()))
        }
        Silence::OpensWindow => format!(
            "{path} is there. It opens a window, so it was not started, and its file does not state a version. Look in its window, or have \
             it started with --allow-commands."
        ),
        Silence::MightAct => format!(
            "{path} is there. A program of that name may change the machine when it is started, so it was not asked for its version."
        ),
        Silence::DoesNotKnow(said) => {
            format!("{path} runs, but does not know how to say its version{}", it_said(said.as_deref()))
        }
    }
}

fn failed(path: &str, failure: &Failure) -> String {
    match failure {
        Failure::Signal(signal) => format!("{path} crashed (signal {signal}) when asked for its version."),
        Failure::Status(status, said) => {
            format!("{path} ended with an error (exit status {status}) when asked for its version{}", it_said(said.as_deref()))
        }
        Failure::NotStarted(reason) => format!("{path} could not be started: {reason}."),
    }
}

/// A program's own words, as the end of a sentence.
pub(crate) fn it_said(said: Option<&str>) -> String {
    said.map_or_else(|| ".".to_owned(), |said| format!(". It said: {said}"))
}

pub(crate) fn found(reason: &ToolReason) -> Option<String> {
    Some(match &reason.trouble {
        ToolTrouble::Missing { .. } => "not on PATH".to_owned(),
        ToolTrouble::OtherName { called, .. } => format!("called {called}"),
        ToolTrouble::OffPath { .. } => "off PATH".to_owned(),
        ToolTrouble::NotExecutable { .. } => "not executable".to_owned(),
        ToolTrouble::WrongArch { built_for, .. } if !built_for.is_empty() => {
            format!("built for {}", join_words(built_for, "and"))
        }
        ToolTrouble::WrongArch { .. }
        | ToolTrouble::Broken { .. }
        | ToolTrouble::Placeholder
        | ToolTrouble::Quarantined
        | ToolTrouble::Unselected { .. }
        | ToolTrouble::VersionAbsent { .. }
        | ToolTrouble::Stuck { .. }
        | ToolTrouble::Failed { .. } => "does not run".to_owned(),
        ToolTrouble::Silent { .. } => "no version".to_owned(),
        ToolTrouble::OutOfRange { found, .. } | ToolTrouble::Incomparable { found } => found.to_string(),
        ToolTrouble::Unwanted { found: Some(version) } => version.to_string(),
        ToolTrouble::Unwanted { found: None } | ToolTrouble::PerhapsUnwanted => reason.program.clone()?,
        ToolTrouble::NoConsent { .. } => "not run".to_owned(),
        ToolTrouble::NotAsked { .. } => return None,
        ToolTrouble::PinUnread { found, .. } => found.as_ref().map_or_else(|| "runs".to_owned(), ToString::to_string),
    })
}

/// A tool that cannot run is wanted to run, one that is built otherwise to be built so; only else a version is what is wanted.
pub(crate) fn wanted_of(reason: &ToolReason) -> Option<String> {
    let trouble = &reason.trouble;
    let range = || reason.range().map(ToString::to_string);
    if let ToolTrouble::WrongArch { needed: NeededArch::Machine(arch) | NeededArch::Guide(arch), .. } = trouble {
        return Some(format!("built for {arch}"));
    }
    if matches!(trouble, ToolTrouble::Unwanted { .. } | ToolTrouble::PerhapsUnwanted) {
        return Some(range().map_or_else(|| "not there".to_owned(), |range| format!("not {range}")));
    }
    range()
}

/// The range that a file of the project states, where one does.
pub(crate) fn wanted_of_met(met: &ToolMet) -> Option<String> {
    match met {
        ToolMet::Here { wanted: Some(wanted), .. } => Some(wanted.range.to_string()),
        ToolMet::Here { .. } | ToolMet::Absent | ToolMet::CannotRun { .. } | ToolMet::NotUnwanted { .. } => None,
    }
}

pub(crate) fn wanted(tool: &Tool) -> Option<String> {
    match (&tool.version, tool.expect, &tool.version_from) {
        (Some(range), Existence::Absent, _) => Some(format!("not {range}")),
        (None, Existence::Absent, _) => Some("not there".to_owned()),
        (Some(range), Existence::Present, _) => Some(range.to_string()),
        (None, Existence::Present, Some(from)) => Some(format!("what {} says", from.file)),
        (None, Existence::Present, None) => None,
    }
}

impl ReasonWords for ToolReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        found(self)
    }

    fn wanted(&self, _: &Words<'_>) -> Option<String> {
        wanted_of(self)
    }
}

impl SubjectWords for Tool {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Tool(facts) = met { met_by(words, facts) } else { words.title() }
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Tool(facts) = met { met_briefly(facts) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        wanted(self)
    }

    fn success_check(&self, shell: Shell) -> Option<(String, String)> {
        if self.expect == Existence::Absent {
            return None;
        }
        let name = self.names.first()?;
        let own: Vec<&str> = self.args.iter().map(String::as_str).collect();
        let arguments = if own.is_empty() { catalogue::version_arguments(name) } else { own.as_slice() };
        let words: Vec<String> =
            [name.as_str()].into_iter().chain(arguments.iter().copied()).map(|word| quote(word, shell)).collect();
        let then = match &self.version {
            Some(range) => format!("says a version that is {range}"),
            None => "answers".to_owned(),
        };
        Some((words.join(" "), then))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        if self.expect == Existence::Absent {
            return format!("{} must not be here", join_words(&self.names, "or"));
        }
        let name = (requirement.title.is_some() || self.names.len() > 1).then(|| join_words(&self.names, "or"));
        let version = self.version.as_ref().map(|range| format!("version {range}"));
        let from = self.version_from.as_ref().map(|from| format!("the version that {} says", from.file));
        let arch = self.arch.as_ref().map(|arch| format!("built for {arch}"));
        let any = [&version, &from, &arch].iter().all(|one| one.is_none()) && name.is_none();
        [name, version, from, arch, any.then(|| "any version".to_owned())].into_iter().flatten().collect::<Vec<_>>().join(", ")
    }
}
