//! Which fixes there are for a finding: the guide's first one that fits, else those that the software knows.

use super::case::{Case, Seen};
use super::circumstances::is_own;
use super::effect::Effect;
use super::{
    Circumstances, Fix, again, alternatives, capacity, component, fill, network, of_guide, package, path, port, predict, project,
    supply, tool, unknown,
};
use crate::assess::finding_with_evidence;
use crate::condition::Truth;
use crate::finding::{AnyOfReason, Finding, General, OtherPlace, PathTrouble, Reason, ToolTrouble, Verdict};
use crate::guide::{GuideFix, Installer, Kind, LimitKind, Requirement, Subject};
use crate::inquiry::{Context, Inquiry, Stop, if_known};
use crate::known::Known;
use crate::observation::{Nature, ProgramCopy, Value};
use crate::prelude::*;
use crate::text::{Flaw, Grammar, Sanitised, ShellLine};

/// The fixes for a finding on this machine, with commands that are what a reader sees.
///
/// # Errors
/// When answers are still to come.
pub(crate) fn suggest(
    inquiry: &mut Inquiry<'_>,
    index: usize,
    requirement: &Requirement,
    finding: &Finding,
) -> Result<Vec<Fix>, Stop> {
    let mut fixes = Vec::new();
    for fix in offered(inquiry, requirement, finding)? {
        fixes.extend(predict::followed(inquiry, index, requirement, finding, fix)?.map(typed_as_shown));
    }
    again::in_order(inquiry, requirement, fixes)
}

/// What most likely remains to be done for a requirement once what it waits for is settled.
///
/// It is assessed as if that were done, with what would be known then. Commands of the guide are not started ahead, and nothing that others
/// answer is asked.
///
/// # Errors
/// When answers are still to come.
pub(crate) fn presumed(
    inquiry: &mut Inquiry<'_>,
    index: usize,
    requirement: &Requirement,
    finding: &Finding,
) -> Result<Vec<Fix>, Stop> {
    if finding.waits_for().is_empty() || !may_be_looked_at_ahead(requirement.subject.kind()) {
        return Ok(Vec::new());
    }
    let mut changes = Vec::new();
    for leader in finding.waits_for() {
        if let Some(Effect::Changes(more)) = inquiry.settled(*leader)?.fixes.first().map(|fix| &fix.effect) {
            changes.extend(more.iter().cloned());
        }
    }
    let none = Known::default();
    let mut now = Inquiry::new(Context { ahead: true, foreseen: Some(&none), ..inquiry.context });
    let Some(before) = finding_with_evidence(&mut now, index, requirement) else {
        predict::pass_on(inquiry, now);
        return Err(Stop::Pending);
    };
    let foreseen = predict::foreseen(&before, &changes);
    let mut then = Inquiry::new(Context { ahead: true, foreseen: Some(&foreseen), ..inquiry.context });
    let fixes = match finding_with_evidence(&mut then, index, requirement) {
        Some(after) if after.verdict() == Verdict::Unmet => suggest(&mut then, index, requirement, &after),
        Some(_) => Ok(Vec::new()),
        None => Err(Stop::Pending),
    };
    match fixes {
        Ok(fixes) => Ok(fixes.into_iter().map(|fix| Fix { presumed: true, ..fix }).collect()),
        Err(Stop::NoAnswer(_)) => Ok(Vec::new()),
        Err(Stop::Pending) => {
            predict::pass_on(inquiry, then);
            Err(Stop::Pending)
        }
    }
}

/// Whether looking at this kind starts nothing of the guide's and asks nobody else.
fn may_be_looked_at_ahead(kind: Kind) -> bool {
    match kind {
        Kind::Tool
        | Kind::Port
        | Kind::File
        | Kind::Folder
        | Kind::Variable
        | Kind::Group
        | Kind::Rights
        | Kind::Swap
        | Kind::Limit
        | Kind::Library
        | Kind::Module
        | Kind::Headers
        | Kind::SystemPackage
        | Kind::KernelModule
        | Kind::Locale
        | Kind::Setting
        | Kind::Checkout => true,
        Kind::Disk
        | Kind::Memory
        | Kind::Cores
        | Kind::Virtualization
        | Kind::System
        | Kind::Socket
        | Kind::Device
        | Kind::Service
        | Kind::Reach
        | Kind::Clock
        | Kind::Hostname
        | Kind::Subnet
        | Kind::Command
        | Kind::AnyOf => false,
    }
}

