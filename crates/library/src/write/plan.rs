//! The plan by itself: as JSON, as Markdown to paste into a question, and as a script to read before running.

use super::json::write_json;
use super::markdown::{block, plain};
use crate::fix::{Shell, Source, quote};
use crate::guide::{Level, Requirement, Then};
use crate::plan::Step;
use crate::report::Report;
use crate::text::{Sanitised, is_simple, join_words};
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
pub(super) fn line(text: &str) -> String {
    Sanitised::line(text).to_string()
}

pub(super) fn titles(report: &Report, step: &Step) -> String {
    let titles = step.settles.iter().filter_map(|index| report.guide.requirements.get(*index)).map(Requirement::title);
    join_words(&titles.collect::<Vec<_>>(), "and")
}

pub(super) fn marks(step: &Step) -> String {
    let presumed = step.fix.presumed.then_some("after that, most likely");
    let marks: Vec<&str> =
        presumed.into_iter().chain(step.fix.admin.then_some("needs admin rights")).chain(step.level.label()).collect();
    if marks.is_empty() { String::new() } else { format!(" ({})", marks.join(", ")) }
}

/// What is to be done after a step, so that it has an effect.
#[cfg(feature = "desk")]
pub(super) fn afterwards(then: Then) -> &'static str {
    match then {
        Then::NewShell => "Then open a new terminal.",
        Then::SignIn => "Then sign out and in again.",
        Then::Restart => "Then restart.",
    }
}

