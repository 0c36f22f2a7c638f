use super::check::load_guide;
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, maintainer};
use crate::output;
use setup_ready_core::draft::Draft;
use setup_ready_core::{guide, witnessed};
use setup_ready_maintainer::{WitnessError, witness};
use std::io::Write;
use std::path::Path;

/// Follows a build, and says what of this machine it used that the guide does not name.
pub(crate) fn run(typed: &arguments::Witness, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let file = load_guide(shown, look)?;
    let told = witness(&typed.words, Path::new(".")).map_err(|error| {
        let note = match &error {
            WitnessError::NotStarted { .. } => "Name it as you type it in this folder, after --: setup-ready witness -- make",
            WitnessError::NotAllowed(_) => {
                "Some containers forbid it (SYS_PTRACE), and so does a process that is followed already: run it outside of that."
            }
            WitnessError::NotHere | _ => {
                "What the project's files say of what building it needs can be read everywhere: setup-ready draft --additions"
            }
        };
        Failure::Word { message: error.to_string(), note: note.to_owned() }
    })?;
    let statements = witnessed::statements(&told.seen, &told.owners, &file.guide);
    let understated = witnessed::understated(&told.seen, &told.owners, &file.guide);
    let draft = Draft::additions(&statements, &file.guide);
    let text = setup_ready_maintainer::additions(&draft);
    let lacks = draft.live.len() + understated.len();
    if typed.correct && lacks > 0 {
        let ids = understated.iter().filter_map(|(index, _)| file.guide.requirements.get(*index)).map(|one| one.id.as_str());
        let mut right = ids.fold(file.text.clone(), |text, id| needed(&text, id));
        if !text.is_empty() {
            right = format!("{}\n\n# What a build was seen to use.\n\n{text}", right.trim_end());
        }
        // A guide that could not be read any more would be a bad correction.
        if let Err(mistakes) = guide::parse(&right) {
            return Err(Failure::Software(format!("the corrected guide would have mistakes: {mistakes}")));
        }
        output::write(right.as_bytes(), Some(&file.path))?;
    } else if !text.is_empty() || shown.output.is_some() {
        output::write(text.as_bytes(), shown.output.as_deref())?;
    }
    let mut layout = TextLayout::for_errors(look);
    maintainer::witnessed(&mut layout, &told, (&file.guide, &understated), (lacks, typed.correct));
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
    Ok(match told.status {
        0 if lacks == 0 || typed.correct => Status::Ready,
        0 => Status::NotReady,
        status => Status::OfTheBuild(status),
    })
}

/// The guide with a requirement that is needed: the line with its level is gone.
fn needed(text: &str, id: &str) -> String {
    let head = [format!("[require.{id}]"), format!("[require.\"{id}\"]")];
    let mut within = false;
    let mut lines = Vec::new();
    for line in text.lines() {
        if line.trim_start().starts_with('[') {
            within = head.iter().any(|head| line.trim() == head);
        }
        if !(within && line.trim_start().starts_with("level") && line.contains('=')) {
            lines.push(line);
        }
    }
    lines.join("\n") + "\n"
}
