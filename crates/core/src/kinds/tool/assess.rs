//! `tool`: the first copy on PATH runs, and its version is in the range.

use crate::assess::kind::Assess;
use crate::catalogue;
use crate::finding::{
    Conclusion, Met, NeededArch, OtherCopy, OtherPlace, PinTrouble, Reason, Refusal, ToolMet, ToolReason, ToolRemark,
    ToolTrouble, WantedVersion,
};
use crate::guide::{Existence, Tool, VersionFrom};
use crate::inquiry::{Inquiry, Stop, if_known};
pub(crate) use crate::kinds::tool::examine::said;
use crate::kinds::tool::examine::{Outcome, arguments, examine, known_by_its_file, permission, stated};
use crate::observation::{FileKind, FileType, Pinned, ProgramCopy, StartEffect};
use crate::packages::packages_of_tool;
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Consent;
use crate::version::{Range, RangeMatch, RangePosition, Version, number_behind};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, tool: &Tool) -> Result<Conclusion, Stop> {
    let Some(from) = &tool.version_from else { return look(inquiry, tool, None) };
    let pin = match inquiry.pinned(from, &tool.names)? {
        Pinned::Range(text, place) => match Range::parse(text).ok().and_then(|range| wanted_by(from, range)) {
            Some(range) => return pinned(inquiry, tool, range, place),
            None => PinTrouble::Unreadable(place.clone()),
        },
        Pinned::Version(text, place) => match exactly(text).and_then(|range| wanted_by(from, range)) {
            Some(range) => return pinned(inquiry, tool, range, place),
            None => PinTrouble::NotAVersion(place.clone()),
        },
        Pinned::Any(_) => return look(inquiry, tool, None),
        Pinned::NoFile => PinTrouble::NoFile(from.file.clone()),
        Pinned::Silent => PinTrouble::Silent(from.file.clone()),
        Pinned::Unreadable(place) => PinTrouble::NotAVersion(place.clone()),
    };
    Ok(match look(inquiry, tool, None)? {
        // What the project's own file does not say is no fault of this machine's; a file that is not here may be.
        Conclusion::Met(Met::Tool(ToolMet::Here { name, program, found, started, wanted, .. })) => {
            if let PinTrouble::NoFile(_) = pin {
                let trouble = ToolTrouble::PinUnread { found, pin };
                return Ok(ToolReason { name, program: Some(program), trouble, wanted: None, other: None }.into());
            }
            let remark = Some(ToolRemark::PinUnread(pin));
            Met::Tool(ToolMet::Here { name, program, found, started, wanted, remark }).into()
        }
        other @ (Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) | Conclusion::LeftOut(_)) => other,
    })
}

/// With the versions that a file of the project states.
fn pinned(inquiry: &mut Inquiry<'_>, tool: &Tool, range: Range, place: &str) -> Result<Conclusion, Stop> {
    let tool = Tool { version: Some(range), version_from: None, ..tool.clone() };
    look(inquiry, &tool, Some(place))
}

/// The range that the guide makes of what a file states.
fn wanted_by(from: &VersionFrom, range: Range) -> Option<Range> {
    if from.at_least { range.upwards() } else { Some(range) }
}

/// The range of a version that stands by itself: of one or two numbers, the series of it.
fn exactly(text: &str) -> Option<Range> {
    let version = Version::parse(text).ok()?;
    let series = text.bytes().all(|byte| byte.is_ascii_digit() || byte == b'.') && text.matches('.').count() < 2;
    Range::parse(&if series { format!("{version}.*") } else { format!("= {version}") }).ok()
}

/// A tool under one of its names, with the versions that would do.
struct Asked<'t> {
    tool: &'t Tool,
    name: &'t str,
    /// The file of the project that states the version, where it is not the guide.
    said_in: Option<&'t str>,
}

impl Asked<'_> {
    fn reason(&self, program: Option<&str>, trouble: ToolTrouble) -> ToolReason {
        ToolReason {
            name: self.name.to_owned(),
            program: program.map(ToOwned::to_owned),
            trouble,
            wanted: self.wanted(),
            other: None,
        }
    }

    fn wanted(&self) -> Option<WantedVersion> {
        let said_in = self.said_in.map(ToOwned::to_owned);
        self.tool.version.clone().map(|range| WantedVersion { range, said_in })
    }
}

