//! The plan as text.

use super::doing::Doing;
use super::wording::option;
use super::{TextLayout, Tone};
use setup_ready_core::guide::{Requirement, Subject};
use setup_ready_core::plan::Step;
use setup_ready_core::report::Report;
use setup_ready_core::text::{Size, capitalised, join_words};

/// More than these are only counted.
const MOST_SETTLED: usize = 8;

/// Lays out the plan; nothing where there is nothing to do.
pub(crate) fn draw(layout: &mut TextLayout<'_>, report: &Report) {
    let plan = &report.plan;
    if plan.steps.is_empty() {
        return;
    }
    layout.heading("What to do");
    for (index, step) in plan.steps.iter().enumerate() {
        if index > 0 {
            layout.gap();
        }
        // What was to be minded just before need not be read again.
        let said = index
            .checked_sub(1)
            .and_then(|before| plan.steps.get(before))
            .is_some_and(|before| before.fix.caution == step.fix.caution);
        draw_step(layout, report, index + 1, (step, said));
    }
    request(layout, report);
    let mut costs = Vec::new();
    if plan.download_bytes > 0 {
        costs.push(format!("{} to download", Size(plan.download_bytes)));
    }
    if plan.takes_ms > 0 {
        costs.push(duration(plan.takes_ms));
    }
    if !costs.is_empty() {
        let unknown = match plan.steps_of_unknown_cost {
            0 => String::new(),
            1 => ", and one step of unknown length".to_owned(),
            several => format!(", and {several} steps of unknown length"),
        };
        layout.gap();
        layout.block(2, &format!("In all: {}{unknown}.", costs.join(", ")), Tone::Quiet);
    }
}

fn draw_step(layout: &mut TextLayout<'_>, report: &Report, number: usize, (step, said): (&Step, bool)) {
    let narrow = layout.look().is_narrow();
    // A column for all: as wide as the last number, its point and a space.
    let column = report.plan.steps.len().to_string().len() + 2;
    let (indent, column) = if narrow { (0, column) } else { (2, column.max(4)) };
    let mut marks = Vec::new();
    if step.fix.presumed {
        marks.push("after that, most likely".to_owned());
    }
    if step.fix.admin {
        marks.push("needs admin rights".to_owned());
    }
    marks.extend(step.level.label().map(ToOwned::to_owned));
    marks.extend(step.fix.download_bytes.map(|bytes| format!("{} to download", Size(bytes))));
    marks.extend(step.fix.takes_ms.map(duration));
    let marks = if marks.is_empty() { String::new() } else { format!(" ({})", marks.join(", ")) };
    let whom = titles(report, step).map(|titles| format!("{titles}: ")).unwrap_or_default();
    let how = step.settles.first().and_then(|index| report.settled_at(*index)).map_or("", |one| option(one, &step.fix));
    let text = format!("{whom}{}{how}{marks}", step.fix.say);
    layout.labelled(indent, (&format!("{number}."), Tone::Strong), column, (&text, Tone::Body));
    let body = indent + column;
    let doing = if said { Doing::from(&step.fix).without_caution() } else { Doing::from(&step.fix) };
    doing.draw(layout, body, if narrow { 0 } else { 4 });
    if let Some(sign) = report.success_check(step) {
        layout.block(body, &sign, Tone::Quiet);
    }
}

/// All that only somebody else can do, as one text to send.
fn request(layout: &mut TextLayout<'_>, report: &Report) {
    if report.request.is_empty() {
        return;
    }
    let asked: Vec<String> = report
        .plan
        .steps
        .iter()
        .zip(1..)
        .filter(|(step, _)| step.fix.admin)
        .map(|(_, number): (_, usize)| number.to_string())
        .collect();
    let (steps, need) = if asked.len() == 1 { ("Step", "needs") } else { ("Steps", "need") };
    let which = join_words(&asked, "and");
    layout.gap();
    let text = format!(
        "{steps} {which} {need} admin rights, which you do not seem to have here. If you know that you have them, do it yourself; else send \
         this to whoever looks after this machine, and go on with the other steps meanwhile:"
    );
    layout.block(2, &text, Tone::Body);
    layout.block(6, report.request.first().map_or("", String::as_str), Tone::Body);
    for step in report.plan.steps.iter().filter(|step| step.fix.admin) {
        layout.labelled(6, ("-", Tone::Body), 2, (&step.fix.say, Tone::Body));
        Doing::from(&step.fix).without_remarks().draw(layout, 8, 2);
    }
}

/// What a step settles, where its words do not name it.
fn titles(report: &Report, step: &Step) -> Option<String> {
    let settles = || step.settles.iter().filter_map(|index| report.guide.requirements.get(*index));
    let mut titles: Vec<String> = settles().map(Requirement::title).collect();
    if titles.iter().any(|title| step.fix.say.contains(title.as_str())) {
        return None;
    }
    if titles.len() > MOST_SETTLED {
        let more = titles.len() - MOST_SETTLED;
        titles.truncate(MOST_SETTLED);
        titles.push(format!("{more} more"));
    }
    let first = settles().next()?;
    // The name of a program stays as one types it, also where a sentence begins.
    let is_name = matches!(&first.subject, Subject::Tool(tool) if tool.names.contains(&first.title()));
    let text = join_words(&titles, "and");
    Some(if is_name { text } else { capitalised(&text) })
}

fn duration(milliseconds: u64) -> String {
    match milliseconds.div_ceil(60_000) {
        0 | 1 => "1 min".to_owned(),
        minutes @ 2..=90 => format!("{minutes} min"),
        minutes => format!("{}.{} h", minutes / 60, minutes % 60 / 6),
    }
}
