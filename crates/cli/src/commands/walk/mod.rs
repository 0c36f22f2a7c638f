//! Stage by stage to a ready machine: what is open, what to do, and checked again until it is met.

mod typed;

use super::check::{ask_consent, ask_role, load_guide, looked, memory, next_commands, resolve};
use super::explain::{about, page};
use crate::arguments::{self, Check, How, Shown};
use crate::exit::{Failure, Status};
use crate::keyboard::{Heard, Keyboard, PACE};
use crate::look::report_diff::{ReportDiff, Snapshot};
use crate::look::wording::level;
use crate::look::{OutputStyle, TextLayout, Tone, closing, failure, plan, report};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, Remembered, WalkPlace};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{Level, Requirement, Then};
use setup_ready_core::probe::Probe;
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::selection::Selection;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::{join_words, nearest};
use std::io::Write;
use std::time::Duration;
use typed::{ExplainTarget, WalkCommand, resolve_target};

pub(crate) fn run(
    typed: &arguments::Walk,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    if shown.output.is_some() {
        let message = "walk talks with you and has no result to write to a file".to_owned();
        return Err(Failure::Word { message, note: "Leave out --output, or use preflight or plan.".to_owned() });
    }
    if typed.how.is_recorded() {
        let message = "a recording stays as it is, so there is nothing to walk through with it".to_owned();
        return Err(Failure::Word { message, note: "Use preflight, plan or explain with it.".to_owned() });
    }
    let file = load_guide(shown, look)?;
    let memory = memory::<WalkPlace>(&file, &typed.how);
    let place = memory.as_ref().filter(|_| !typed.anew).and_then(Remembered::read);
    let mut how = typed.how.clone();
    if how.role.is_none() {
        // Somebody who walked before as such a contributor still is one.
        how.role = place.as_ref().and_then(|place| place.role.clone()).filter(|role| file.guide.role(role).is_some());
    }
    let mut selection = resolve(&all_of(&how), &file.guide)?;
    if place.is_none() {
        ask_role(&mut selection, &file.guide, look);
    }
    ask_consent(&mut selection, &how, &file, look);
    how.role = selection.role.and_then(|role| file.guide.roles.get(role)).map(|role| role.id.clone());
    let keyboard = Keyboard::listen();
    let (interrupt, skipped) = (interrupt.clone(), Vec::new());
    let mut walk =
        Walk { file, shown, how, selection, memory, skipped, was_asked: true, not_kept: None, interrupt, keyboard, look };
    let last = place.and_then(|place| walk.stage_of(&place.stage)).unwrap_or(0);
    let first = walk.first_open(last)?;
    walk.open(first, last)?;
    let mut next = first;
    loop {
        let step = if next < walk.file.guide.stages.len() { walk.stage(next)? } else { walk.finish()? };
        match step {
            Step::Stage(index) => next = index,
            Step::Ended(status) => return Ok(status),
        }
    }
}

/// All stages, for this person.
fn all_of(how: &How) -> Check {
    Check { how: how.clone(), only: Vec::new(), stage: None, after_start: true, again: false }
}

struct Walk<'a> {
    file: GuideFile,
    shown: &'a Shown,
    how: How,
    selection: Selection,
    memory: Option<Remembered<WalkPlace>>,
    /// The ids of the stages that the person left as they were.
    skipped: Vec<String>,
    /// The person was asked something since everything was looked at last.
    was_asked: bool,
    /// Why it cannot be remembered where one is.
    not_kept: Option<String>,
    interrupt: Interrupt,
    keyboard: Keyboard,
    look: &'a OutputStyle,
}

/// Where it goes on.
enum Step {
    /// At this stage; behind the last one is the end.
    Stage(usize),
    Ended(Status),
}

