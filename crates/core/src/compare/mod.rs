//! Machines beside each other: where verdicts differ, and which facts decide it.

mod deciding;
mod side;

pub use deciding::{deciding, verdict_with};
pub use side::{Fact, Judged, Side, with_remark};

use crate::guide::{Guide, Level};
use crate::known::Known;
use crate::prelude::*;
use crate::probe::Probe;
use crate::verdict::Verdict;
use alloc::collections::BTreeMap;

/// Why sides came to a verdict.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Reason {
    /// The cause, where it has one.
    pub cause: Option<String>,
    /// What was found, in short.
    pub found: Option<String>,
    /// The sentence: what was found, and what is wanted.
    pub message: String,
    /// Whose sentence it is, where those of the others say the same in other words: with their own folders, for example.
    pub said_of: Option<usize>,
    /// Who has it, by their indexes.
    pub sides: Vec<usize>,
}

/// Sides that came to the same.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Group {
    /// The verdict.
    pub verdict: Verdict,
    /// Why, each reason once.
    pub reasons: Vec<Reason>,
    /// Their indexes.
    pub sides: Vec<usize>,
}

impl Group {
    /// The causes that they have, each once.
    pub fn causes(&self) -> Vec<&str> {
        let mut causes: Vec<&str> = Vec::new();
        for cause in self.reasons.iter().filter_map(|reason| reason.cause.as_deref()) {
            if !causes.contains(&cause) {
                causes.push(cause);
            }
        }
        causes
    }

    /// Why something is not met, for people; what is met needs no reason.
    pub fn told(&self) -> impl Iterator<Item = &Reason> {
        let is_told = self.verdict != Verdict::Met;
        self.reasons.iter().filter(move |reason| is_told && !reason.message.is_empty())
    }
}

/// A requirement that comes to the same everywhere, and is not met, though not for the same reason.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Alike {
    /// The requirement's id.
    pub id: String,
    /// What it is called.
    pub title: String,
    /// How much it matters.
    pub level: Level,
    /// What all came to, and why each.
    pub group: Group,
}

/// A fact that decides, as two sides have it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Deciding {
    /// What was asked.
    pub asked: String,
    /// What the one of the larger group saw; `None` where it was not asked there.
    pub usual: Option<String>,
    /// What the one of the smaller group saw.
    pub odd: Option<String>,
}

/// A requirement that came out otherwise on some sides.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Difference {
    /// The requirement's id.
    pub id: String,
    /// What it is called.
    pub title: String,
    /// How much it matters.
    pub level: Level,
    /// Who came to what, the most first.
    pub groups: Vec<Group>,
    /// The sides whose facts are compared: the first of the smallest group, and the one of the largest whose machine is most like it; of those that it
    /// applies to, where there are two.
    pub between: (usize, usize),
    /// What decides it between those two.
    pub deciding: Vec<Deciding>,
    /// It was worked out that exactly these decide it; else they are only what differs in what was reported.
    pub certain: bool,
}

/// Something that differs without any verdict doing so: a version within the range, a fact of the machine.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Spread {
    /// What.
    pub what: String,
    /// What it is on each side; `None` where it is not known.
    pub on: Vec<Option<String>>,
}

/// What came of comparing.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Comparison {
    /// What the sides are called.
    pub names: Vec<String>,
    /// Where verdicts differ, in the order of the first side.
    pub differences: Vec<Difference>,
    /// What comes to the same verdict everywhere, though not for the same reason.
    pub alike: Vec<Alike>,
    /// What all meet, each with another version or size.
    pub within: Vec<Spread>,
    /// Facts of the machines that differ.
    pub machines: Vec<Spread>,
    /// Requirements that only some were checked for.
    pub unchecked: Vec<Spread>,
    /// How many requirements were checked on all and came to the same, with the same found.
    pub equal: usize,
}

impl Comparison {
    /// What it comes to, in a sentence.
    pub fn summary(&self) -> String {
        let machines = self.names.len();
        let equal = if self.equal == 1 { "1 is equal".to_owned() } else { format!("{} are equal", self.equal) };
        let equal = match self.alike.len() {
            0 => equal,
            1 => format!("{equal}, 1 comes to the same for different reasons"),
            several => format!("{equal}, {several} come to the same for different reasons"),
        };
        let some_only = match self.unchecked.len() {
            0 => String::new(),
            1 => ", and 1 was checked on some only".to_owned(),
            several => format!(", and {several} were checked on some only"),
        };
        match self.differences.len() {
            0 if self.equal + self.within.len() + self.alike.len() == 0 => {
                format!("Nothing was checked on all {machines} machines{some_only}.")
            }
            0 => format!(
                "{machines} machines come to the same verdicts: {equal}, {} differ within what the guide asks for{some_only}.",
                self.within.len()
            ),
            1 => format!("1 verdict differs between {machines} machines; {equal}{some_only}."),
            several => format!("{several} verdicts differ between {machines} machines; {equal}{some_only}."),
        }
    }
}

