//! The demonstration's part on many machines: two machines beside each other, and a class of thirty.

use crate::exit::Failure;
use crate::look::{TextLayout, Tone};
use crate::output;
use build_setup_ready::demo::{MACHINES, class};
use build_setup_ready::{Described, GUIDE_FILE, GuideFile, Preflight};
use setup_ready_core::compare::{Side, compare};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{Guide, Level};
use setup_ready_core::report::Report;
use setup_ready_core::selection::Selection;
use setup_ready_core::survey::{Dimension, Entry, Survey, Tally, WhatIf};
use setup_ready_core::text::join_words;
use setup_ready_fleet::record;
use setup_ready_fleet::recording_json;
use std::path::Path;
use std::sync::Arc;

/// Where the labels end.
const COLUMN: usize = 11;
/// The class is always the same.
const SEED: u64 = 7;
const NEWCOMERS: usize = 30;
/// The machines that are put beside each other, and what the guide's author would like to ask for.
const PAIR: [&str; 2] = ["ready-workstation", "shared-server"];
const ASKED: &str = "cmake >= 3.28";

/// Tells what recordings, comparisons and surveys come to on the demonstration; with a folder, the class's recordings are written there.
pub(super) fn play(layout: &mut TextLayout<'_>, guide: &Guide, folder: Option<&Path>) -> Result<(), Failure> {
    let guide = Arc::new(guide.clone());
    layout.heading("Many machines");
    let text = "It works on one machine and not on another, far away; and thirty newcomers begin at once. Each of them sends what was looked at, without what is private:";
    layout.block(0, text, Tone::Body);
    layout.gap();
    let text = "setup-ready record writes a file: names, hosts, addresses and tokens are replaced in it, and it is judged as the machine is";
    layout.labelled(2, ("record", Tone::Strong), COLUMN, (text, Tone::Body));
    beside(layout, &guide)?;
    let file = folder.map(|folder| GuideFile::load(&folder.join(GUIDE_FILE))).transpose()?;
    let mut tally = Tally::new(Some(Dimension::Distro), WhatIf::parse(ASKED).ok().map(|what_if| (what_if, "cmake".to_owned())));
    for newcomer in class(SEED, NEWCOMERS) {
        let machine = Described::parse(&newcomer.machine).map_err(|error| Failure::Software(error.to_string()))?;
        let mut report = checked(&guide, &machine, guide.role(newcomer.role))?;
        report.frame.started.clone_from(&newcomer.when);
        // The same files each time.
        report.frame.elapsed_ms = 0;
        report.frame.id = Some(newcomer.id.clone());
        tally.add(&Entry::of(&report), None);
        if let (Some(folder), Some(file)) = (folder, &file) {
            let mut recording = record(&report, file).map_err(|error| Failure::Software(error.to_string()))?.recording;
            recording.id = Some(newcomer.id);
            let mut text = Vec::new();
            recording_json(&recording, &mut text).map_err(Failure::Output)?;
            output::write(&text, Some(&folder.join("class").join(format!("{}.recording.json", newcomer.name))))?;
        }
    }
    told(layout, &tally.finish());
    Ok(())
}

fn checked(guide: &Arc<Guide>, machine: &Described, role: Option<usize>) -> Result<Report, Failure> {
    let selection = Selection { role, ..Selection::default() };
    Preflight::new(Arc::clone(guide)).select(selection).run(machine).map_err(|error| Failure::Software(error.to_string()))
}

/// Two machines beside each other.
fn beside(layout: &mut TextLayout<'_>, guide: &Arc<Guide>) -> Result<(), Failure> {
    let mut sides = Vec::new();
    for machine in MACHINES.iter().filter(|machine| PAIR.contains(&machine.name)) {
        let described = Described::parse(machine.text).map_err(|error| Failure::Software(error.to_string()))?;
        sides.push(Side::of(machine.name, &checked(guide, &described, guide.role("shore"))?));
    }
    sides.sort_by_key(|side| PAIR.iter().position(|name| *name == side.name));
    let found = compare(Some(guide), &sides);
    layout.labelled(2, ("compare", Tone::Strong), COLUMN, (&format!("{} For example:", found.summary()), Tone::Body));
    let telling = |one: &&setup_ready_core::compare::Difference| {
        one.certain && one.deciding.len() == 1 && one.groups.last().is_some_and(|group| group.verdict == Verdict::Unmet)
    };
    for one in found.differences.iter().filter(telling).take(2) {
        for fact in &one.deciding {
            let saw = |saw: &Option<String>| saw.clone().unwrap_or_else(|| "not asked".to_owned());
            let [usual, odd] = PAIR;
            let text = format!(
                "{}, decided by {} alone: {} on {usual}, {} on {odd}",
                one.title,
                fact.asked,
                saw(&fact.usual),
                saw(&fact.odd)
            );
            layout.labelled(2, ("", Tone::Strong), COLUMN, (&text, Tone::Body));
        }
    }
    Ok(())
}

/// What the class comes to.
fn told(layout: &mut TextLayout<'_>, survey: &Survey) {
    layout.labelled(2, ("survey", Tone::Strong), COLUMN, (&survey.summary(), Tone::Body));
    let stops: Vec<String> = survey
        .stops
        .iter()
        .filter(|stop| stop.level == Level::Must)
        .skip(1)
        .take(2)
        .map(|stop| format!("{} ({} of {})", stop.requirement, stop.machines.count, stop.machines.of))
        .collect();
    if !stops.is_empty() {
        layout.labelled(2, ("", Tone::Strong), COLUMN, (&format!("Then come {}.", join_words(&stops, "and")), Tone::Body));
    }
    if let Some(cost) = &survey.what_if {
        let text = format!(
            "Were {} {} asked for, {} of the {} that meet it now would not any more.",
            cost.requirement,
            cost.wanted,
            cost.lost,
            cost.met()
        );
        layout.labelled(2, ("", Tone::Strong), COLUMN, (&text, Tone::Body));
    }
}

/// What to type to see all of it.
pub(super) fn commands(layout: &mut TextLayout<'_>, folder: &Path) {
    let text = "To see many machines at once (the thirty recordings lie in class; what the guide's author would ask for them):";
    layout.block(0, text, Tone::Body);
    let guide = folder.join(GUIDE_FILE).display().to_string();
    let class = folder.join("class").display().to_string();
    layout.copyable(2, &format!("setup-ready survey {class} --by distro --what-if '{ASKED}' --guide {guide}"));
    let machines: Vec<String> =
        PAIR.iter().map(|name| folder.join("machines").join(format!("{name}.toml")).display().to_string()).collect();
    layout.copyable(2, &format!("setup-ready compare {} --role shore --guide {guide}", machines.join(" ")));
}
