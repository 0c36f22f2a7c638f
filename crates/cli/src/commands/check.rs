//! What every command that looks at a machine shares: the guide, the machine, what is checked, the questions before.

use crate::arguments::{Check, How, Shown};
use crate::ask;
use crate::exit::Failure;
use crate::look::closing::NextCommands;
use crate::look::progress::ProgressLine;
use crate::look::{Detail, OutputStyle, TextLayout, Tone};
use build_setup_ready::{
    Consents, Described, GUIDE_FILE, GuideFile, Host, Interrupt, LastResult, Live, Preflight, Remembered, Stored, consent_to,
    other_owner, read_place_report_file, state_folder,
};
use setup_ready_core::elsewhere::PlaceReport;
use setup_ready_core::guide::{Guide, Role};
use setup_ready_core::probe::Permission;
use setup_ready_core::recording::Recording;
use setup_ready_core::report::Report;
use setup_ready_core::selection::{Consent, Selection};
use setup_ready_core::text::Sanitised;
use setup_ready_core::text::{join_words, nearest};
use setup_ready_fleet::{is_recorded_file, read_recording};
use std::io::Write;
use std::path::Path;
use std::sync::Arc;

/// Checks what was asked for, after the questions that a person must answer first. What was agreed to for an earlier report of this run is not asked
/// for again, and what it advised for the first time is not said to have been advised before.
/// `for_people`: the result is one that a person reads, and they may be asked.
pub(crate) fn checked(
    file: &GuideFile,
    (typed, earlier): (&Check, Option<&Report>),
    (for_people, interrupt): (bool, &Interrupt),
    look: &OutputStyle,
) -> Result<Report, Failure> {
    let how = &typed.how;
    let mut selection = resolve(typed, &file.guide)?;
    if let Some(earlier) = earlier.filter(|_| selection.consent == Consent::Withheld) {
        selection.consent = earlier.selection.consent.clone();
    }
    let memory: Option<Remembered<LastResult>> = memory(file, how);
    let last = memory.as_ref().and_then(Remembered::read);
    // What was advised on a described machine was done nowhere.
    if let Some(earlier) = earlier {
        selection.advised = Arc::clone(&earlier.selection.advised);
    } else if how.machine.is_none() {
        selection.advised = Arc::new(last.as_ref().map(LastResult::advice).unwrap_or_default());
    }
    let before = last.as_ref().filter(|_| typed.again);
    if typed.again {
        choose_open(&mut selection, before, &file.guide, look);
    }
    if before.is_none() && for_people && !how.is_recorded() {
        ask_role(&mut selection, &file.guide, look);
    }
    ask_consent(&mut selection, how, file, look);
    let whole = selection.only.is_empty() && selection.stage.is_none();
    let report = looked(file, how, selection, interrupt, look)?;
    // A part that was asked for by name says nothing about the rest; nor does what was cut short.
    if let Some(memory) = memory.filter(|_| (whole || before.is_some()) && !report.frame.interrupted) {
        // Nothing is lost where it cannot be remembered: the next preflight looks at everything.
        let _ = memory.write(&LastResult::of(&report, last.as_ref()));
    }
    Ok(report)
}

/// Where something is remembered of this guide; `None` where the user has no home folder.
pub(crate) fn memory<T: Stored>(file: &GuideFile, how: &How) -> Option<Remembered<T>> {
    state_folder(&file.folder()).map(|folder| Remembered::in_folder(&folder, &file.path, how.machine.as_deref()))
}

/// Looks at the machine, with progress.
pub(crate) fn looked(
    file: &GuideFile,
    how: &How,
    selection: Selection,
    interrupt: &Interrupt,
    look: &OutputStyle,
) -> Result<Report, Failure> {
    let host = host(how.machine.as_deref(), file, how.time_limit, interrupt)?;
    let elsewhere = how.with.iter().map(|word| taken_along(word, file)).collect::<Result<Vec<_>, _>>()?;
    let report = check(file, (selection, elsewhere), how.jobs, (&*host, interrupt), look);
    // Between two looks nothing that was started has a reason to be there.
    crate::supervisor::end_what_is_left();
    report
}

/// Asks for the role, where the guide has some and none was typed; or says that one could be, where nobody can be asked.
pub(crate) fn ask_role(selection: &mut Selection, guide: &Guide, look: &OutputStyle) {
    if selection.role.is_some() || guide.roles.is_empty() || look.detail == Detail::Quiet {
        return;
    }
    if ask::somebody_is_there() {
        selection.role = ask::role(guide, look);
    } else {
        note_about_roles(guide, look);
    }
}