/// The fix without its commands, where a name in them cannot be seen or typed: then no line would do what it shows.
fn typed_as_shown(fix: Fix) -> Fix {
    let cannot =
        |text: &String| text.chars().any(Sanitised::hides) || ShellLine::read(text, Grammar::Windows).flaw == Some(Flaw::LineEnd);
    let edited = fix.edit.as_ref().is_some_and(|edit| cannot(&edit.file));
    if !edited && !fix.run.iter().any(cannot) {
        return fix;
    }
    let say = format!("{} What to type is not shown, since a name in it has characters that cannot be seen or typed.", fix.say);
    Fix { run: Vec::new(), edit: None, part: None, say, ..fix }
}

pub(super) fn offered(inquiry: &mut Inquiry<'_>, requirement: &Requirement, finding: &Finding) -> Result<Vec<Fix>, Stop> {
    let Some(reason) = finding.reason() else { return Ok(Vec::new()) };
    let cause = reason.cause();
    let unmet = finding.verdict() == Verdict::Unmet;
    // What is only unknown is not changed, unless the guide has a fix for just that.
    let fits_the_cause = |fix: &&GuideFix| fix.cause.map_or(unmet, |only| only == cause);
    if !unmet && !requirement.fixes.iter().any(|fix| fits_the_cause(&fix)) {
        return unknown_step(inquiry, requirement, reason);
    }
    let here = Circumstances::look(inquiry)?;
    let mut of_guide = Vec::new();
    for fix in requirement.fixes.iter().filter(fits_the_cause) {
        let fits = fix.when.as_ref().map_or(Ok(Truth::True), |when| when.evaluate(inquiry))?;
        // One that asks for what this finding does not have is for another.
        if fits == Truth::True
            && of_guide::still_needed(inquiry, fix)?
            && let Some(values) = fill::Values::of(requirement, reason, &here).where_it_prints(fix.prints.as_ref())
            && let Some(fix) = of_guide::fix(fix, &values)
        {
            of_guide.push(fix);
        }
    }
    if !of_guide.is_empty() {
        return Ok(of_guide);
    }
    if !unmet {
        return unknown_step(inquiry, requirement, reason);
    }
    if let Reason::AnyOf(AnyOfReason::NoneMet { open }) = reason {
        return alternatives::fixes(inquiry, open);
    }
    if let Some(supply) = requirement.subject.supply().filter(|_| supply::is_nobody(reason))
        && (supply.packages.is_empty() || supply::is_installed(inquiry, supply, &here)?)
        && let Some(fix) = supply::start(requirement, &here)
    {
        return Ok(vec![fix]);
    }
    let offer = package::offer(inquiry, requirement, reason, &here)?;
    let library = package::of_missing_library(inquiry, reason, &here)?;
    if let Some(fix) = offer.fix {
        return Ok(library.into_iter().chain(package::with_repair(fix, reason)).collect());
    }
    if let Some(fix) = library {
        return Ok(vec![fix]);
    }
    if let Some(fix) = by_own_installer(inquiry, requirement, reason, (&here, &offer.refused))? {
        return Ok(vec![fix]);
    }
    let mut own = None;
    if let Reason::Tool(reason) = reason
        && tool::concerns_the_file(&reason.trouble)
        && let Some(path) = reason.path()
    {
        own = is_own(inquiry, path)?;
    }
    let seen = seen(inquiry, requirement, reason)?;
    Ok(built_in(&Case { requirement, here: &here, refused: &offer.refused, own, seen }, reason))
}

