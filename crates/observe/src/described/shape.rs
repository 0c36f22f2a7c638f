//! What a description says, before any question is put to it.

use super::contents::Contents;
use super::network::Net;
use super::{Expectation, Expected};
use setup_ready_core::guide::Protocol;
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{
    Account, Binding, CoreState, DeviceState, DiskLimit, Holder, Hypervisor, MemoryState, Observation, Processor, ProgramCopy,
    Run, Surroundings, System,
};
use setup_ready_core::probe::PortPlace;
use std::collections::HashMap;

/// A described machine. `None` is: it does not say.
#[derive(Debug, Clone, Default)]
pub(super) struct Shape {
    pub(super) name: String,
    pub(super) about: Option<String>,
    pub(super) project: String,
    pub(super) home: Option<String>,
    pub(super) system: Option<System>,
    pub(super) surroundings: Option<Surroundings>,
    pub(super) account: Option<Account>,
    pub(super) database_groups: Option<Vec<String>>,
    pub(super) managers: Option<Vec<Manager>>,
    /// The copies of each program that PATH finds, in its order.
    pub(super) programs: HashMap<String, Vec<ProgramCopy>>,
    /// Copies in folders that PATH does not name.
    pub(super) elsewhere: HashMap<String, Vec<ProgramCopy>>,
    /// What each file prints, by path.
    pub(super) runs: HashMap<String, Run>,
    /// The version that each file states, by path.
    pub(super) stated: HashMap<String, String>,
    pub(super) filesystems: Vec<Filesystem>,
    pub(super) ports: HashMap<(Protocol, u16), DescribedPort>,
    pub(super) other_ports: Option<Binding>,
    pub(super) memory: Option<MemoryState>,
    pub(super) cores: Option<CoreState>,
    pub(super) processor: Option<Processor>,
    pub(super) hypervisor: Option<Hypervisor>,
    pub(super) devices: HashMap<String, DeviceState>,
    pub(super) modules: Option<Vec<String>>,
    /// The groups that this machine has, beside those of the user.
    pub(super) other_groups: Option<Vec<String>>,
    pub(super) contents: Contents,
    pub(super) net: Net,
    pub(super) expected: Vec<Expected>,
    pub(super) expectations: Vec<Expectation>,
}

/// A filesystem.
#[derive(Debug, Clone)]
pub(super) struct Filesystem {
    pub(super) at: String,
    pub(super) available_bytes: u64,
    pub(super) available_inodes: Option<u64>,
    pub(super) limited_by: Option<DiskLimit>,
    pub(super) read_only: bool,
    pub(super) writable: bool,
}

/// A port that is not free.
#[derive(Debug, Clone)]
pub(super) struct DescribedPort {
    pub(super) binding: Binding,
    pub(super) holder: Option<Holder>,
}

/// What the description does not say is unknown.
pub(super) fn said(answer: Option<Observation>) -> Observation {
    answer.unwrap_or_else(|| Observation::CouldNotLook("the described machine does not say".to_owned()))
}

/// A port that the description names.
pub(super) fn port<'s>(shape: &'s Shape, place: &PortPlace) -> Option<&'s DescribedPort> {
    shape.ports.get(&(place.protocol, place.port))
}

/// What comes of binding a port.
pub(super) fn binding(shape: &Shape, place: &PortPlace) -> Option<Binding> {
    port(shape, place).map(|port| port.binding.clone()).or_else(|| shape.other_ports.clone())
}

/// A guide's path on the described machine.
pub(super) fn resolve(shape: &Shape, path: &str) -> String {
    let home = shape.home.as_deref().unwrap_or("/home/somebody");
    let path = path.replace('\\', "/");
    let absolute = path.starts_with('/') || path.get(1..3) == Some(":/");
    let whole = if path == "~" {
        home.to_owned()
    } else if let Some(rest) = path.strip_prefix("~/") {
        format!("{home}/{rest}")
    } else if absolute {
        path
    } else if path == "." {
        shape.project.clone()
    } else {
        format!("{}/{path}", shape.project)
    };
    whole.replace('\\', "/")
}
