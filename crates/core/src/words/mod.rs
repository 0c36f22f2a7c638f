//! The sentences: what a finding says to a person, in English. This is the one place that writes them; nothing reads them back, and neither
//! `assess` nor `fix` knows this module.

mod beyond;
mod capacity;
mod component;
mod general;
mod network;
mod path;
mod place;
mod project;
mod request;
mod tool;
mod worked;

pub use beyond::{BeyondSight, beyond_sight};
pub(crate) use request::request;
pub(crate) use worked::worked_if;

use crate::finding::{Conclusion, Finding, Met, Reason};
use crate::fix::{Shell, quote};
use crate::guide::{ComponentSort, Guide, Requirement, Rights, Subject};
use crate::prelude::*;
use crate::text::{Pattern, join_words};

/// A finding about a requirement, to be told to somebody whose shell is known.
#[derive(Debug, Clone, Copy)]
pub struct Words<'r> {
    guide: &'r Guide,
    requirement: &'r Requirement,
    finding: &'r Finding,
    shell: Shell,
}

impl<'r> Words<'r> {
    /// The words for a finding about a requirement of a guide, with commands as that shell takes them.
    pub fn new(guide: &'r Guide, requirement: &'r Requirement, finding: &'r Finding, shell: Shell) -> Self {
        Self { guide, requirement, finding, shell }
    }

    /// One sentence or two that a beginner understands.
    pub fn message(&self) -> String {
        match &self.finding.conclusion {
            Conclusion::Met(met) => self.met(met),
            Conclusion::Open(reason) => self.open(reason),
            Conclusion::Waits(waiting) => general::waiting(self, waiting),
            Conclusion::LeftOut(left_out) => general::left_out(self, *left_out),
        }
    }

    /// What is worth knowing of what is met; none where there is nothing.
    pub fn remark(&self) -> Option<String> {
        let Conclusion::Met(Met::Tool(met)) = &self.finding.conclusion else { return None };
        tool::met_remark(met)
    }

