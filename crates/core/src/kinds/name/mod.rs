//! `hostname` and `subnet`: names and networks.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, shortened};
use crate::guide::reading::bad;
use crate::guide::vocabulary::Shape::Text;
use crate::guide::vocabulary::may;
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `hostname = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Hostname {
    /// The name.
    pub name: String,
    /// Where it must lead.
    pub points_to: Option<String>,
}

/// `subnet = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Subnet {
    /// The network's first address.
    pub address: core::net::IpAddr,
    /// The length of its prefix in bits.
    pub prefix: u8,
}

/// How guides say it.
pub(crate) const HOSTNAME: Entry<Hostname> = Entry {
    shape: Text,
    further: &[may("points_to", Text)],
    several: None,
    about: &[About::Name],
    looks_ahead: false,
    read: |fields, _| hostname(fields),
};

/// How guides say it.
pub(crate) const SUBNET: Entry<Subnet> = Entry {
    shape: Text,
    further: &[],
    several: None,
    about: &[About::Name],
    looks_ahead: false,
    read: |fields, _| fields.read("subnet", subnet),
};

impl SubjectEntry for Hostname {
    fn kind(&self) -> Kind {
        Kind::Hostname
    }

    fn title(&self) -> String {
        format!("host name {}", self.name)
    }

    fn wanted_value(&self) -> Option<String> {
        self.points_to.clone()
    }

    fn asks(&self) -> Option<String> {
        Some(format!("hostname {}", self.name))
    }
}

impl SubjectEntry for Subnet {
    fn kind(&self) -> Kind {
        Kind::Subnet
    }

    fn title(&self) -> String {
        format!("network {}/{}", self.address, self.prefix)
    }
}

fn hostname(fields: &Fields<'_>) -> Option<Hostname> {
    let points_to = fields.read("points_to", |text| match text.parse::<core::net::IpAddr>() {
        Ok(_) => Ok(text.to_owned()),
        Err(_) => Err(format!("`{}` is not an IP address", shortened(text))),
    });
    let name = names::placed(fields, "hostname")?;
    let right = |c: char| c.is_alphanumeric() || "-._".contains(c);
    if name.value.is_empty() || name.value.len() > 253 || !name.value.chars().all(right) {
        bad(fields, name.span, format!("`{}` cannot be the name of a host", shortened(name.value)));
    }
    Some(Hostname { name: name.value.to_owned(), points_to })
}

fn subnet(text: &str) -> Result<Subnet, &'static str> {
    let wrong = "a network is written as address and prefix, like \"10.77.0.0/24\"";
    let (address, prefix) = text.split_once('/').ok_or(wrong)?;
    let address: core::net::IpAddr = address.parse().map_err(|_| wrong)?;
    let longest = if address.is_ipv4() { 32 } else { 128 };
    let prefix: u8 = prefix.parse().ok().filter(|prefix| *prefix <= longest).ok_or(wrong)?;
    Ok(Subnet { address, prefix })
}
