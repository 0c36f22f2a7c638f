//! What fills the placeholders of a guide's fix.

use super::{Circumstances, quote};
use crate::finding::{
    CapacityReason, CheckoutReason, CommandReason, ComponentTrouble, DiskTrouble, LibraryTrouble, LimitReason, NameReason,
    PathTrouble, PortReason, PortTrouble, ReachTrouble, Reason, ServiceTrouble, SystemTrouble,
};
use crate::guide::{Placeholder, Requirement, Subject, placeholder_pieces};
use crate::prelude::*;
use crate::text::{Pattern, Size, join_words};

/// How values are put into a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Quoting {
    /// As they are, for people.
    Plain,
    /// As one word each, for the person's shell.
    Shell,
}

/// The values that a finding has.
pub(super) struct Values<'a> {
    requirement: &'a Requirement,
    reason: &'a Reason,
    pub(super) here: &'a Circumstances<'a>,
    /// What the fix's own pattern found in what was printed.
    captured: Option<String>,
}

impl<'a> Values<'a> {
    pub(super) fn of(requirement: &'a Requirement, reason: &'a Reason, here: &'a Circumstances<'a>) -> Self {
        Self { requirement, reason, here, captured: None }
    }

    /// With what a fix's pattern finds in what the command printed; none where it must find something and does not.
    pub(super) fn where_it_prints(mut self, prints: Option<&Pattern>) -> Option<Self> {
        if let Some(pattern) = prints {
            let Reason::Command(
                CommandReason::Status { said: Some(printed), .. }
                | CommandReason::Crashed { said: Some(printed), .. }
                | CommandReason::Output { printed },
            ) = self.reason
            else {
                return None;
            };
            self.captured = Some(pattern.capture(printed)?.trim().to_owned());
        }
        Some(self)
    }

    /// The text with its placeholders filled in; none where the finding cannot fill one.
    pub(super) fn fill(&self, text: &str, quoting: Quoting) -> Option<String> {
        let mut filled = String::with_capacity(text.len());
        for piece in placeholder_pieces(text) {
            match piece {
                Err(plain) => filled.push_str(plain),
                Ok(word) => {
                    let placeholder = Placeholder::ALL.into_iter().find(|one| one.word() == word)?;
                    let value = self.value(placeholder)?;
                    filled.push_str(&if quoting == Quoting::Shell { quote(&value, self.here.shell) } else { value });
                }
            }
        }
        Some(filled)
    }

    fn value(&self, placeholder: Placeholder) -> Option<String> {
        match placeholder {
            Placeholder::Found => self.found(),
            Placeholder::Wanted => self.wanted(),
            Placeholder::Path => self.path(),
            Placeholder::Port => self.port().map(|port| port.to_string()),
            Placeholder::FreePort => match self.at_port()? {
                PortReason::At { free_port, .. } => free_port.map(|port| port.to_string()),
                PortReason::NotAPort { .. } => None,
            },
            Placeholder::User => self.here.user().map(ToOwned::to_owned),
            Placeholder::StartupFile => self.here.startup_file().map(ToOwned::to_owned),
            Placeholder::Holder => match self.at_port()? {
                PortReason::At { trouble: PortTrouble::Held { holder: Some(holder), .. }, .. } => {
                    holder.is_told().then(|| holder.to_string())
                }
                PortReason::At { .. } | PortReason::NotAPort { .. } => None,
            },
            Placeholder::Folder => {
                let path = self.path()?;
                let (folder, _) = path.rsplit_once(['/', '\\'])?;
                Some(if folder.is_empty() { "/".to_owned() } else { folder.to_owned() })
            }
            Placeholder::Captured => self.captured.clone(),
            Placeholder::ShortBy => self.short_by().map(|size| size.to_string()),
        }
    }

    fn at_port(&self) -> Option<&PortReason> {
        if let Reason::Port(reason) = self.reason { Some(reason) } else { None }
    }

    fn short_by(&self) -> Option<Size> {
        if let Reason::Disk(reason) = self.reason {
            reason.short_by()
        } else if let Reason::Capacity(reason) = self.reason {
            reason.short_by()
        } else {
            None
        }
    }

