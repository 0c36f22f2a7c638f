//! A report to paste into a question: short, the facts first, commands in blocks.

use build_setup_ready::write::markdown::{code, plain};
use build_setup_ready::write::plan::{does, marks, titles};
use setup_ready_core::finding::Verdict;
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::settled::RequirementResult;
use std::io::{self, Write};

/// More facts than these of one requirement are left to whoever asks for them.
const MOST_FACTS: usize = 3;
/// A question with more requirements or steps than these is not read.
const MOST_SHOWN: usize = 20;
/// So many are named in a line.
const MOST_NAMED: usize = 6;
/// The first characters of a digest are enough to see that two guides are the same.
const DIGEST: usize = 12;

/// What a whole report comes to, in words.
pub(crate) fn outcome(report: &Report) -> &'static str {
    match report.outcome() {
        Outcome::Ready => "ready",
        Outcome::NotReady => "not ready",
        Outcome::Undecided => "undecided",
        Outcome::ReadyHere => "ready here",
        Outcome::ReadyInPart => "ready in part",
    }
}

/// For whom it was checked, in words.
pub(crate) fn whom(report: &Report) -> String {
    match report.role.and_then(|role| report.guide.roles.get(role)) {
        Some(role) => format!(" for {}", role.id),
        None if report.guide.roles.is_empty() => String::new(),
        None => " for every role".to_owned(),
    }
}

/// How many came out how, in words, and how many were left out by a choice.
pub(crate) fn summary(report: &Report) -> String {
    let counts = report.counts();
    let offline: Vec<&str> = report
        .left_for_the_network()
        .filter_map(|one| report.requirement(one))
        .map(|requirement| requirement.id.as_str())
        .collect();
    let named = match offline.get(..MOST_NAMED) {
        Some(first) if offline.len() > MOST_NAMED => format!("{} and {} more", first.join(", "), offline.len() - MOST_NAMED),
        _ => offline.join(", "),
    };
    let left = [
        (report.not_asked(), "not looked at (--only, --stage, --again)".to_owned()),
        (offline.len(), format!("left out for want of a network (--offline): {named}")),
    ];
    let left = left.iter().filter(|(count, _)| *count > 0).map(|(count, how)| format!("; {count} needed {how}"));
    let left: String = left.collect();
    format!(
        "{} met, {} not met, {} unknown, {} waiting for others{left}",
        counts.met, counts.unmet, counts.unknown, counts.blocked
    )
}

/// The machine, in words.
pub(crate) fn machine(report: &Report) -> String {
    let system = report.system.as_ref().map_or_else(|| "a system that could not be found out".to_owned(), ToString::to_string);
    let flags = report.flags();
    let around = if flags.is_empty() { String::new() } else { format!(" ({})", flags.join(", ")) };
    format!("{system}{around}")
}

/// Writes a report as Markdown, to be pasted into a question. Nothing in it is replaced: give it the report of a recording for that.
///
/// # Errors
/// When the writer fails.
pub fn markdown(report: &Report, mut writer: impl Write) -> io::Result<()> {
    writeln!(writer, "**{}: {}{}**\n", plain(&report.guide.project.name), outcome(report), plain(&whom(report)))?;
    let digest = report.frame.guide_sha256.as_deref().map(|digest| digest.chars().take(DIGEST).collect::<String>());
    writeln!(writer, "- machine: {}", plain(&machine(report)))?;
    let guide = digest.map(|digest| format!(", guide {digest}")).unwrap_or_default();
    writeln!(writer, "- checked: {}, setup-ready {}{guide}", plain(&report.frame.started), plain(&report.frame.software))?;
    writeln!(writer, "- {}\n", summary(report))?;
    for (verdict, heading) in [(Verdict::Unmet, "Not met"), (Verdict::Unknown, "Could not be found out")] {
        let of_it: Vec<&RequirementResult> = report.counting().filter(|one| one.finding.verdict() == verdict).collect();
        if of_it.is_empty() {
            continue;
        }
        writeln!(writer, "**{heading}**\n")?;
        for one in of_it.iter().take(MOST_SHOWN) {
            requirement(report, one, &mut writer)?;
        }
        if let Some(more) = of_it.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
            writeln!(writer, "- and {more} more")?;
        }
        writeln!(writer)?;
    }
    if report.plan.steps.is_empty() {
        return Ok(());
    }
    writeln!(writer, "**What I am told to do**\n")?;
    for (number, step) in report.plan.steps.iter().take(MOST_SHOWN).enumerate() {
        writeln!(writer, "{}. {}{} – settles {}", number + 1, plain(&step.fix.say), marks(step), plain(&titles(report, step)))?;
        does(step, &mut writer)?;
    }
    if let Some(more) = report.plan.steps.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
        writeln!(writer, "\nand {more} more steps")?;
    }
    Ok(())
}

fn requirement(report: &Report, one: &RequirementResult, writer: &mut impl Write) -> io::Result<()> {
    let Some(requirement) = report.requirement(one) else { return Ok(()) };
    let marks: Vec<&str> =
        one.finding.cause().map(setup_ready_core::cause::Cause::word).into_iter().chain(requirement.level.label()).collect();
    let cause = if marks.is_empty() { String::new() } else { format!(" ({})", marks.join(", ")) };
    writeln!(writer, "- {}{cause}: {}", code(&requirement.id), plain(&report.message(one)))?;
    for answer in one.finding.evidence.iter().take(MOST_FACTS) {
        writeln!(writer, "  - {}: {}", plain(&answer.probe.to_string()), plain(&answer.observation.to_string()))?;
    }
    Ok(())
}
