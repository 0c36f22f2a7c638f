//! `service`: something that takes connections.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::programs::Programs;
use crate::guide::reading::{bad, status};
use crate::guide::supply_parse::supply;
use crate::guide::vocabulary::Shape::{Number, Text};
use crate::guide::vocabulary::{MEANS, PACKAGES, START, UNIT, may};
use crate::guide::{Kind, Supply};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::manager::Manager;
use crate::prelude::*;
use crate::statement::Topic;
use crate::text::Pattern;

/// `service = "host:port"`
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Service {
    /// Its host.
    pub host: String,
    /// Its port.
    pub port: u16,
    /// The path to ask by HTTP.
    pub http: Option<String>,
    /// The status expected.
    pub status: Option<u16>,
    /// What the answer must hold.
    pub contains: Option<Pattern>,
    /// Who brings it.
    pub supply: Supply,
}

/// How guides say it.
pub(crate) const SERVICE: Entry<Service> = Entry {
    shape: Text,
    further: &[may("http", Text), may("status", Number), may("contains", Text), MEANS, PACKAGES, UNIT, START],
    several: None,
    about: &[About::Service, About::Name],
    looks_ahead: false,
    read: |fields, _| service(fields),
};

impl SubjectEntry for Service {
    fn kind(&self) -> Kind {
        Kind::Service
    }

    fn title(&self) -> String {
        format!("service {}:{}", self.host, self.port)
    }

    fn packages(&self) -> &[(Manager, String)] {
        &self.supply.packages
    }

    fn supply(&self) -> Option<&Supply> {
        Some(&self.supply)
    }

    fn pattern(&self) -> Option<&Pattern> {
        self.contains.as_ref()
    }

    fn wanted_value(&self) -> Option<String> {
        self.status.map(|status| status.to_string())
    }

    fn topics(&self) -> Vec<Topic> {
        vec![Topic::Service(String::new(), self.port), Topic::Port(self.port)]
    }

    fn needs(&self, programs: &Programs<'_>) -> Vec<usize> {
        programs.holders_of(self.port).iter().filter_map(|name| programs.tool(name)).collect()
    }

    fn asks(&self) -> Option<String> {
        Some(format!("service {}:{}{}", self.host, self.port, self.http.as_deref().unwrap_or_default()))
    }
}

fn service(fields: &Fields<'_>) -> Option<Service> {
    let address = fields.required("service")?;
    let parsed = address.value.rsplit_once(':').and_then(|(host, port)| {
        let port: u16 = port.parse().ok().filter(|port| *port > 0)?;
        (!host.is_empty()).then(|| (host.trim_matches(['[', ']']).to_owned(), port))
    });
    if parsed.is_none() {
        bad(fields, address.span, "a service is written as host and port, like \"localhost:1883\"");
    }
    let (http, status, contains) = (fields.owned("http"), status(fields), fields.read("contains", Pattern::new));
    if status.is_some() && http.is_none() {
        bad(fields, fields.key_span("status"), "`status` needs `http`, the path to ask for");
    }
    if contains.is_some() && http.is_none() {
        bad(fields, fields.key_span("contains"), "`contains` needs `http`, the path to ask for");
    }
    let supply = supply(fields);
    parsed.map(|(host, port)| Service { host, port, http, status, contains, supply })
}
