//! One machine, as it is compared: what came of each requirement there, and what that rests on.

use crate::finding::LeftOut;
use crate::guide::Level;
use crate::known::Known;
use crate::prelude::*;
use crate::report::Report;
use crate::selection::Selection;
use crate::verdict::Verdict;

/// Something that was asked, and what was seen, in words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fact {
    /// What was asked.
    pub asked: String,
    /// What was seen.
    pub saw: String,
}

/// What came of a requirement on one machine.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Judged {
    /// The requirement's id.
    pub id: String,
    /// What it is called.
    pub title: String,
    /// How much it matters.
    pub level: Level,
    /// The verdict.
    pub verdict: Verdict,
    /// The cause, where it has one.
    pub cause: Option<String>,
    /// What was found, in short: a version, a size; with what is worth knowing of it where it is met.
    pub found: Option<String>,
    /// The sentence.
    pub message: String,
    /// What it rests on.
    pub evidence: Vec<Fact>,
}

/// One machine, as it is compared.
#[derive(Debug, Clone)]
pub struct Side {
    /// What it is called here.
    pub name: String,
    /// The machine's facts: what each is, and what it is on this one.
    pub machine: Vec<Fact>,
    /// What came of each requirement, but for what was left out by choice: another role's, what needs the network.
    pub judged: Vec<Judged>,
    /// All that was observed, and what was chosen, where that is known and not only what was reported.
    pub known: Option<(Known, Selection)>,
    /// Where only a report is known: the people that it tells of, such as owners of files.
    pub people: Vec<String>,
    /// The groups that it tells of.
    pub groups: Vec<String>,
}

impl Side {
    /// A side from a report, with all that was observed.
    pub fn of(name: impl Into<String>, report: &Report) -> Self {
        let fact = |asked: &str, saw: Option<String>| saw.map(|saw| Fact { asked: asked.to_owned(), saw });
        let system = report.system.as_ref();
        let flags = report.flags();
        let machine = [
            fact("system", system.map(|system| system.os.name().to_owned())),
            fact("version of the system", system.and_then(|system| system.version.clone())),
            fact(
                "distribution",
                system.and_then(|system| {
                    Some(format!("{} {}", system.distro.as_ref()?, system.distro_version.as_deref().unwrap_or("")))
                }),
            ),
            fact("architecture", system.map(|system| system.arch.clone())),
            fact("is", (!flags.is_empty()).then(|| flags.join(", "))),
        ];
        let asked = report.counting().filter(|one| !one.finding.left_out().is_some_and(LeftOut::is_chosen));
        let judged = asked.filter_map(|one| {
            let requirement = report.requirement(one)?;
            let shared = one.finding.shared_evidence.iter().flat_map(|shared| shared.iter());
            let evidence = one
                .finding
                .evidence
                .iter()
                .chain(shared)
                .map(|answer| Fact { asked: answer.probe.to_string(), saw: answer.observation.to_string() });
            let words = report.words(one);
            Some(Judged {
                id: requirement.id.clone(),
                title: requirement.title(),
                level: requirement.level,
                verdict: one.finding.verdict(),
                cause: one.finding.cause().map(|cause| cause.word().to_owned()),
                found: words.as_ref().and_then(|words| with_remark(words.found(), words.remark_briefly())),
                message: report.message(one),
                evidence: evidence.collect(),
            })
        });
        Self {
            name: name.into(),
            machine: machine.into_iter().flatten().collect(),
            judged: judged.collect(),
            known: Some((report.known.clone(), report.selection.clone())),
            people: Vec::new(),
            groups: Vec::new(),
        }
    }

    /// How many facts of the machine are the same on another.
    pub fn facts_like(&self, other: &Self) -> usize {
        self.machine.iter().filter(|fact| other.machine.contains(fact)).count()
    }
}

/// What was found, with what is worth knowing of it.
pub fn with_remark(found: Option<String>, remark: Option<&str>) -> Option<String> {
    let found = found?;
    Some(remark.map_or_else(|| found.clone(), |remark| format!("{found}, {remark}")))
}