    /// What was found, where it is a value: a version, an amount, a name.
    fn found(&self) -> Option<String> {
        match self.reason {
            Reason::Tool(reason) => reason.version().map(ToString::to_string),
            Reason::Disk(reason) => Some(match reason.trouble {
                DiskTrouble::InodesShort { left, .. } => left.to_string(),
                DiskTrouble::ReadOnly
                | DiskTrouble::NoPermission
                | DiskTrouble::Short { .. }
                | DiskTrouble::ShortTogether(_)
                | DiskTrouble::OthersUnknown { .. } => Size(reason.available_bytes).to_string(),
            }),
            Reason::Capacity(reason) => Some(match reason {
                CapacityReason::MemoryShort { total, .. } | CapacityReason::FreeMemoryUnknown { total } => total.to_string(),
                CapacityReason::MemoryCapped { usable, .. } => usable.to_string(),
                CapacityReason::MemoryBusy { available, .. } => available.to_string(),
                CapacityReason::SwapShort { swap, .. } => swap.to_string(),
                CapacityReason::SwapUnknown => return None,
                CapacityReason::CoresShort { online, .. } => online.to_string(),
                CapacityReason::CoresCapped { usable_hundredths, .. } => crate::observation::cores_text(*usable_hundredths),
            }),
            Reason::System(reason) => Some(match &reason.trouble {
                SystemTrouble::OutOfRange { found, .. } => found.to_string(),
                SystemTrouble::OtherDistribution { found } | SystemTrouble::Edition { found } | SystemTrouble::Arch { found } => {
                    found.clone()
                }
                SystemTrouble::Other | SystemTrouble::Incomparable { .. } | SystemTrouble::Unknown { .. } => {
                    reason.system.clone()
                }
            }),
            Reason::Path(reason) => found_path(&reason.trouble),
            Reason::Name(NameReason::Elsewhere { addresses }) => {
                Some(join_words(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>(), "and"))
            }
            Reason::Name(NameReason::SubnetTaken { networks, .. }) => {
                Some(join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and"))
            }
            Reason::Limit(LimitReason::Low { number, .. }) => Some(number.to_string()),
            Reason::Library(reason) => match &reason.trouble {
                LibraryTrouble::OutOfRange { found, .. } => Some(found.to_string()),
                LibraryTrouble::Incomparable { found } => Some(found.clone()),
                LibraryTrouble::Missing | LibraryTrouble::NoHeaders { .. } | LibraryTrouble::Lacks { .. } => None,
            },
            Reason::Component(reason) => match &reason.trouble {
                ComponentTrouble::OutOfRange { found, .. } => Some(found.to_string()),
                ComponentTrouble::Incomparable { found } => Some(found.clone()),
                ComponentTrouble::Missing { .. } | ComponentTrouble::NoVersion | ComponentTrouble::NoManager => None,
            },
            Reason::Checkout(CheckoutReason::Branch { branch }) => branch.clone(),
            Reason::Service(reason) => {
                if let ServiceTrouble::OtherStatus { status, .. } = &reason.trouble {
                    Some(status.to_string())
                } else {
                    None
                }
            }
            Reason::Reach(reason) => {
                if let ReachTrouble::Status { status } = &reason.trouble {
                    Some(status.to_string())
                } else {
                    None
                }
            }
            Reason::Port(_)
            | Reason::Virtualization(_)
            | Reason::Variable(_)
            | Reason::Group(_)
            | Reason::Rights(_)
            | Reason::Socket(_)
            | Reason::Device(_)
            | Reason::Name(_)
            | Reason::Clock(_)
            | Reason::Limit(_)
            | Reason::Locale(_)
            | Reason::Setting(_)
            | Reason::Checkout(_)
            | Reason::Command(_)
            | Reason::AnyOf(_)
            | Reason::General(_) => None,
        }
    }

    /// What was wanted, where it is a value.
    fn wanted(&self) -> Option<String> {
        match (&self.requirement.subject, self.reason) {
            (_, Reason::Tool(reason)) => reason.range().map(ToString::to_string),
            (_, Reason::Path(reason)) => wanted_mode(&reason.trouble),
            (Subject::Disk(disk), _) => match disk.inodes {
                Some(inodes) if matches!(self.reason, Reason::Disk(one) if matches!(one.trouble, DiskTrouble::InodesShort { .. })) => {
                    Some(inodes.to_string())
                }
                _ => Some(disk.size.to_string()),
            },
            (Subject::Memory(memory), _) => Some(memory.size.to_string()),
            (Subject::Swap(size), _) => Some(size.to_string()),
            (Subject::Cores(cores), _) => Some(cores.to_string()),
            (Subject::System(systems), _) => Some(systems.to_string()),
            (Subject::Hostname(host), _) => host.points_to.clone(),
            (Subject::Limit(limit), _) => limit.at_least.map(|least| least.to_string()),
            (Subject::Library(library), _) => library.version.as_ref().map(ToString::to_string),
            (Subject::Component(component), _) => component.version.as_ref().map(ToString::to_string),
            (Subject::Locale(locale), _) => Some(locale.name.clone()),
            (Subject::Checkout(checkout), _) => checkout.branch.clone(),
            (Subject::Service(service), _) => service.status.map(|status| status.to_string()),
            (Subject::Reach(reach), _) => reach.status.map(|status| status.to_string()),
            (Subject::Command(command), _) => Some(command.exit.to_string()),
            _ => None,
        }
    }

    fn path(&self) -> Option<String> {
        match self.reason {
            Reason::Tool(reason) => reason.path().map(ToOwned::to_owned),
            Reason::Disk(reason) => Some(reason.disk.clone()),
            Reason::Path(reason) => Some(reason.path.clone()),
            Reason::Socket(reason) => Some(reason.path.clone()),
            Reason::Device(reason) => Some(reason.path.clone()),
            Reason::Library(reason) => reason.description.clone(),
            Reason::Component(reason) => reason.at.clone().or_else(|| reason.program.clone()),
            Reason::Port(reason) => match &**reason {
                PortReason::NotAPort { set_at, .. } => Some(set_at.place.clone()),
                PortReason::At { .. } => None,
            },
            Reason::Variable(_) => {
                if let Subject::Variable(variable) = &self.requirement.subject {
                    variable.env_file.clone()
                } else {
                    None
                }
            }
            Reason::Checkout(_) => {
                if let Subject::Checkout(checkout) = &self.requirement.subject {
                    Some(checkout.path.clone())
                } else {
                    None
                }
            }
            Reason::Capacity(_)
            | Reason::Virtualization(_)
            | Reason::System(_)
            | Reason::Group(_)
            | Reason::Rights(_)
            | Reason::Service(_)
            | Reason::Reach(_)
            | Reason::Name(_)
            | Reason::Clock(_)
            | Reason::Limit(_)
            | Reason::Locale(_)
            | Reason::Setting(_)
            | Reason::Command(_)
            | Reason::AnyOf(_)
            | Reason::General(_) => None,
        }
    }

    fn port(&self) -> Option<u16> {
        if let Reason::Service(reason) = self.reason {
            return Some(reason.port);
        }
        match self.at_port()? {
            PortReason::At { place, .. } => Some(place.port),
            PortReason::NotAPort { .. } => None,
        }
    }
}

fn found_path(trouble: &PathTrouble) -> Option<String> {
    if let PathTrouble::Mode { mode, .. } = trouble {
        Some(format!("{mode:o}"))
    } else if let PathTrouble::NotMine { owner } = trouble {
        owner.clone()
    } else if let PathTrouble::Dangling { target } = trouble {
        Some(target.clone())
    } else {
        None
    }
}

fn wanted_mode(trouble: &PathTrouble) -> Option<String> {
    if let PathTrouble::Mode { needed, .. } | PathTrouble::OpenToOthers { needed, .. } = trouble {
        Some(format!("{needed:o}"))
    } else {
        None
    }
}
