use super::check::load_guide;
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::{Detail, OutputStyle, TextLayout, Tone, maintainer};
use crate::output;
use build_setup_ready::GUIDE_FILE;
use setup_ready_core::draft::Draft;
use setup_ready_maintainer::Repository;
use std::path::{Path, PathBuf};

/// Writes a first guide, or what a guide lacks.
pub(crate) fn run(typed: &arguments::Draft, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let folder = folder(typed, shown)?;
    let depth = usize::from(typed.depth);
    if typed.statements {
        let repository = Repository::read(&folder, depth);
        let lines: Vec<String> = repository.statements.iter().map(|one| format!("{one}\n")).collect();
        let text = lines.concat();
        output::write(safe(&text).as_bytes(), shown.output.as_deref())?;
        tell(look, |layout| maintainer::left_out(layout, &repository.remarks));
        return Ok(Status::Ready);
    }
    if typed.additions {
        let guide = guide_of(typed, shown, &folder);
        if !guide.exists() {
            let message = format!("{} is not there, so there is nothing to compare with", guide.display());
            return Err(wrong(message, "To write a first one from what the repository says: setup-ready draft"));
        }
        let file = load_guide(&Shown { guide: Some(guide), ..shown.clone() }, look)?;
        let repository = Repository::read(&file.folder(), depth);
        let draft = Draft::additions(&repository.statements, &file.guide);
        let nothing = draft.live.is_empty() && draft.systems.is_empty();
        output::write(setup_ready_maintainer::additions(&draft).as_bytes(), shown.output.as_deref())?;
        tell(look, |layout| {
            maintainer::left_out(layout, &repository.remarks);
            maintainer::additions(layout, &draft);
        });
        return Ok(if nothing { Status::Ready } else { Status::NotReady });
    }
    let path = shown.output.clone().unwrap_or_else(|| in_folder(&folder));
    // A link that leads nowhere is something too.
    if path.symlink_metadata().is_ok() {
        return Err(wrong(
            format!("{} is there already, and a draft never takes the place of a guide", path.display()),
            "What the repository says beyond it: setup-ready draft --additions\n\
             To read it as its strictest reader: setup-ready proofread\n\
             To have the draft beside it: setup-ready draft --output FILE",
        ));
    }
    let repository = Repository::read(&folder, depth);
    let draft = Draft::of(&repository.statements);
    if draft.live.is_empty() {
        return Err(wrong(
            format!("nothing in {} says what building it needs, so there is nothing to draft from", folder.display()),
            "Go to the root of the repository and try again, or look deeper: setup-ready draft --depth 3\n\
             A guide is written by hand too: setup-ready demo --into driftbuoy writes one to look at.",
        ));
    }
    output::write(setup_ready_maintainer::draft(&draft, &project_name(&folder)).as_bytes(), Some(&path))?;
    // The guide went into a file; what is said of it goes to the terminal.
    let look = &OutputStyle::detect(&Shown { output: None, ..shown.clone() });
    let mut layout = TextLayout::new(look);
    maintainer::drafted(&mut layout, &draft, &repository, &path);
    if look.detail == Detail::Quiet {
        layout = TextLayout::new(look);
        layout.block(0, &format!("{} was written.", path.display()), Tone::Good);
    }
    output::write(layout.into_text().as_bytes(), None)?;
    Ok(Status::Ready)
}

/// What is not the result goes to the other stream, so that the result can be put into a file.
fn tell(look: &OutputStyle, draw: impl FnOnce(&mut TextLayout<'_>)) {
    use std::io::Write;
    let mut layout = TextLayout::for_errors(look);
    draw(&mut layout);
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

fn safe(text: &str) -> String {
    setup_ready_core::text::Sanitised::lines(text).to_string()
}

/// The folder that is read.
fn folder(typed: &arguments::Draft, shown: &Shown) -> Result<PathBuf, Failure> {
    let folder = match (&typed.folder, &shown.guide) {
        (Some(folder), _) => folder.clone(),
        (None, Some(guide)) if guide.is_dir() => guide.clone(),
        (None, Some(guide)) => {
            guide.parent().filter(|parent| !parent.as_os_str().is_empty()).unwrap_or_else(|| Path::new(".")).to_owned()
        }
        (None, None) => PathBuf::from("."),
    };
    if folder.is_dir() {
        return Ok(folder);
    }
    let message = format!("{} is not a folder", folder.display());
    Err(wrong(message, "Name the folder of a repository, or go there and leave it out."))
}

fn guide_of(typed: &arguments::Draft, shown: &Shown, folder: &Path) -> PathBuf {
    match (&typed.folder, &shown.guide) {
        (None, Some(guide)) => guide.clone(),
        _ => in_folder(folder),
    }
}

/// The project is called after its folder, until somebody knows better.
fn project_name(folder: &Path) -> String {
    let real = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    real.file_name().map_or_else(|| "this project".to_owned(), |name| name.to_string_lossy().into_owned())
}

fn wrong(message: String, note: &str) -> Failure {
    Failure::Word { message, note: note.to_owned() }
}

/// The guide of a folder, as people would type it.
fn in_folder(folder: &Path) -> PathBuf {
    if folder == Path::new(".") { PathBuf::from(GUIDE_FILE) } else { folder.join(GUIDE_FILE) }
}
