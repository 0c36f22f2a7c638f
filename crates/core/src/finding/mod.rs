//! What is found about a requirement on one machine, as a value. No text stands in it but what the machine itself said; sentences are
//! written from it by [`crate::words`].

pub(crate) mod general;

pub use crate::kinds::Reason;
pub use crate::kinds::any_of::reason::AnyOfReason;
pub use crate::kinds::capacity::reason::{CapacityMet, CapacityReason};
pub use crate::kinds::checkout::reason::CheckoutReason;
pub use crate::kinds::clock::reason::ClockReason;
pub use crate::kinds::command::reason::CommandReason;
pub use crate::kinds::component::reason::{ComponentReason, ComponentTrouble};
pub use crate::kinds::device::reason::{DeviceReason, DeviceTrouble};
pub use crate::kinds::disk::reason::{DiskReason, DiskTrouble, Named, Together};
pub use crate::kinds::group::reason::GroupReason;
pub use crate::kinds::library::reason::{LibraryReason, LibraryTrouble, OtherDescription};
pub use crate::kinds::limit::reason::LimitReason;
pub use crate::kinds::locale::reason::LocaleReason;
pub use crate::kinds::name::reason::NameReason;
pub use crate::kinds::path::reason::{PathReason, PathTrouble, Whose};
pub use crate::kinds::port::reason::{PortMet, PortReason, PortTrouble, SetAt};
pub use crate::kinds::reach::reason::{ReachReason, ReachTrouble};
pub use crate::kinds::rights::reason::{RightsFacts, RightsReason};
pub use crate::kinds::service::reason::{ServiceReason, ServiceTrouble, StoppedService};
pub use crate::kinds::setting::reason::SettingReason;
pub use crate::kinds::socket::reason::{SocketReason, SocketTrouble};
pub use crate::kinds::system::reason::{SystemReason, SystemTrouble, SystemUnknown};
pub use crate::kinds::tool::reason::{
    Breakage, ConsentNeed, Failure, NeededArch, OtherCopy, OtherPlace, PinTrouble, Refusal, Silence, ToolMet, ToolReason,
    ToolRemark, ToolTrouble, WantedVersion,
};
pub use crate::kinds::variable::reason::{VariableReason, VariableTrouble};
pub use crate::kinds::virtualization::reason::VirtualizationReason;
pub use general::{General, LeftOut, Waiting};

use crate::cause::Cause;
use crate::known::Answer;
use crate::observation::System;
use crate::prelude::*;
use crate::version::Version;
use core::net::IpAddr;
use serde::Serialize;

pub use crate::verdict::Verdict;

/// What is found about one requirement.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct Finding {
    /// What it comes to, with the facts.
    pub conclusion: Conclusion,
    /// The answers that it rests on, in the order in which they were used.
    pub evidence: Vec<Answer>,
    /// Answers that it rests on together with other findings: what a sum is made of is kept, and told, once.
    pub shared_evidence: Option<Arc<[Answer]>>,
}

/// What a finding comes to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum Conclusion {
    /// The requirement is met.
    Met(Met),
    /// It is not met, or nobody knows, for this reason; the reason's cause tells which of the two.
    Open(Reason),
    /// It was not looked at, since others come first.
    Waits(Waiting),
    /// It was left out.
    LeftOut(LeftOut),
}

