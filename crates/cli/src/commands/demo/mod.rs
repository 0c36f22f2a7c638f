mod fleet;
mod maintainer;

use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::closing::NextCommands;
use crate::look::report::verdict_word;
use crate::look::{OutputStyle, TextLayout, Tone, report};
use crate::output;
use build_setup_ready::demo::REPOSITORY;
use build_setup_ready::demo::{GUIDE, MACHINES};
use build_setup_ready::{Described, GUIDE_FILE, Preflight};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{self, Guide};
use setup_ready_core::problem::GuideError;
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::selection::Selection;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::join_words;
use std::path::Path;

/// The role that each machine's owner has, and which of them is shown in full.
const TOUR: [(&str, Option<&str>); 4] = [
    ("clean-debian-laptop", Some("firmware")),
    ("shared-server", None),
    ("build-container", Some("firmware")),
    ("ready-workstation", None),
];

/// More than these are only counted.
const MOST_SHOWN: usize = 6;

pub(crate) fn run(typed: &arguments::Demo, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let shipped = |mistakes: GuideError| Failure::Software(format!("the demonstration has mistakes: {mistakes}"));
    let guide = guide::parse(GUIDE).map_err(shipped)?;
    if let Some(folder) = &typed.into {
        write_files(folder)?;
    }
    let mut layout = TextLayout::new(look);
    layout.block(0, &format!("{}: {}", guide.project.name, guide.project.about.as_deref().unwrap_or("")), Tone::Strong);
    let count = guide.requirements.len();
    let intro = format!(
        "A made-up project. Its maintainer wrote a setup guide with {count} requirements; these are four newcomers' machines, \
         described in files. Nothing of your own machine is looked at."
    );
    layout.block(0, &intro, Tone::Body);
    for (number, (name, role)) in TOUR.iter().enumerate() {
        let Some(machine) = MACHINES.iter().find(|machine| machine.name == *name) else { continue };
        let described = Described::parse(machine.text).map_err(shipped)?;
        let role = role.and_then(|role| guide.role(role));
        let selection = Selection { role, ..Selection::default() };
        let checked = Preflight::new(&guide).select(selection).guide_source(GUIDE_FILE, "").run(&described);
        let checked = checked.map_err(|error| Failure::Software(error.to_string()))?;
        layout.heading(&format!("Machine {} of {}: {name}", number + 1, TOUR.len()));
        layout.block(0, described.about().unwrap_or(""), Tone::Quiet);
        layout.gap();
        if number == 0 {
            let again = format!("setup-ready preflight --machine machines/{name}.toml --role firmware");
            report::draw(&mut layout, &checked, &NextCommands { again, with: String::new() });
        } else {
            brief(&mut layout, &guide, &checked);
        }
    }
    {
        maintainer::play(&mut layout, &guide, typed.into.as_deref())?;
        fleet::play(&mut layout, &guide, typed.into.as_deref())?;
    }
    farewell(&mut layout, typed.into.as_deref());
    output::write(layout.into_text().as_bytes(), shown.output.as_deref())?;
    Ok(Status::Ready)
}

/// A line for each thing that is not met, and how it came out.
fn brief(layout: &mut TextLayout<'_>, guide: &Guide, report: &Report) {
    let whom = report
        .role
        .and_then(|role| guide.roles.get(role))
        .map_or_else(|| "every role".to_owned(), |role| format!("the role {}", role.id));
    let open: Vec<&RequirementResult> =
        report.counting().filter(|one| matches!(one.finding.verdict(), Verdict::Unmet | Verdict::Unknown)).collect();
    for one in open.iter().take(MOST_SHOWN) {
        let (word, tone) = verdict_word(one.finding.verdict());
        layout.labelled(2, (word, tone), 10, (&report.message(one), Tone::Body));
    }
    if let Some(more) = open.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
        layout.block(12, &format!("and {more} more"), Tone::Quiet);
    }
    let counts = report.counts();
    let steps = report.plan.steps.len();
    let (word, tone) = match report.outcome() {
        Outcome::Ready => ("READY", Tone::Good),
        Outcome::NotReady => ("NOT READY", Tone::Loud),
        Outcome::Undecided => ("UNDECIDED", Tone::Unsure),
        Outcome::ReadyHere => ("READY HERE", Tone::Unsure),
        Outcome::ReadyInPart => ("READY IN PART", Tone::Unsure),
    };
    if !open.is_empty() {
        layout.gap();
    }
    let plan = match steps {
        0 => String::new(),
        1 => "; the plan has one step".to_owned(),
        several => format!("; the plan has {several} steps"),
    };
    let text = format!("for {whom}: {} met, {} not met{plan}.", counts.met, counts.unmet);
    layout.labelled(0, (word, tone), word.len() + 2, (&text, Tone::Body));
}

fn farewell(layout: &mut TextLayout<'_>, folder: Option<&Path>) {
    layout.heading("Now your own machine");
    let names: Vec<&str> = MACHINES.iter().map(|machine| machine.name).collect();
    if let Some(folder) = folder {
        let guide = folder.join(GUIDE_FILE).display().to_string();
        let text = format!(
            "The guide and what belongs to it (machines: {}) are in {} now. To check this machine:",
            join_words(&names, "and"),
            folder.display()
        );
        layout.block(0, &text, Tone::Body);
        layout.copyable(2, &format!("setup-ready preflight --guide {guide} --role shore"));
        for_maintainers(layout, &guide, folder);
        return;
    }
    layout.block(0, "In the folder of a project that has a setup-guide.toml, type:", Tone::Body);
    layout.copyable(2, "setup-ready preflight");
    let text =
        "Or take this made-up project's guide and try it here; the first command makes a folder, the second checks this machine:";
    layout.block(0, text, Tone::Body);
    layout.copyable(2, "setup-ready demo --into driftbuoy -q");
    layout.copyable(2, "setup-ready preflight --guide driftbuoy --role shore");
}

fn for_maintainers(layout: &mut TextLayout<'_>, guide: &str, folder: &Path) {
    let text = "To see what its maintainer sees (the guide read by its strictest reader, and all that the project's files say):";
    layout.block(0, text, Tone::Body);
    layout.copyable(2, &format!("setup-ready proofread --guide {guide}"));
    layout.copyable(2, &format!("setup-ready draft --statements {}", folder.display()));
    fleet::commands(layout, folder);
}

/// Writes the guide, the machines and the files of the project into a folder that does not exist yet.
fn write_files(folder: &Path) -> Result<(), Failure> {
    let failed = |path: &Path| {
        let path = path.to_owned();
        move |reason| Failure::Write { path, reason }
    };
    std::fs::create_dir(folder).map_err(failed(folder))?;
    let machines = folder.join("machines");
    std::fs::create_dir(&machines).map_err(failed(&machines))?;
    {
        let class = folder.join("class");
        std::fs::create_dir(&class).map_err(failed(&class))?;
    }
    output::write(GUIDE.as_bytes(), Some(&folder.join(GUIDE_FILE)))?;
    for (name, text) in REPOSITORY {
        let path = folder.join(name);
        let above = path.parent().unwrap_or(folder);
        std::fs::create_dir_all(above).map_err(failed(above))?;
        output::write(text.as_bytes(), Some(&path))?;
    }
    for machine in &MACHINES {
        output::write(machine.text.as_bytes(), Some(&machines.join(format!("{}.toml", machine.name))))?;
    }
    Ok(())
}
