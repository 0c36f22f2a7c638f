//! Stays, and looks again whenever something changes, until all that is needed is met.

use super::check::{checked, load_guide};
use super::preflight::{note, status, text};
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::keyboard::{Heard, Keyboard};
use crate::look::report_diff::{ReportDiff, Snapshot};
use crate::look::{Detail, OutputStyle, TextLayout, closing, failure};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, Live, Watch};
use setup_ready_core::report::{Outcome, Report};
use std::path::Path;
use std::time::Duration;

/// How often it is looked whether anything changed.
const PACE: Duration = Duration::from_millis(500);

/// Why it is looked again, or not.
enum Reason {
    Changed(String),
    Asked,
    Quit,
    Interrupted,
}

pub(super) fn run(
    typed: &arguments::Preflight,
    shown: &Shown,
    interrupt: &Interrupt,
    look: &OutputStyle,
) -> Result<Status, Failure> {
    let mut check = typed.check.clone();
    let mut keyboard: Option<Keyboard> = None;
    let mut earlier: Option<(GuideFile, Report)> = None;
    loop {
        // A yes holds for exactly what was shown.
        let before = earlier.as_ref().map(|(_, report)| report);
        let looked = load_guide(shown, look).and_then(|file| {
            let report = checked(&file, (&check, before), (keyboard.is_none(), interrupt), look)?;
            Ok((file, report))
        });
        let is_whole = looked.is_ok();
        match (looked, &earlier) {
            (Ok((file, report)), _) => {
                show(&report, before, (typed, shown), look)?;
                if matches!(report.outcome(), Outcome::Ready | Outcome::ReadyInPart) || report.frame.interrupted {
                    return Ok(status(&report));
                }
                check.how.role = report.role.and_then(|role| file.guide.roles.get(role)).map(|role| role.id.clone());
                earlier = Some((file, report));
            }
            // Whoever waits already is not sent away by a guide that is just being written, or fetched.
            (Err(reason), Some(_)) => failure::show(&reason, look),
            (Err(reason), None) => return Err(reason),
        }
        let Some((file, report)) = &earlier else { continue };
        // From here on the keyboard is listened to all the time.
        let keyboard = keyboard.get_or_insert_with(Keyboard::listen);
        let machine = Live::for_guide(file);
        let files: Vec<&Path> = [Some(file.path.as_path()), check.how.machine.as_deref()].into_iter().flatten().collect();
        let seen = if is_whole { Watch::new(report, &files, &machine) } else { Watch::of_files(&files) };
        let what = if is_whole { "something changes" } else { "that is mended" };
        let waiting = if keyboard.has_ended() {
            format!("Waiting until {what}. Ctrl-C ends it.")
        } else {
            format!("Waiting until {what}, or you press Enter. Ctrl-C ends it.")
        };
        note(&waiting, look);
        match wait(&seen, keyboard, (&machine, interrupt)) {
            Reason::Changed(what) => note(&format!("Changed: {what}. Checking again."), look),
            Reason::Asked => note("You pressed Enter. Checking again.", look),
            Reason::Quit => return Ok(status(report)),
            Reason::Interrupted => return Ok(Status::Interrupted),
        }
    }
}

/// The report, after what is different in it; where nothing is, only how one stands. A file that is named has the whole report, and nothing else.
fn show(
    report: &Report,
    before: Option<&Report>,
    (typed, shown): (&arguments::Preflight, &Shown),
    look: &OutputStyle,
) -> Result<(), Failure> {
    if shown.output.as_ref().is_some_and(|path| path.as_os_str() != "-") {
        return output::write(&text(report, &typed.check, shown, look), shown.output.as_deref());
    }
    let news = before.map(|before| ReportDiff::between(&Snapshot::of(before), report));
    let is_new = news.as_ref().is_none_or(|news| !news.is_empty());
    let mut layout = TextLayout::new(look);
    if let Some(news) = news.filter(|_| look.detail != Detail::Quiet) {
        news.draw(&mut layout);
        layout.gap();
    }
    if !is_new {
        closing::standing(&mut layout, report);
    }
    let mut told = layout.into_text().into_bytes();
    if is_new {
        told.extend(text(report, &typed.check, shown, look));
    }
    output::write(&told, None)
}

fn wait(seen: &Watch, keyboard: &mut Keyboard, (machine, interrupt): (&Live, &Interrupt)) -> Reason {
    let mut listening = seen.listen(machine);
    loop {
        match keyboard.hear((PACE, PACE), interrupt) {
            Heard::Interrupted => return Reason::Interrupted,
            Heard::Line(line) if is_quit(&line) => return Reason::Quit,
            Heard::Line(_) => return Reason::Asked,
            Heard::Nothing | Heard::End => {}
        }
        if let Some(changed) = listening.changed() {
            // What is being written may not be whole yet.
            std::thread::sleep(PACE / 2);
            return Reason::Changed(changed);
        }
    }
}

fn is_quit(line: &str) -> bool {
    ["quit", "q", "exit"].iter().any(|word| line.trim().eq_ignore_ascii_case(word))
}
