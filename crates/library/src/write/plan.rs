//! The plan by itself: as JSON, as Markdown to paste into a question, and as a script to read before running.

use super::json::write_json;
use super::markdown::{block, plain};
use setup_ready_core::guide::{Requirement, Then};
use setup_ready_core::plan::Step;
use setup_ready_core::report::Report;
use setup_ready_core::text::{Sanitised, join_words};
use std::io::{self, Write};

/// Writes the plan as JSON, version 1, ending with a line end.
///
/// # Errors
/// When the writer fails.
pub fn plan_json(report: &Report, mut writer: impl Write) -> io::Result<()> {
    write_json(&report.plan_alone(), &mut writer)?;
    writer.write_all(b"\n")
}

/// One line of anybody's text: what would act on a terminal, or end the line, is made visible.
pub fn line(text: &str) -> String {
    Sanitised::line(text).to_string()
}

pub fn titles(report: &Report, step: &Step) -> String {
    let titles = step.settles.iter().filter_map(|index| report.guide.requirements.get(*index)).map(Requirement::title);
    join_words(&titles.collect::<Vec<_>>(), "and")
}

pub fn marks(step: &Step) -> String {
    let presumed = step.fix.presumed.then_some("after that, most likely");
    let marks: Vec<&str> =
        presumed.into_iter().chain(step.fix.admin.then_some("needs admin rights")).chain(step.level.label()).collect();
    if marks.is_empty() { String::new() } else { format!(" ({})", marks.join(", ")) }
}

/// What is to be done after a step, so that it has an effect.
pub fn afterwards(then: Then) -> &'static str {
    match then {
        Then::NewShell => "Then open a new terminal.",
        Then::SignIn => "Then sign out and in again.",
        Then::Restart => "Then restart.",
    }
}

/// What a step does, as an item of a list in Markdown: what to type, what to write into which file, and what to mind.
pub fn does(step: &Step, writer: &mut dyn Write) -> io::Result<()> {
    let lines: Vec<&String> = step.fix.run.iter().collect();
    if !lines.is_empty() {
        block(writer, "   ", &lines)?;
    }
    // A block has a blank line around it already.
    let gap = |after_block: bool| if after_block { "" } else { "\n" };
    if let Some(edit) = &step.fix.edit {
        writeln!(writer, "{}   {}", gap(!lines.is_empty()), plain(&edit.task()))?;
        block(writer, "   ", &[&edit.append])?;
    }
    if let Some(caution) = &step.fix.caution {
        writeln!(writer, "{}   Mind: {}\n", gap(step.fix.acts()), plain(caution))?;
    }
    Ok(())
}

/// Writes the plan as Markdown.
///
/// # Errors
/// When the writer fails.
pub fn plan_markdown(report: &Report, mut writer: impl Write) -> io::Result<()> {
    writeln!(writer, "# What to do for {}\n", plain(&report.guide.project.name))?;
    if report.plan.steps.is_empty() {
        return writeln!(writer, "Nothing.");
    }
    for (number, step) in report.plan.steps.iter().enumerate() {
        writeln!(writer, "{}. {}{}", number + 1, plain(&step.fix.say), marks(step))?;
        does(step, &mut writer)?;
        if let Some(choice) = &step.fix.choice {
            writeln!(writer, "   {}\n", plain(choice))?;
        }
        if let Some(other) = &step.fix.otherwise {
            writeln!(writer, "   The next way: {}", plain(&other.say))?;
            block(&mut writer, "   ", &other.run.iter().chain(other.edit.iter().map(|edit| &edit.append)).collect::<Vec<_>>())?;
        }
        writeln!(writer, "   Settles {}.\n", plain(&titles(report, step)))?;
        if let Some(sign) = report.success_check(step) {
            writeln!(writer, "   {}\n", plain(&sign))?;
        }
    }
    if !report.request.is_empty() {
        writeln!(writer, "## To send to whoever looks after this machine")?;
        block(&mut writer, "", &report.request.iter().collect::<Vec<_>>())?;
    }
    Ok(())
}

/// Stands in commands where only the person knows what to write.
pub const YOURS: &str = "YOUR-VALUE";

/// What a script tells people to type next: whoever embeds this library knows what their program is called.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Invocations {
    /// To check again.
    pub check: String,
    /// To have another script made.
    pub plan: String,
}

impl Default for Invocations {
    /// No program is named.
    fn default() -> Self {
        Self { check: "with the program that made this".to_owned(), plan: "let the program make another".to_owned() }
    }
}

/// For which machine a script is made, in a line.
pub fn made_for(report: &Report) -> String {
    let system = report.system.as_ref().map_or_else(|| "a system that could not be found out".to_owned(), ToString::to_string);
    line(&format!("It was made for one machine: {system}."))
}

/// What follows when all is done: the last line.
pub fn goodbye(report: &Report, invocations: &Invocations) -> String {
    let then = report.plan.then.iter().max().map(|then| match then {
        Then::NewShell => "open a new terminal",
        Then::SignIn => "sign out completely and in again",
        Then::Restart => "restart the machine",
    });
    let again = &invocations.check;
    match then {
        Some(then) => format!("Now {then}, then check again: {again}"),
        None => format!("Now check again: {again}"),
    }
}

/// A step for a person, as they read it when the script gets there, a line each: what to do and what to type.
pub fn errand(number: usize, step: &Step, not_allowed: bool) -> Vec<String> {
    let whose = if not_allowed { "For whoever looks after this machine" } else { "For you" };
    let mut lines = vec![format!("{whose}, step {number}: {}", line(&step.fix.say))];
    lines.extend(step.fix.run.iter().map(|command| format!("    {}", line(command))));
    lines.extend(step.fix.edit.iter().map(|edit| format!("    {} {}", line(&edit.task()), line(&edit.append))));
    lines
}
