//! The plan as a script for sh, to be read before it is run.

use super::plan::{Invocations, YOURS, errand, goodbye, line, made_for, marks, titles};
use setup_ready_core::fix::{Shell, Source, quote};
use setup_ready_core::guide::{Edit, Level};
use setup_ready_core::known::Known;
use setup_ready_core::observation::{Observation, Os};
use setup_ready_core::plan::Step;
use setup_ready_core::probe::Probe;
use setup_ready_core::report::Report;
use setup_ready_core::text::{Sanitised, is_simple};
use std::io::{self, Write};
use std::path::Path;

/// What the script is made of: a step is named before it is done, and named again where it did not work; a person's step is told and waited for,
/// where there is a terminal to ask at; lines are written into a file once, and on lines of their own.
const PARTS: &str = r#"# How steps are told, and lines are written; the steps themselves begin below, at 1.
at='' left=''
say_end() {
    if [ "$1" != 0 ] && [ -n "$at" ]; then
        printf '\nStep %s did not work, or was stopped (status %s). What comes after it was not done.\n' "$at" "$1" >&2
        printf 'See what it said above, then look again: %s\n' "$again" >&2
    fi
}
trap 'say_end $?' EXIT
say_step() {
    at=$1
    printf '\nStep %s: %s\n' "$1" "$2"
}
ask_person() {
    at=$1
    shift
    echo
    printf '%s\n' "$@"
    if (: < /dev/tty) 2> /dev/null; then
        printf 'Press Enter when that is done, or Ctrl-C to stop here. '
        read -r _ < /dev/tty || exit 1
    else
        left="$left $at"
    fi
}
add_lines() {
    into=$1
    shift
    case $into in /*) ;; *) into=./$into ;; esac
    mkdir -p "$(dirname "$into")"
    if [ -s "$into" ]; then
        if [ "$(tail -n $# "$into")" = "$(printf '%s\n' "$@")" ]; then
            printf 'It stands at the end of %s already.\n' "$into"
            return 0
        fi
        if [ -n "$(tail -c 1 "$into")" ]; then echo >> "$into"; fi
    fi
    printf '%s\n' "$@" >> "$into"
    printf 'Written into %s:\n' "$into"
    printf '    %s\n' "$@"
}
"#;

/// Writes the plan as a script for sh, to be read before it is run. It names each step before it does it, and the one that did not work. Where only a
/// person can do a step, it says so when it gets there, and waits where there is a terminal; commands for another shell stand in it as comments. A script that
/// is run does what is needed; what is only recommended is left as comments too. It does nothing in another folder, on another system, or as the
/// administrator where it was made for somebody else.
///
/// # Errors
/// When the writer fails.
pub fn plan_sh(report: &Report, invocations: &Invocations, mut writer: impl Write) -> io::Result<()> {
    writeln!(writer, "#!/bin/sh")?;
    writeln!(writer, "# What would make this machine ready for {}.", line(&report.guide.project.name))?;
    writeln!(writer, "# {}", made_for(report))?;
    writeln!(writer, "# Read it before you run it, in the project's folder. Nobody else has: the guide's author and")?;
    let software = line(&report.frame.software);
    writeln!(writer, "# setup-ready {software} made it. Where only a person can do a step, it says so and waits.")?;
    writeln!(writer, "# shellcheck disable=SC2317")?;
    // In a shell of its own, so that whoever reads this file into theirs keeps it as it is; and read as a whole before anything is done, since a step
    // could otherwise read the rest as its input.
    writeln!(writer, "(\nset -eu\nagain={}", quote(&invocations.check, Shell::Posix))?;
    writer.write_all(PARTS.as_bytes())?;
    refusals(report, invocations, &mut writer)?;
    let mut interrupted = false;
    for (number, step) in report.plan.steps.iter().enumerate() {
        writeln!(writer, "\n# {}. {}{}", number + 1, line(&step.fix.say), marks(step))?;
        writeln!(writer, "#    Settles {}.", line(&titles(report, step)))?;
        remarks(step, &mut writer)?;
        let edit = step.fix.edit.as_ref();
        let other_shell = report.shell != Shell::Posix;
        let asks = step.fix.own_value.is_some()
            || step.fix.run.iter().any(|command| command.contains(YOURS))
            || edit.is_some_and(|edit| edit.append.contains(YOURS));
        let not_allowed = step.fix.admin && report.rights == Some(false);
        let replaces = edit.is_some_and(|edit| edit.line.is_some() || edit.replaces.is_some());
        let comment = other_shell || asks || replaces || interrupted || not_allowed || step.level != Level::Must;
        let of_a_person = asks || replaces || not_allowed || (!step.fix.acts() && step.fix.then.is_none());
        if comment && !step.fix.run.is_empty() {
            let why = if other_shell {
                "It is written for another shell:"
            } else if interrupted {
                "Only after the step above, in a script made when that is done:"
            } else if not_allowed {
                "For whoever looks after this machine:"
            } else if asks {
                "Put in your own value first:"
            } else {
                "It is not needed; if you want it:"
            };
            writeln!(writer, "#    {why}")?;
        }
        if !comment && step.fix.acts() {
            writeln!(writer, "say_step {} {}", number + 1, quote(&line(&step.fix.say), Shell::Posix))?;
        }
        commands(step, comment, &mut writer)?;
        if let Some(edit) = edit {
            lines(edit, comment, &mut writer)?;
        }
        if of_a_person && !interrupted && !other_shell && step.level == Level::Must {
            let lines = errand(number + 1, step, not_allowed);
            let lines: Vec<String> = lines.iter().map(|text| quote(text, Shell::Posix)).collect();
            writeln!(writer, "ask_person {} {}", number + 1, lines.join(" "))?;
        }
        interrupted |= step.fix.then.is_some() && !step.fix.acts();
    }
    if report.plan.steps.is_empty() {
        writeln!(writer, "\necho 'Nothing is to be done that the software knows of.'")?;
    }
    writeln!(
        writer,
        "\nat=''\nif [ -n \"$left\" ]; then printf '\\nLeft for you, since nobody could press Enter: step%s.\\n' \"$left\"; fi"
    )?;
    writeln!(writer, "printf '%s\\n' {}\n)", quote(&goodbye(report, invocations), Shell::Posix))
}

/// Where the script does nothing: it was made for one machine, one person and one folder.
fn refusals(report: &Report, invocations: &Invocations, writer: &mut impl Write) -> io::Result<()> {
    let system = report.system.as_ref().map(|system| match system.os {
        Os::Linux => ("Linux", "Linux"),
        Os::Macos => ("Darwin", "macOS"),
        Os::Windows => ("*NT*", "Windows"),
    });
    if let Some((pattern, name)) = system {
        let text = format!("This was made for {name}. On another system: {}", invocations.plan);
        writeln!(writer, "case $(uname -s) in {pattern}) ;; *) printf '%s\\n' {}; exit 1 ;; esac", quote(&text, Shell::Posix))?;
    }
    if !is_of_root(&report.known) {
        let text =
            "Run this as yourself, without sudo: what it makes is yours, and it asks for admin rights where it needs them.";
        writeln!(
            writer,
            "if [ \"$(id -u)\" = 0 ] && [ -n \"${{SUDO_USER:-}}\" ]; then printf '%s\\n' {}; exit 1; fi",
            quote(text, Shell::Posix)
        )?;
    }
    let guide = report.frame.guide_path.as_deref().and_then(|path| Path::new(path).file_name()?.to_str());
    if let Some(guide) = guide {
        let text = format!("Run this in the project's folder: the one with {}.", line(guide));
        let guide = quote(&line(guide), Shell::Posix);
        writeln!(writer, "if [ ! -e ./{guide} ]; then printf '%s\\n' {}; exit 1; fi", quote(&text, Shell::Posix))?;
    }
    Ok(())
}

/// Whether it was the administrator themselves who looked.
fn is_of_root(known: &Known) -> bool {
    known.get(&Probe::Account).is_some_and(|answer| matches!(&*answer.observation, Observation::Account(account) if account.root))
}

/// What is typed in a step.
fn commands(step: &Step, comment: bool, writer: &mut impl Write) -> io::Result<()> {
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
    if apart { writeln!(writer, ")") } else { Ok(()) }
}

/// What is written into a file in a step.
fn lines(edit: &Edit, comment: bool, writer: &mut impl Write) -> io::Result<()> {
    let file = match edit.file.strip_prefix("~/") {
        Some(rest) => format!("\"$HOME\"/{}", quote(&line(rest), Shell::Posix)),
        None => quote(&line(&edit.file), Shell::Posix),
    };
    if let Some(number) = edit.line {
        writeln!(writer, "#    It stands in the place of line {number}:")?;
    } else if let Some(pattern) = &edit.replaces {
        writeln!(writer, "#    It stands in the place of what fits {}:", line(pattern))?;
    }
    if !comment && edit.append.contains('$') {
        writeln!(writer, "# The line is written as it stands.\n# shellcheck disable=SC2016")?;
    }
    let quoted: Vec<String> = edit.append.lines().map(|text| quote(&line(text), Shell::Posix)).collect();
    if comment {
        return quoted.iter().try_for_each(|text| writeln!(writer, "#      printf '%s\\n' {text} >> {file}"));
    }
    writeln!(writer, "add_lines {file} {}", quoted.join(" "))
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