/// How a requirement is met.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum Met {
    /// A tool.
    Tool(ToolMet),
    /// A port.
    Port(PortMet),
    /// So much can be written at that place.
    Disk {
        /// In bytes.
        available_bytes: u64,
        /// The nearest existing folder.
        at: String,
    },
    /// Memory or cores.
    Capacity(CapacityMet),
    /// Hypervisors can be used.
    VirtualizationUsable,
    /// The processor has what it takes.
    VirtualizationPresent,
    /// This system is among those that do.
    System(Box<System>),
    /// The file or folder is as it should be.
    PathFits {
        /// Where.
        path: String,
    },
    /// Nothing is there, as wanted.
    PathAbsent {
        /// Where.
        path: String,
    },
    /// The variable is set.
    VariableSet {
        /// Where.
        place: Place,
    },
    /// The variable is not set, as wanted.
    VariableUnset,
    /// This user has the rights.
    RightsInForce,
    /// The group is in force in this session.
    GroupInForce,
    /// The administrator needs no group.
    GroupNotNeeded,
    /// A program answers behind the socket.
    SocketAnswers,
    /// The device opens.
    DeviceOpens,
    /// The device is there, and another program uses it.
    DeviceBusy,
    /// The service takes connections.
    ServiceTakesConnections,
    /// The service answers by HTTP.
    ServiceAnswers {
        /// What was asked.
        url: String,
        /// The status.
        status: u16,
    },
    /// The address can be reached.
    Reached {
        /// The address, without what is secret in it.
        address: String,
        /// The status.
        status: u16,
    },
    /// The clock is right.
    ClockRight,
    /// The name leads there.
    NameLeads {
        /// Where.
        #[cfg_attr(feature = "schema", schemars(with = "Vec<String>"))]
        addresses: Vec<IpAddr>,
    },
    /// The network is in no use here.
    SubnetUnused,
    /// The limit is high enough.
    LimitHigh {
        /// The limit.
        number: u64,
    },
    /// There is no limit.
    Unlimited,
    /// The ability is there.
    Able,
    /// The library is here.
    Library {
        /// Its version, as its description says it.
        version: String,
    },
    /// The module, the headers or the package is installed.
    Installed {
        /// Its version, where one is known.
        version: Option<String>,
        /// Where.
        at: Option<String>,
    },
    /// The locale is made here.
    Locale {
        /// Its name, as the system lists it.
        name: String,
    },
    /// The setting is there.
    SettingSet,
    /// The working copy is as it should be.
    Checkout {
        /// Its branch, where it is on one.
        branch: Option<String>,
    },
    /// The command ran as expected.
    CommandRan,
    /// One of the alternatives is met.
    AnyOf {
        /// Its index.
        #[serde(skip)]
        which: usize,
    },
}

/// Where a variable is set.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Place {
    /// In the environment of this terminal.
    Environment,
    /// In this file.
    File(String),
}

impl Finding {
    /// A finding without evidence yet.
    pub fn new(conclusion: Conclusion) -> Self {
        Self { conclusion, evidence: Vec::new(), shared_evidence: None }
    }

    /// The verdict.
    pub fn verdict(&self) -> Verdict {
        match &self.conclusion {
            Conclusion::Met(_) => Verdict::Met,
            Conclusion::Open(reason) => reason.cause().verdict(),
            Conclusion::Waits(_) => Verdict::Blocked,
            Conclusion::LeftOut(_) => Verdict::Skipped,
        }
    }

    /// Why; none where it is met or left out.
    pub fn cause(&self) -> Option<Cause> {
        match &self.conclusion {
            Conclusion::Met(_) | Conclusion::LeftOut(_) => None,
            Conclusion::Open(reason) => Some(reason.cause()),
            Conclusion::Waits(_) => Some(Cause::WaitsFor),
        }
    }

    /// The reason, where it is not met or unknown.
    pub fn reason(&self) -> Option<&Reason> {
        match &self.conclusion {
            Conclusion::Open(reason) => Some(reason),
            Conclusion::Met(_) | Conclusion::Waits(_) | Conclusion::LeftOut(_) => None,
        }
    }

    /// The indexes of the requirements that it waits for.
    pub fn waits_for(&self) -> &[usize] {
        match &self.conclusion {
            Conclusion::Waits(waiting) => &waiting.on,
            Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::LeftOut(_) => &[],
        }
    }

    /// The indexes of the alternatives of which one would do, where none does or nobody knows: the cheapest to settle first.
    pub fn alternatives(&self) -> &[usize] {
        match self.reason() {
            Some(Reason::AnyOf(AnyOfReason::NoneMet { open } | AnyOfReason::Unsure { open })) => open,
            _ => &[],
        }
    }

    /// Why it was left out, where it was.
    pub fn left_out(&self) -> Option<LeftOut> {
        match self.conclusion {
            Conclusion::LeftOut(left_out) => Some(left_out),
            Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) => None,
        }
    }

    /// The version that was found, where it is about a version.
    pub fn version(&self) -> Option<&Version> {
        match &self.conclusion {
            Conclusion::Met(Met::Tool(met)) => met.version(),
            Conclusion::Open(Reason::Tool(reason)) => reason.version(),
            Conclusion::Met(_) | Conclusion::Open(_) | Conclusion::Waits(_) | Conclusion::LeftOut(_) => None,
        }
    }
}

impl From<Met> for Conclusion {
    fn from(met: Met) -> Self {
        Self::Met(met)
    }
}

impl<T: Into<Reason>> From<T> for Conclusion {
    fn from(facts: T) -> Self {
        Self::Open(facts.into())
    }
}