impl Walk<'_> {
    /// Writes something, apart from what stands above.
    fn show(&self, draw: impl FnOnce(&mut TextLayout<'_>)) -> Result<(), Failure> {
        let mut layout = TextLayout::new(self.look);
        draw(&mut layout);
        let text = layout.into_text();
        if text.is_empty() { Ok(()) } else { output::write(format!("\n{text}").as_bytes(), None) }
    }

    fn say(&self, text: &str) -> Result<(), Failure> {
        self.show(|layout| layout.block(0, text, Tone::Body))
    }

    fn looked(&self, selection: Selection) -> Result<Report, Failure> {
        looked(&self.file, &self.how, selection, &self.interrupt, self.look)
    }

    fn stage_of(&self, id: &str) -> Option<usize> {
        self.file.guide.stages.iter().position(|stage| stage.id == id)
    }

    /// What to type to go on from here another time.
    fn again(&self) -> String {
        let check = Check { after_start: false, ..all_of(&self.how) };
        let role = self.selection.role.and_then(|role| self.file.guide.roles.get(role));
        next_commands("walk", &check, self.shown, role).again
    }

    fn look_at(&self, stage: usize) -> Result<Report, Failure> {
        self.looked(Selection { stage: Some(stage), ..self.selection.clone() })
    }

    /// The first stage before this one at which something needed is open, also what was met when one left; else this one.
    fn first_open(&self, last: usize) -> Result<usize, Failure> {
        for stage in 0..last {
            let report = self.look_at(stage)?;
            if report.frame.interrupted || needed(&report).next().is_some() {
                return Ok(stage);
            }
        }
        Ok(last)
    }

    fn open(&self, first: usize, last: usize) -> Result<(), Failure> {
        let guide = &self.file.guide;
        let whom = self.how.role.as_ref().map(|role| format!(", for the role {role}")).unwrap_or_default();
        let stages = match guide.stages.len() {
            1 => String::new(),
            count => format!(": {}", report::counted(count, "stage")),
        };
        self.show(|layout| {
            layout.block(0, &format!("Getting this machine ready for {}{stages}{whom}", guide.project.name), Tone::Strong);
            if last > 0 && first == last {
                let text = format!("You were at stage {} last time, so it goes on there. From the beginning: --anew", last + 1);
                layout.block(0, &text, Tone::Quiet);
            } else if last > 0 {
                let text = format!("You were at stage {} last time, but something is open at stage {}.", last + 1, first + 1);
                layout.block(0, &text, Tone::Quiet);
            }
        })
    }

    /// Writes down where one is.
    fn keep(&mut self, stage: Option<usize>) {
        let stage = stage.and_then(|stage| self.file.guide.stages.get(stage)).map(|stage| stage.id.clone());
        let kept = match (&self.memory, stage) {
            (None, _) => Err("there is no place of your own for it".to_owned()),
            (Some(memory), Some(stage)) => {
                memory.write(&WalkPlace { role: self.how.role.clone(), stage }).map_err(|error| error.to_string())
            }
            (Some(memory), None) => memory.forget().map_err(|error| error.to_string()),
        };
        self.not_kept = kept.err();
    }

    /// One stage, until it is done or left.
    fn stage(&mut self, index: usize) -> Result<Step, Failure> {
        // What was skipped is not asked about a second time, where something before it had to be gone back to.
        let stage = self.file.guide.stages.get(index).filter(|stage| !self.skipped.contains(&stage.id)).cloned();
        let Some(stage) = stage else { return Ok(Step::Stage(index + 1)) };
        self.keep(Some(index));
        let report = self.look_at(index)?;
        if report.frame.interrupted {
            return Ok(Step::Ended(Status::Interrupted));
        }
        let is_here = |one: &&RequirementResult| report.requirement(one).is_some_and(|requirement| requirement.stage == index);
        let nothing = report.counting().filter(is_here).all(|one| one.finding.verdict() == Verdict::Skipped);
        if nothing {
            return Ok(Step::Stage(index + 1));
        }
        let count = self.file.guide.stages.len();
        self.show(|layout| {
            if count > 1 {
                layout.heading(&format!("Stage {} of {count}: {}", index + 1, stage.title));
            }
            if let Some(intro) = &stage.intro {
                layout.block(2, intro, Tone::Body);
            }
            if stage.after_start && !stage.start.is_empty() && needed(&report).next().is_some() {
                layout.block(2, "This is looked at while the project runs. Start it first, in another window:", Tone::Body);
                stage.start.iter().for_each(|line| layout.copyable(4, line));
            }
        })?;
        self.stop(index, report)
    }

    /// Waits at a stage until all is met, or the person goes on.
    fn stop(&mut self, stage: usize, mut report: Report) -> Result<Step, Failure> {
        let again = self.again();
        self.show(|layout| draw(layout, &report, (stage, &again)))?;
        // What is only recommended or optional was shown, and keeps nobody.
        while needed(&report).next().is_some() {
            self.was_asked = true;
            let line = match self.hear()? {
                Heard::Line(line) => line,
                Heard::Interrupted => return Ok(Step::Ended(Status::Interrupted)),
                Heard::End | Heard::Nothing => return self.leave("The input has ended. ", &report),
            };
            match WalkCommand::of(&line) {
                WalkCommand::CheckAgain => match self.reload() {
                    // Whoever waits already is not sent away by a guide that is just being written, or fetched.
                    Err(failure) => {
                        output::write(b"\n", None)?;
                        failure::show(&failure, self.look);
                        self.say("The walk waits here meanwhile: press Enter when that is mended.")?;
                    }
                    Ok(true) => {
                        let id = report.guide.stages.get(stage).map(|stage| stage.id.clone()).unwrap_or_default();
                        return Ok(Step::Stage(self.stage_of(&id).unwrap_or(0)));
                    }
                    Ok(false) => {
                        let now = self.look_at(stage)?;
                        if now.frame.interrupted {
                            return Ok(Step::Ended(Status::Interrupted));
                        }
                        self.show(|layout| tell(layout, &now, &Snapshot::of(&report), (stage, &again)))?;
                        report = now;
                    }
                },
                WalkCommand::Explain(what) => self.explain(&report, what.as_deref())?,
                WalkCommand::Skip => {
                    self.skipped.extend(self.file.guide.stages.get(stage).map(|stage| stage.id.clone()));
                    self.say("Skipped. It is looked at once more at the end.")?;
                    return Ok(Step::Stage(stage + 1));
                }
                WalkCommand::Quit => return self.leave("", &report),
                WalkCommand::Help => self.show(|layout| words(layout, &again))?,
                WalkCommand::Unclear(words) => {
                    let text = format!(
                        "{words} is none of the words here: only Enter, explain, skip or quit. Commands are typed in another window, not here."
                    );
                    self.say(&text)?;
                }
            }
        }
        Ok(Step::Stage(stage + 1))
    }

    /// Ends the walk in between.
    fn leave(&self, why: &str, report: &Report) -> Result<Step, Failure> {
        self.say(&format!("{why}To go on from this stage: {}", self.again()))?;
        if let Some(reason) = &self.not_kept {
            self.say(&format!("Where you are could not be remembered ({reason}), so the next walk begins at the first stage."))?;
        }
        Ok(Step::Ended(unfinished(report)))
    }

    /// Reads the guide again: following a step may have fetched a newer one. Says whether it is another one.
    fn reload(&mut self) -> Result<bool, Failure> {
        let file = load_guide(self.shown, self.look)?;
        if file.sha256 == self.file.sha256 && file.path == self.file.path {
            return Ok(false);
        }
        let mut selection = resolve(&all_of(&self.how), &file.guide)?;
        self.say("The guide has changed meanwhile: from here on, the new one is what is checked.")?;
        selection.consent = self.selection.consent.clone();
        ask_consent(&mut selection, &self.how, &file, self.look);
        (self.memory, self.selection, self.file) = (memory(&file, &self.how), selection, file);
        Ok(true)
    }

    fn hear(&mut self) -> Result<Heard, Failure> {
        let mut error = std::io::stderr();
        let mut layout = TextLayout::for_errors(self.look);
        layout.block(0, "Enter: check again. Or type explain, skip or quit, and Enter.", Tone::Strong);
        let _ = error
            .write_all(format!("\n{}", layout.into_text()).as_bytes())
            .and_then(|()| error.write_all(b"> "))
            .and_then(|()| error.flush());
        loop {
            match self.keyboard.hear((Duration::from_secs(3600), PACE), &self.interrupt) {
                Heard::Nothing if !self.keyboard.has_ended() => {}
                heard @ (Heard::Line(_) | Heard::End | Heard::Nothing | Heard::Interrupted) => return Ok(heard),
            }
        }
    }

    fn explain(&self, report: &Report, what: Option<&str>) -> Result<(), Failure> {
        let Some(what) = what else {
            return self.show(|layout| {
                for one in open(report) {
                    about(layout, report, one);
                    layout.gap();
                }
            });
        };
        match resolve_target(&self.file.guide, what) {
            ExplainTarget::Requirement(index) => {
                if let Some(one) = report.settled_at(index) {
                    return self.show(|layout| about(layout, report, one));
                }
                // What belongs to another stage was not looked at here.
                let alone = self.looked(Selection { only: vec![index], ..self.selection.clone() })?;
                self.show(|layout| alone.settled_at(index).into_iter().for_each(|one| about(layout, &alone, one)))
            }
            ExplainTarget::Cause(cause) => self.show(|layout| page(layout, cause, Some(&self.file))),
            ExplainTarget::Nothing => {
                let open = open(report);
                let ids: Vec<&str> = open.iter().filter_map(|one| report.requirement(one)).map(|one| one.id.as_str()).collect();
                let near = nearest(what, ids.iter().copied()).map(|near| format!(" Did you mean {near}?")).unwrap_or_default();
                self.say(&format!("Nothing in this guide is called {what}.{near} Open here: {}.", join_words(&ids, "and")))
            }
        }
    }

    /// Behind the last stage: everything once more, for what was skipped and what has changed. What broke meanwhile is gone back to.
    fn finish(&mut self) -> Result<Step, Failure> {
        let report = self.looked(self.selection.clone())?;
        let stage_of = |one: &RequirementResult| report.requirement(one).map(|one| one.stage);
        let is_new = |stage: &usize| {
            self.file.guide.stages.get(*stage).is_some_and(|stage| !self.skipped.contains(&stage.id)) && self.was_asked
        };
        let back = needed(&report).filter_map(stage_of).filter(is_new).min().filter(|_| !report.frame.interrupted);
        if let Some(stage) = back {
            self.was_asked = false;
            let place = if self.file.guide.stages.len() > 1 { format!(" at stage {}", stage + 1) } else { String::new() };
            self.say(&format!("Everything was looked at once more, and something is open{place}: back there."))?;
            return Ok(Step::Stage(stage));
        }
        let still = open(&report);
        let titles: Vec<String> = still.iter().filter_map(|one| report.requirement(one)).map(Requirement::title).collect();
        self.keep(still.iter().filter_map(|one| stage_of(one)).min().filter(|_| report.outcome() != Outcome::Ready));
        let check = Check { after_start: false, ..all_of(&self.how) };
        let next = next_commands("walk", &check, self.shown, report.role.and_then(|role| self.file.guide.roles.get(role)));
        self.show(|layout| {
            layout.heading("Everything, once more");
            if !titles.is_empty() {
                layout.block(0, &format!("Still open: {}.", join_words(&titles, "and")), Tone::Body);
                layout.gap();
            }
            closing::draw(layout, &report, &next);
        })?;
        Ok(Step::Ended(if report.frame.interrupted { Status::Interrupted } else { report.outcome().into() }))
    }
}

