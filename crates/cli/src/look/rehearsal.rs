//! What comes of rehearsing a guide: what is wrong first, then the whole in as few lines as it takes.

use super::report::verdict_word;
use super::wording::counted;
use super::{Detail, OutputStyle, TextLayout, Tone};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::Os;
use setup_ready_core::rehearsal::{End, Way, Ways};
use setup_ready_core::text::join_words;
use setup_ready_maintainer::{Matrix, NewExpectation};
use std::collections::BTreeMap;
use std::io::Write;
use std::path::PathBuf;
use std::time::{Duration, Instant};

/// More lines of one sort are only counted.
const MOST_SHOWN: usize = 40;
/// The width of a verdict in the table.
const CELL: usize = 8;
/// The widest name of a requirement.
const WIDEST_NAME: usize = 22;

/// How far it has come, on the terminal, where it takes long.
#[derive(Debug)]
pub(crate) struct Counting {
    began: Instant,
    all: usize,
    shown: bool,
}

impl Counting {
    pub(crate) fn start(look: &OutputStyle, all: usize) -> Self {
        Self { began: Instant::now(), all, shown: look.progress }
    }

    pub(crate) fn update(&self, done: usize) {
        if self.shown && self.began.elapsed() > Duration::from_millis(300) {
            let _ = write!(std::io::stderr(), "\r{done} of {} requirements rehearsed", self.all);
        }
    }
}

impl Drop for Counting {
    fn drop(&mut self) {
        if self.shown && self.began.elapsed() > Duration::from_millis(300) {
            let _ = write!(std::io::stderr(), "\r{:60}\r", "");
        }
    }
}

/// The guide on described machines.
pub(crate) fn machines(layout: &mut TextLayout<'_>, matrix: &Matrix, summary: &str) {
    let tone = if matrix.differences() == 0 { Tone::Good } else { Tone::Loud };
    if layout.look().detail == Detail::Quiet {
        layout.block(0, summary, tone);
        return;
    }
    layout.block(
        0,
        &format!("The guide of {} on {}", matrix.guide.project.name, counted(matrix.performances.len(), "machine")),
        Tone::Heading,
    );
    layout.gap();
    for (number, one) in matrix.performances.iter().enumerate() {
        let stands = match (one.expects, one.differences.len()) {
            (false, _) => "expects nothing".to_owned(),
            (true, 0) => "as expected".to_owned(),
            (true, several) => counted(several, "difference"),
        };
        let tone = if one.differences.is_empty() { Tone::Body } else { Tone::Loud };
        layout.labelled(2, (&(number + 1).to_string(), Tone::Strong), 4, (&format!("{}: {stands}", one.machine), tone));
    }
    for one in matrix.performances.iter().filter(|one| !one.differences.is_empty()) {
        layout.heading(&format!("Not as {} expects", one.machine));
        for text in one.differences.iter().take(MOST_SHOWN) {
            layout.labelled(2, ("-", Tone::Loud), 2, (text, Tone::Body));
        }
        if let Some(more) = one.differences.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
            layout.block(4, &format!("and {more} more"), Tone::Quiet);
        }
    }
    table(layout, matrix);
    reasons(layout, matrix);
    layout.gap();
    layout.block(0, summary, tone);
}

