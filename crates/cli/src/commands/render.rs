use super::check::load_guide;
use crate::arguments::{self, RenderAs, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, Tone};
use crate::output;
use build_setup_ready::{LoadError, read_text};
use setup_ready_core::outline::Outline;
use setup_ready_core::script::script;
use setup_ready_maintainer::{guide_html, guide_markdown, into_text};
use std::io::Write;
use std::path::Path;

/// Writes the guide for people, or as a script.
pub(crate) fn run(typed: &arguments::Render, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let file = load_guide(shown, look)?;
    let rendered = match typed.form {
        RenderAs::Markdown => guide_markdown(&Outline::of(&file.guide)),
        RenderAs::Html => guide_html(&file.guide).map_err(|error| Failure::Software(error.to_string()))?,
        RenderAs::Sh => script(&file.guide),
    };
    let Some(path) = typed.into.as_deref() else {
        if typed.verify {
            let Some(path) = shown.output.as_deref() else {
                return Err(wrong(
                    "there is nothing to verify".to_owned(),
                    "Name the file: --into FILE for a part of one, --output FILE for all of it.",
                ));
            };
            return Ok(verified(look, path, text_at(path)?.is_some_and(|text| text == rendered)));
        }
        output::write(rendered.as_bytes(), shown.output.as_deref())?;
        return Ok(Status::Ready);
    };
    if typed.form != RenderAs::Markdown {
        return Err(wrong(
            "only markdown goes into another file".to_owned(),
            "A page or a script is a file of its own: --output FILE.",
        ));
    }
    let before = text_at(path)?;
    let placed = into_text(before.as_deref().unwrap_or_default(), &rendered).map_err(|error| {
        wrong(format!("{}: {error}", path.display()), "Put the marks right, or take both away: then they are put at the end.")
    })?;
    let fresh = before.as_deref() == Some(placed.text.as_str());
    if typed.verify {
        return Ok(verified(look, path, fresh));
    }
    if !fresh {
        output::write(placed.text.as_bytes(), Some(path))?;
    }
    let text = match (fresh, placed.marks_are_new) {
        (true, _) => format!("{} was up to date.", path.display()),
        (false, true) => format!(
            "The guide was put at the end of {}, between two marks: move them, with what is between them, where you like.",
            path.display()
        ),
        (false, false) => format!("The guide in {} was written again.", path.display()),
    };
    tell(look, &text, Tone::Good);
    Ok(Status::Ready)
}

/// Says whether a file is as it would be written.
fn verified(look: &OutputStyle, path: &Path, fresh: bool) -> Status {
    if fresh {
        tell(look, &format!("{} is up to date.", path.display()), Tone::Good);
        return Status::Ready;
    }
    let text = format!(
        "{} is stale: the guide says something else by now. The same command without --verify writes it.",
        path.display()
    );
    tell(look, &text, Tone::Loud);
    Status::NotReady
}

/// A file's text; none where it is not there.
fn text_at(path: &Path) -> Result<Option<String>, Failure> {
    match read_text(path) {
        Ok(text) => Ok(Some(text)),
        Err(LoadError::Unreadable { reason, .. }) if reason.kind() == std::io::ErrorKind::NotFound => Ok(None),
        Err(error) => Err(error.into()),
    }
}

fn tell(look: &OutputStyle, text: &str, tone: Tone) {
    let mut layout = TextLayout::for_errors(look);
    layout.block(0, text, tone);
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

fn wrong(message: String, note: &str) -> Failure {
    Failure::Word { message, note: note.to_owned() }
}
