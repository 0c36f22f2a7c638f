//! The version that a tool's own installation states, where that settles the requirement: then the tool is not started.

use super::examine::{Outcome, examine};
use crate::catalogue;
use crate::guide::{Existence, Tool};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{ProgramCopy, RunsOn};
use crate::prelude::*;
use crate::version::{Range, Standing, Version};

/// The version, where it is stated for certain and is one that does. In all other cases the tool itself is asked: what is read may only ever say that
/// nothing is wrong.
pub(super) fn recorded(
    inquiry: &mut Inquiry<'_>,
    (tool, name): (&Tool, &str),
    copy: &ProgramCopy,
) -> Result<Option<Version>, Stop> {
    let asked_otherwise = !tool.args.is_empty() || tool.pattern.is_some();
    if inquiry.context.selection.start_all
        || asked_otherwise
        || tool.expect == Existence::Absent
        || catalogue::records(name).is_empty()
    {
        return Ok(None);
    }
    let Some(recorded) = inquiry.uncited_record(name, copy.asked())? else { return Ok(None) };
    let Ok(version) = Version::parse(&recorded.version) else { return Ok(None) };
    let does = match &tool.version {
        Some(range) => matches!(range.judge(&version), Standing::Inside),
        None => tool.version_from.is_none(),
    };
    if !does {
        return Ok(None);
    }
    if let Some(runs_on) = &recorded.runs_on
        && !is_there(inquiry, runs_on)?
    {
        return Ok(None);
    }
    if_known(inquiry.recorded_version(name, copy.asked()))?;
    Ok(Some(version))
}

/// Whether what a tool runs on is there, in a version on which it runs.
fn is_there(inquiry: &mut Inquiry<'_>, runs_on: &RunsOn) -> Result<bool, Stop> {
    let Ok(range) = Range::parse(&runs_on.range) else { return Ok(false) };
    let does = |version: &Version| matches!(range.judge(version), Standing::Inside);
    let copies = if_known(inquiry.program(&runs_on.name))?.map_or(&[][..], Vec::as_slice);
    let first = copies.iter().find(|copy| copy.executable);
    if let Some(path) = &runs_on.path
        && first.is_none_or(|copy| copy.path != *path && copy.real_path != *path)
    {
        let stated = inquiry.uncited_record(&runs_on.name, path)?.and_then(|stated| Version::parse(&stated.version).ok());
        return Ok(stated.is_some_and(|version| does(&version)));
    }
    let Some(copy) = first.filter(|copy| copy.is_the_persons()) else { return Ok(false) };
    let wanted = Tool {
        names: vec![runs_on.name.clone()],
        version: Some(range.clone()),
        version_from: None,
        args: Vec::new(),
        pattern: None,
        packages: Vec::new(),
        arch: None,
        expect: Existence::Present,
    };
    let outcome = if_known(examine(inquiry, &wanted, &runs_on.name, copy))?;
    Ok(matches!(outcome, Some(Outcome::Version(version) | Outcome::Stated(version)) if does(&version)))
}