/// Asks whether the guide's commands may be run, where there are some and nothing was typed about them. What was agreed to before, in this
/// folder and with the same programs and scripts, needs no question.
pub(crate) fn ask_consent(selection: &mut Selection, how: &How, file: &GuideFile, look: &OutputStyle) {
    if how.machine.is_none() && selection.consent != Consent::Given {
        let mut asks = Live::for_guide(file).asks(&file.guide, selection);
        // What a watch was told before needs no question either.
        let known = std::mem::take(&mut selection.consent);
        let (mut agreed, open): (Vec<_>, Vec<_>) =
            asks.drain(..).partition(|ask| known.permits(&ask.words) == Some(Permission::Marked(ask.mark.clone())));
        if !open.is_empty() {
            let consents = state_folder(&file.folder()).map(|folder| Consents::in_folder(&folder));
            agreed.extend(ask::consent(open, consents.as_ref(), &file.folder(), look));
        }
        selection.consent = consent_to(&agreed);
    }
}

/// Chooses what was open last time, for the role of then.
fn choose_open(selection: &mut Selection, before: Option<&LastResult>, guide: &Guide, look: &OutputStyle) {
    let open: Vec<usize> = before.into_iter().flat_map(|before| &before.open).filter_map(|id| guide.find(id)).collect();
    if selection.role.is_none() {
        selection.role = before.and_then(|before| before.role.as_deref()).and_then(|role| guide.role(role));
    }
    let note = match (before, open.len()) {
        (None, _) => "Note: nothing is remembered of this guide, so everything is checked.".to_owned(),
        (Some(_), 0) => "Note: nothing was open last time, so everything is checked.".to_owned(),
        (Some(_), count) => {
            format!("Note: this checks only what was open last time ({count}). For everything, leave out --again.")
        }
    };
    selection.only = open;
    if look.detail != Detail::Quiet {
        let mut layout = TextLayout::for_errors(look);
        layout.block(0, &note, Tone::Quiet);
        layout.gap();
        let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
    }
}

/// The guide that was named, or the nearest one. One of another user's needs a yes.
pub(crate) fn load_guide(shown: &Shown, look: &OutputStyle) -> Result<GuideFile, Failure> {
    let path = match &shown.guide {
        // A folder means the guide in it.
        Some(path) if path.is_dir() => path.join(GUIDE_FILE),
        Some(path) => path.clone(),
        None => {
            let here = std::env::current_dir()
                .map_err(|error| Failure::Software(format!("this folder cannot be found out: {error}")))?;
            let found = GuideFile::find(&here)?;
            let found = found.strip_prefix(&here).map(Path::to_owned).unwrap_or(found);
            // A link may mean a private file, whose lines a message about mistakes would show.
            if found.is_symlink() && leads_out(&found) {
                return Err(Failure::LeadsOut(found));
            }
            found
        }
    };
    if let Some(owner) = other_owner(&path)
        && !shown.guide_owner.as_ref().is_some_and(|word| owner.is_called(word))
        && !ask::other_owner(&path, &owner, look)
    {
        return Err(Failure::OtherOwner { path, owner });
    }
    Ok(GuideFile::load(&path)?)
}

fn leads_out(link: &Path) -> bool {
    let folder = link.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let (real, folder) = (link.canonicalize(), folder.canonicalize());
    real.is_ok_and(|real| folder.is_ok_and(|folder| !real.starts_with(folder)))
}

/// This machine, or a described one.
pub(crate) fn host(
    machine: Option<&Path>,
    file: &GuideFile,
    limit: std::time::Duration,
    interrupt: &Interrupt,
) -> Result<Box<dyn Host>, Failure> {
    Ok(match machine {
        Some(path) if is_recorded_file(path) => Box::new(recorded_machine(path, file)?),
        Some(path) => Box::new(Described::load(path)?),
        None => Box::new(Live::for_guide(file).time_limit(limit).interrupt(interrupt)),
    })
}

/// A recording that was made for this guide, in whichever state.
pub(crate) fn recorded_machine(path: &Path, file: &GuideFile) -> Result<Recording, Failure> {
    let recording = read_recording(path).map_err(|reason| Failure::Recording { path: path.to_owned(), reason })?;
    if recording.project != file.guide.project.name {
        let (there, here) = (Sanitised::line(&recording.project).to_string(), &file.guide.project.name);
        let message = format!("{} was recorded for {there}, and this guide is of {here}", path.display());
        return Err(Failure::Word { message, note: "Name the guide that it was recorded for with --guide FILE.".to_owned() });
    }
    Ok(recording)
}

/// Checks, with progress, until it is done or the person interrupts.
pub(crate) fn check(
    file: &GuideFile,
    (selection, elsewhere): (Selection, Vec<PlaceReport>),
    jobs: Option<u16>,
    (host, interrupt): (&dyn Host, &Interrupt),
    look: &OutputStyle,
) -> Result<Report, Failure> {
    let line = Arc::new(ProgressLine::start(look));
    let (news, findings) = (Arc::clone(&line), Arc::clone(&line));
    let mut preflight = Preflight::new(Arc::clone(&file.guide))
        .select(selection)
        .interrupt(interrupt)
        .guide_source(file.path.display().to_string(), file.sha256.clone());
    preflight = elsewhere.into_iter().fold(preflight, Preflight::with);
    // Whom nobody listens to need not be told.
    if line.is_shown() {
        preflight = preflight
            .on_progress(move |progress| news.update(progress))
            .on_finding(move |requirement, finding| findings.learn(&file.guide, requirement, finding));
    }
    if let Some(jobs) = jobs {
        preflight = preflight.jobs(usize::from(jobs));
    }
    let report = preflight.run(host).map_err(|error| Failure::Software(error.to_string()))?;
    drop(preflight);
    drop(line);
    Ok(report)
}

