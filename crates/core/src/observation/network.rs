//! What is seen of the network and of what answers there.

use crate::prelude::*;
use core::fmt::{self, Display};
use core::net::IpAddr;
use serde::{Deserialize, Serialize};

/// What opening a local socket gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum SocketState {
    /// Somebody takes the connection.
    Answers,
    /// Nothing is there.
    Missing,
    /// Something else is there.
    NoSocket,
    /// It is refused; the owning group and the permission bits, where the system tells.
    Denied(Option<String>, Option<u32>),
    /// The file is there, and nobody behind it.
    Dead,
}

/// What connecting to an address gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Connection {
    /// It was taken.
    Taken,
    /// The name cannot be looked up.
    NoName,
    /// Nothing listens.
    Refused,
    /// Nothing came back in time.
    NoAnswer,
    /// No way leads there; the system's reason.
    NoWay(String),
}

/// What asking by HTTP gave.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Fetched {
    /// An answer with this status; whether its text holds what was looked for.
    Answer(u16, Option<bool>),
    /// Something answers that does not speak HTTP.
    NotHttp,
    /// The connection could not be made.
    Failed(Connection),
    /// The connection cannot be made secure: the reason.
    Insecure(String),
    /// The proxy that is configured is in the way: the reason.
    Proxy(String),
}

/// The proxy that a system's own settings name. Browsers use it; most programs in a terminal only know the variables.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct SystemProxy {
    /// Its address, as the variables would have it.
    pub address: Option<String>,
    /// A script chooses, which only browsers can run.
    pub script: bool,
}

/// A service that the system looks after.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum SystemService {
    /// There is none of this name.
    Missing,
    /// It runs, or is starting.
    Running,
    /// It does not run.
    Stopped,
    /// It does not run, and may not be started before it is enabled.
    Disabled,
    /// It does not run, and somebody has seen to it that nothing can start it.
    Masked,
    /// It was started and has failed.
    Failed,
}

/// How an address is to be asked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    /// Straight.
    Direct,
    /// Through the proxy, if one is configured.
    Configured,
}

/// A network that this machine is on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct Network {
    /// The interface.
    pub interface: String,
    /// An address in it.
    #[cfg_attr(feature = "schema", schemars(with = "String"))]
    pub address: IpAddr,
    /// The length of its prefix in bits.
    pub prefix: u8,
}

impl Network {
    /// Whether it shares addresses with another network, given by address and prefix: the shorter prefix decides.
    pub fn overlaps(&self, address: IpAddr, prefix: u8) -> bool {
        let shorter = self.prefix.min(prefix);
        match (self.address, address) {
            (IpAddr::V4(a), IpAddr::V4(b)) => {
                first_bits(u128::from(a.to_bits()) << 96, shorter) == first_bits(u128::from(b.to_bits()) << 96, shorter)
            }
            (IpAddr::V6(a), IpAddr::V6(b)) => first_bits(a.to_bits(), shorter) == first_bits(b.to_bits(), shorter),
            (IpAddr::V4(_), IpAddr::V6(_)) | (IpAddr::V6(_), IpAddr::V4(_)) => false,
        }
    }
}

fn first_bits(bits: u128, count: u8) -> u128 {
    if count == 0 { 0 } else { bits >> (128_u32.saturating_sub(u32::from(count))) }
}

impl Display for Network {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}/{} ({})", self.address, self.prefix, self.interface)
    }
}

impl Display for SocketState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Answers => f.write_str("answers"),
            Self::Missing => f.write_str("nothing there"),
            Self::NoSocket => f.write_str("there, but no socket"),
            Self::Denied(Some(group), Some(mode)) => write!(f, "permission denied (group {group}, mode {mode:o})"),
            Self::Denied(..) => f.write_str("permission denied"),
            Self::Dead => f.write_str("there, but nobody answers"),
        }
    }
}

impl Display for SystemProxy {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (&self.address, self.script) {
            (Some(address), _) => f.write_str(address),
            (None, true) => f.write_str("a script chooses one"),
            (None, false) => f.write_str("none"),
        }
    }
}

impl Display for SystemService {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::Missing => "no such service",
            Self::Running => "running",
            Self::Stopped => "stopped",
            Self::Disabled => "stopped, and disabled",
            Self::Masked => "masked",
            Self::Failed => "failed",
        })
    }
}

impl Display for Connection {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Taken => f.write_str("connected"),
            Self::NoName => f.write_str("the name cannot be looked up"),
            Self::Refused => f.write_str("connection refused"),
            Self::NoAnswer => f.write_str("no answer in time"),
            Self::NoWay(reason) => write!(f, "cannot be reached: {reason}"),
        }
    }
}

impl Display for Fetched {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Answer(status, None) => write!(f, "status {status}"),
            Self::Answer(status, Some(true)) => write!(f, "status {status}; the text fits"),
            Self::Answer(status, Some(false)) => write!(f, "status {status}; the text does not fit"),
            Self::NotHttp => f.write_str("an answer that is not HTTP"),
            Self::Failed(connection) => write!(f, "{connection}"),
            Self::Insecure(reason) => write!(f, "the connection cannot be made secure: {reason}"),
            Self::Proxy(reason) => write!(f, "the proxy is in the way: {reason}"),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::Network;
    use rstest::rstest;

    #[rstest]
    #[case::the_same("10.77.0.5", 24, "10.77.0.0", 24, true)]
    #[case::a_part_of_it("10.0.0.1", 8, "10.77.0.0", 24, true)]
    #[case::all_of_it("10.77.0.5", 32, "10.77.0.0", 24, true)]
    #[case::beside_it("10.76.255.255", 24, "10.77.0.0", 24, false)]
    #[case::everything("192.168.1.2", 0, "10.77.0.0", 24, true)]
    #[case::the_other_family("fe80::1", 64, "10.77.0.0", 24, false)]
    #[case::the_newer_family("fd00:1::7", 64, "fd00:1::", 48, true)]
    fn networks_overlap_where_they_share_addresses(
        #[case] here: &str,
        #[case] bits: u8,
        #[case] wanted: &str,
        #[case] prefix: u8,
        #[case] overlap: bool,
    ) {
        let network = Network { interface: "sea0".into(), address: here.parse().unwrap(), prefix: bits };
        assert_eq!(network.overlaps(wanted.parse().unwrap(), prefix), overlap);
    }
}