/// Compares machines. With the guide, what decides is worked out for sides of which all is known that was observed.
///
/// ```
/// use setup_ready_core::{compare::{Side, compare}, driver::Driver, guide, observation::{CoreState, Observation}, probe::Probe};
/// # use setup_ready_core::{report::{ReportMetadata, MachineSource, Report}, selection::Selection};
///
/// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.room]\ncores = 4\n").unwrap();
/// let side = |name: &str, cores| {
///     let mut driver = Driver::new(&guide, Selection::default()).unwrap();
///     while let Some(probe) = driver.next_probe() {
///         let observation = match *probe {
///             Probe::Cores => Observation::Cores(CoreState { online: cores, caps: Vec::new() }),
///             _ => Observation::NotSupported("not here".into()),
///         };
///         driver.answer(&probe, observation);
///     }
/// #   let frame = ReportMetadata { software: String::new(), guide_path: None, guide_sha256: None, source: MachineSource::Described, machine_name: None, started: String::new(), elapsed_ms: 0, interrupted: false, id: None };
///     // A frame says when and with what; it does not matter here.
///     Side::of(name, &Report::new(None, frame, driver.finish()))
/// };
/// let found = compare(Some(&guide), &[side("small", 2), side("large", 8)]);
/// let decides = &found.differences[0].deciding[0];
/// assert_eq!((decides.asked.as_str(), decides.usual.as_deref(), decides.odd.as_deref()), ("cores and their limits", Some("2 online"), Some("8 online")));
/// ```
pub fn compare(guide: Option<&Guide>, sides: &[Side]) -> Comparison {
    let guide = guide.map(|guide| Arc::new(guide.clone()));
    let mut ids: Vec<&str> = Vec::new();
    let mut seen: hashbrown::HashSet<&str> = hashbrown::HashSet::new();
    for one in sides.iter().flat_map(|side| &side.judged) {
        if seen.insert(one.id.as_str()) {
            ids.push(one.id.as_str());
        }
    }
    let by_id: Vec<BTreeMap<&str, &Judged>> =
        sides.iter().map(|side| side.judged.iter().map(|one| (one.id.as_str(), one)).collect()).collect();
    let mut found = Comparison {
        names: sides.iter().map(|side| side.name.clone()).collect(),
        differences: Vec::new(),
        alike: Vec::new(),
        within: Vec::new(),
        machines: machines(sides),
        unchecked: Vec::new(),
        equal: 0,
    };
    for id in ids {
        let on: Vec<Option<&Judged>> = by_id.iter().map(|side| side.get(id).copied()).collect();
        let groups = groups(&on);
        let (title, level) =
            on.iter().flatten().next().map_or((String::new(), Level::Must), |one| (one.title.clone(), one.level));
        let on_all = on.iter().all(Option::is_some);
        if !on_all {
            let on = on.iter().map(|one| one.map(|one| one.verdict.word().to_owned())).collect();
            found.unchecked.push(Spread { what: id.to_owned(), on });
        }
        if groups.len() > 1 {
            found.differences.push(difference(guide.as_ref(), (sides, &on), (id, title, level), groups));
            continue;
        }
        // Nothing is known of the side that was not asked.
        if !on_all {
            continue;
        }
        if let [group] = groups.as_slice()
            && group.verdict != Verdict::Met
            && group.reasons.len() > 1
        {
            found.alike.push(Alike { id: id.to_owned(), title, level, group: group.clone() });
            continue;
        }
        let values: Vec<Option<String>> = on.iter().map(|one| one.and_then(|one| one.found.clone())).collect();
        let first = values.iter().flatten().next();
        if groups.first().is_some_and(|group| group.verdict == Verdict::Met)
            && values.iter().flatten().any(|value| Some(value) != first)
        {
            found.within.push(Spread { what: id.to_owned(), on: values });
        } else {
            found.equal += 1;
        }
    }
    found
}

/// Who came to what: the largest group first, and of those that are equally large the one with the first side.
fn groups(on: &[Option<&Judged>]) -> Vec<Group> {
    let mut groups: Vec<Group> = Vec::new();
    for (index, one) in on.iter().enumerate() {
        let Some(one) = one else { continue };
        let at = groups.iter().position(|group| group.verdict == one.verdict).unwrap_or(groups.len());
        if at == groups.len() {
            groups.push(Group { verdict: one.verdict, reasons: Vec::new(), sides: Vec::new() });
        }
        let Some(group) = groups.get_mut(at) else { continue };
        group.sides.push(index);
        // What was found is the same where somebody else's folder stands in the sentence.
        let is_same = |reason: &Reason| {
            let found = reason.found == one.found && (one.found.is_some() || reason.message == one.message);
            found && reason.cause == one.cause
        };
        match group.reasons.iter_mut().find(|reason| is_same(reason)) {
            Some(reason) => {
                reason.sides.push(index);
                if reason.message != one.message {
                    reason.said_of = reason.sides.first().copied();
                }
            }
            None => group.reasons.push(Reason {
                cause: one.cause.clone(),
                found: one.found.clone(),
                message: one.message.clone(),
                said_of: None,
                sides: vec![index],
            }),
        }
    }
    groups.sort_by_key(|group| core::cmp::Reverse(group.sides.len()));
    groups
}