    /// The same in a few words.
    pub fn remark_briefly(&self) -> Option<&'static str> {
        let Conclusion::Met(Met::Tool(met)) = &self.finding.conclusion else { return None };
        tool::met_remark_briefly(met)
    }

    /// What must fit the requirement's pattern, in words: what the guide says that it means, else the pattern.
    fn form(&self) -> String {
        self.form_of(self.requirement.subject.pattern().map_or("", Pattern::source))
    }

    fn form_of(&self, pattern: &str) -> String {
        let means = self.requirement.means.as_deref().unwrap_or(pattern);
        match &self.requirement.example {
            Some(example) => format!("{means}, for example {example}"),
            None => means.to_owned(),
        }
    }

    /// What was found, in a few words; none where there is nothing to say beside the message.
    pub fn found(&self) -> Option<String> {
        match &self.finding.conclusion {
            Conclusion::Met(met) => Some(self.met_briefly(met)),
            Conclusion::Open(reason) => Self::open_briefly(reason),
            Conclusion::Waits(_) | Conclusion::LeftOut(_) => None,
        }
    }

    /// What was wanted of that, in a few words.
    pub fn wanted(&self) -> Option<String> {
        match &self.finding.conclusion {
            Conclusion::LeftOut(_) => None,
            Conclusion::Open(reason) => self.wanted_of(reason).or_else(|| self.wanted_by_subject()),
            Conclusion::Met(Met::Tool(met)) => tool::wanted_of_met(met).or_else(|| self.wanted_by_subject()),
            Conclusion::Met(_) | Conclusion::Waits(_) => self.wanted_by_subject(),
        }
    }

    fn title(&self) -> String {
        self.requirement.title()
    }

    /// The titles of requirements, as a sentence names them.
    fn titles(&self, indexes: &[usize], conjunction: &str) -> String {
        let titles: Vec<String> =
            indexes.iter().filter_map(|index| self.guide.requirements.get(*index)).map(Requirement::title).collect();
        join_words(&titles, conjunction)
    }

    /// A command as it must be typed.
    fn command(&self, words: &[String]) -> String {
        words.iter().map(|word| quote(word, self.shell)).collect::<Vec<_>>().join(" ")
    }

    fn met(&self, met: &Met) -> String {
        match met {
            Met::Tool(met) => tool::met(self, met),
            Met::Port(met) => place::port_met(met),
            Met::Disk { available_bytes, at } => place::disk_met(*available_bytes, at),
            Met::Capacity(met) => capacity::met(met),
            Met::VirtualizationUsable => "Virtual machines can be run with hardware help.".to_owned(),
            Met::VirtualizationPresent => "The processor can run virtual machines with hardware help.".to_owned(),
            Met::System(system) => format!("This is {system}."),
            Met::PathFits { path } => format!("{path} is as it should be."),
            Met::PathAbsent { path } => format!("{path} is not there, as wanted."),
            Met::ClockRight => "This machine's clock is right.".to_owned(),
            Met::RightsInForce => "You have the rights that are needed.".to_owned(),
            Met::GroupInForce
            | Met::GroupNotNeeded
            | Met::SocketAnswers
            | Met::DeviceOpens
            | Met::DeviceBusy
            | Met::ServiceTakesConnections
            | Met::ServiceAnswers { .. }
            | Met::Reached { .. }
            | Met::NameLeads { .. }
            | Met::SubnetUnused => network::met(self, met),
            Met::Installed { version, at } => component::met(self, version.as_deref(), at.as_deref()),
            Met::VariableSet { .. }
            | Met::VariableUnset
            | Met::LimitHigh { .. }
            | Met::Unlimited
            | Met::Able
            | Met::Library { .. }
            | Met::Locale { .. }
            | Met::SettingSet
            | Met::Checkout { .. }
            | Met::CommandRan => project::met(self, met),
            Met::AnyOf { which } => general::one_met(self, *which),
        }
    }

    fn met_briefly(&self, met: &Met) -> String {
        match met {
            Met::Tool(met) => tool::met_briefly(met),
            Met::Port(met) => place::port_met_briefly(met),
            Met::Disk { available_bytes, .. } => place::free(*available_bytes),
            Met::Capacity(met) => capacity::met_briefly(met),
            Met::VirtualizationUsable => "usable".to_owned(),
            Met::VirtualizationPresent => "the processor has it".to_owned(),
            Met::System(system) => system.to_string(),
            Met::PathFits { .. } => "as it should be".to_owned(),
            Met::PathAbsent { .. } => "not there".to_owned(),
            Met::RightsInForce => "you have them".to_owned(),
            Met::ClockRight => "right".to_owned(),
            Met::GroupInForce => "in force".to_owned(),
            Met::GroupNotNeeded => "not needed".to_owned(),
            Met::SocketAnswers | Met::ServiceTakesConnections => "answers".to_owned(),
            Met::DeviceOpens => "opens".to_owned(),
            Met::DeviceBusy => "in use".to_owned(),
            Met::ServiceAnswers { status, .. } | Met::Reached { status, .. } => format!("status {status}"),
            Met::NameLeads { addresses } => network::addresses(addresses),
            Met::SubnetUnused => "not in use".to_owned(),
            Met::VariableSet { .. } | Met::SettingSet => "set".to_owned(),
            Met::VariableUnset => "not set".to_owned(),
            Met::LimitHigh { number } => number.to_string(),
            Met::Unlimited => "no limit".to_owned(),
            Met::Able => "allowed".to_owned(),
            Met::Library { version } => version.clone(),
            Met::Installed { version, .. } => version.clone().unwrap_or_else(|| {
                let loaded =
                    matches!(&self.requirement.subject, Subject::Component(one) if one.sort == ComponentSort::KernelModule);
                if loaded { "loaded" } else { "there" }.to_owned()
            }),
            Met::Locale { name } => name.clone(),
            Met::Checkout { branch } => branch.clone().unwrap_or_else(|| "as it should be".to_owned()),
            Met::CommandRan => "as expected".to_owned(),
            Met::AnyOf { which } => self.titles(&[*which], "or"),
        }
    }

    fn open(&self, reason: &Reason) -> String {
        match reason {
            Reason::Tool(reason) => tool::message(self, reason),
            Reason::Port(reason) => place::port(reason),
            Reason::Disk(reason) => place::disk(self, reason),
            Reason::Capacity(reason) => capacity::message(self, reason),
            Reason::Virtualization(reason) => capacity::virtualization(reason),
            Reason::System(reason) => capacity::system(self, reason),
            Reason::Path(reason) => path::message(self, reason),
            Reason::Variable(reason) => project::variable(self, reason),
            Reason::Group(reason) => network::group(self, *reason),
            Reason::Rights(reason) => network::rights(reason.rights).to_owned(),
            Reason::Socket(reason) => network::socket(reason),
            Reason::Device(reason) => network::device(reason),
            Reason::Service(reason) => network::service(self, reason),
            Reason::Reach(reason) => network::reach(self, reason),
            Reason::Clock(reason) => network::clock(*reason),
            Reason::Name(reason) => network::name(self, reason),
            Reason::Limit(reason) => project::limit(self, *reason),
            Reason::Library(reason) => project::library(self, reason),
            Reason::Component(reason) => component::message(self, reason),
            Reason::Locale(reason) => project::locale(self, reason),
            Reason::Setting(reason) => project::setting(self, *reason),
            Reason::Checkout(reason) => project::checkout(self, reason),
            Reason::Command(reason) => project::command(self, reason),
            Reason::AnyOf(reason) => general::any_of(self, reason),
            Reason::General(reason) => general::message(self, reason),
        }
    }

    fn open_briefly(reason: &Reason) -> Option<String> {
        match reason {
            Reason::Tool(reason) => tool::found(reason),
            Reason::Port(reason) => Some(place::port_found(reason)),
            Reason::Disk(reason) => Some(place::disk_found(reason)),
            Reason::Capacity(reason) => Some(capacity::found(reason)),
            Reason::Virtualization(reason) => capacity::virtualization_found(reason).map(ToOwned::to_owned),
            Reason::System(reason) => Some(reason.system.clone()),
            Reason::Path(reason) => path::found(reason),
            Reason::Variable(reason) => Some(project::variable_found(reason)),
            Reason::Group(reason) => Some(network::group_found(*reason).to_owned()),
            Reason::Socket(reason) => Some(network::socket_found(reason).to_owned()),
            Reason::Device(reason) => Some(network::device_found(reason).to_owned()),
            Reason::Service(reason) => Some(network::service_found(reason)),
            Reason::Reach(reason) => Some(network::reach_found(reason)),
            Reason::Clock(reason) => Some(network::clock_found(*reason)),
            Reason::Name(reason) => Some(network::name_found(reason)),
            Reason::Limit(reason) => Some(project::limit_found(*reason)),
            Reason::Library(reason) => Some(project::library_found(reason)),
            Reason::Component(reason) => component::found(reason),
            Reason::Locale(reason) => Some(project::locale_found(reason)),
            Reason::Setting(reason) => Some(project::setting_found(*reason).to_owned()),
            Reason::Checkout(reason) => project::checkout_found(reason),
            Reason::Command(reason) => project::command_found(reason),
            Reason::AnyOf(reason) => Some(general::any_of_found(reason).to_owned()),
            Reason::Rights(_) | Reason::General(_) => None,
        }
    }

    /// What is wanted of the thing that failed, where that is another than the requirement as a whole says.
    fn wanted_of(&self, reason: &Reason) -> Option<String> {
        match reason {
            Reason::Tool(reason) => tool::wanted_of(reason),
            Reason::Disk(reason) => place::disk_wanted_of(reason),
            Reason::System(reason) => capacity::system_wanted_of(self, reason),
            Reason::Path(reason) => path::wanted_of(reason),
            Reason::Checkout(reason) => project::checkout_wanted_of(self, reason),
            Reason::Command(reason) => project::command_wanted_of(self, reason),
            Reason::Port(_)
            | Reason::Capacity(_)
            | Reason::Virtualization(_)
            | Reason::Variable(_)
            | Reason::Group(_)
            | Reason::Rights(_)
            | Reason::Socket(_)
            | Reason::Device(_)
            | Reason::Service(_)
            | Reason::Reach(_)
            | Reason::Name(_)
            | Reason::Clock(_)
            | Reason::Limit(_)
            | Reason::Library(_)
            | Reason::Component(_)
            | Reason::Locale(_)
            | Reason::Setting(_)
            | Reason::AnyOf(_)
            | Reason::General(_) => None,
        }
    }

    fn wanted_by_subject(&self) -> Option<String> {
        match &self.requirement.subject {
            Subject::Tool(tool) => tool::wanted(tool),
            Subject::Port(_) => Some("free".to_owned()),
            Subject::Disk(disk) => Some(format!("{} free", disk.size)),
            Subject::Memory(memory) => Some(capacity::memory_wanted(memory)),
            Subject::Swap(size) => Some(size.to_string()),
            Subject::Cores(cores) => Some(cores.to_string()),
            Subject::Virtualization(need) => Some(capacity::virtualization_wanted(*need).to_owned()),
            Subject::System(systems) => Some(systems.to_string()),
            Subject::Path(path) => Some(path::wanted(path)),
            Subject::Variable(variable) => Some(project::variable_wanted(variable).to_owned()),
            Subject::Group(_) => Some("in force".to_owned()),
            Subject::Rights(Rights::Admin) => Some("may act as administrator".to_owned()),
            Subject::Rights(Rights::Root) => Some("is the administrator".to_owned()),
            Subject::Socket(_) => Some("answers".to_owned()),
            Subject::Device(_) => Some("may be opened by you".to_owned()),
            Subject::Service(service) => Some(network::service_wanted(service)),
            Subject::Reach(reach) => Some(network::reach_wanted(reach)),
            Subject::Hostname(hostname) => Some(hostname.points_to.clone().unwrap_or_else(|| "known".to_owned())),
            Subject::Clock(_) => Some("right".to_owned()),
            Subject::Subnet(_) => Some("in no use".to_owned()),
            Subject::Limit(limit) => Some(project::limit_wanted(limit)),
            Subject::Library(library) => library.version.as_ref().map(ToString::to_string),
            Subject::Component(component) => Some(component::wanted(component)),
            Subject::Locale(locale) => Some(project::locale_wanted(locale)),
            Subject::Setting(setting) => Some(project::setting_wanted(setting).to_owned()),
            Subject::Checkout(checkout) => Some(project::checkout_wanted(checkout)),
            Subject::Command(command) => Some(project::command_wanted(command)),
            Subject::AnyOf(any_of) => Some(format!("one of {}", any_of.alternatives.len())),
        }
    }
}

#[cfg(test)]
mod book;
#[cfg(test)]
mod tests;
