//! `port`: ports that must be free.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::{Fields, as_number, shortened};
use crate::guide::SetBy;
use crate::guide::reading::{bad, owned};
use crate::guide::vocabulary::Shape::{Ports, Table, Text, Texts, Word};
use crate::guide::vocabulary::{may, needed};
use crate::guide::{Kind, names};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::statement::Topic;
use toml::de::DeValue;

/// TCP or UDP.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Protocol {
    /// TCP.
    Tcp,
    /// UDP.
    Udp,
}

impl Protocol {
    /// `TCP` or `UDP`.
    pub fn name(self) -> &'static str {
        match self {
            Self::Tcp => "TCP",
            Self::Udp => "UDP",
        }
    }
}

/// Which ports.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum PortNumbers {
    /// These.
    List(Vec<u16>),
    /// From the first to the last, both included.
    Span(u16, u16),
}

impl PortNumbers {
    /// Each number, in order.
    pub fn each(&self) -> Vec<u16> {
        match self {
            Self::List(list) => list.clone(),
            Self::Span(first, last) => (*first..=*last).collect(),
        }
    }
}

/// `port = ...`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Port {
    /// The numbers, unless something sets another.
    pub numbers: PortNumbers,
    /// TCP or UDP.
    pub protocol: Protocol,
    /// The address to bind; every address where none is given.
    pub address: Option<String>,
    /// Where the project lets one change the number.
    pub set_by: Option<SetBy>,
    /// Programs that may hold it: it is they who serve it.
    pub held_ok: Vec<String>,
}

/// How guides say it.
pub(crate) const PORT: Entry<Port> = Entry {
    shape: Ports,
    further: &[
        may("protocol", Word(&["tcp", "udp"])),
        may("address", Text),
        may("set_by", Table(&[needed("variable", Text), may("env_file", Text)])),
        may("held_ok", Texts),
    ],
    several: None,
    about: &[About::Port],
    looks_ahead: true,
    read: |fields, _| port(fields),
};

impl SubjectEntry for Port {
    fn kind(&self) -> Kind {
        Kind::Port
    }

    fn title(&self) -> String {
        match &self.numbers {
            PortNumbers::List(list) => match list.as_slice() {
                [only] => format!("port {only}"),
                several => format!("ports {}", several.iter().map(u16::to_string).collect::<Vec<_>>().join(", ")),
            },
            PortNumbers::Span(first, last) => format!("ports {first} to {last}"),
        }
    }

    fn topics(&self) -> Vec<Topic> {
        let numbers = self.numbers.each().into_iter();
        let moved = self.set_by.as_ref().and_then(|by| by.variable.clone()).map(Topic::Variable);
        numbers.flat_map(|number| [Topic::Port(number), Topic::Service(String::new(), number)]).chain(moved).collect()
    }
}

/// More ports than this are nobody's wish.
const MOST_PORTS: usize = 200;

fn port(fields: &Fields<'_>) -> Option<Port> {
    let message = "a port is a number from 1 to 65535, a list of them, or a text such as \"7000-7010\"";
    let number =
        |value: &DeValue<'_>| as_number(value).and_then(|number| u16::try_from(number).ok()).filter(|number| *number > 0);
    let value = fields.raw("port")?;
    let numbers = match value.get_ref() {
        DeValue::Array(list) => list.iter().map(|one| number(one.get_ref())).collect::<Option<Vec<u16>>>().map(PortNumbers::List),
        DeValue::String(text) => match text.split_once('-') {
            Some((first, last)) => (first.trim().parse().ok().zip(last.trim().parse().ok()))
                .filter(|(first, last): &(u16, u16)| *first > 0 && first <= last)
                .map(|(first, last)| PortNumbers::Span(first, last)),
            // What a value says.
            None => text.parse().ok().filter(|number| *number > 0).map(|number| PortNumbers::List(vec![number])),
        },
        single @ (DeValue::Integer(_) | DeValue::Float(_) | DeValue::Boolean(_) | DeValue::Datetime(_) | DeValue::Table(_)) => {
            number(single).map(|one| PortNumbers::List(vec![one]))
        }
    };
    let count = numbers.as_ref().map_or(0, |numbers| match numbers {
        PortNumbers::List(list) => list.len(),
        PortNumbers::Span(first, last) => usize::from(last - first) + 1,
    });
    match count {
        0 => bad(fields, value.span(), message),
        1..=MOST_PORTS => {}
        _ => bad(fields, value.span(), format!("{count} ports at once; at most {MOST_PORTS} are checked")),
    }
    let set_by = fields.table("set_by", "set_by").and_then(|table| {
        let variable = names::variable(&table);
        let env_file = names::project_file(&table, "env_file");
        table.finish(|_| None);
        Some(SetBy::variable(variable?, env_file))
    });
    if set_by.is_some() && count > 1 {
        bad(fields, fields.key_span("set_by"), "`set_by` sets one port; give it to a requirement with one port");
    }
    let address = fields.read("address", |text| {
        let known = text == "localhost" || text.parse::<core::net::IpAddr>().is_ok();
        known.then(|| text.to_owned()).ok_or_else(|| format!("`{}` is not an IP address, and not localhost", shortened(text)))
    });
    let protocol = fields.word("protocol", &[("tcp", Protocol::Tcp), ("udp", Protocol::Udp)]).unwrap_or(Protocol::Tcp);
    Some(Port { numbers: numbers?, protocol, address, set_by, held_ok: owned(fields.texts("held_ok")) })
}
