//! Stage by stage to a ready machine: what is open, what to do, and checked again until it is met.

use super::check::{ask_consent, ask_role, load_guide, looked, memory, next_commands, resolve};
use super::explain::about;
use crate::arguments::{self, Check, How, Shown};
use crate::exit::{Failure, Status};
use crate::keyboard::{Heard, Keyboard, PACE};
use crate::look::wording::level;
use crate::look::{Ink, Look, Paper, closing, plan, report};
use crate::output;
use build_setup_ready::finding::Verdict;
use build_setup_ready::guide::{Level, Requirement, Then};
use build_setup_ready::report::{Outcome, Report};
use build_setup_ready::selection::Selection;
use build_setup_ready::settled::Settled;
use build_setup_ready::text::{join_words, nearest};
use build_setup_ready::{GuideFile, Interrupt, Remembered, WalkPlace};
use std::io::Write;
use std::time::Duration;

pub(crate) fn run(typed: &arguments::Walk, shown: &Shown, (interrupt, look): (&Interrupt, &Look)) -> Result<Status, Failure> {
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
    let check = Check { how: how.clone(), only: Vec::new(), stage: None, after_start: true, again: false };
    let mut selection = resolve(&check, &file.guide)?;
    if place.is_none() {
        ask_role(&mut selection, &file.guide, look);
    }
    ask_consent(&mut selection, &how, &file, look);
    how.role = selection.role.and_then(|role| file.guide.roles.get(role)).map(|role| role.id.clone());
    let stage_of = |place: WalkPlace| file.guide.stages.iter().position(|stage| stage.id == place.stage);
    let first = place.and_then(stage_of).unwrap_or(0);
    let mut walk = Walk { file: &file, how, selection, memory, interrupt: interrupt.clone(), keyboard: Keyboard::listen(), look };
    walk.open(first)?;
    for stage in first..file.guide.stages.len() {
        if let Some(status) = walk.stage(stage)? {
            return Ok(status);
        }
    }
    walk.finish(shown)
}

struct Walk<'f, 'l> {
    file: &'f GuideFile,
    how: How,
    selection: Selection,
    memory: Option<Remembered<WalkPlace>>,
    interrupt: Interrupt,
    keyboard: Keyboard,
    look: &'l Look,
}

/// What the person wants at a stop.
enum Wish {
    CheckAgain,
    Explain(Option<String>),
    Skip,
    Quit,
    Unclear(String),
}

impl Wish {
    fn of(line: &str) -> Self {
        let mut words = line.split_whitespace();
        let (first, second) = (words.next(), words.next());
        match (first.map(str::to_lowercase).as_deref(), second) {
            (None, _) => Self::CheckAgain,
            (Some("explain" | "e"), id) => Self::Explain(id.map(ToOwned::to_owned)),
            (Some("skip" | "s"), None) => Self::Skip,
            (Some("quit" | "q" | "exit"), None) => Self::Quit,
            _ => Self::Unclear(line.trim().to_owned()),
        }
    }
}

/// Why a stage is left.
enum Left {
    Done,
    Skipped,
    Ended(Status),
}