fn look(inquiry: &mut Inquiry<'_>, tool: &Tool, said_in: Option<&str>) -> Result<Conclusion, Stop> {
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
    let name = first.map_or_else(|| tool.names.first(), |(name, _)| Some(name)).map_or("", String::as_str);
    let asked = Asked { tool, name, said_in };
    match (first, tool.expect) {
        (None, Existence::Absent) => Ok(Met::Tool(ToolMet::Absent).into()),
        (None, Existence::Present) => nowhere_on_path(inquiry, &asked).map(Into::into),
        (Some((_, copies)), Existence::Absent) => unwanted(inquiry, &asked, copies),
        (Some((_, copies)), Existence::Present) => present(inquiry, &asked, copies),
    }
}

/// Where PATH has no copy, another customary name or the usual folders may have one.
fn nowhere_on_path(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>) -> Result<ToolReason, Stop> {
    if let Some(trouble) = under_another_name(inquiry, asked)? {
        return Ok(asked.reason(None, trouble));
    }
    if let Some((name, copy)) = elsewhere(inquiry, asked.tool, &[])? {
        let asked = Asked { name, ..*asked };
        if let Some(called) = file_name(&copy.path).filter(|called| number_behind(called, name).is_some()) {
            let trouble = ToolTrouble::OtherName { called: called.to_owned(), at: copy.path.clone(), version: None };
            return Ok(asked.reason(None, trouble));
        }
        return Ok(asked.reason(None, ToolTrouble::OffPath { at: copy.path.clone() }));
    }
    let windows_side = on_the_windows_side(inquiry, asked.tool)?.map(|copy| copy.path.clone());
    Ok(asked.reason(None, ToolTrouble::Missing { windows_side }))
}

/// A Linux inside Windows finds the programs of Windows too, under their full names; they do not stand for its own.
fn on_the_windows_side<'a>(inquiry: &mut Inquiry<'a>, tool: &Tool) -> Result<Option<&'a ProgramCopy>, Stop> {
    if if_known(inquiry.surroundings())?.is_none_or(|around| around.wsl != Some(true)) {
        return Ok(None);
    }
    for name in &tool.names {
        if let Some(copy) = if_known(inquiry.program(&format!("{name}.exe")))?.and_then(|copies| copies.first()) {
            return Ok(Some(copy));
        }
    }
    Ok(None)
}

/// The first copy in the usual folders that PATH does not name.
///
/// `known` are files that were looked at already.
fn elsewhere<'a, 't>(
    inquiry: &mut Inquiry<'a>,
    tool: &'t Tool,
    known: &[&String],
) -> Result<Option<(&'t str, &'a ProgramCopy)>, Stop> {
    let managers = if_known(inquiry.managers())?.map_or(&[][..], Vec::as_slice);
    let packages = packages_of_tool(tool, managers);
    for name in &tool.names {
        inquiry.want(Probe::ProgramElsewhere { name: name.clone(), packages: packages.clone() });
    }
    for name in &tool.names {
        // Where nobody can look, what PATH has is known all the same.
        let copies = if_known(inquiry.program_elsewhere(name, &packages))?.map_or(&[][..], Vec::as_slice);
        let may_do = |copy: &&ProgramCopy| {
            let starts = copy.kind != FileKind::Placeholder && copy.start != StartEffect::Question;
            copy.executable && starts && copy.lacks.is_empty()
        };
        if let Some(copy) =
            copies.iter().filter(may_do).find(|copy| !known.contains(&&copy.real_path) && name_fits(tool, name, copy))
        {
            return Ok(Some((name, copy)));
        }
    }
    Ok(None)
}

fn file_name(path: &str) -> Option<&str> {
    path.rsplit(['/', '\\']).next()
}

/// Whether a file that has a version in its name may be in the range: one that has none may always.
fn name_fits(tool: &Tool, name: &str, copy: &ProgramCopy) -> bool {
    let Some(number) = file_name(&copy.path).and_then(|file| number_behind(file, name)) else { return true };
    // A name has the first numbers only: `python3.12` may be 3.12.4.
    let begins = |limit: String| limit == number.text() || limit.starts_with(&format!("{number}."));
    tool.version.as_ref().is_none_or(|range| match range.judge(&number) {
        RangePosition::Inside => true,
        RangePosition::Outside(miss) => miss.fit == RangeMatch::TooOld && begins(miss.nearest.limit()),
        RangePosition::Incomparable => false,
    })
}

