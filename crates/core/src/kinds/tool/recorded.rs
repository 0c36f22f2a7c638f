//! The version that a tool's own installation states, where that settles the requirement: then the tool is not started.

use crate::catalogue;
use crate::guide::{Existence, Tool};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{ProgramCopy, RunsOn};
use crate::version::{Range, RangePosition, Version};

/// The version, where it is stated for certain and is one that does, with what the tool runs on, which must be there too. In all other cases the tool itself is
/// asked: what is read may only ever say that nothing is wrong.
pub(crate) fn recorded<'a>(
    inquiry: &mut Inquiry<'a>,
    (tool, name): (&Tool, &str),
    copy: &ProgramCopy,
) -> Result<Option<(Version, Option<&'a RunsOn>)>, Stop> {
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
        Some(range) => is_inside(range, &version),
        None => tool.version_from.is_none(),
    };
    Ok(does.then_some((version, recorded.runs_on.as_ref())))
}

/// Whether the installation of what a tool runs on, at the path that the tool names, states a version on which it runs.
pub(crate) fn is_stated(inquiry: &mut Inquiry<'_>, (name, path): (&str, &str), range: &Range) -> Result<bool, Stop> {
    let stated = inquiry.uncited_record(name, path)?.and_then(|stated| Version::parse(&stated.version).ok());
    Ok(stated.is_some_and(|version| is_inside(range, &version)))
}

pub(crate) fn is_inside(range: &Range, version: &Version) -> bool {
    matches!(range.judge(version), RangePosition::Inside)
}