/// A tool that a language's own installer brings, where that is here.
fn by_own_installer(
    inquiry: &mut Inquiry<'_>,
    requirement: &Requirement,
    reason: &Reason,
    (here, refused): (&Circumstances<'_>, &[String]),
) -> Result<Option<Fix>, Stop> {
    let (Subject::Tool(tool), Reason::Tool(reason)) = (&requirement.subject, reason) else { return Ok(None) };
    if !matches!(reason.trouble, ToolTrouble::Missing { .. } | ToolTrouble::OutOfRange { .. }) {
        return Ok(None);
    }
    for (installer, name) in &tool.installers {
        let starts_with = if *installer == Installer::Pip { "python3" } else { installer.word() };
        if if_known(inquiry.program(starts_with))?.is_some_and(|copies| copies.iter().any(|copy| copy.executable)) {
            let case = Case { requirement, here, refused, own: None, seen: Seen::default() };
            return Ok(Some(component::own_tool(&case, (*installer, name))));
        }
    }
    Ok(None)
}

/// The step that would make known what is not.
fn unknown_step(inquiry: &mut Inquiry<'_>, requirement: &Requirement, reason: &Reason) -> Result<Vec<Fix>, Stop> {
    // A file of the project that this user may not read keeps what stands in it.
    if let (Subject::Variable(variable), Reason::General(General::CouldNotLook { .. })) = (&requirement.subject, reason)
        && let Some(file) = &variable.env_file
        && if_known(inquiry.path(file, None))?.is_some_and(|state| state.nature == Nature::File && !state.readable)
    {
        let here = Circumstances::look(inquiry)?;
        let case = Case { requirement, here: &here, refused: &[], own: None, seen: Seen::default() };
        return Ok(project::make_own(&case, file, "read").into_iter().collect());
    }
    Ok(unknown::step(requirement, reason).into_iter().collect())
}

/// What matters for choosing a fix, beside the reason.
fn seen<'a>(inquiry: &mut Inquiry<'a>, requirement: &Requirement, reason: &Reason) -> Result<Seen<'a>, Stop> {
    let mut seen = Seen::default();
    match (&requirement.subject, reason) {
        (_, Reason::Path(path)) if matches!(path.trouble, PathTrouble::NotWritable { writers: Some(_), .. }) => {
            seen.joined = if_known(inquiry.database_groups())?.map_or(&[][..], Vec::as_slice);
        }
        (Subject::Port(port), _) => {
            if let Some(set_by) = &port.set_by {
                if let Some(file) = set_by.files().next() {
                    let state = if_known(inquiry.path(file, None))?;
                    seen.closed = state.is_some_and(|state| state.nature == Nature::File && !state.writable);
                }
                if let Some(variable) = &set_by.variable {
                    let state = if_known(inquiry.variable(variable, None, None))?;
                    seen.closed |= state.is_some_and(|state| state.environment != Value::Unset);
                }
            }
        }
        (Subject::Variable(wanted), _) => {
            let state = if_known(inquiry.variable(&wanted.name, wanted.env_file.as_deref(), wanted.matches.as_ref()))?;
            seen.startup = state.and_then(|state| state.startup.as_deref());
            seen.startup_line = state.and_then(|state| state.startup_line);
            seen.line = state.and_then(|state| state.line);
            if let Some(file) = &wanted.env_file {
                let state = if_known(inquiry.path(file, None))?;
                seen.example = state.and_then(|state| state.example.as_deref());
                seen.closed = state.is_some_and(|state| state.nature == Nature::File && !state.writable);
            }
        }
        (Subject::Limit(limit), Reason::Limit(_)) => {
            let letter = match limit.kind {
                LimitKind::OpenFiles => 'n',
                LimitKind::Processes => 'u',
                LimitKind::FileWatches | LimitKind::PathLength | LimitKind::SymbolicLinks => return Ok(seen),
            };
            let file = if_known(inquiry.account())?.and_then(|account| account.startup_file.as_deref());
            if let Some(file) = file {
                let pattern = format!("(?m)^\\s*ulimit\\s+(-[HS]\\s*)*-[HS]*{letter}\\b");
                let holds = if_known(inquiry.path_searched(file, &pattern))?.and_then(|state| state.holds);
                seen.startup = (holds == Some(true)).then_some(file);
            }
        }
        (Subject::Tool(_), Reason::Tool(tool)) => {
            if let Some(other) = tool.other.as_ref().filter(|other| other.place == OtherPlace::LaterOnPath) {
                seen.disturbs = disturbs(inquiry, requirement, &other.at)?;
            }
        }
        (Subject::Subnet(_), _) => {
            let guide = inquiry.context.guide;
            seen.moves = requirement.values.first().and_then(|index| guide.values.get(*index)).map(|value| &value.set_by);
        }
        (Subject::Component(_), Reason::Component(component)) => {
            let program = component.program.as_deref().unwrap_or_default();
            let above = |path: &str| path.rsplit_once(['/', '\\']).map(|(above, _)| above.to_owned());
            if let Some(folder) = above(program).and_then(|folder| above(&folder)) {
                let state = if_known(inquiry.path(&format!("{folder}/pyvenv.cfg"), None))?;
                seen.environment = state.is_some_and(|state| state.nature == Nature::File);
            }
        }
        (Subject::Checkout(wanted), _) => {
            let state = if_known(inquiry.checkout(wanted))?;
            seen.dirty = state.is_some_and(|state| state.changed.is_some_and(|count| count > state.untracked));
        }
        _ => {}
    }
    Ok(seen)
}