/// What is open of a report, those that wait too.
fn open(report: &Report) -> Vec<&RequirementResult> {
    report.counting().filter(|one| !one.finding.verdict().is_fine()).collect()
}

/// What is open and needed.
fn needed(report: &Report) -> impl Iterator<Item = &RequirementResult> {
    report.counting().filter(|one| !one.finding.verdict().is_fine() && level(report, one) == Level::Must)
}

/// How one stands who ends in between: not everything was looked at.
fn unfinished(report: &Report) -> Status {
    if report.outcome() == Outcome::NotReady { Status::NotReady } else { Status::Undecided }
}

fn draw(layout: &mut TextLayout<'_>, report: &Report, (stage, again): (usize, &str)) {
    report::draw_open(layout, report, stage);
    plan::draw(layout, report);
    if let Some(then) = report.plan.then.iter().max() {
        let then = match then {
            Then::NewShell => "in the new terminal",
            Then::SignIn => "when you are signed in again",
            Then::Restart => "after the restart",
        };
        layout.gap();
        layout.block(2, &format!("Type {again} {then}: it goes on from this stage."), Tone::Quiet);
    }
}

/// What came of another look.
fn tell(layout: &mut TextLayout<'_>, report: &Report, before: &Snapshot, (stage, again): (usize, &str)) {
    let news = ReportDiff::between(before, report);
    news.draw(layout);
    news.draw_open(layout);
    if !news.is_empty() && !open(report).is_empty() {
        layout.gap();
        draw(layout, report, (stage, again));
    } else if open(report).iter().flat_map(|one| &one.finding.evidence).any(|answer| is_of_this_window(&answer.probe)) {
        let text = format!(
            "What you set in another window, such as a variable or PATH, is set only there: type quit, and there {again}."
        );
        layout.block(0, &text, Tone::Quiet);
    }
}

/// Whether an answer rests on what is set where this program runs.
fn is_of_this_window(probe: &Probe) -> bool {
    matches!(probe, Probe::Variable { .. } | Probe::Program { .. })
}

/// What can be typed, and what each does.
fn words(layout: &mut TextLayout<'_>, again: &str) {
    let quit = format!("stop here; {again} goes on from this stage");
    let all = [
        ("Enter", "after you have done, in another window, what it says: it is looked at again"),
        ("explain", "everything about what is open; or explain and the name of one"),
        ("skip", "go on without it; it is looked at once more at the end"),
        ("quit", &quit),
    ];
    for (word, what) in all {
        layout.labelled(2, (word, Tone::Strong), 10, (what, Tone::Body));
    }
}