/// Systems call some programs otherwise; the project still calls the name that the guide gives.
fn under_another_name(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>) -> Result<Option<ToolTrouble>, Stop> {
    let names = &asked.tool.names;
    let others =
        names.iter().flat_map(|name| catalogue::other_names(name)).filter(|other| !names.iter().any(|name| name == other));
    for other in others {
        let Some(copy) = if_known(inquiry.program(other))?.and_then(|copies| copies.iter().find(|copy| copy.executable)) else {
            continue;
        };
        let Some(outcome) = if_known(examine(inquiry, asked.tool, other, copy))? else { continue };
        if crate::assess::is_met(&judge(&Asked { name: other, ..*asked }, copy, &outcome)) {
            let (called, at) = ((*other).to_owned(), copy.path.clone());
            return Ok(Some(ToolTrouble::OtherName { called, at, version: outcome.into_version() }));
        }
    }
    Ok(None)
}

/// `expect = "absent"`: with a range, only versions in the range are unwanted.
fn unwanted(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>, copies: &[ProgramCopy]) -> Result<Conclusion, Stop> {
    let name = asked.name.to_owned();
    let Some(copy) = copies.iter().find(|copy| copy.executable) else {
        return Ok(Met::Tool(ToolMet::CannotRun { name }).into());
    };
    let trouble = match &asked.tool.version {
        None => ToolTrouble::Unwanted { found: None },
        Some(range) => match examine(inquiry, asked.tool, asked.name, copy)? {
            Outcome::Version(found) | Outcome::Stated(found) => match range.judge(&found) {
                RangePosition::Inside => ToolTrouble::Unwanted { found: Some(found) },
                RangePosition::Outside(_) => return Ok(Met::Tool(ToolMet::NotUnwanted { name, found }).into()),
                RangePosition::Incomparable => ToolTrouble::PerhapsUnwanted,
            },
            Outcome::Ran | Outcome::There | Outcome::Trouble(_) => ToolTrouble::PerhapsUnwanted,
        },
    };
    Ok(asked.reason(Some(&copy.path), trouble).into())
}

fn present(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>, copies: &[ProgramCopy]) -> Result<Conclusion, Stop> {
    let reason = match on_path(inquiry, asked, copies)? {
        Conclusion::Open(Reason::Tool(reason)) => *reason,
        other @ (Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) | Conclusion::LeftOut(_)) => return Ok(other),
    };
    let decided = matches!(reason.trouble, ToolTrouble::NoConsent { .. } | ToolTrouble::VersionAbsent { .. });
    if decided || reason.other.is_some() {
        return Ok(reason.into());
    }
    or_off_path(inquiry, asked, reason).map(Into::into)
}

/// PATH has none that does: the usual folders may. What lies there is not started without consent.
fn or_off_path(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>, reason: ToolReason) -> Result<ToolReason, Stop> {
    let known = inquiry.program(asked.name)?.iter().map(|copy| &copy.real_path).collect::<Vec<_>>();
    let Some((name, copy)) = elsewhere(inquiry, asked.tool, &known)? else { return Ok(reason) };
    let at = copy.path.clone();
    if inquiry.context.selection.consent != Consent::Given {
        let version = stated(inquiry, copy)?;
        return Ok(ToolReason { other: Some(OtherCopy { at, version, place: OtherPlace::NotStarted }), ..reason });
    }
    let Some(outcome) = if_known(examine(inquiry, asked.tool, name, copy))? else { return Ok(reason) };
    if !crate::assess::is_met(&judge(asked, copy, &outcome)) {
        return Ok(reason);
    }
    let version = outcome.into_version();
    Ok(ToolReason { other: Some(OtherCopy { at, version, place: OtherPlace::OffPath }), ..reason })
}