/// Whether putting the folder of a program first on PATH would change which copy of another tool of the guide is found.
fn disturbs(inquiry: &mut Inquiry<'_>, requirement: &Requirement, at: &str) -> Result<bool, Stop> {
    let folder = at.rsplit_once('/').map_or("", |(folder, _)| folder);
    let names = inquiry.context.guide.requirements.iter().filter(|other| other.id != requirement.id);
    let names = names.filter_map(|other| if let Subject::Tool(tool) = &other.subject { Some(&tool.names) } else { None });
    for name in names.flatten().take(MOST_NEIGHBOURS) {
        // One after the other: what is asked must not depend on what happens to be known already.
        let Some(copies) = if_known(inquiry.program(name))? else { continue };
        let lies_there = |copy: &ProgramCopy| copy.path.rsplit_once('/').is_some_and(|(other, _)| other == folder);
        if copies.iter().skip(1).any(lies_there) && !copies.first().is_some_and(lies_there) {
            return Ok(true);
        }
    }
    Ok(false)
}

/// More tools than these are not looked at for one another's sake.
const MOST_NEIGHBOURS: usize = 200;

/// The fixes that the software knows itself, the best first; none where no general one exists.
fn built_in(case: &Case<'_>, reason: &Reason) -> Vec<Fix> {
    let fix = match reason {
        Reason::Tool(reason) => return tool::fixes(case, reason),
        Reason::Port(reason) => return port::fixes(case, reason),
        Reason::Disk(reason) => Some(capacity::disk(case, reason)),
        Reason::Capacity(reason) => capacity::capacity(case, reason),
        Reason::Virtualization(reason) => capacity::virtualization(case, reason),
        Reason::System(reason) => capacity::system(case, reason),
        Reason::Path(reason) => path::fix(case, reason),
        Reason::Variable(reason) => return project::variable(case, reason),
        Reason::Group(reason) => network::group(case, *reason),
        Reason::Rights(reason) => network::rights(reason.rights),
        Reason::Socket(reason) => Some(network::socket(case, reason)),
        Reason::Device(reason) => Some(network::device(case, reason)),
        Reason::Service(reason) => Some(network::service(case, reason)),
        Reason::Reach(reason) => Some(network::reach(case, reason)),
        Reason::Clock(_) => Some(network::clock(case)),
        Reason::Name(reason) => Some(network::name(case, reason)),
        Reason::Limit(reason) => project::limit(case, *reason),
        Reason::Library(reason) => project::library(case, reason),
        Reason::Component(reason) => return component::fix(case, reason),
        Reason::Locale(reason) => project::locale(case, reason),
        Reason::Setting(reason) => return project::setting(case, *reason),
        Reason::Checkout(reason) => return project::checkouts(case, reason),
        Reason::Command(reason) => project::command(case, reason),
        // What its alternatives settle, and what nobody knows.
        Reason::General(General::ValueUnfit { set_at, must_be }) => {
            Some(Fix::say(format!("Correct {}, in {}: it must be {must_be}.", set_at.variable, set_at.place)))
        }
        Reason::AnyOf(_) | Reason::General(_) => None,
    };
    fix.into_iter().collect()
}