/// What a step does, as an item of a list in Markdown: what to type, what to write into which file, and what to mind.
pub(super) fn does(step: &Step, writer: &mut dyn Write) -> io::Result<()> {
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
        if let Some(sign) = report.worked_if(step) {
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
pub(super) const YOURS: &str = "YOUR-VALUE";

/// Writes the plan as a script for sh, to be read before it is run. Where only a person can do a step, it says so when it gets there, and waits where
/// there is a terminal; commands for another shell stand in it as comments. A script that is run does what is needed; what is only recommended is left as comments too.
///
/// # Errors
/// When the writer fails.
pub fn plan_sh(report: &Report, mut writer: impl Write) -> io::Result<()> {
    writeln!(writer, "#!/bin/sh")?;
    writeln!(writer, "# What would make this machine ready for {}.", line(&report.guide.project.name))?;
    writeln!(writer, "# Read it before you run it, in the project's folder. Nobody else has: the guide's author and")?;
    writeln!(
        writer,
        "# setup-ready {} made it. Where only a person can do a step, it says so and waits.",
        line(&report.frame.software)
    )?;
    writeln!(writer, "set -eu")?;
    writer.write_all(PERSON.as_bytes())?;
    // A shell that has read a whole function needs nothing more of this file, which a step could otherwise read as its input.
    writeln!(writer, "steps() {{")?;
    let mut interrupted = false;
    for (number, step) in report.plan.steps.iter().enumerate() {
        writeln!(writer, "\n# {}. {}{}", number + 1, line(&step.fix.say), marks(step))?;
        writeln!(writer, "#    Settles {}.", line(&titles(report, step)))?;
        remarks(step, &mut writer)?;
        let other_shell = report.shell != Shell::Posix;
        let asks = step.fix.own_value.is_some()
            || step.fix.run.iter().any(|command| command.contains(YOURS))
            || step.fix.edit.as_ref().is_some_and(|edit| edit.append.contains(YOURS));
        let not_allowed = step.fix.admin && report.rights == Some(false);
        let replaces = step.fix.edit.as_ref().is_some_and(|edit| edit.line.is_some() || edit.replaces.is_some());
        let comment = other_shell || asks || replaces || interrupted || not_allowed || step.level != Level::Must;
        let of_a_person = asks || replaces || not_allowed || (!step.fix.acts() && step.fix.then.is_none());
        if comment && !step.fix.run.is_empty() {
            let why = if other_shell {
                "It is written for another shell:"
            } else if interrupted {
                "Only after the step above, in a script of its own (setup-ready plan makes it then):"
            } else if not_allowed {
                "For whoever looks after this machine:"
            } else if asks {
                "Put in your own value first:"
            } else {
                "It is not needed; if you want it:"
            };
            writeln!(writer, "#    {why}")?;
        }
        // Each step stands alone: what it does to its shell ends with it, apart from variables that the software itself sets for later ones.
        let apart = !comment && !step.fix.run.iter().all(|command| is_setting(step, command));
        if apart {
            writeln!(writer, "(")?;
        }
        for text in &step.fix.run {
            let start = if comment { "#      " } else { "" };
            // What is no simple line is handed over as one text, so that no other line can become a part of it.
            let text = if comment || is_simple(text) { text.clone() } else { format!("eval {}", quote(text, Shell::Posix)) };
            writeln!(writer, "{start}{}", Sanitised::command(&text))?;
        }
        if apart {
            writeln!(writer, ")")?;
        }
        if let Some(edit) = &step.fix.edit {
            let file = match edit.file.strip_prefix("~/") {
                Some(rest) => format!("\"$HOME\"/{}", quote(&line(rest), Shell::Posix)),
                None => quote(&line(&edit.file), Shell::Posix),
            };
            let start = if comment { "#      " } else { "" };
            if let Some(number) = edit.line {
                writeln!(writer, "#    It stands in the place of line {number}:")?;
            } else if let Some(pattern) = &edit.replaces {
                writeln!(writer, "#    It stands in the place of what fits {}:", line(pattern))?;
            }
            if !comment && edit.append.contains('$') {
                writeln!(writer, "# The line is written as it stands.\n# shellcheck disable=SC2016")?;
            }
            for text in edit.append.lines() {
                writeln!(writer, "{start}printf '%s\\n' {} >> {file}", quote(&line(text), Shell::Posix))?;
            }
        }
        if of_a_person && !interrupted && !other_shell && step.level == Level::Must {
            let lines = errand(number + 1, step, not_allowed);
            let lines: Vec<String> = lines.iter().map(|text| quote(text, Shell::Posix)).collect();
            writeln!(writer, "person {}", lines.join(" "))?;
        }
        interrupted |= step.fix.then.is_some() && !step.fix.acts();
    }
    let text = goodbye(report);
    writeln!(writer, "\necho {}", quote(&text, Shell::Posix))?;
    writeln!(writer, "}}\nsteps")
}

/// What follows when all is done: the last line.
pub(super) fn goodbye(report: &Report) -> String {
    let then = report.plan.then.iter().max().map(|then| match then {
        Then::NewShell => "open a new terminal",
        Then::SignIn => "sign out completely and in again",
        Then::Restart => "restart the machine",
    });
    let role = report.role.and_then(|role| report.guide.roles.get(role)).map(|role| format!(" --role {}", role.id));
    let stage = report.stage.and_then(|stage| report.guide.stages.get(stage)).map(|stage| format!(" --stage {}", stage.id));
    let again = format!("setup-ready preflight{}{}", role.unwrap_or_default(), stage.unwrap_or_default());
    match then {
        Some(then) => format!("Now {then}, then check again: {again}"),
        None => format!("Now check again: {again}"),
    }
}

/// Tells what only a person can do, and waits until they say that it is done: where there is a terminal to ask them at.
const PERSON: &str = r#"person() {
    echo
    printf '%s\n' "$@"
    if (: < /dev/tty) 2> /dev/null; then
        printf 'Press Enter when that is done, or Ctrl-C to stop here. '
        read -r _ < /dev/tty || exit 1
    fi
}
"#;

/// A step for a person, as they read it when the script gets there, a line each: what to do and what to type.
pub(super) fn errand(number: usize, step: &Step, not_allowed: bool) -> Vec<String> {
    let whose = if not_allowed { "For whoever looks after this machine" } else { "For you" };
    let mut lines = vec![format!("{whose}, step {number}: {}", line(&step.fix.say))];
    lines.extend(step.fix.run.iter().map(|command| format!("    {}", line(command))));
    lines.extend(step.fix.edit.iter().map(|edit| format!("    {} {}", line(&edit.task()), line(&edit.append))));
    lines
}

/// What is to be known of a step, as comments.
fn remarks(step: &Step, writer: &mut impl Write) -> io::Result<()> {
    if let Some(choice) = &step.fix.choice {
        writeln!(writer, "#    {}", line(choice))?;
    }
    if let Some(caution) = &step.fix.caution {
        writeln!(writer, "#    Mind: {}", line(caution))?;
    }
    if let Some(other) = &step.fix.otherwise {
        writeln!(writer, "#    The next way: {}", line(&other.say))?;
        for text in other.run.iter().chain(other.edit.iter().map(|edit| &edit.append)) {
            writeln!(writer, "#      {}", Sanitised::command(&line(text)))?;
        }
    }
    Ok(())
}

/// Whether a command only sets a variable of the shell, and is ours.
fn is_setting(step: &Step, command: &str) -> bool {
    step.fix.source != Source::Guide && command.starts_with("export ")
}
