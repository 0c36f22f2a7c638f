//! `tool`: the first copy on PATH runs, and its version is in the range.

mod examine;

pub(crate) use examine::is_version_argument;
pub(super) use examine::said;

use crate::catalogue;
use crate::cause::Cause;
use crate::driver::Consent;
use crate::finding::{Finding, Particulars, Verdict};
use crate::guide::{Existence, Requirement, Tool};
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::{FileKind, Pinned, ProgramCopy, StartEffect};
use crate::prelude::*;
use crate::probe::Probe;
use crate::text::{capitalised, join_words};
use crate::version::{Fit, Range, Version};
use examine::{Outcome, allowed, arguments, examine, known_by_its_file, stated};

pub(super) fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement, tool: &Tool) -> Result<Finding, Stop> {
    let Some(file) = &tool.version_from else { return look(inquiry, requirement, tool) };
    let why = match inquiry.pinned(file, &tool.names)? {
        Pinned::Range(range, place) => {
            if let Ok(range) = Range::parse(range) {
                let wanted = range.text().to_owned();
                let tool = Tool { version: Some(range), version_from: None, ..tool.clone() };
                let mut finding = look(inquiry, requirement, &tool)?;
                if finding.verdict == Verdict::Unmet {
                    finding.message = format!("{} ({place} says {wanted}.)", finding.message);
                }
                return Ok(finding.wanted(wanted));
            }
            format!("the version in {place} cannot be read")
        }
        Pinned::Any(_) => return look(inquiry, requirement, tool),
        Pinned::NoFile => format!("{file}, which says the version that is wanted, is not there"),
        Pinned::Silent => format!("{file} does not say which version is wanted"),
        Pinned::Unreadable(place) => format!("what stands in {place} is no version"),
    };
    let finding = look(inquiry, requirement, tool)?;
    if finding.verdict != Verdict::Met {
        return Ok(finding);
    }
    let found = finding.found.unwrap_or_default();
    let message = format!("{} is here ({found}), but {why}.", requirement.title());
    Ok(Finding::unknown(Cause::CouldNotLook, message).found(found))
}

fn look(inquiry: &mut Inquiry<'_>, requirement: &Requirement, tool: &Tool) -> Result<Finding, Stop> {
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
        (None, Existence::Present) => nowhere_on_path(inquiry, tool, &title),
        (Some((name, copies)), Existence::Absent) => unwanted(inquiry, tool, name, copies),
        (Some((name, copies)), Existence::Present) => present(inquiry, tool, &Named { title: &title, name }, copies),
    }
}

/// Where PATH has no copy, another customary name or the usual folders may have one.
fn nowhere_on_path(inquiry: &mut Inquiry<'_>, tool: &Tool, title: &str) -> Result<Finding, Stop> {
    let names = join_words(&tool.names, "or");
    if let Some(finding) = under_another_name(inquiry, tool, title, &names)? {
        return Ok(finding);
    }
    if let Some((name, copy)) = elsewhere(inquiry, tool)? {
        let message =
            format!("{name} is installed at {}, but your shell does not look in that folder (it is not on PATH).", copy.path);
        return Ok(Finding::unmet(Cause::ToolOffPath, message).found("off PATH").with(at(&copy.path)));
    }
    let mut message = format!("{names} was not found: it is not installed, or not in a folder where your shell looks (PATH).");
    if let Some(copy) = on_the_windows_side(inquiry, tool)? {
        let more = format!(" The one at {} is on the Windows side: this Linux needs one of its own.", copy.path);
        message.push_str(&more);
    }
    Ok(Finding::unmet(Cause::ToolMissing, message).found("not on PATH"))
}

/// A Linux inside Windows finds the programs of Windows too, under their full names; they do not stand for its own.
fn on_the_windows_side<'a>(inquiry: &mut Inquiry<'a>, tool: &Tool) -> Result<Option<&'a ProgramCopy>, Stop> {
    if known(inquiry.surroundings())?.is_none_or(|around| around.wsl != Some(true)) {
        return Ok(None);
    }
    for name in &tool.names {
        if let Some(copy) = known(inquiry.program(&format!("{name}.exe")))?.and_then(|copies| copies.first()) {
            return Ok(Some(copy));
        }
    }
    Ok(None)
}

/// The first copy in the usual folders that PATH does not name.
fn elsewhere<'a>(inquiry: &mut Inquiry<'a>, tool: &Tool) -> Result<Option<(String, &'a ProgramCopy)>, Stop> {
    for name in &tool.names {
        inquiry.want(Probe::ProgramElsewhere { name: name.clone() });
    }
    for name in &tool.names {
        // Where nobody can look, what PATH has is known all the same.
        let copies = known(inquiry.program_elsewhere(name))?.map_or(&[][..], Vec::as_slice);
        let may_do = |copy: &&ProgramCopy| {
            let starts = copy.kind != FileKind::Placeholder && copy.start != StartEffect::Question;
            copy.executable && starts && copy.lacks.is_empty()
        };
        if let Some(copy) = copies.iter().find(may_do) {
            return Ok(Some((name.clone(), copy)));
        }
    }
    Ok(None)
}

