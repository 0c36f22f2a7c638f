//! What goes wrong with files, folders and variables.

use super::super::machine_builder::{MachineBuilder, text, texts};
use super::super::sample::other_than;
use super::super::satisfy::Wanted;
use super::NotMade;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::{EnvironmentVariable, Path, PathKind, Subject};
use setup_ready_core::observation::Os;

pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, cause: Cause) -> Result<(), NotMade> {
    match &wanted.requirement.subject {
        Subject::Path(path) => of_path(sketch, wanted, path, cause),
        Subject::Variable(variable) => of_variable(sketch, wanted, variable, cause),
        _ => Err(NotMade::NotHere),
    }
}

fn of_path(sketch: &mut MachineBuilder, wanted: Wanted<'_>, path: &Path, cause: Cause) -> Result<(), NotMade> {
    let list = if path.kind == PathKind::File { "file" } else { "folder" };
    let place = path.path.as_str();
    // The project's own folder is there by itself, until something is said of it.
    if !sketch.has(list, place) && cause != Cause::PathUnwanted {
        sketch.put(list, ("path", place), &[]);
    }
    let unix = wanted.os != Os::Windows;
    let mut change = |key: &str, value: String| {
        if let Some(entry) = sketch.entry(list, place) {
            entry.insert(key.to_owned(), value);
        }
    };
    match cause {
        Cause::PathMissing if place != "." => {
            sketch.drop(list, place);
            let inside = format!("{}/", place.trim_end_matches('/'));
            sketch.drop_all("file", |name| name.starts_with(&inside));
        }
        Cause::PathOtherKind if place != "." => {
            sketch.drop(list, place);
            sketch.put(if list == "file" { "folder" } else { "file" }, ("path", place), &[]);
        }
        Cause::PathNotWritable if path.writable => change("writable", "false".to_owned()),
        Cause::PathNotMine if path.mine => change("owner", text(if unix { "root" } else { "SYSTEM" })),
        Cause::PathMode if path.mode.is_some() && unix => change("mode", text("666")),
        Cause::PathMode if path.mode.is_some() => change("open_to", texts(&["Users"])),
        Cause::PathContent if path.kind == PathKind::File && !path.contains.is_empty() => change("text", text("")),
        Cause::PathContent if !path.contains.is_empty() => {
            let inside = format!("{}/", place.trim_end_matches('/'));
            sketch.drop_all("file", |name| name.starts_with(&inside));
        }
        Cause::PathNotExecutable if path.executable && unix => {
            change("mode", text("644"));
            change("executable", "false".to_owned());
        }
        Cause::PathUnwanted => sketch.put(list, ("path", place), &[]),
        Cause::PathDangling if unix && place != "." => change("link_to", text("/somewhere/gone")),
        Cause::PathBarred | Cause::PathNotReadable | Cause::PathReadOnly | Cause::PathNoExecution | Cause::PathCannotStart => {
            return Err(NotMade::NoWords);
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn of_variable(
    sketch: &mut MachineBuilder,
    wanted: Wanted<'_>,
    variable: &EnvironmentVariable,
    cause: Cause,
) -> Result<(), NotMade> {
    let now = sketch.get("environment", &variable.name).map(ToOwned::to_owned);
    match cause {
        Cause::VariableUnset => sketch.unset("environment", &variable.name),
        Cause::VariableEmpty => sketch.set("environment", &variable.name, text("")),
        Cause::VariableShape => {
            let other = variable.matches.as_ref().and_then(other_than).ok_or(NotMade::NotHere)?;
            sketch.set("environment", &variable.name, text(other));
        }
        Cause::VariableOnlyInFile => {
            // In a file that is no `.env`: a startup file that this session has not read.
            let startup = sketch.get("user", "startup_file").map(ToOwned::to_owned).ok_or(NotMade::NotHere)?;
            let value = now.ok_or(NotMade::NotHere)?;
            sketch.unset("environment", &variable.name);
            let line = format!("export {}={}\n", variable.name, value.trim_matches('"'));
            sketch.put("file", ("path", startup.trim_matches('"')), &[("text", text(&line))]);
        }
        Cause::VariableOtherKit if variable.of.is_some() => {
            sketch.set(
                "environment",
                &variable.name,
                text(if wanted.os == Os::Windows { "C:/other/kit" } else { "/opt/other-kit" }),
            );
        }
        Cause::VariableUnwanted => sketch.set("environment", &variable.name, text("1")),
        Cause::VariableLineEnds | Cause::VariableLeadsNowhere => return Err(NotMade::NoWords),
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}
