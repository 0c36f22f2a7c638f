//! What goes wrong with programs.

use super::super::machine_builder::{MachineBuilder, text, texts};
use super::super::satisfy::{ANY_VERSION, Wanted, offer, version_in};
use super::NotMade;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::Tool;
use setup_ready_core::observation::Os;
use setup_ready_core::version::RangeMatch;

/// Where a program that is changed lies.
struct Copy {
    path: String,
    name: String,
}

pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, tool: &Tool, cause: Cause) -> Result<(), NotMade> {
    let name = tool.names.first().cloned().ok_or(NotMade::NotHere)?;
    let copy = Copy { path: wanted.program(wanted.at().usual, &name), name };
    let mut change = |key: &str, value: String| {
        if let Some(entry) = sketch.entry("program", &copy.path) {
            entry.insert(key.to_owned(), value);
        }
    };
    match cause {
        Cause::ToolMissing => sketch.drop("program", &copy.path),
        Cause::ToolOffPath => elsewhere(sketch, wanted, &copy)?,
        Cause::ToolTooOld => other_version(sketch, wanted, (tool, &copy), RangeMatch::TooOld)?,
        Cause::ToolTooNew => other_version(sketch, wanted, (tool, &copy), RangeMatch::TooNew)?,
        Cause::ToolExcluded => other_version(sketch, wanted, (tool, &copy), RangeMatch::Excluded)?,
        Cause::ToolShadowed => shadow(sketch, wanted, (tool, &copy)),
        // Windows knows programs by their endings.
        Cause::ToolNotExecutable if wanted.os == Os::Windows => return Err(NotMade::NotHere),
        Cause::ToolNotExecutable => change("executable", "false".to_owned()),
        Cause::ToolWrongArch => change("built_for", texts(&["riscv64"])),
        Cause::ToolBroken => {
            change("does_not_start", text("library-missing"));
            change("complains", text("error while loading shared libraries: libcharts.so.1: cannot open shared object file"));
        }
        // Systems ship stand-ins for some programs: Debian none, macOS those of its developer tools, Windows those of its store.
        Cause::ToolPlaceholder if wanted.os == Os::Linux => return Err(NotMade::NotHere),
        Cause::ToolPlaceholder => change("placeholder", "true".to_owned()),
        Cause::ToolQuarantined if wanted.os != Os::Macos => return Err(NotMade::NotHere),
        Cause::ToolQuarantined => change("quarantined", "true".to_owned()),
        // Only a version manager's stand-in says so, in its own words.
        Cause::ToolUnselected => return Err(NotMade::NoWords),
        Cause::ToolSilent => {
            if tool.version.is_none() && tool.version_from.is_none() {
                return Err(NotMade::NotHere);
            }
            change("prints", text("Have a good day."));
        }
        Cause::ToolStuck => change("never_ends", "true".to_owned()),
        Cause::ToolFailed => {
            change("prints", text(""));
            change("complains", text("fatal: the configuration cannot be read"));
            change("exit", "70".to_owned());
        }
        Cause::ToolUnwanted => {
            let fields = [("prints", text(&format!("{} {ANY_VERSION}", copy.name)))];
            sketch.put("program", ("path", &copy.path), &fields);
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

/// The one copy lies where PATH does not lead.
fn elsewhere(sketch: &mut MachineBuilder, wanted: Wanted<'_>, copy: &Copy) -> Result<(), NotMade> {
    let fields = sketch.entry("program", &copy.path).map(|entry| entry.clone()).ok_or(NotMade::NotHere)?;
    let path = wanted.program(wanted.at().off_path, &copy.name);
    sketch.drop("program", &copy.path);
    let fields: Vec<(&str, String)> =
        fields.iter().filter(|(key, _)| *key != "path").map(|(key, value)| (key.as_str(), value.clone())).collect();
    sketch.put("program", ("path", &path), &fields);
    Ok(())
}

/// It has a version that does not do, and so has the package manager's until it is brought up to date.
fn other_version(
    sketch: &mut MachineBuilder,
    wanted: Wanted<'_>,
    (tool, copy): (&Tool, &Copy),
    fit: RangeMatch,
) -> Result<(), NotMade> {
    let range = wanted.range(tool).ok_or(NotMade::NotHere)?;
    let version = range.missing(fit).ok_or(NotMade::NotHere)?.to_string();
    let says = wanted.says(tool, &version);
    sketch.entry("program", &copy.path).ok_or(NotMade::NotHere)?.insert("prints".to_owned(), text(&says));
    offer(sketch, wanted, &version_in(Some(&range)));
    Ok(())
}

/// A copy that does not do is found first.
fn shadow(sketch: &mut MachineBuilder, wanted: Wanted<'_>, (tool, copy): (&Tool, &Copy)) {
    let range = wanted.range(tool);
    let first = wanted.program(wanted.at().before, &copy.name);
    let fields =
        match range.as_ref().and_then(|range| range.missing(RangeMatch::TooOld).or_else(|| range.missing(RangeMatch::TooNew))) {
            Some(version) => vec![("prints", text(&wanted.says(tool, &version.to_string())))],
            None => vec![
                ("does_not_start", text("library-missing")),
                ("complains", text("libcharts.so.1: cannot open shared object file")),
            ],
        };
    sketch.put("program", ("path", &first), &fields);
}
