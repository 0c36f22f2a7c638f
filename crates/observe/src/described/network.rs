//! Sockets, services, sites, names and networks of a described machine.

use super::fields::{mode, texts};
use super::shape::{Shape, Site, binding, resolve};
use setup_ready_core::document::{Fields, MOST_TABLES, shortened};
use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{
    Binding, Connection, Fetched, Network, Observation, SocketState, SystemProxy, SystemService,
};
use setup_ready_core::probe::PortPlace;
use setup_ready_core::problem::ProblemKind;
use setup_ready_core::text::Pattern;
use std::collections::HashMap;
use std::net::IpAddr;

impl Site {
    fn fails_to_connect(&self) -> bool {
        matches!(self.trouble, Some(Fetched::Failed(_)))
    }
}

pub(super) fn read(top: &Fields<'_>, shape: &mut Shape) {
    read_sockets(top, shape);
    for (key, name) in [("service", "at"), ("site", "url")] {
        for fields in if top.has(key) { top.tables(key, key, MOST_TABLES) } else { Vec::new() } {
            let at = fields.required(name).map(|at| at.value.trim_end_matches('/').to_owned());
            let site = read_site(&fields);
            if let Some((authority, _)) = at.as_deref().and_then(|at| at.split_once('/')).filter(|_| !site.fails_to_connect()) {
                shape.net.answering_below.insert(authority.to_owned());
            }
            shape.net.sites.extend(at.map(|at| (at, site)));
            fields.finish(|_| None);
        }
    }
    if let Some(fields) = top.table("network", "network") {
        shape.net.online = fields.flag("online");
        shape.net.clock_ahead_s = clock(&fields);
        if fields.has("networks") {
            shape.net.networks = Some(texts(&fields, "networks").iter().filter_map(|text| network(&fields, text)).collect());
        }
        shape.net.proxy =
            SystemProxy { address: fields.owned("system_proxy"), script: fields.flag("proxy_script").unwrap_or(false) };
        fields.finish(|_| None);
    }
    if let Some(fields) = top.table("system_services", "system_services") {
        shape.net.services = Some(services(&fields));
    }
    if let Some(fields) = top.table("names", "names") {
        let mut names = HashMap::new();
        for (name, value) in fields.entries() {
            let list = value.get_ref().as_array();
            let texts = list.into_iter().flatten().filter_map(|one| one.get_ref().as_str()).chain(value.get_ref().as_str());
            let addresses: Option<Vec<IpAddr>> = texts.map(|text| text.parse().ok()).collect();
            match addresses.filter(|addresses| !addresses.is_empty()) {
                Some(addresses) => {
                    names.insert(name.value.to_owned(), addresses);
                }
                None => fields.problems().report(
                    ProblemKind::BadValue,
                    value.span(),
                    "an IP address in quotes, or a list of them, stands here",
                ),
            }
        }
        shape.net.names = Some(names);
    }
}

/// How services stand, by name.
fn services(fields: &Fields<'_>) -> HashMap<String, SystemService> {
    let words = [
        ("running", SystemService::Running),
        ("stopped", SystemService::Stopped),
        ("disabled", SystemService::Disabled),
        ("masked", SystemService::Masked),
        ("failed", SystemService::Failed),
    ];
    let mut services = HashMap::new();
    for (name, value) in fields.entries() {
        match words.iter().find(|(word, _)| value.get_ref().as_str() == Some(word)) {
            Some((_, state)) => {
                services.insert(name.value.to_owned(), *state);
            }
            None => fields.problems().report(
                ProblemKind::BadValue,
                value.span(),
                "one of \"running\", \"stopped\", \"disabled\", \"failed\" stands here",
            ),
        }
    }
    services
}

/// `wlan0 192.168.1.20/24`.
fn network(fields: &Fields<'_>, text: &str) -> Option<Network> {
    let parsed = text.split_once(' ').and_then(|(interface, rest)| {
        let (address, prefix) = rest.trim().split_once('/')?;
        Some(Network { interface: interface.to_owned(), address: address.parse().ok()?, prefix: prefix.parse().ok()? })
    });
    if parsed.is_none() {
        let message = format!("`{}` is not an interface with its address, like \"wlan0 192.168.1.20/24\"", shortened(text));
        fields.problems().report(ProblemKind::BadValue, fields.key_span("networks"), message);
    }
    parsed
}

fn read_sockets(top: &Fields<'_>, shape: &mut Shape) {
    #[derive(Clone, Copy)]
    enum Word {
        Answers,
        Denied,
        Dead,
        NoSocket,
    }
    let words = [("answers", Word::Answers), ("denied", Word::Denied), ("dead", Word::Dead), ("no-socket", Word::NoSocket)];
    for fields in if top.has("socket") { top.tables("socket", "socket", MOST_TABLES) } else { Vec::new() } {
        let path = fields.required("path");
        let (group, mode) = (fields.owned("group"), mode(&fields));
        let state = match fields.word("state", &words).unwrap_or(Word::Answers) {
            Word::Answers => SocketState::Answers,
            Word::Denied => SocketState::Denied(group, mode),
            Word::Dead => SocketState::Dead,
            Word::NoSocket => SocketState::NoSocket,
        };
        if let Some(path) = path {
            let path = resolve(shape, path.value);
            shape.net.sockets.insert(path, state);
        }
        fields.finish(|_| None);
    }
}