impl Walk<'_, '_> {
    /// Writes something, apart from what stands above.
    fn show(&self, draw: impl FnOnce(&mut Paper<'_>)) -> Result<(), Failure> {
        let mut paper = Paper::new(self.look);
        draw(&mut paper);
        output::write(format!("\n{}", paper.into_text()).as_bytes(), None)
    }

    fn say(&self, text: &str) -> Result<(), Failure> {
        self.show(|paper| paper.block(0, text, Ink::Body))
    }

    fn looked(&self, selection: Selection) -> Result<Report, Failure> {
        looked(self.file, &self.how, selection, &self.interrupt, self.look)
    }

    fn open(&self, first: usize) -> Result<(), Failure> {
        let guide = &self.file.guide;
        let count = guide.stages.len();
        let whom = self.how.role.as_ref().map(|role| format!(", for the role {role}")).unwrap_or_default();
        self.show(|paper| {
            let title =
                format!("Getting this machine ready for {}: {}{whom}", guide.project.name, report::counted(count, "stage"));
            paper.block(0, &title, Ink::Strong);
            if first > 0 {
                let text = format!("You were at stage {} last time, so it goes on there. From the beginning: --anew", first + 1);
                paper.block(0, &text, Ink::Quiet);
            }
        })
    }

    /// One stage, until it is done or left. Gives the exit status where the walk ends with it.
    fn stage(&mut self, index: usize) -> Result<Option<Status>, Failure> {
        let guide = &self.file.guide;
        let Some(stage) = guide.stages.get(index) else { return Ok(None) };
        if let Some(memory) = &self.memory {
            // Nothing is lost where it cannot be remembered: the next walk starts at the beginning.
            let _ = memory.write(&WalkPlace { role: self.how.role.clone(), stage: stage.id.clone() });
        }
        let report = self.looked(Selection { stage: Some(index), ..self.selection.clone() })?;
        if report.frame.interrupted {
            return Ok(Some(Status::Interrupted));
        }
        let is_here = |one: &&Settled| report.requirement(one).is_some_and(|requirement| requirement.stage == index);
        let nothing = report.counting().filter(is_here).all(|one| one.finding.verdict() == Verdict::Skipped);
        if nothing {
            return Ok(None);
        }
        let title = format!("Stage {} of {}: {}", index + 1, guide.stages.len(), stage.title);
        self.show(|paper| {
            paper.heading(&title);
            if let Some(intro) = &stage.intro {
                paper.block(2, intro, Ink::Body);
            }
        })?;
        Ok(match self.stop(index, report)? {
            Left::Done => None,
            Left::Skipped => {
                self.say("Skipped. It is looked at once more at the end.")?;
                None
            }
            Left::Ended(status) => Some(status),
        })
    }

    /// Waits at a stage until all is met, or the person goes on.
    fn stop(&mut self, stage: usize, mut report: Report) -> Result<Left, Failure> {
        self.show(|paper| draw(paper, &report, stage))?;
        loop {
            let open = open(&report);
            // What is only recommended or optional was shown, and keeps nobody.
            if !open.iter().any(|one| level(&report, one) == Level::Must) {
                return Ok(Left::Done);
            }
            let line = match self.hear()? {
                Heard::Line(line) => line,
                Heard::Interrupted => return Ok(Left::Ended(Status::Interrupted)),
                Heard::End | Heard::Nothing => {
                    self.say("The input has ended. To go on from this stage: setup-ready walk")?;
                    return Ok(Left::Ended(unfinished(&report)));
                }
            };
            match Wish::of(&line) {
                Wish::CheckAgain => {
                    let before = open.iter().map(|one| (one.index, report.message(one))).collect::<Vec<_>>();
                    let only: Vec<usize> = before.iter().map(|(index, _)| *index).collect();
                    let now = self.looked(Selection { only, stage: None, ..self.selection.clone() })?;
                    if now.frame.interrupted {
                        return Ok(Left::Ended(Status::Interrupted));
                    }
                    self.show(|paper| news(paper, &now, (&before, stage)))?;
                    report = now;
                }
                Wish::Explain(id) => self.explain(&report, &open, id.as_deref())?,
                Wish::Skip => return Ok(Left::Skipped),
                Wish::Quit => {
                    self.say("To go on from this stage: setup-ready walk")?;
                    return Ok(Left::Ended(unfinished(&report)));
                }
                Wish::Unclear(words) => {
                    self.say(&format!("{words} is none of the words here: only Enter, explain, skip or quit."))?;
                }
            }
        }
    }

    fn hear(&mut self) -> Result<Heard, Failure> {
        let mut error = std::io::stderr();
        let mut paper = Paper::for_errors(self.look);
        paper.block(0, "Enter: check again. Or type explain, skip or quit, and Enter.", Ink::Strong);
        let _ = error
            .write_all(format!("\n{}", paper.into_text()).as_bytes())
            .and_then(|()| error.write_all(b"> "))
            .and_then(|()| error.flush());
        loop {
            match self.keyboard.hear((Duration::from_hours(1), PACE), &self.interrupt) {
                Heard::Nothing if !self.keyboard.has_ended() => {}
                heard @ (Heard::Line(_) | Heard::End | Heard::Nothing | Heard::Interrupted) => return Ok(heard),
            }
        }
    }

    fn explain(&self, report: &Report, open: &[&Settled], id: Option<&str>) -> Result<(), Failure> {
        let ids: Vec<&str> = open.iter().filter_map(|one| report.requirement(one)).map(|one| one.id.as_str()).collect();
        let of = |id: &str| report.settled_of(id);
        match id {
            None => self.show(|paper| {
                for one in open {
                    about(paper, report, one);
                    paper.gap();
                }
            }),
            Some(id) => {
                if let Some(one) = of(id) {
                    return self.show(|paper| about(paper, report, one));
                }
                let near = nearest(id, ids.iter().copied()).map(|near| format!(" Did you mean {near}?")).unwrap_or_default();
                self.say(&format!("{id} is not open here.{near} Open: {}.", join_words(&ids, "and")))
            }
        }
    }

    /// Behind the last stage: everything once more, for what was skipped and what has changed.
    fn finish(&self, shown: &Shown) -> Result<Status, Failure> {
        let report = self.looked(self.selection.clone())?;
        let still = open(&report);
        let titles: Vec<String> = still.iter().filter_map(|one| report.requirement(one)).map(Requirement::title).collect();
        let first = still.iter().filter_map(|one| report.requirement(one)).map(|one| one.stage).min();
        if let Some(memory) = &self.memory {
            let stage = first.and_then(|stage| self.file.guide.stages.get(stage));
            let _ = match stage.filter(|_| report.outcome() != Outcome::Ready) {
                Some(stage) => memory.write(&WalkPlace { role: self.how.role.clone(), stage: stage.id.clone() }),
                None => memory.forget(),
            };
        }
        let check =
            Check { how: self.how.clone(), only: Vec::new(), stage: None, after_start: self.selection.after_start, again: false };
        self.show(|paper| {
            paper.heading("Everything, once more");
            if !titles.is_empty() {
                paper.block(0, &format!("Still open: {}.", join_words(&titles, "and")), Ink::Body);
                paper.gap();
            }
            closing::draw(
                paper,
                &report,
                &next_commands(&check, shown, report.role.and_then(|role| self.file.guide.roles.get(role))),
            );
        })?;
        Ok(if report.frame.interrupted { Status::Interrupted } else { report.outcome().into() })
    }
}

/// What is open of a report, those that wait too.
fn open(report: &Report) -> Vec<&Settled> {
    report.counting().filter(|one| !one.finding.verdict().is_fine()).collect()
}

/// How one stands who ends in between: not everything was looked at.
fn unfinished(report: &Report) -> Status {
    if report.outcome() == Outcome::NotReady { Status::NotReady } else { Status::Undecided }
}

fn draw(paper: &mut Paper<'_>, report: &Report, stage: usize) {
    report::draw_open(paper, report, stage);
    plan::draw(paper, report);
    if let Some(then) = report.plan.then.iter().max() {
        let then = match then {
            Then::NewShell => "in the new terminal",
            Then::SignIn => "when you are signed in again",
            Then::Restart => "after the restart",
        };
        paper.gap();
        paper.block(2, &format!("Type setup-ready walk {then}: it goes on from this stage."), Ink::Quiet);
    }
}

/// What came of another look.
fn news(paper: &mut Paper<'_>, report: &Report, (before, stage): (&[(usize, String)], usize)) {
    let title = |one: &Settled| report.requirement(one).map(Requirement::title).unwrap_or_default();
    let still = open(report);
    let was_open = |one: &&Settled| before.iter().any(|(index, _)| *index == one.index);
    let met: Vec<String> = report.counting().filter(|one| one.finding.verdict().is_fine()).filter(was_open).map(title).collect();
    if !met.is_empty() {
        paper.labelled(0, ("Met now:", Ink::Good), 9, (&format!("{}.", join_words(&met, "and")), Ink::Body));
    }
    let same = |one: &&&Settled| before.iter().any(|(index, message)| *index == one.index && *message == report.message(one));
    if still.is_empty() {
        return;
    }
    if met.is_empty() && still.iter().filter(same).count() == still.len() {
        let titles: Vec<String> = still.iter().map(|one| title(one)).collect();
        paper.block(0, &format!("Nothing has changed yet. Still open: {}.", join_words(&titles, "and")), Ink::Body);
    } else {
        paper.gap();
        draw(paper, report, stage);
    }
}
