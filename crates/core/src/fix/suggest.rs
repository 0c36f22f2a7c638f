//! Which fixes there are for a finding: the guide's first one that fits, else those that the software knows.

use super::case::{Case, Seen};
use super::circumstances::is_own;
use super::effect::Effect;
use super::{Circumstances, Fix, again, fill, kind, of_guide, package, predict, supply, unknown};
use crate::assess::finding_with_evidence;
use crate::condition::Truth;
use crate::finding::{AnyOfReason, Finding, General, Reason, ToolTrouble, Verdict};
use crate::guide::{GuideFix, Installer, Requirement, Subject};
use crate::inquiry::{Context, Inquiry, Stop, if_known};
use crate::kinds::{any_of, component, tool, variable};
use crate::known::Known;
use crate::observation::FileType;
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
        fixes.extend(predict::verify(inquiry, index, requirement, finding, fix)?.map(strip_untypable_commands));
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
    if finding.waits_for().is_empty() || !requirement.subject.kind().looks_ahead() {
        return Ok(Vec::new());
    }
    let mut changes = Vec::new();
    for leader in finding.waits_for() {
        if let Some(Effect::Changes(more)) = inquiry.settled(*leader)?.fixes.first().map(|fix| &fix.effect) {
            changes.extend(more.iter().cloned());
        }
    }
    let none = Known::default();
    let mut now = Inquiry::new(Context { ahead: true, predicted: Some(&none), ..inquiry.context });
    let Some(before) = finding_with_evidence(&mut now, index, requirement) else {
        predict::propagate_pending(inquiry, now);
        return Err(Stop::Pending);
    };
    let predicted = predict::predicted(&before, &changes);
    let mut then = Inquiry::new(Context { ahead: true, predicted: Some(&predicted), ..inquiry.context });
    let fixes = match finding_with_evidence(&mut then, index, requirement) {
        Some(after) if after.verdict() == Verdict::Unmet => suggest(&mut then, index, requirement, &after),
        Some(_) => Ok(Vec::new()),
        None => Err(Stop::Pending),
    };
    match fixes {
        Ok(fixes) => Ok(fixes.into_iter().map(|fix| Fix { presumed: true, ..fix }).collect()),
        Err(Stop::NoAnswer(_)) => Ok(Vec::new()),
        Err(Stop::Pending) => {
            predict::propagate_pending(inquiry, then);
            Err(Stop::Pending)
        }
    }
}

/// The fix without its commands, where a name in them cannot be seen or typed: then no line would do what it shows.
fn strip_untypable_commands(fix: Fix) -> Fix {
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
        return any_of::fix::fixes(inquiry, open);
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
        && tool::fix::concerns_the_file(&reason.trouble)
        && let Some(path) = reason.path()
    {
        own = is_own(inquiry, path)?;
    }
    let mut seen = Seen::default();
    kind::of_subject(&requirement.subject).see(inquiry, (requirement, reason), &mut seen)?;
    Ok(kind::of_reason(reason).fixes(&Case { requirement, here: &here, refused: &offer.refused, own, seen }))
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
            return Ok(Some(component::fix::own_tool(&case, (*installer, name))));
        }
    }
    Ok(None)
}

/// The step that would make known what is not.
fn unknown_step(inquiry: &mut Inquiry<'_>, requirement: &Requirement, reason: &Reason) -> Result<Vec<Fix>, Stop> {
    // A file of the project that this user may not read keeps what stands in it.
    if let (Subject::Variable(variable), Reason::General(General::CouldNotLook { .. })) = (&requirement.subject, reason)
        && let Some(file) = &variable.env_file
        && if_known(inquiry.path(file, None))?.is_some_and(|state| state.nature == FileType::File && !state.readable)
    {
        let here = Circumstances::look(inquiry)?;
        let case = Case { requirement, here: &here, refused: &[], own: None, seen: Seen::default() };
        return Ok(variable::fix::make_own(&case, file, "read").into_iter().collect());
    }
    Ok(unknown::step(requirement, reason).into_iter().collect())
}