/// A line for each requirement, a column for each machine, as many beside each other as fit.
fn table(layout: &mut TextLayout<'_>, matrix: &Matrix) {
    let guide = &matrix.guide;
    let name = guide.requirements.iter().map(|one| one.id.chars().count()).max().unwrap_or(0).min(WIDEST_NAME) + 1;
    // The last column needs no room behind it.
    let fit = ((layout.look().width + 1).saturating_sub(name) / CELL).max(1);
    let numbers: Vec<usize> = (0..matrix.performances.len()).collect();
    for columns in numbers.chunks(fit) {
        layout.gap();
        let head: Vec<String> = columns.iter().map(|number| format!("{:<1$}", number + 1, CELL - 1)).collect();
        let head = head.join(" ");
        layout.ready_made(&format!("{:name$}{}\n", "", layout.painted(head.trim_end(), Tone::Strong)));
        for (index, requirement) in guide.requirements.iter().enumerate() {
            let mut line = format!("{:name$}", shortened(&requirement.id, WIDEST_NAME));
            for number in columns {
                let verdict = matrix
                    .performances
                    .get(*number)
                    .and_then(|one| one.report.settled_at(index))
                    .map(|one| one.finding.verdict());
                let (word, tone) = match verdict {
                    None | Some(Verdict::Skipped) => ("-", Tone::Quiet),
                    Some(verdict) => verdict_word(verdict),
                };
                let pad = " ".repeat(CELL.saturating_sub(word.len()));
                line.push_str(&layout.painted(word, tone));
                line.push_str(&pad);
            }
            layout.ready_made(&format!("{}\n", line.trim_end()));
        }
    }
}

fn shortened(text: &str, most: usize) -> String {
    if text.chars().count() <= most { text.to_owned() } else { text.chars().take(most - 1).chain(['…']).collect() }
}

/// Why what is not met is not, a line for each requirement.
fn reasons(layout: &mut TextLayout<'_>, matrix: &Matrix) {
    layout.heading("What is not met, or unknown, and why");
    let name = matrix.guide.requirements.iter().map(|one| one.id.chars().count()).max().unwrap_or(0).min(WIDEST_NAME) + 2;
    for (index, requirement) in matrix.guide.requirements.iter().enumerate() {
        let mut by_cause: BTreeMap<&str, Vec<String>> = BTreeMap::new();
        for (number, one) in matrix.performances.iter().enumerate() {
            let Some(settled) = one.report.settled_at(index) else { continue };
            if let (Verdict::Unmet | Verdict::Unknown, Some(cause)) = (settled.finding.verdict(), settled.finding.cause()) {
                by_cause.entry(cause.word()).or_default().push((number + 1).to_string());
            }
        }
        if by_cause.is_empty() {
            continue;
        }
        let parts: Vec<String> = by_cause.iter().map(|(cause, on)| format!("{cause} on {}", join_words(on, "and"))).collect();
        layout.labelled(2, (&shortened(&requirement.id, WIDEST_NAME), Tone::Strong), name, (&parts.join("; "), Tone::Body));
    }
}

/// The ways to fail: those that end in nothing first, those that are cured only counted, unless all was asked for.
pub(crate) fn failures(layout: &mut TextLayout<'_>, guide: &Guide, ways: &Ways) {
    let left = ways.count(End::Nothing);
    let tone = if left == 0 { Tone::Good } else { Tone::Loud };
    if layout.look().detail == Detail::Quiet {
        layout.block(0, &ways.summary(), tone);
        return;
    }
    let id = |index: usize| guide.requirements.get(index).map_or("", |one| one.id.as_str());
    if left > 0 {
        layout.heading(&format!("{left} end in nothing to do"));
        for way in ways.ways.iter().filter(|way| way.end == End::Nothing).take(MOST_SHOWN) {
            layout.labelled(
                2,
                (id(way.requirement), Tone::Loud),
                4,
                (&format!("on {}: {}", way.system.name(), way.cause.word()), Tone::Body),
            );
            layout.labelled(4, ("reads", Tone::Quiet), 8, (&way.message, Tone::Body));
            let say = way.fix.as_ref().map_or("nothing", |fix| fix.say.as_str());
            layout.labelled(4, ("told", Tone::Quiet), 8, (say, Tone::Body));
            layout.gap();
        }
        layout.block(
            2,
            "Say in the guide what to do there: `packages` for that system's manager, a `fix` with `say` or `run`, or `docs` with a page.",
            Tone::Body,
        );
    }
    let all = layout.look().detail == Detail::Verbose;
    for end in [End::Words, End::Command, End::Cure] {
        let of_end: Vec<&Way> = ways.ways.iter().filter(|way| way.end == end).collect();
        if of_end.is_empty() || (end == End::Cure && !all) {
            continue;
        }
        layout.heading(&format!("{} {} {}", of_end.len(), if of_end.len() == 1 { "ends" } else { "end" }, end.means()));
        grouped(layout, &of_end, &id);
    }
    if !ways.untried.is_empty() {
        layout.heading(&format!("{} could not be tried", ways.untried.len()));
        for one in ways.untried.iter().take(MOST_SHOWN) {
            layout.labelled(
                2,
                (id(one.requirement), Tone::Unsure),
                4,
                (&format!("on {}: {}", one.system.name(), one.reason), Tone::Body),
            );
        }
        if let Some(more) = ways.untried.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
            layout.block(4, &format!("and {more} more"), Tone::Quiet);
        }
    }
    layout.gap();
    layout.block(0, &ways.summary(), tone);
    if !all && ways.count(End::Cure) > 0 {
        layout.block(0, "Those that are cured too: setup-ready rehearse --failures --verbose", Tone::Quiet);
    }
}