/// What the copies on PATH come to.
fn on_path(inquiry: &mut Inquiry<'_>, asked: &Asked<'_>, copies: &[ProgramCopy]) -> Result<Conclusion, Stop> {
    let Some(first) = copies.iter().find(|copy| copy.executable) else {
        let path = copies.first().map_or("", |copy| &copy.path);
        let state = if path.is_empty() { None } else { if_known(inquiry.path(path, None))? };
        let (by, place) = match state.map(|state| (&state.barred_by, &state.nature)) {
            Some((Some(barrier), _)) => (Refusal::Barred, Some(barrier.path.clone())),
            Some((None, FileType::Dangling(to))) => (Refusal::LeadsNowhere, Some(to.clone())),
            Some((None, _)) | None => (Refusal::Permissions, None),
        };
        return Ok(asked.reason(Some(path), ToolTrouble::NotExecutable { by, place }).into());
    };
    let outcome = examine(inquiry, asked.tool, asked.name, first)?;
    let reason = match judge(asked, first, &outcome) {
        Conclusion::Open(Reason::Tool(reason)) => reason,
        met @ (Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) | Conclusion::LeftOut(_)) => {
            return Ok(met);
        }
    };
    // Another copy would only pass by the manager that the person chose to have.
    if matches!(reason.trouble, ToolTrouble::NoConsent { .. } | ToolTrouble::VersionAbsent { .. }) {
        return Ok(Conclusion::Open(Reason::Tool(reason)));
    }
    // The first copy will not do: does a later one? One file under two names is one copy.
    let mut seen = vec![first.real_path.as_str()];
    let mut others = Vec::new();
    for copy in copies.iter().filter(|copy| copy.executable) {
        if !seen.contains(&copy.real_path.as_str()) {
            seen.push(&copy.real_path);
            // What its file gives away, a placeholder above all, is not started here either.
            if let Ok(permission) = permission(inquiry, (asked.tool, asked.name), copy) {
                if known_by_its_file(inquiry, (asked.tool, asked.name), copy)?.is_none() {
                    let arguments = arguments(asked.tool, asked.name);
                    inquiry.want(Probe::Run { path: copy.asked().to_owned(), arguments, permission });
                }
                others.push(copy);
            }
        }
    }
    for copy in others {
        // A copy that nobody could ask changes nothing about the first one.
        let Some(outcome) = if_known(examine(inquiry, asked.tool, asked.name, copy))? else { continue };
        if crate::assess::is_met(&judge(asked, copy, &outcome)) {
            let other = OtherCopy { at: copy.path.clone(), version: outcome.into_version(), place: OtherPlace::LaterOnPath };
            return Ok(ToolReason { other: Some(other), ..*reason }.into());
        }
    }
    Ok(Conclusion::Open(Reason::Tool(reason)))
}

fn judge(asked: &Asked<'_>, copy: &ProgramCopy, outcome: &Outcome) -> Conclusion {
    let program = copy.path.as_str();
    // A program for another processor may run here all the same, translated, and build the wrong thing.
    if let (Some(wanted), FileKind::Built(arches)) = (&asked.tool.arch, &copy.kind)
        && !arches.contains(wanted)
    {
        let trouble = ToolTrouble::WrongArch { built_for: arches.clone(), needed: NeededArch::Guide(wanted.clone()) };
        return asked.reason(Some(program), trouble).into();
    }
    let here = |found: Option<Version>, started| {
        let (name, program) = (asked.name.to_owned(), program.to_owned());
        let tested = asked.tool.tested.as_ref().zip(found.as_ref());
        let untried = tested.filter(|(tested, found)| tested.fit(found) == RangeMatch::TooNew).map(|(tested, _)| tested.clone());
        let remark = untried.map(ToolRemark::Untried);
        Met::Tool(ToolMet::Here { name, program, found, started, wanted: asked.wanted(), remark }).into()
    };
    let trouble = match (outcome, &asked.tool.version) {
        (Outcome::Trouble(trouble), _) => trouble.clone(),
        (Outcome::Ran, _) => return here(None, true),
        (Outcome::There, _) => return here(None, false),
        (Outcome::Version(version), None) => return here(Some(version.clone()), true),
        (Outcome::Stated(version), None) => return here(Some(version.clone()), false),
        (Outcome::Version(version) | Outcome::Stated(version), Some(range)) => match range.judge(version) {
            RangePosition::Inside => return here(Some(version.clone()), matches!(outcome, Outcome::Version(_))),
            RangePosition::Outside(miss) => ToolTrouble::OutOfRange { found: version.clone(), miss },
            RangePosition::Incomparable => ToolTrouble::Incomparable { found: version.clone() },
        },
    };
    asked.reason(Some(program), trouble).into()
}

impl Assess for Tool {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
