//! The setup guide: its model, and its reading with all mistakes at once.

mod acceptance;
mod command_line;
pub(crate) mod component;
mod defaults;
mod fix;
mod fix_parse;
mod get;
mod kind;
mod names;
mod oracle;
mod order;
mod parse;
mod place;
mod placeholder;
mod reading;
mod requirement;
mod subject;
mod subject_facts;
mod subject_parse;
mod supply_parse;
mod value;
pub mod vocabulary;

pub use acceptance::Acceptance;
pub use component::{Component, ComponentSort, Installer, Language};
pub use fix::{Edit, GuideFix, Then};
pub use get::{GetWay, RELEASE};
pub use kind::{KINDS, Kind, KindKeys};
pub(crate) use names::is_package;
pub use parse::{FORMAT, parse};
pub use place::WorkPlace;
pub use placeholder::{Placeholder, pieces as placeholder_pieces};
pub use requirement::{Level, Requirement};
pub use subject::{
    Access, AnyOf, Checkout, Clock, Command, Device, Disk, EnvironmentVariable, Existence, Group, Hostname, Library, Limit,
    Locale, Memory, Path, PathKind, Port, PortNumbers, Protocol, Reach, Rights, Service, Setting, Socket, Subject, Subnet,
    Supply, Systems, Tool, VersionFrom, Virtualization,
};
pub use value::{SetBy, Value, ValueShape};
pub use vocabulary::LimitKind;

pub use crate::condition::Condition;
use crate::observation::Os;
use crate::prelude::*;
use crate::version::Range;

/// A guide that has been read without mistakes.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Guide {
    /// The project that it is for.
    pub project: Project,
    /// The kinds of contributors, in the order of the guide.
    pub roles: Vec<Role>,
    /// The stages in the order in which a newcomer works; at least one.
    pub stages: Vec<Stage>,
    /// The places where the work goes on, where there is more than one.
    pub places: Vec<WorkPlace>,
    /// The values that it lets people move.
    pub values: Vec<Value>,
    /// The requirements, in the order of the guide.
    pub requirements: Vec<Requirement>,
    /// The remarks of proofreading that it lets stand.
    pub accepted: Vec<Acceptance>,
    /// Its text, where values may move: then it is read with what they are.
    text: Option<Arc<str>>,
}

/// `[project]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Project {
    /// Its name.
    pub name: String,
    /// What it is, in a sentence.
    pub about: Option<String>,
    /// Its page.
    pub home: Option<String>,
    /// Where newcomers may ask.
    pub help: Option<String>,
    /// The systems that the guide promises to serve.
    pub systems: Vec<Os>,
    /// What to type when all is ready.
    pub first_step: Vec<String>,
    /// The releases of this software that understand the guide.
    pub needs: Option<Range>,
    /// Where newcomers get this software.
    pub get: Vec<GetWay>,
}

/// `[role.NAME]`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Role {
    /// Its id.
    pub id: String,
    /// Who that is.
    pub about: Option<String>,
}

/// `[[stage]]`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Stage {
    /// Its id.
    pub id: String,
    /// Its heading.
    pub title: String,
    /// A text to read before.
    pub intro: Option<String>,
    /// Checked only when asked for: the project must be running.
    pub after_start: bool,
    /// How the project is started, where it is checked after that.
    pub start: Vec<String>,
    /// Where it applies.
    pub when: Option<Condition>,
}

impl From<&Guide> for Arc<Guide> {
    /// A copy to share; whoever has an [`Arc`] already gives that.
    fn from(guide: &Guide) -> Self {
        Self::new(guide.clone())
    }
}

impl Guide {
    /// The index of the requirement with this id.
    pub fn find(&self, id: &str) -> Option<usize> {
        self.requirements.iter().position(|requirement| requirement.id == id)
    }

    /// The guide as it is where values were moved: a text for each, in their order. The same guide where they cannot be what they are set to.
    #[must_use]
    pub fn moved(&self, settings: &[String]) -> Option<Self> {
        let moved = parse::with(self.text.as_deref()?, settings).ok()?;
        (moved.requirements.len() == self.requirements.len()).then_some(moved)
    }

    /// Whether it lets stand that nothing in it speaks of this.
    pub fn accepts_unlisted(&self, topic: &crate::statement::Topic) -> bool {
        let named = topic.to_string();
        let rules = ["pinned-unlisted", "used-unlisted"];
        self.accepted.iter().any(|one| rules.contains(&one.rule.as_str()) && one.of.as_ref().is_none_or(|of| *of == named))
    }

    /// The index of the place with this id.
    pub fn place(&self, id: &str) -> Option<usize> {
        self.places.iter().position(|place| place.id == id)
    }

    /// The index of the role with this id.
    pub fn role(&self, id: &str) -> Option<usize> {
        self.roles.iter().position(|role| role.id == id)
    }
}

#[cfg(test)]
mod tests;
