//! The setup guide: its model, and its reading with all mistakes at once.

mod acceptance;
mod command_line;
mod defaults;
mod fix;
mod fix_parse;
mod get;
pub(crate) mod kind_keys;
pub(crate) mod language;
pub(crate) mod names;
mod order;
mod parse;
mod place;
mod placeholder;
pub(crate) mod programs;
pub(crate) mod reading;
mod requirement;
mod secret_leaks;
mod stage;
mod subject;
mod subject_facts;
mod subject_parse;
pub(crate) mod supply_parse;
mod value;
pub mod vocabulary;

pub use crate::kinds::Subject;
pub use crate::kinds::any_of::AnyOf;
pub use crate::kinds::capacity::{Cores, Memory, Swap};
pub use crate::kinds::checkout::Checkout;
pub use crate::kinds::clock::Clock;
pub use crate::kinds::command::Command;
pub use crate::kinds::component::{Component, ComponentSort};
pub use crate::kinds::device::Device;
pub use crate::kinds::disk::Disk;
pub use crate::kinds::group::Group;
pub use crate::kinds::library::Library;
pub use crate::kinds::limit::Limit;
pub use crate::kinds::locale::Locale;
pub use crate::kinds::name::{Hostname, Subnet};
pub use crate::kinds::path::{Path, PathKind};
pub use crate::kinds::port::{Port, PortNumbers, Protocol};
pub use crate::kinds::reach::Reach;
pub use crate::kinds::rights::Rights;
pub use crate::kinds::service::Service;
pub use crate::kinds::setting::Setting;
pub use crate::kinds::socket::Socket;
pub use crate::kinds::system::Systems;
pub use crate::kinds::tool::{Tool, VersionFrom};
pub use crate::kinds::variable::EnvironmentVariable;
pub use crate::kinds::virtualization::Virtualization;
pub use crate::kinds::{KINDS, Kind};
pub use acceptance::Acceptance;
pub use fix::{Edit, GuideFix, Then};
pub use get::{GetWay, RELEASE};
pub use kind_keys::KindKeys;
pub use language::{Installer, Language};
pub(crate) use names::is_package;
pub use parse::{FORMAT, parse};
pub use place::WorkPlace;
pub use placeholder::{Placeholder, pieces as placeholder_pieces};
pub use requirement::{Level, Requirement};
pub use stage::{Role, Stage};
pub use subject::{Access, Existence, Supply};
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
