use super::check::{ask_consent, load_guide, looked, resolve};
use crate::arguments::{self, DeskFormat, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, comparison};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt};
use setup_ready_core::compare::{Side, compare};
use setup_ready_core::selection::Selection;
use setup_ready_fleet::{CompareError, compared_for_others, is_recorded_file, side_in_file};
use setup_ready_fleet::{comparison_html, comparison_json, comparison_markdown};
use std::path::{Path, PathBuf};

/// The word for the machine that this runs on.
const HERE: &str = "here";

/// Shows machines beside each other: where verdicts differ, and what decides it.
pub(crate) fn run(
    typed: &arguments::Compare,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    if typed.machines.len() < 2 {
        let message = "one machine has nothing to be compared with".to_owned();
        return Err(Failure::Word { message, note: "Name two or more: setup-ready compare one.recording.json here".to_owned() });
    }
    let file = guide(typed, shown, look)?;
    let selection = match &file {
        Some(file) => resolve(&typed.check, &file.guide)?,
        None => Selection::default(),
    };
    let mut sides: Vec<Side> = Vec::new();
    for machine in &typed.machines {
        let side = if machine.as_os_str() == HERE {
            here(typed, file.as_ref(), selection.clone(), (interrupt, look))?
        } else {
            side_in_file(machine, file.as_ref(), &selection).map_err(|reason| unusable(machine, reason))?
        };
        sides.push(side);
    }
    name_apart(&mut sides, &typed.machines);
    let mut found = compare(file.as_ref().map(|file| &*file.guide), &sides);
    if matches!(typed.format, DeskFormat::Markdown | DeskFormat::Html) && !typed.with_names {
        let is_here = typed.machines.iter().any(|machine| machine.as_os_str() == HERE);
        found = compared_for_others(found, &sides, file.as_ref(), is_here);
    }
    let text = match typed.format {
        DeskFormat::Text => {
            let mut layout = TextLayout::new(look);
            comparison::draw(&mut layout, &found);
            layout.into_text()
        }
        DeskFormat::Json => comparison_json(&found),
        DeskFormat::Markdown => comparison_markdown(&found),
        DeskFormat::Html => comparison_html(&found).map_err(|error| Failure::Software(error.to_string()))?,
    };
    output::write(text.as_bytes(), shown.output.as_deref())?;
    Ok(if found.differences.is_empty() { Status::Ready } else { Status::NotReady })
}

/// Two files may be called the same in two folders, and one may be called as this machine is here: then each has its path.
fn name_apart(sides: &mut [Side], machines: &[PathBuf]) {
    let names: Vec<String> = sides.iter().map(|side| side.name.clone()).collect();
    for (side, machine) in sides.iter_mut().zip(machines) {
        let alike = names.iter().filter(|name| **name == side.name).count();
        if machine.as_os_str() != HERE && (alike > 1 || side.name == HERE) {
            side.name = machine.display().to_string();
        }
    }
}

/// The guide; reports alone can be compared without one.
fn guide(typed: &arguments::Compare, shown: &Shown, look: &OutputStyle) -> Result<Option<GuideFile>, Failure> {
    match load_guide(shown, look) {
        Ok(file) => Ok(Some(file)),
        Err(Failure::Load(build_setup_ready::LoadError::NotFound(_)))
            if typed.machines.iter().all(|one| is_recorded_file(one)) =>
        {
            Ok(None)
        }
        Err(other) => Err(other),
    }
}

fn here(
    typed: &arguments::Compare,
    file: Option<&GuideFile>,
    mut selection: Selection,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Side, Failure> {
    let Some(file) = file else { return Err(unusable(Path::new(HERE), CompareError::NoGuide)) };
    ask_consent(&mut selection, &typed.check.how, file, look);
    let report = looked(file, &typed.check.how, selection, interrupt, look)?;
    Ok(Side::of(HERE, &report))
}

fn unusable(machine: &Path, reason: CompareError) -> Failure {
    let note = "A machine is a recording (setup-ready record), a report (preflight --format json), a described machine (.toml), or the word here.";
    if let CompareError::Described(error) = reason {
        return Failure::Load(error);
    }
    Failure::Word { message: format!("{} cannot be compared: {reason}", machine.display()), note: note.to_owned() }
}
