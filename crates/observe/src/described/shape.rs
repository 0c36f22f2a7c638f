//! What a description says, before any question is put to it.

use setup_ready_core::cause::Cause;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{Language, LimitKind, Protocol};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{
    Account, Binding, CheckoutState, CoreState, DeviceState, DiskLimit, Fetched, Holder, Hypervisor, InstalledState,
    LibraryState, LimitState, MemoryState, Network, Observation, Offered, Processor, ProgramCopy, Run, SocketState, Surroundings,
    System, SystemProxy, SystemService,
};
use setup_ready_core::probe::PortPlace;
use setup_ready_core::report::Outcome;
use std::collections::{HashMap, HashSet};
use std::net::IpAddr;

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

/// A file or a folder.
#[derive(Debug, Clone, Default)]
pub(super) struct DescribedPath {
    pub(super) folder: bool,
    pub(super) text: String,
    pub(super) mode: Option<u32>,
    pub(super) owner: Option<String>,
    pub(super) open_to: Option<Vec<String>>,
    pub(super) writable: Option<bool>,
    pub(super) executable: Option<bool>,
    pub(super) link_to: Option<String>,
}

/// What is described here. `None` is: it does not say.
#[derive(Debug, Clone, Default)]
pub(super) struct Contents {
    pub(super) environment: HashMap<String, String>,
    pub(super) paths: HashMap<String, DescribedPath>,
    /// The least path of those that differ only in upper and lower case, by its small letters.
    pub(super) small: HashMap<String, String>,
    /// The folders that something is in.
    pub(super) folders: HashSet<String>,
    pub(super) libraries: HashMap<String, LibraryState>,
    pub(super) components: Components,
    pub(super) settings: Option<HashMap<String, String>>,
    pub(super) checkout: Option<CheckoutState>,
    pub(super) commands: HashMap<Vec<String>, Run>,
    pub(super) limits: HashMap<LimitKind, LimitState>,
    pub(super) locales: Option<Vec<String>>,
    /// By manager: its packages with what it offers.
    pub(super) candidates: HashMap<Manager, HashMap<String, Offered>>,
}

/// What is described of them.
#[derive(Debug, Clone, Default)]
pub(super) struct Components {
    /// Modules by their language and their name, headers under an empty one.
    pub(super) modules: HashMap<(Language, String), InstalledState>,
    /// The devices that are connected by USB, by vendor and product.
    pub(super) usb: Option<Vec<String>>,
    /// By manager: the packages that are installed, with their versions.
    pub(super) installed: HashMap<Manager, HashMap<String, String>>,
}

/// What is described here. `None` is: it does not say.
#[derive(Debug, Clone, Default)]
pub(super) struct Net {
    pub(super) sockets: HashMap<String, SocketState>,
    /// By `host:port`, by that with a path, or by an address with or without its path.
    pub(super) sites: HashMap<String, Site>,
    /// Where somebody answers for a path alone, by `host:port`.
    pub(super) answering_below: HashSet<String>,
    pub(super) online: Option<bool>,
    /// How many seconds the clock is ahead.
    pub(super) clock_ahead_s: Option<i64>,
    pub(super) networks: Option<Vec<Network>>,
    pub(super) proxy: SystemProxy,
    /// None where the description says nothing of services.
    pub(super) services: Option<HashMap<String, SystemService>>,
    pub(super) names: Option<HashMap<String, Vec<IpAddr>>>,
}

/// Somebody who answers, or does not.
#[derive(Debug, Clone)]
pub(super) struct Site {
    pub(super) trouble: Option<Fetched>,
    pub(super) status: u16,
    pub(super) text: String,
}

/// What a described machine expects of one requirement.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Expected {
    /// The requirement's id.
    pub id: String,
    /// The verdict.
    pub verdict: Verdict,
    /// The cause, where one is given.
    pub cause: Option<Cause>,
    /// Words that must stand in its message.
    pub says: Vec<String>,
    /// Words that must stand in a fix that is offered: in its words, its commands, or the lines that it adds.
    pub offers: Vec<String>,
}

/// What a described machine expects of one preflight.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
#[non_exhaustive]
pub struct Expectation {
    /// For this role; for everyone where there is none.
    pub role: Option<String>,
    /// What needs the running project is checked too.
    pub after_start: bool,
    /// The place where one is, as a person would say it.
    pub place: Option<String>,
    /// How the whole comes out.
    pub outcome: Option<Outcome>,
    /// Words that must stand in a message or a fix.
    pub says: Vec<String>,
    /// What comes of single requirements.
    pub requirements: Vec<Expected>,
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