fn difference(
    guide: Option<&Arc<Guide>>,
    (sides, on): (&[Side], &[Option<&Judged>]),
    (id, title, level): (&str, String, Level),
    groups: Vec<Group>,
) -> Difference {
    // What a machine is not asked for explains little, where others that are come to different things.
    let applies = || groups.iter().filter(|group| group.verdict != Verdict::Skipped);
    let ends = if applies().count() > 1 { (applies().next(), applies().next_back()) } else { (groups.first(), groups.last()) };
    let odd = ends.1.and_then(|group| group.sides.first().copied()).unwrap_or(0);
    // Beside a machine of another system, the system decides everything: the one that is most like it tells more.
    let likeness = |side: usize| sides.get(side).zip(sides.get(odd)).map_or(0, |(one, odd)| one.facts_like(odd));
    let usual = ends.0.into_iter().flat_map(|group| group.sides.iter().copied());
    let usual = usual.reduce(|best, side| if likeness(side) > likeness(best) { side } else { best });
    let between = (usual.unwrap_or(0), odd);
    let (usual, odd) = (sides.get(between.0), sides.get(between.1));
    let worked_out = guide.zip(usual.and_then(|side| side.known.as_ref())).zip(odd.and_then(|side| side.known.as_ref()));
    let worked_out = worked_out.and_then(|((guide, usual), odd)| {
        let probes = deciding(guide, guide.find(id)?, (&usual.0, &usual.1), (&odd.0, &odd.1))?;
        let saw = |known: &Known, probe: &Probe| known.get(probe).map(|answer| Arc::clone(&answer.observation));
        let fact = |probe: Arc<Probe>| {
            let (usual, odd) = match (saw(&usual.0, &probe), saw(&odd.0, &probe)) {
                (Some(usual), Some(odd)) => {
                    let (usual, odd) = usual.apart(&odd);
                    (Some(usual), Some(odd))
                }
                (usual, odd) => (usual.map(|saw| saw.to_string()), odd.map(|saw| saw.to_string())),
            };
            Deciding { asked: probe.to_string(), usual, odd }
        };
        Some(probes.into_iter().map(fact).collect::<Vec<_>>())
    });
    let certain = worked_out.is_some();
    let judged = |side: usize| on.get(side).copied().flatten();
    let deciding = worked_out.unwrap_or_else(|| reported(judged(between.0), judged(between.1)));
    Difference { id: id.to_owned(), title, level, groups, between, deciding, certain }
}

/// What differs in what was reported of a requirement.
fn reported(usual: Option<&Judged>, odd: Option<&Judged>) -> Vec<Deciding> {
    let found = |one: Option<&Judged>| one.and_then(|one| one.found.clone());
    let in_short = Deciding { asked: "what was found".to_owned(), usual: found(usual), odd: found(odd) };
    let facts = |one: Option<&Judged>| one.map(|one| one.evidence.clone()).unwrap_or_default();
    let (usual, odd) = (facts(usual), facts(odd));
    let find = |facts: &[Fact], asked: &str| facts.iter().find(|fact| fact.asked == asked).map(|fact| fact.saw.clone());
    let mut asked: Vec<&str> = usual.iter().map(|fact| fact.asked.as_str()).collect();
    asked.extend(odd.iter().map(|fact| fact.asked.as_str()).filter(|asked| find(&usual, asked).is_none()));
    let pairs =
        asked.into_iter().map(|asked| Deciding { asked: asked.to_owned(), usual: find(&usual, asked), odd: find(&odd, asked) });
    let pairs: Vec<Deciding> = pairs.filter(|pair| pair.usual != pair.odd).collect();
    // What only one was asked came up since something else differs; where that is told, it only hides it.
    let both = |pair: &Deciding| pair.usual.is_some() && pair.odd.is_some();
    if pairs.iter().any(both) {
        pairs.into_iter().filter(both).collect()
    } else if in_short.usual != in_short.odd && both(&in_short) {
        vec![in_short]
    } else {
        pairs
    }
}

fn machines(sides: &[Side]) -> Vec<Spread> {
    let mut asked: Vec<&str> = Vec::new();
    for fact in sides.iter().flat_map(|side| &side.machine) {
        if !asked.contains(&fact.asked.as_str()) {
            asked.push(&fact.asked);
        }
    }
    let on = |asked: &str| -> Vec<Option<String>> {
        sides.iter().map(|side| side.machine.iter().find(|fact| fact.asked == asked).map(|fact| fact.saw.clone())).collect()
    };
    let spread = asked.into_iter().map(|asked| Spread { what: asked.to_owned(), on: on(asked) });
    spread.filter(|spread| spread.on.iter().any(|value| Some(value) != spread.on.first())).collect()
}

#[cfg(test)]
mod tests;