/// A report from another place, as `ID=FILE` names it.
fn taken_along(word: &str, file: &GuideFile) -> Result<PlaceReport, Failure> {
    let Some((id, path)) = word.split_once('=') else {
        let note = "Write the place and the file, such as --with guest=report.json".to_owned();
        return Err(Failure::Word { message: format!("--with {word} names no file"), note });
    };
    let known: Vec<&str> = file.guide.places.iter().map(|place| place.id.as_str()).collect();
    let place = file.guide.place(id).ok_or_else(|| wrong_word("place", id, &known))?;
    read_place_report_file(Path::new(path), file, place).map_err(|error| {
        let note = format!("In that place: setup-ready preflight --format json --output {id}.json");
        Failure::Word { message: format!("{path} cannot be taken along: {error}"), note }
    })
}

pub(crate) fn resolve(typed: &Check, guide: &Guide) -> Result<Selection, Failure> {
    let find = |what: &str, word: &str, known: Vec<&str>| {
        known.iter().position(|one| *one == word).ok_or_else(|| wrong_word(what, word, &known))
    };
    let role = |word: &String| find("role", word, guide.roles.iter().map(|role| role.id.as_str()).collect());
    let stage = |word: &String| find("stage", word, guide.stages.iter().map(|stage| stage.id.as_str()).collect());
    let place = |word: &String| find("place", word, guide.places.iter().map(|place| place.id.as_str()).collect());
    let id = |word: &String| find("requirement", word, guide.requirements.iter().map(|one| one.id.as_str()).collect());
    Ok(Selection {
        role: typed.how.role.as_ref().map(role).transpose()?,
        only: typed.only.iter().map(id).collect::<Result<_, _>>()?,
        stage: typed.stage.as_ref().map(stage).transpose()?,
        place: typed.how.place.as_ref().map(place).transpose()?,
        after_start: typed.after_start,
        offline: typed.how.offline,
        start_all: typed.how.start_all,
        consent: if typed.how.allow_commands { Consent::Given } else { Consent::Withheld },
        advised: Arc::default(),
    })
}

/// A word that the guide does not have, with the nearest that it has.
pub(crate) fn wrong_word(what: &str, word: &str, known: &[&str]) -> Failure {
    let note = match nearest(word, known.iter().copied()) {
        Some(near) => format!("Did you mean {near}?"),
        None if known.is_empty() => format!("The guide has no {what}s."),
        None => {
            let shown: Vec<&str> = known.iter().take(30).copied().collect();
            let rest = if known.len() > shown.len() { format!(" and {} more", known.len() - shown.len()) } else { String::new() };
            format!("The guide has {}{rest}.", join_words(&shown, "and"))
        }
    };
    Failure::Word { message: format!("this guide has no {what} called {word}"), note }
}

fn note_about_roles(guide: &Guide, look: &OutputStyle) {
    let roles: Vec<&str> = guide.roles.iter().map(|role| role.id.as_str()).collect();
    let mut layout = TextLayout::for_errors(look);
    let note =
        format!("Note: this checks what every role needs. To check only what you need: --role {}", join_words(&roles, "or"));
    layout.block(0, &note, Tone::Quiet);
    layout.gap();
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

/// What to type next, with this command.
pub(crate) fn next_commands(command: &str, typed: &Check, shown: &Shown, role: Option<&Role>) -> NextCommands {
    let mut words = vec![format!("setup-ready {command}")];
    let mut option = |name: &str, value: String| words.push(format!("--{name} {value}"));
    let quoted = |text: &str| setup_ready_core::fix::quote(text, setup_ready_core::fix::Shell::Posix);
    let guide = shown.guide.as_ref().map(|guide| quoted(&guide.display().to_string()));
    if let Some(guide) = &guide {
        option("guide", guide.clone());
    }
    if let Some(machine) = &typed.how.machine {
        option("machine", quoted(&machine.display().to_string()));
    }
    if let Some(place) = &typed.how.place {
        option("place", quoted(place));
    }
    typed.how.with.iter().for_each(|with| option("with", quoted(with)));
    if let Some(role) = role {
        option("role", quoted(&role.id));
    }
    if let Some(stage) = &typed.stage {
        option("stage", quoted(stage));
    }
    if !typed.only.is_empty() {
        option("only", quoted(&typed.only.join(",")));
    }
    for (name, on) in [
        ("after-start", typed.after_start),
        ("offline", typed.how.offline),
        ("start-all", typed.how.start_all),
        ("allow-commands", typed.how.allow_commands),
    ] {
        if on {
            words.push(format!("--{name}"));
        }
    }
    NextCommands { again: words.join(" "), with: guide.map(|guide| format!(" --guide {guide}")).unwrap_or_default() }
}
