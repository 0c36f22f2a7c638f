//! A guide as people read it without this software: what is wanted stage by stage, for whom, why, and how one gets it on each system.

#![allow(clippy::wildcard_enum_match_arm, reason = "only a few kinds differ from the rest")]

mod wants;

pub use wants::wants;

use crate::guide::{Edit, Existence, Guide, GuideFix, Level, Requirement, Stage, Subject, Then};
use crate::manager::Manager;
use crate::observation::Os;
use crate::packages::packages_for;
use crate::prelude::*;
use crate::text::{capitalised, join_words};

/// A guide in the order in which a newcomer reads it.
#[derive(Debug)]
#[non_exhaustive]
pub struct Outline<'g> {
    /// The guide.
    pub guide: &'g Guide,
    /// The systems that it is for: those it promises, or all.
    pub systems: Vec<Os>,
    /// The stages that have something in them.
    pub chapters: Vec<Chapter<'g>>,
}

/// A stage with what it asks for.
#[derive(Debug)]
#[non_exhaustive]
pub struct Chapter<'g> {
    /// The stage.
    pub stage: &'g Stage,
    /// What it asks for, in the order of the guide.
    pub items: Vec<Item<'g>>,
}

/// One thing that is asked for.
#[derive(Debug)]
#[non_exhaustive]
pub struct Item<'g> {
    /// The requirement.
    pub requirement: &'g Requirement,
    /// What to call it, as a heading.
    pub title: String,
    /// What is wanted, in a few words: `version >= 3.25, < 5`.
    pub wants: String,
    /// The ids of the roles that need it; none for everyone.
    pub roles: Vec<&'g str>,
    /// The systems on which it may apply, of those of the outline.
    pub systems: Vec<Os>,
    /// Where else than here it must be met, as a person says it.
    pub place: Option<&'g str>,
    /// How it is installed, for each package manager that has it.
    pub installs: Vec<Install>,
    /// What the guide itself says to do.
    pub advice: Vec<Advice<'g>>,
    /// The titles of the alternatives, of which one will do.
    pub alternatives: Vec<String>,
}

/// A command that installs something.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Install {
    /// The package manager.
    pub manager: Manager,
    /// The system on which it is at home.
    pub system: Os,
    /// The command.
    pub command: String,
}

/// What a guide says to do.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Advice<'g> {
    /// For what machines, in the words of the guide's condition; for all where there is none.
    pub when: Option<String>,
    /// The systems on which it may count.
    pub systems: Vec<Os>,
    /// What it is for, where it is for one cause: the meaning of the cause.
    pub cause: Option<&'static str>,
    /// The step in words.
    pub say: &'g str,
    /// The commands.
    pub run: Vec<String>,
    /// A change to a file: what to do, and the lines.
    pub edit: Option<(String, &'g str)>,
    /// What must follow.
    pub then: Option<Then>,
}

/// The word for a level, for people.
pub fn level_word(level: Level) -> &'static str {
    match level {
        Level::Must => "needed",
        Level::Should => "recommended",
        Level::May => "optional",
    }
}

impl<'g> Outline<'g> {
    /// The outline of a guide.
    pub fn of(guide: &'g Guide) -> Self {
        let promised = &guide.project.systems;
        let systems: Vec<Os> = Os::ALL.into_iter().filter(|os| promised.is_empty() || promised.contains(os)).collect();
        let chapter = |(index, stage): (usize, &'g Stage)| {
            // An alternative is told with what it is an alternative of, and by itself too: people look for its name.
            let of_stage = guide.requirements.iter().filter(|one| one.stage == index);
            Chapter { stage, items: of_stage.map(|one| item(guide, one, &systems)).collect() }
        };
        let chapters: Vec<Chapter<'g>> =
            guide.stages.iter().enumerate().map(chapter).filter(|one| !one.items.is_empty()).collect();
        Self { guide, systems, chapters }
    }

    /// The package managers that the guide's commands are for, on a system, in the order of their list.
    pub fn managers(&self, system: Os) -> Vec<Manager> {
        let all = || self.chapters.iter().flat_map(|chapter| &chapter.items).flat_map(|item| &item.installs);
        Manager::ALL
            .iter()
            .copied()
            .filter(|manager| manager.system() == system && all().any(|install| install.manager == *manager))
            .collect()
    }

