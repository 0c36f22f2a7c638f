use super::check::{ask_consent, ask_role, load_guide, looked, resolve};
use crate::arguments::{self, Shown};
use crate::ask;
use crate::exit::{Failure, Status};
use crate::look::{Detail, OutputStyle, TextLayout, Tone};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, random_id, remembered_id, state_folder};
use setup_ready_core::text::join_words;
use setup_ready_fleet::recording_json;
use setup_ready_fleet::{Recorded, record};
use std::io::Write;
use std::path::{Path, PathBuf};

/// Looks at a machine and writes what was observed, without what is private, for somebody else to look at.
pub(crate) fn run(
    typed: &arguments::Record,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    let people = ask::somebody_is_there();
    if !typed.yes && !people {
        let message = "record writes a file for others to read, and nobody is here to be asked".to_owned();
        return Err(Failure::Word { message, note: "Add --yes where that is what you want.".to_owned() });
    }
    let file = load_guide(shown, look)?;
    let mut selection = resolve(&typed.check, &file.guide)?;
    ask_role(&mut selection, &file.guide, look);
    ask_consent(&mut selection, &typed.check.how, &file, look);
    let report = looked(&file, &typed.check.how, selection, interrupt, look)?;
    if report.frame.interrupted {
        return Ok(Status::Interrupted);
    }
    let mut recorded = record(&report, &file).map_err(|error| Failure::Software(error.to_string()))?;
    if typed.id {
        let kept = state_folder(&file.folder()).and_then(|folder| remembered_id(&folder).ok());
        recorded.recording.id = Some(kept.unwrap_or_else(random_id));
    }
    let path = shown.output.clone().unwrap_or_else(|| PathBuf::from(format!("{}.recording.json", name(&file))));
    crate::results::apart_from(&path, typed.check.how.machine.as_deref())?;
    let mut text = Vec::new();
    recording_json(&recorded.recording, &mut text).map_err(Failure::Output)?;
    tell(&recorded, &path, text.len(), look);
    if !typed.yes && !ask::yes("Write it? Type yes, or only Enter to leave it:") {
        note("Nothing was written.", look);
        return Ok(Status::NotReady);
    }
    output::write(&text, Some(&path))?;
    if look.detail != Detail::Quiet {
        let mut layout = TextLayout::for_errors(look);
        layout.block(
            0,
            "Written. It is text, and can be read before it is sent. Whoever gets it sees what you see with:",
            Tone::Body,
        );
        let name = path.display().to_string();
        let name = setup_ready_core::fix::quote(&name, setup_ready_core::fix::Shell::Posix);
        layout.copyable(2, &format!("setup-ready preflight --machine {name}"));
        let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
    }
    Ok(Status::Ready)
}

/// The project's name as part of a file's.
fn name(file: &GuideFile) -> String {
    let plain = |c: char| if c.is_ascii_alphanumeric() || c == '-' { c } else { '-' };
    let name: String = file.guide.project.name.chars().map(plain).take(60).collect();
    name.trim_matches('-').to_owned()
}

/// What is about to be written, and where.
fn tell(recorded: &Recorded, path: &Path, bytes: usize, look: &OutputStyle) {
    if look.detail == Detail::Quiet {
        return;
    }
    let recording = &recorded.recording;
    let mut layout = TextLayout::for_errors(look);
    layout.gap();
    let asked = recorded.report.settled.len();
    let text = format!(
        "What was looked at for {asked} requirements of {}: {} answers, {}.",
        recording.project,
        recording.answers.len(),
        setup_ready_core::text::Size(bytes as u64)
    );
    layout.block(0, &text, Tone::Strong);
    let all = recorded.replacer.replaced();
    let replaced = if all.is_empty() { "nothing that is private was found in it".to_owned() } else { join_words(&all, "and") };
    layout.labelled(2, ("replaced", Tone::Strong), 12, (&replaced, Tone::Body));
    let kept = "versions, paths and what programs printed, as far as the guide asked for them; values of variables are not in it";
    layout.labelled(2, ("kept", Tone::Strong), 12, (kept, Tone::Body));
    if !recorded.differing.is_empty() {
        let text = format!(
            "{}: judged otherwise from the recording, since it rests on what was replaced",
            join_words(&recorded.differing, "and")
        );
        layout.labelled(2, ("differs", Tone::Loud), 12, (&text, Tone::Body));
    }
    let there = if path.exists() { ", which is there already and would be replaced" } else { "" };
    layout.labelled(2, ("file", Tone::Strong), 12, (&format!("{}{there}", path.display()), Tone::Body));
    if recording.id.is_some() {
        let text = "a random word, the same in each recording of this machine; without --id there is none";
        layout.labelled(2, ("id", Tone::Strong), 12, (text, Tone::Body));
    }
    layout.gap();
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

fn note(text: &str, look: &OutputStyle) {
    if look.detail == Detail::Quiet {
        return;
    }
    let mut layout = TextLayout::for_errors(look);
    layout.block(0, text, Tone::Body);
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}
