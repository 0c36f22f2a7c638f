use super::check::load_guide;
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::{Look, Paper, desk};
use crate::output;
use build_setup_ready::draft::Draft;
use build_setup_ready::{WitnessError, witness, witnessed, write};
use std::io::Write;
use std::path::Path;

/// Follows a build, and says what of this machine it used that the guide does not name.
pub(crate) fn run(typed: &arguments::Witness, shown: &Shown, look: &Look) -> Result<Status, Failure> {
    let file = load_guide(shown, look)?;
    let told = witness(&typed.words, Path::new(".")).map_err(|error| {
        let note = match &error {
            WitnessError::NotStarted { .. } => "Name it as you type it in this folder, after --: setup-ready witness -- make",
            WitnessError::NotAllowed(_) => {
                "Some containers forbid it (SYS_PTRACE), and so does a process that is followed already: run it outside of that."
            }
            _ => "What the project's files say of what building it needs can be read everywhere: setup-ready draft --additions",
        };
        Failure::Word { message: error.to_string(), note: note.to_owned() }
    })?;
    let statements = witnessed::statements(&told.seen, &told.owners, &file.guide);
    let draft = Draft::additions(&statements, &file.guide);
    let text = write::additions(&draft);
    if !text.is_empty() || shown.output.is_some() {
        output::write(text.as_bytes(), shown.output.as_deref())?;
    }
    let mut paper = Paper::for_errors(look);
    desk::witnessed(&mut paper, &told, draft.live.len());
    let _ = std::io::stderr().write_all(paper.into_text().as_bytes());
    Ok(match told.status {
        0 if draft.live.is_empty() => Status::Ready,
        0 => Status::NotReady,
        status => Status::OfTheBuild(status),
    })
}
