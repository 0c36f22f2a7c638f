//! Definitions of several containers that run together (the compose specification): published ports with what moves them.

use super::super::format::{Entry, Node, yaml};
use super::super::statement_sink::{Read, Source, StatementSink};
use super::container::filled;
use setup_ready_core::statement::{Confidence::Used, Restriction, Topic};
use std::collections::HashMap;

pub(super) fn services(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = yaml(file.text)?;
    let Some(services) = tree.entry("services") else { return Ok(()) };
    if !services.node.entries().is_empty() {
        said.topic(Topic::ContainerEngine, Used, services.line);
    }
    for service in services.node.entries() {
        let profile = service.node.get("profiles").and_then(|node| node.texts().first().map(|(name, _)| (*name).to_owned()));
        let limit = profile.map(|name| Restriction::Text(format!("with the profile {name}")));
        said.only(limit, || ports(service, said));
    }
    Ok(())
}

fn ports(service: &Entry, said: &StatementSink) {
    for port in service.node.get("ports").map(Node::items).unwrap_or_default() {
        let (published, line) = match (port.text(), port.entry("published")) {
            (Some(text), _) => (host_side(text), port.line),
            (None, Some(entry)) => (entry.node.text().map(ToOwned::to_owned), entry.line),
            (None, None) => (None, port.line),
        };
        let Some(published) = published else { continue };
        let variable = variable(&published);
        let plain = filled(&published, &HashMap::new());
        let (first, last) = plain.split_once('-').unwrap_or((plain.as_str(), plain.as_str()));
        let (Ok(first), Ok(last)) = (first.parse::<u16>(), last.parse::<u16>()) else { continue };
        for number in (first..=last).take(64).filter(|number| *number > 0) {
            said.with(Topic::Port(number), Used, (line, &*format!("services.{}.ports", service.key)), |statement| {
                statement.variable.clone_from(&variable);
                statement.env_file = variable.as_ref().map(|_| ".env".to_owned());
            });
        }
    }
}

/// `127.0.0.1:8080:80/tcp`: what stands before the container's own port; nothing where any free port is taken.
fn host_side(text: &str) -> Option<String> {
    // A colon within braces belongs to a variable.
    let (mut parts, mut depth) = (vec![String::new()], 0);
    for c in text.chars() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            _ => {}
        }
        match parts.last_mut() {
            Some(last) if c != ':' || depth > 0 => last.push(c),
            _ => parts.push(String::new()),
        }
    }
    let at = parts.len().checked_sub(2)?;
    parts.get(at).map(|part| part.split('/').next().unwrap_or_default().to_owned())
}

/// The variable that moves a port: `${DB_PORT:-5440}`.
fn variable(text: &str) -> Option<String> {
    let name: String = text.strip_prefix("${")?.chars().take_while(|c| c.is_ascii_alphanumeric() || *c == '_').collect();
    // A name does not begin with a digit (POSIX, environment variables).
    (!name.is_empty() && !name.starts_with(|c: char| c.is_ascii_digit())).then_some(name)
}
