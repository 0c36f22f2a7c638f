//! How a script checks it, in the words of a POSIX shell.

use crate::guide::{Guide, Port, PortNumbers, Protocol, Requirement, Subject};
use crate::prelude::*;
use crate::script::kind::SubjectScript;
use crate::script::part::{Part, ScriptCheck};
use crate::script::values::{is_inside, is_plain_variable, quoted};

/// More ports than these are for the program.
const MOST_PORTS: usize = 64;

pub(crate) fn check(port: &Port, guide: &Guide) -> Option<ScriptCheck> {
    Some(ScriptCheck::new(line(port, guide)?, &[Part::Value, Part::Port]))
}

fn line(port: &Port, guide: &Guide) -> Option<String> {
    let protocol = if port.protocol == Protocol::Udp { "udp" } else { "tcp" };
    if port.address.is_some() {
        return None;
    }
    let served = |number: Option<u16>| {
        let is = |one: &Requirement| matches!(&one.subject, Subject::Service(service) if number.is_none_or(|number| service.port == number));
        guide.requirements.iter().any(is)
    };
    let more = |served: bool| quoted(if served || !port.held_ok.is_empty() { "more" } else { "" });
    if let PortNumbers::Span(first, last) = &port.numbers
        && usize::from(last.saturating_sub(*first)) >= MOST_PORTS
    {
        return None;
    }
    let numbers = port.numbers.each();
    if let Some(by) = &port.set_by {
        // A key of another format is for the program to read.
        let [usual] = numbers.as_slice() else { return None };
        let name = by.variable.as_deref().filter(|_| by.entry.is_none()).filter(|name| is_plain_variable(name))?;
        let file = by.env_file.as_deref().unwrap_or_default();
        return is_inside(file)
            .then(|| format!("port {protocol} {} \"$(moved {name} {} {usual})\"", more(served(None)), quoted(file)));
    }
    let any_served = numbers.iter().any(|number| served(Some(*number)));
    let numbers: Vec<String> = numbers.iter().map(u16::to_string).collect();
    Some(format!("port {protocol} {} {}", more(any_served), numbers.join(" ")))
}

impl SubjectScript for Port {
    fn script(&self, guide: &Guide) -> Option<ScriptCheck> {
        check(self, guide)
    }
}
