//! A first guide from what a repository says: which requirements, how firm, and what nobody but a person can know.

mod proposal;

pub use proposal::{Proposal, Stage, Standing, quoted};

use crate::guide::Guide;
use crate::observation::Os;
use crate::prelude::*;
use crate::statement::{Confidence, Coverage, Merged, Statement, Topic, merge};

/// A first guide, as values.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Draft {
    /// The systems on which the project's servers build it, in the order of guides.
    pub systems: Vec<Os>,
    /// What the guide requires, in its order.
    pub live: Vec<Proposal>,
    /// What somebody only mentioned.
    pub perhaps: Vec<Proposal>,
    /// Questions that the repository does not answer.
    pub questions: Vec<&'static str>,
}

impl Draft {
    /// A guide for a repository that has none.
    pub fn of(statements: &[Statement]) -> Self {
        Self::without(statements, &|_| false)
    }

    /// What the repository says and a guide does not: only what is pinned or used.
    pub fn additions(statements: &[Statement], guide: &Guide) -> Self {
        let coverage = Coverage::of(guide);
        let covered = |merged: &Merged| {
            let mut all = merged.statements.iter().filter_map(|index| statements.get(*index));
            all.any(|statement| coverage.requirement_for(statement).is_some()) || guide.accepts_unlisted(&merged.topic)
        };
        let mut draft = Self::without(statements, &covered);
        draft.perhaps.clear();
        draft.systems.retain(|os| !guide.project.systems.contains(os));
        draft
    }

    fn without(statements: &[Statement], covered: &dyn Fn(&Merged) -> bool) -> Self {
        let merged = merge(statements);
        let spoken =
            |os: Os| statements.iter().any(|one| one.topic == Topic::System(os) && one.firmness != Confidence::Mentioned);
        let systems: Vec<Os> = Os::ALL.into_iter().filter(|os| spoken(*os)).collect();
        let ways = ways(statements);
        let (mut live, mut perhaps) = (Vec::new(), Vec::new());
        for one in merged.iter().filter(|one| !covered(one)) {
            let Some(mut proposal) = proposal::of(one, statements, &systems) else { continue };
            if ways.len() > 1 && of_one_way(one, statements) {
                proposal.is_one_way(&ways);
            }
            match proposal.standing {
                Standing::Live => live.push(proposal),
                Standing::Perhaps => perhaps.push(proposal),
            }
        }
        let (bound, alone): (Vec<Proposal>, Vec<Proposal>) = {
            let names: Vec<String> =
                live.iter().filter(|one| matches!(one.topic, Topic::Tool(_))).map(|one| one.id.clone()).collect();
            live.into_iter()
                .partition(|one: &Proposal| one.interpreter().is_none_or(|name| names.iter().any(|known| known == name)))
        };
        live = bound;
        perhaps.extend(alone.into_iter().map(|one| Proposal { standing: Standing::Perhaps, ..one }));
        live.sort_by_key(|one| one.stage);
        proposal::name_apart(&mut live, &mut perhaps);
        Self { systems, live, perhaps, questions: questions(&merged) }
    }

    /// The stages that it has something for, in their order.
    pub fn stages(&self) -> Vec<Stage> {
        let mut all: Vec<Stage> = self.live.iter().map(|one| one.stage).collect();
        all.dedup();
        all
    }
}

/// The build system that a file belongs to, where it is one at the root.
fn way(file: &str) -> Option<&'static str> {
    Some(match file {
        "CMakeLists.txt" | "CMakePresets.json" => "cmake",
        "meson.build" => "meson",
        "configure.ac" | "configure.in" => "configure",
        _ => return None,
    })
}

/// The ways in which the repository can be built, by what lies at its root.
fn ways(statements: &[Statement]) -> Vec<&'static str> {
    let mut all: Vec<&'static str> = Vec::new();
    for statement in statements {
        let makes = statement.place.item == "builds" && statement.topic == Topic::Tool("make".to_owned());
        let found = if makes { Some("make") } else { way(&statement.place.file) };
        all.extend(found.filter(|one| !all.contains(one)));
    }
    all
}

/// Whether only one of several ways to build asks for something.
fn of_one_way(merged: &Merged, statements: &[Statement]) -> bool {
    let firm =
        merged.statements.iter().filter_map(|index| statements.get(*index)).filter(|one| one.firmness != Confidence::Mentioned);
    let way = |one: &Statement| way(&one.place.file).or((one.place.item == "builds").then_some("make"));
    let mut asking: Vec<Option<&'static str>> = firm.map(way).collect();
    asking.dedup();
    matches!(asking.as_slice(), [Some(_)])
}

/// What a person is asked, where the repository said nothing of it.
fn questions(merged: &[Merged]) -> Vec<&'static str> {
    let has = |wanted: fn(&Topic) -> bool| merged.iter().any(|one| wanted(&one.topic) && one.firmness != Confidence::Mentioned);
    let mut all = vec![
        "How much disk and memory does a whole build take? (`disk = \"6 GB\"`, `memory = \"4 GB\"`)",
        "Why is each thing needed? A newcomer reads `why` when something is missing.",
        "Which of these does only part of your contributors need? (`roles`)",
    ];
    if !has(|topic| matches!(topic, Topic::Port(_))) {
        all.push("Which ports does the program open while one works on it? (`port = 7070`)");
    }
    if !has(|topic| matches!(topic, Topic::System(_))) {
        all.push("On which systems do your contributors work? (`systems` in [project])");
    }
    all.push("What is only nice to have? (`level = \"should\"` or `\"may\"`)");
    all
}

#[cfg(test)]
mod tests;