/// Systems call some programs otherwise; the project still calls the name that the guide gives.
fn under_another_name(inquiry: &mut Inquiry<'_>, tool: &Tool, title: &str, names: &str) -> Result<Option<Finding>, Stop> {
    let others = tool
        .names
        .iter()
        .flat_map(|name| catalogue::other_names(name))
        .filter(|other| !tool.names.iter().any(|name| name == other));
    for other in others {
        let Some(copy) = known(inquiry.program(other))?.and_then(|copies| copies.iter().find(|copy| copy.executable)) else {
            continue;
        };
        let Some(outcome) = known(examine(inquiry, tool, other, copy))? else { continue };
        if judge(tool, &Named { title, name: other }, copy, &outcome).verdict == Verdict::Met {
            let message = format!(
                "{names} was not found under that name. This machine calls it {other} ({}, at {}), and the project does not know that.",
                outcome.version_text(),
                copy.path
            );
            return Ok(Some(Finding::unmet(Cause::ToolMissing, message).found(format!("called {other}")).with(at(&copy.path))));
        }
    }
    Ok(None)
}

struct Named<'t> {
    title: &'t str,
    name: &'t str,
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
    let finding = on_path(inquiry, tool, named, copies)?;
    let settled = finding.verdict == Verdict::Met || matches!(finding.cause, Some(Cause::ToolShadowed | Cause::CommandNoConsent));
    if settled { Ok(finding) } else { or_off_path(inquiry, tool, named, finding) }
}

/// PATH has none that does: the usual folders may. What lies there is not started without consent.
fn or_off_path(inquiry: &mut Inquiry<'_>, tool: &Tool, named: &Named<'_>, finding: Finding) -> Result<Finding, Stop> {
    let Some((name, copy)) = elsewhere(inquiry, tool)? else { return Ok(finding) };
    if inquiry.context.selection.consent == Consent::Withheld {
        let states = stated(inquiry, copy)?.map(|version| format!(" Its file states the version {version}."));
        let message = format!(
            "{} Another copy is at {}, in a folder that is not on PATH; it was not started, because that needs your consent.{}",
            finding.message,
            copy.path,
            states.unwrap_or_default()
        );
        return Ok(Finding { message, ..finding });
    }
    let Some(outcome) = known(examine(inquiry, tool, &name, copy))? else { return Ok(finding) };
    if judge(tool, named, copy, &outcome).verdict != Verdict::Met {
        return Ok(finding);
    }
    let good = outcome.version_text();
    let message = format!(
        "{} A copy that would do ({good}) is at {}, but your shell does not look in that folder (it is not on PATH).",
        finding.message, copy.path
    );
    Ok(Finding { found: finding.found, ..Finding::unmet(Cause::ToolOffPath, message) }.with(at(&copy.path)))
}

/// What the copies on PATH come to.
fn on_path(inquiry: &mut Inquiry<'_>, tool: &Tool, named: &Named<'_>, copies: &[ProgramCopy]) -> Result<Finding, Stop> {
    let Some(first) = copies.iter().find(|copy| copy.executable) else {
        let path = copies.first().map_or("", |copy| &copy.path);
        let message = format!("{path} is there, but you may not execute it, so your shell passes it by.");
        return Ok(Finding::unmet(Cause::ToolNotExecutable, message).found("not executable").with(at(path)));
    };
    let outcome = examine(inquiry, tool, named.name, first)?;
    let finding = judge(tool, named, first, &outcome);
    if finding.verdict == Verdict::Met || matches!(outcome, Outcome::NoConsent(_)) {
        return Ok(finding);
    }
    // The first copy will not do: does a later one? One file under two names is one copy.
    let mut seen = vec![first.real_path.as_str()];
    let mut others = Vec::new();
    for copy in copies.iter().filter(|copy| copy.executable) {
        if !seen.contains(&copy.real_path.as_str()) {
            seen.push(&copy.real_path);
            // What its file gives away, a placeholder above all, is not started here either.
            if allowed(inquiry, tool, copy).is_none() {
                if known_by_its_file(inquiry, tool, copy)?.is_none() {
                    inquiry.want(Probe::Run { path: copy.path.clone(), arguments: arguments(tool, named.name) });
                }
                others.push(copy);
            }
        }
    }
    for copy in others {
        // A copy that nobody could ask changes nothing about the first one.
        let Some(outcome) = known(examine(inquiry, tool, named.name, copy))? else { continue };
        if judge(tool, named, copy, &outcome).verdict == Verdict::Met {
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

fn judge(tool: &Tool, named: &Named<'_>, copy: &ProgramCopy, outcome: &Outcome) -> Finding {
    let path = copy.path.as_str();
    // A program for another processor may run here all the same, translated, and build the wrong thing.
    if let (Some(wanted), FileKind::Built(arches)) = (&tool.arch, &copy.kind)
        && !arches.contains(wanted)
    {
        let message =
            format!("{path} is built for {}, and this project needs one that is built for {wanted}.", join_words(arches, "and"));
        return Finding::unmet(Cause::ToolWrongArch, message)
            .found(format!("built for {}", join_words(arches, "and")))
            .with(at(path));
    }
    let finding = match outcome {
        Outcome::Version(version) => {
            return judge_version(tool.version.as_ref(), named, (version, path));
        }
        Outcome::Ran => return Finding::met("runs", format!("{} runs, at {path}.", named.title)).with(at(path)),
        Outcome::There => {
            let message = format!("{} is at {path}. It opens a window, so it was not started.", named.title);
            return Finding::met("there", message).with(at(path));
        }
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

fn judge_version(range: Option<&Range>, named: &Named<'_>, (version, path): (&Version, &str)) -> Finding {
    let name =
        if named.title == named.name { named.name.to_owned() } else { format!("{} ({})", capitalised(named.title), named.name) };
    let Some(range) = range else {
        return Finding::met(version.to_string(), format!("{name} {version} is at {path}.")).with(at(path));
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
