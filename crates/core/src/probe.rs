//! The questions that can be put to a machine. Each is small, and plain data.

use crate::catalogue::{self, Start};
use crate::guide::Protocol;
use crate::prelude::*;
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// One small question to a machine.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Probe {
    /// Which operating system, version, distribution and architecture is this?
    System,
    /// Is it a container, a virtual machine, a guest inside another system, a build server?
    Surroundings,
    /// Who is this, and which groups does this session have?
    Account,
    /// Which groups does the account database give this user?
    DatabaseGroups,
    /// Which package managers are here?
    Managers,
    /// Every copy of a program on PATH, in order.
    Program {
        /// Its name.
        name: String,
    },
    /// Copies of a program in the usual folders of this system and its languages that PATH does not name.
    ProgramElsewhere {
        /// Its name.
        name: String,
    },
    /// What does this program print, with these arguments?
    Run {
        /// The file.
        path: String,
        /// The arguments.
        arguments: Vec<String>,
    },
    /// Can this user bind this port now?
    PortBinding(PortPlace),
    /// Who holds this port?
    PortHolder(PortPlace),
    /// The first port above this one that can be bound.
    FreePort(PortPlace),
    /// Which number does a variable, or a key of a `.env`-style file, set?
    SettingNumber {
        /// The variable and key.
        variable: String,
        /// The file, which wins over nothing but its absence: the environment comes first.
        env_file: Option<String>,
    },
    /// How much may this user still write at a place?
    DiskRoom {
        /// The place; `~` and relative paths as the guide has them.
        path: String,
    },
    /// How much memory is there, and who caps it?
    Memory,
    /// How many cores are there, and who caps them?
    Cores,
    /// What does the processor say about virtualization?
    Processor,
    /// Does the system give hypervisors to programs, where that is not by a device?
    Hypervisor,
    /// May this user open a device?
    Device {
        /// Its path.
        path: String,
    },
    /// Is a kernel module loaded?
    Module {
        /// Its name.
        name: String,
    },
}

/// A port on an address.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
pub struct PortPlace {
    /// TCP or UDP.
    pub protocol: Protocol,
    /// The address; every address of the machine where none is given.
    pub address: Option<String>,
    /// The number.
    pub port: u16,
}

impl Display for PortPlace {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} port {}", self.protocol.name(), self.port)?;
        match &self.address {
            Some(address) => write!(f, " at {address}"),
            None => Ok(()),
        }
    }
}

impl Probe {
    /// How early it is worth asking, the highest first: 3 what is answered at once (the copies on PATH lead to the slow questions), 2 a
    /// program that is known to start slowly, 1 another program, 0 what only explains a failure.
    pub fn urgency(&self) -> u8 {
        match self {
            Self::Run { path, .. } => {
                let name = path.rsplit(['/', '\\']).next().unwrap_or(path);
                if catalogue::find(name).is_some_and(|row| row.start == Start::Slow) { 2 } else { 1 }
            }
            Self::PortHolder(_) | Self::DatabaseGroups | Self::ProgramElsewhere { .. } | Self::FreePort(_) => 0,
            Self::System
            | Self::Surroundings
            | Self::Account
            | Self::Managers
            | Self::Program { .. }
            | Self::PortBinding(_)
            | Self::SettingNumber { .. }
            | Self::DiskRoom { .. }
            | Self::Memory
            | Self::Cores
            | Self::Processor
            | Self::Hypervisor
            | Self::Device { .. }
            | Self::Module { .. } => 3,
        }
    }
}

/// What was asked, as evidence shows it.
impl Display for Probe {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::System => f.write_str("operating system"),
            Self::Surroundings => f.write_str("container, virtual machine, guest"),
            Self::Account => f.write_str("this session's user and groups"),
            Self::DatabaseGroups => f.write_str("the account database's groups for this user"),
            Self::Managers => f.write_str("package managers"),
            Self::Program { name } => write!(f, "copies of {name} on PATH"),
            Self::ProgramElsewhere { name } => write!(f, "copies of {name} in usual folders that are not on PATH"),
            Self::Run { path, arguments } => {
                f.write_str(path)?;
                arguments.iter().try_for_each(|argument| write!(f, " {argument}"))
            }
            Self::PortBinding(place) => write!(f, "bind {place}"),
            Self::PortHolder(place) => write!(f, "holder of {place}"),
            Self::FreePort(place) => write!(f, "a free port above {}", place.port),
            Self::SettingNumber { variable, env_file: None } => write!(f, "variable {variable}"),
            Self::SettingNumber { variable, env_file: Some(file) } => write!(f, "variable {variable}, or its line in {file}"),
            Self::DiskRoom { path } => write!(f, "room at {path}"),
            Self::Memory => f.write_str("memory and its limits"),
            Self::Cores => f.write_str("cores and their limits"),
            Self::Processor => f.write_str("the processor's virtualization"),
            Self::Hypervisor => f.write_str("the system's feature for virtual machines"),
            Self::Device { path } => write!(f, "open {path}"),
            Self::Module { name } => write!(f, "kernel module {name}"),
        }
    }
}