fn read_site(fields: &Fields<'_>) -> Site {
    let reason = fields.owned("reason").unwrap_or_else(|| "the described machine says so".to_owned());
    let words = [
        ("refused", Fetched::Failed(Connection::Refused)),
        ("no-answer", Fetched::Failed(Connection::NoAnswer)),
        ("no-name", Fetched::Failed(Connection::NoName)),
        ("no-way", Fetched::Failed(Connection::NoWay(reason.clone()))),
        ("not-http", Fetched::NotHttp),
        ("not-secure", Fetched::Insecure(reason.clone())),
        ("proxy", Fetched::Proxy(reason)),
    ];
    let trouble = fields.word("fails", &words);
    let status = fields.number("status").and_then(|number| u16::try_from(number.value).ok()).unwrap_or(200);
    Site { trouble, status, text: fields.owned("text").unwrap_or_default() }
}

pub(super) fn socket(shape: &Shape, path: &str) -> Observation {
    Observation::Socket(shape.net.sockets.get(&resolve(shape, path)).cloned().unwrap_or(SocketState::Missing))
}

pub(super) fn connection_answer(shape: &Shape, host: &str, port: u16) -> Option<Observation> {
    connection(shape, &format!("{host}:{port}"), host, port).map(Observation::Connection)
}

pub(super) fn fetch(shape: &Shape, url: &str, pattern: Option<&str>) -> Option<Observation> {
    fetched(shape, url, pattern).map(Observation::Fetched)
}

pub(super) fn system_service(shape: &Shape, name: &str) -> Option<Observation> {
    let state = shape.net.services.as_ref()?.get(name).copied();
    Some(Observation::SystemService(state.unwrap_or(SystemService::Missing)))
}

pub(super) fn addresses(shape: &Shape, name: &str) -> Option<Observation> {
    if name == "localhost" {
        return Some(Observation::Addresses(vec![std::net::Ipv4Addr::LOCALHOST.into()]));
    }
    Some(Observation::Addresses(shape.net.names.as_ref()?.get(name).cloned().unwrap_or_default()))
}

fn connection(shape: &Shape, place: &str, host: &str, port: u16) -> Option<Connection> {
    if let Some(site) = shape.net.sites.get(place) {
        return Some(match &site.trouble {
            Some(Fetched::Failed(connection)) => connection.clone(),
            Some(Fetched::Answer(..) | Fetched::NotHttp | Fetched::Insecure(_) | Fetched::Proxy(_)) | None => Connection::Taken,
        });
    }
    if shape.net.answering_below.contains(place) {
        return Some(Connection::Taken);
    }
    // What the description says of the port says it of the service too.
    if host != "localhost" && !host.parse::<IpAddr>().is_ok_and(|address| address.is_loopback()) {
        return None;
    }
    match binding(shape, &PortPlace { protocol: Protocol::Tcp, address: None, port })? {
        Binding::Held => Some(Connection::Taken),
        Binding::Free | Binding::Denied(_) | Binding::Reserved | Binding::NoAddress => Some(Connection::Refused),
    }
}

fn fetched(shape: &Shape, url: &str, pattern: Option<&str>) -> Option<Fetched> {
    let (scheme, rest) = url.split_once("://")?;
    let authority = rest.split(['/', '?', '#']).next()?;
    let whole = url.trim_end_matches('/');
    let path = whole.split_once("://").map_or("", |(_, rest)| rest);
    let site = [whole, path, &format!("{scheme}://{authority}"), authority].into_iter().find_map(|key| shape.net.sites.get(key));
    let Some(site) = site else {
        let (host, port) = authority.rsplit_once(':')?;
        let connection = connection(shape, authority, host, port.parse().ok()?)?;
        // Something takes connections there; what it says is not described.
        return (connection != Connection::Taken).then_some(Fetched::Failed(connection));
    };
    Some(site.trouble.clone().unwrap_or_else(|| {
        let pattern = pattern.and_then(|pattern| Pattern::new(pattern).ok());
        Fetched::Answer(site.status, pattern.map(|pattern| pattern.matches(&site.text)))
    }))
}

/// How many seconds the clock is fast, or slow.
fn clock(fields: &Fields<'_>) -> Option<i64> {
    let seconds = |key| fields.number(key).and_then(|number| i64::try_from(number.value).ok());
    let (fast, slow) = (seconds("clock_fast_s"), seconds("clock_slow_s"));
    fast.or_else(|| slow.map(|slow| -slow))
}
