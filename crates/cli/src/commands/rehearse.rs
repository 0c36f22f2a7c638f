use super::check::{load_guide, recorded_machine};
use crate::arguments::{self, RehearsalFormat, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, rehearsal};
use crate::output;
use build_setup_ready::write::{Readers, write_whole};
use build_setup_ready::{Described, GuideFile, read_text};
use setup_ready_core::rehearsal::End;
use setup_ready_fleet::{is_recorded_file, recorded_name};
use setup_ready_maintainer::{NewExpectation, Rehearsal, expectation};
use setup_ready_maintainer::{Rehearsed, rehearsal_html, rehearsal_json, rehearsal_junit, rehearsal_markdown};
use std::path::{Path, PathBuf};

/// Tries the guide before newcomers do.
pub(crate) fn run(typed: &arguments::Rehearse, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let file = load_guide(shown, look)?;
    let rehearsal = Rehearsal::new(std::sync::Arc::clone(&file.guide), &file.folder());
    if typed.failures {
        let line = rehearsal::Counting::start(look, file.guide.requirements.len());
        let ways = rehearsal.ways(&|done| line.update(done));
        drop(line);
        let left = ways.count(End::Nothing) > 0;
        put(typed, shown, look, Rehearsed::Failures(&file.guide, &ways))?;
        return Ok(if left { Status::NotReady } else { Status::Ready });
    }
    let paths = machines(typed, &file)?;
    if typed.expect {
        if let Some(path) = paths.iter().find(|path| is_recorded_file(path)) {
            let note = "Leave it out, or leave out --expect: only described machines say what they expect.";
            return Err(wrong(format!("{} is a recording, which expects nothing", path.display()), note));
        }
        let machines = paths.iter().map(|path| Described::load(path)).collect::<Result<Vec<_>, _>>()?;
        let matrix = rehearsal.on(&machines);
        let mut new: Vec<(PathBuf, NewExpectation)> = Vec::new();
        for ((path, machine), performance) in paths.iter().zip(&machines).zip(&matrix.performances) {
            let rewritten = expectation(&read_text(path)?, machine, &performance.report);
            let rewritten = rewritten
                .map_err(|error| wrong(format!("{}: {error}", path.display()), "The others were not written either."))?;
            new.push((path.clone(), rewritten));
        }
        new.retain(|(_, new)| !new.changes.is_empty());
        if typed.write {
            for (path, one) in &new {
                let written = write_whole(path, one.text.as_bytes(), Readers::AsUsual);
                written.map_err(|reason| Failure::Write { path: path.clone(), reason })?;
            }
        }
        let mut layout = TextLayout::new(look);
        rehearsal::expectations(&mut layout, &new, (typed.write, paths.len()));
        output::write(layout.into_text().as_bytes(), shown.output.as_deref())?;
        return Ok(if new.is_empty() || typed.write { Status::Ready } else { Status::NotReady });
    }
    let mut performances = Vec::new();
    for path in &paths {
        performances.extend(if is_recorded_file(path) {
            rehearsal.perform_recorded(&recorded_name(path), &recorded_machine(path, &file)?)
        } else {
            rehearsal.perform(&Described::load(path)?)
        });
    }
    let matrix = rehearsal.of(performances);
    let differs = matrix.differences() > 0;
    put(typed, shown, look, Rehearsed::Machines(&matrix))?;
    Ok(if differs { Status::NotReady } else { Status::Ready })
}

fn put(typed: &arguments::Rehearse, shown: &Shown, look: &OutputStyle, rehearsed: Rehearsed<'_>) -> Result<(), Failure> {
    let text = match typed.format {
        RehearsalFormat::Text => {
            let mut layout = TextLayout::new(look);
            match rehearsed {
                Rehearsed::Machines(matrix) => rehearsal::machines(&mut layout, matrix, &rehearsed.summary()),
                Rehearsed::Failures(guide, ways) => rehearsal::failures(&mut layout, guide, ways),
            }
            layout.into_text()
        }
        RehearsalFormat::Json => rehearsal_json(rehearsed),
        RehearsalFormat::Junit => rehearsal_junit(rehearsed),
        RehearsalFormat::Markdown => rehearsal_markdown(rehearsed),
        RehearsalFormat::Html => rehearsal_html(rehearsed).map_err(|error| Failure::Software(error.to_string()))?,
    };
    output::write(text.as_bytes(), shown.output.as_deref())
}

/// The machines that were named, or those that lie beside the guide.
fn machines(typed: &arguments::Rehearse, file: &GuideFile) -> Result<Vec<PathBuf>, Failure> {
    if !typed.machine.is_empty() {
        return Ok(typed.machine.clone());
    }
    let folder = file.folder().join("machines");
    let mut found: Vec<PathBuf> = std::fs::read_dir(&folder)
        .into_iter()
        .flatten()
        .flatten()
        .map(|entry| entry.path())
        .filter(|path| path.extension().is_some_and(|extension| extension == "toml") && path.is_file())
        .collect();
    found.sort();
    if found.is_empty() {
        return Err(wrong(
            format!("there is no described machine in {}", shown_folder(&folder)),
            "Name one: setup-ready rehearse --machine FILE\n\
             Without any: setup-ready rehearse --failures makes machines of its own.\n\
             How to describe one: setup-ready demo --into driftbuoy writes seven to look at.",
        ));
    }
    Ok(found)
}

fn shown_folder(folder: &Path) -> String {
    folder.strip_prefix(".").unwrap_or(folder).display().to_string()
}

fn wrong(message: String, note: &str) -> Failure {
    Failure::Word { message, note: note.to_owned() }
}