    /// One command that installs all that a role needs with a package manager; none where that is nothing.
    pub fn install_all(&self, manager: Manager, role: Option<&str>) -> Option<String> {
        let mut names: Vec<String> = Vec::new();
        for item in self.chapters.iter().filter(|chapter| !chapter.stage.after_start).flat_map(|chapter| &chapter.items) {
            let concerned = role.is_none_or(|role| item.roles.is_empty() || item.roles.contains(&role));
            let here = item.place.is_none() && item.requirement.level != Level::May && !item.requirement.alternative;
            if concerned && here && item.systems.contains(&manager.system()) {
                for (_, name) in vouched_for(&item.requirement.subject, &[manager]) {
                    if !names.contains(&name) {
                        names.push(name);
                    }
                }
            }
        }
        (!names.is_empty()).then(|| command(manager, &names.join(" ")))
    }
}

/// The command as somebody types it who is not the administrator.
fn command(manager: Manager, names: &str) -> String {
    let rights = if manager.needs_admin() && manager.system() != Os::Windows { "sudo " } else { "" };
    format!("{rights}{} {names}", manager.install())
}

/// The packages that the guide names; of what it wants in any version, those that are known here too. Whether another's version does is found out on
/// a machine only.
fn vouched_for(subject: &Subject, managers: &[Manager]) -> Vec<(Manager, String)> {
    match subject {
        Subject::Tool(tool) if tool.packages.is_empty() && (tool.version.is_some() || tool.version_from.is_some()) => Vec::new(),
        Subject::Tool(tool) if tool.expect == Existence::Absent => Vec::new(),
        Subject::Library(library) if library.packages.is_empty() && library.version.is_some() => Vec::new(),
        other => packages_for(other, managers),
    }
}

fn item<'g>(guide: &'g Guide, requirement: &'g Requirement, systems: &[Os]) -> Item<'g> {
    let on = |when: Option<&crate::condition::Condition>| {
        systems.iter().copied().filter(|os| when.is_none_or(|when| when.may_hold_on(*os))).collect::<Vec<_>>()
    };
    let applies = on(requirement.when.as_ref());
    let applies: Vec<Os> = match &requirement.subject {
        Subject::System(_) => systems.to_vec(),
        _ => applies,
    };
    let installs = vouched_for(&requirement.subject, Manager::ALL)
        .into_iter()
        .filter(|(manager, _)| applies.contains(&manager.system()))
        .map(|(manager, name)| Install { manager, system: manager.system(), command: command(manager, &name) })
        .collect();
    let alternatives = match &requirement.subject {
        Subject::AnyOf(any) => {
            any.alternatives.iter().filter_map(|index| guide.requirements.get(*index)).map(Requirement::title).collect()
        }
        _ => Vec::new(),
    };
    Item {
        requirement,
        // The name of a program stays as it is typed.
        title: if requirement.title.is_some() || !matches!(requirement.subject, Subject::Tool(_)) {
            capitalised(&requirement.title())
        } else {
            requirement.title()
        },
        wants: wants(guide, requirement),
        roles: requirement.roles.iter().filter_map(|role| guide.roles.get(*role)).map(|role| role.id.as_str()).collect(),
        place: requirement.place.and_then(|place| guide.places.get(place)).map(|place| place.title.as_str()),
        installs,
        advice: requirement.fixes.iter().map(|fix| advice(fix, on(fix.when.as_ref()))).collect(),
        systems: applies,
        alternatives,
    }
}

fn advice(fix: &GuideFix, systems: Vec<Os>) -> Advice<'_> {
    let edit = |edit: &'_ Edit| edit.task();
    Advice {
        when: fix.when.as_ref().map(|when| when.text().to_owned()),
        systems,
        cause: fix.cause.map(|cause| cause.page().meaning),
        say: &fix.say,
        run: fix
            .run
            .iter()
            .map(|line| if fix.admin && !line.starts_with("sudo ") { format!("sudo {line}") } else { line.clone() })
            .collect(),
        edit: fix.edit.as_ref().map(|one| (edit(one), one.append.as_str())),
        then: fix.then,
    }
}

/// The systems as a person says them: `Linux and macOS`.
pub fn systems_in_words(systems: &[Os]) -> String {
    join_words(&systems.iter().map(|os| os.name()).collect::<Vec<_>>(), "and")
}