/// Ways with one cause together: which requirements, on which systems.
fn grouped<'w>(layout: &mut TextLayout<'_>, ways: &[&'w Way], id: &dyn Fn(usize) -> &'w str) {
    let mut by_cause: BTreeMap<setup_ready_core::cause::Cause, Vec<&Way>> = BTreeMap::new();
    for way in ways {
        by_cause.entry(way.cause).or_default().push(way);
    }
    let column = by_cause.keys().map(|cause| cause.word().len()).max().unwrap_or(0) + 2;
    for (cause, of_cause) in by_cause {
        let mut systems: BTreeMap<&str, Vec<Os>> = BTreeMap::new();
        let mut order: Vec<&str> = Vec::new();
        for way in of_cause {
            let name = id(way.requirement);
            if !order.contains(&name) {
                order.push(name);
            }
            systems.entry(name).or_default().push(way.system);
        }
        // Requirements that fail so on the same systems share them.
        let mut by_systems: Vec<(Vec<Os>, Vec<&str>)> = Vec::new();
        for name in order {
            let on = systems.get(name).cloned().unwrap_or_default();
            match by_systems.iter_mut().find(|(other, _)| *other == on) {
                Some((_, names)) => names.push(name),
                None => by_systems.push((on, vec![name])),
            }
        }
        let parts: Vec<String> = by_systems
            .iter()
            .map(|(on, names)| {
                let on = join_words(&on.iter().map(|os| os.name()).collect::<Vec<_>>(), "and");
                format!("{} (on {on})", names.join(", "))
            })
            .collect();
        layout.labelled(2, (cause.word(), Tone::Strong), column, (&parts.join("; "), Tone::Body));
    }
}

/// How `[expect]` of machines differs, as lines that go and lines that come.
pub(crate) fn expectations(layout: &mut TextLayout<'_>, new: &[(PathBuf, NewExpectation)], (written, of): (bool, usize)) {
    if layout.look().detail != Detail::Quiet {
        for (path, one) in new {
            layout.gap();
            layout.block(0, &format!("{}, [expect]:", path.display()), Tone::Strong);
            for change in &one.changes {
                for (sign, line, tone) in [("-", &change.before, Tone::Loud), ("+", &change.after, Tone::Strong)] {
                    if let Some(line) = line {
                        layout.labelled(2, (sign, tone), 2, (line, Tone::Body));
                    }
                }
            }
        }
        layout.gap();
    }
    let changes: usize = new.iter().map(|(_, one)| one.changes.len()).sum();
    let text = match (new.is_empty(), written) {
        (true, _) => format!("{}: [expect] says what comes of each.", counted(of, "machine")),
        (false, true) => format!("{} written in {}.", counted(changes, "line"), counted(new.len(), "file")),
        (false, false) => format!(
            "{} in {} would be others. Read them; to have them written: setup-ready rehearse --expect --write",
            counted(changes, "line"),
            counted(new.len(), "file")
        ),
    };
    layout.block(0, &text, if new.is_empty() || written { Tone::Good } else { Tone::Loud });
}
