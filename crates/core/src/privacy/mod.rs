//! What is private of a machine and its person, and what stands in its place in whatever is shown to others.
//!
//! Names are known (the user's, the host's, the home folder) or learnt from answers (owners, holders of ports); the rest is told by its shape (addresses
//! of mail and of networks, logins, tokens). The same thing gets the same replacement everywhere, so that two paths can still be seen to be equal, and
//! what the guide itself says stays: a verdict may rest on it.

mod addresses;
mod folders;
mod hosts;
mod kept;
mod people;
mod secrets;
mod words;

use crate::observation::{DeviceState, Observation, SocketState, SystemProxy};
use crate::prelude::*;
use crate::text::without_escapes;
use alloc::collections::BTreeMap;
use core::net::IpAddr;
use hashbrown::HashSet;
use kept::is_common;

pub use secrets::without_logins;

/// The person's own name, and the last part of their home folder, wherever these stood.
const PERSON: &str = "person";
/// The machine's name.
const MACHINE: &str = "this-machine";
/// The domain that the person's account belongs to.
const THIS_DOMAIN: &str = "this-domain";
/// What was a token.
const HIDDEN: &str = "[hidden]";
/// Names of fewer letters are replaced only where they are the name of a folder for people: as words they would be taken out of any text.
const SHORTEST_WORD: usize = 3;
/// More private names than these are not told apart.
const MOST_NAMES: usize = 1_000;

/// Where a name is looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Where {
    /// As a word of any text.
    Word,
    /// Only where it is all of a text.
    Whole,
    /// As a path, and whatever lies below it.
    Path,
}

/// A private name, and what stands in its place.
#[derive(Debug, Clone)]
struct Name {
    /// In small letters, since some systems do not tell them from large ones.
    lower: String,
    instead: String,
    place: Where,
    /// It stood somewhere.
    met: bool,
}

/// What is private, and what was put in its place so far.
///
/// ```
/// use setup_ready_core::privacy::Replacer;
///
/// let mut replacer = Replacer::for_guide("[require.cmake]\ntool = \"cmake\"\n");
/// replacer.user("marisol");
/// replacer.home("/home/marisol");
/// assert_eq!(replacer.text("/home/marisol/bin/cmake, built for m.paz@harbour.example"), "/home/person/bin/cmake, built for person-1@mail.invalid");
/// // What the guide says is no secret.
/// replacer.user("cmake");
/// assert_eq!(replacer.text("cmake 3.28.1"), "cmake 3.28.1");
/// ```
#[derive(Debug, Clone)]
pub struct Replacer {
    guide: String,
    /// The words of the guide, in small letters.
    words: HashSet<String>,
    names: Vec<Name>,
    domains: Vec<String>,
    /// Networks that the guide speaks of.
    networks: Vec<(IpAddr, u8)>,
    own_addresses: Vec<IpAddr>,
    people: BTreeMap<String, String>,
    mails: BTreeMap<String, String>,
    hosts: BTreeMap<String, String>,
    addresses: BTreeMap<IpAddr, IpAddr>,
    cards: BTreeMap<String, String>,
    tokens: BTreeMap<String, String>,
    groups: usize,
    /// Names are replaced only in paths and where they are all of a text.
    narrow: bool,
    /// Folders that hold those of people as `/home/` does, since the person's own lies there; in small letters, with the slash at their end.
    homes: Vec<String>,
}

impl Replacer {
    /// Replaces nothing that this guide says: its text.
    pub fn for_guide(text: &str) -> Self {
        let guide = text.to_lowercase();
        let is_part = |c: char| c.is_alphanumeric() || "-_.".contains(c);
        let mut words: HashSet<String> = HashSet::new();
        for word in guide.split(|c| !is_part(c)).filter(|word| !word.is_empty()) {
            words.insert(word.to_owned());
            words.extend(word.split(['-', '_', '.']).filter(|part| !part.is_empty()).map(ToOwned::to_owned));
        }
        Self {
            networks: addresses::networks(&guide),
            guide,
            words,
            names: Vec::new(),
            domains: Vec::new(),
            own_addresses: Vec::new(),
            people: BTreeMap::new(),
            mails: BTreeMap::new(),
            hosts: BTreeMap::new(),
            addresses: BTreeMap::new(),
            cards: BTreeMap::new(),
            tokens: BTreeMap::new(),
            groups: 0,
            narrow: false,
            homes: Vec::new(),
        }
    }

    /// The same, with names taken for names only in paths and where they are all of a text: for a person whose name is a word that verdicts rest on.
    #[must_use]
    pub fn narrow(mut self) -> Self {
        self.narrow = true;
        for name in self.names.iter_mut().filter(|name| name.place == Where::Word) {
            name.place = Where::Whole;
        }
        self
    }

    /// Whether a name says nothing about a person: the guide says it, or it is a word that every machine has.
    fn is_known(&self, lower: &str) -> bool {
        self.words.contains(lower) || is_common(lower) || lower == PERSON || lower.starts_with("person-")
    }

    fn add(&mut self, name: &str, instead: String, place: Where) {
        let lower = name.to_lowercase();
        if lower.is_empty() || self.names.len() >= MOST_NAMES || self.names.iter().any(|one| one.lower == lower) {
            return;
        }
        self.names.push(Name { lower, instead, place, met: false });
        // What holds another name goes first.
        self.names.sort_by(|a, b| b.lower.len().cmp(&a.lower.len()).then_with(|| a.lower.cmp(&b.lower)));
    }

    fn add_word(&mut self, name: &str, instead: String) {
        let place = if self.narrow || name.chars().count() < SHORTEST_WORD { Where::Whole } else { Where::Word };
        self.add(name, instead, place);
    }

    /// The name by which the person signs in.
    pub fn user(&mut self, name: &str) {
        // Some systems say it with the machine's name or the domain's before it.
        let (domain, name) = name.rsplit_once('\\').unwrap_or(("", name));
        self.account_domain(domain);
        let lower = name.to_lowercase();
        if !self.is_known(&lower) {
            self.people.insert(lower, PERSON.to_owned());
            self.add_word(name, PERSON.to_owned());
        }
    }

    /// The domain that the person's account belongs to, by its short name.
    pub fn account_domain(&mut self, name: &str) {
        if !self.is_known(&name.to_lowercase()) {
            self.add_word(name, THIS_DOMAIN.to_owned());
        }
    }

    /// The person's name in full: it goes as a whole, and word by word.
    pub fn full_name(&mut self, name: &str) {
        let name = name.trim_matches(|c: char| c == ',' || c.is_whitespace());
        let words: Vec<&str> = name.split_whitespace().collect();
        if words.len() > 1 {
            self.add(name, PERSON.to_owned(), Where::Word);
        }
        for word in words {
            if word.chars().count() >= SHORTEST_WORD && !self.is_known(&word.to_lowercase()) {
                self.add_word(word, PERSON.to_owned());
            }
        }
    }

    /// The machine's name in its network, with or without its domain.
    pub fn host(&mut self, name: &str) {
        let name = name.trim_end_matches('.');
        let (short, domain) = name.split_once('.').unwrap_or((name, ""));
        if domain.contains('.') {
            self.domain(domain);
            // And what it is a part of, unless that is everybody's, such as `co.uk`.
            let above = domain.split_once('.').map_or("", |(_, above)| above);
            if above.contains('.') && above.find('.').is_some_and(|length| length > 3) {
                self.domain(above);
            }
        }
        for name in [name, short] {
            if !self.is_known(&name.to_lowercase()) {
                self.add_word(name, MACHINE.to_owned());
            }
        }
    }

    /// A domain whose hosts are nobody else's business.
    pub fn domain(&mut self, name: &str) {
        let lower = name.trim_matches('.').to_lowercase();
        if lower.contains('.') && !self.guide.contains(&lower) && !self.domains.contains(&lower) {
            self.domains.push(lower);
        }
    }

    /// Somebody else who has an account here.
    fn other_person(&mut self, name: &str) {
        let name = name.rsplit('\\').next().unwrap_or(name);
        let lower = name.to_lowercase();
        if !self.is_known(&lower) && !self.people.contains_key(&lower) {
            let instead = self.someone(&lower);
            self.add_word(name, instead);
        }
    }

    /// What stands for a person of this name, in small letters.
    fn someone(&mut self, lower: &str) -> String {
        let next = format!("person-{}", self.people.len() + 1);
        self.people.entry(lower.to_owned()).or_insert(next).clone()
    }

    fn group(&mut self, name: &str) {
        let lower = name.to_lowercase();
        if self.is_known(&lower) || self.names.iter().any(|one| one.lower == lower) {
            return;
        }
        self.groups += 1;
        self.add(name, format!("group-{}", self.groups), Where::Whole);
    }

    /// Learns the names in an answer: whoever owns something, holds a port, belongs to a group.
    #[allow(clippy::wildcard_enum_match_arm, reason = "most answers name nobody, and their texts are read for shapes anyway")]
    pub fn learn(&mut self, observation: &Observation) {
        let (mut people, mut groups): (Vec<&String>, Vec<&String>) = (Vec::new(), Vec::new());
        match observation {
            Observation::Account(account) => {
                if let Some(name) = &account.name {
                    self.user(name);
                }
                groups.extend(&account.groups);
            }
            Observation::DatabaseGroups(names) => groups.extend(names),
            Observation::PortHolder(Some(holder)) => people.extend(&holder.user),
            Observation::Path(state) => {
                people.extend(state.owner.iter().chain(state.open_to.iter().flatten()));
                people.extend(state.barred_by.iter().filter_map(|bar| bar.owner.as_ref()));
                groups.extend(&state.writers);
            }
            Observation::Within(Some(barrier)) => people.extend(&barrier.owner),
            Observation::Checkout(state) => people.extend(state.foreign.iter().filter_map(|(_, owner)| owner.as_ref())),
            Observation::Device(DeviceState::Denied(group, _)) | Observation::Socket(SocketState::Denied(group, _)) => {
                groups.extend(group);
            }
            Observation::Networks(networks) => self.own_addresses.extend(networks.iter().map(|network| network.address)),
            Observation::SystemProxy(SystemProxy { address: Some(address), .. }) => self.proxy(address),
            _ => {}
        }
        for name in people {
            self.other_person(name);
        }
        for name in groups {
            self.group(name);
        }
    }

    /// The host of a proxy, from its address: a firm's own affair.
    pub fn proxy(&mut self, address: &str) {
        let host = address.rsplit("://").next().unwrap_or(address);
        let host = host.rsplit('@').next().unwrap_or(host);
        let host = host.split(['/', ':']).next().unwrap_or(host);
        if host.parse::<IpAddr>().is_err() && !self.is_known(&host.to_lowercase()) && host != "localhost" {
            let instead = self.some_host(host);
            self.add(host, instead, Where::Word);
        }
    }

    fn some_host(&mut self, name: &str) -> String {
        let next = format!("host-{}.invalid", self.hosts.len() + 1);
        self.hosts.entry(name.to_lowercase()).or_insert(next).clone()
    }

    /// A text in which nothing of it stands any more. What was replaced once stays as it is.
    pub fn text(&mut self, text: &str) -> String {
        let whole = text.to_lowercase();
        if let Some(name) = self.names.iter_mut().find(|name| name.place == Where::Whole && name.lower == whole) {
            name.met = true;
            return name.instead.clone();
        }
        let text = without_escapes(text);
        let text = secrets::blocks(&without_logins(&text));
        let text = secrets::tokens(self, &text);
        let text = people::directory(self, &text);
        let text = people::mails(self, &text);
        let text = self.with_names(text);
        let text = people::homes(self, &text);
        let text = people::accounts(self, &text);
        let text = hosts::hosts(self, &text);
        let text = hosts::servers(self, &text);
        let text = addresses::links(self, &text);
        addresses::addresses(self, &text)
    }

    fn with_names(&mut self, text: String) -> String {
        let mut text = text;
        for name in self.names.iter_mut().filter(|name| name.place != Where::Whole) {
            let new = words::instead_of(&text, &name.lower, &name.instead, name.place == Where::Path);
            name.met |= new != text;
            text = new;
        }
        text
    }

    /// What was replaced so far, in words: names and folders that stood somewhere, and how many of each shape.
    pub fn replaced(&self) -> Vec<String> {
        let met = |instead: &str| self.names.iter().any(|name| name.met && name.instead.ends_with(instead));
        let folder = |names: bool| {
            self.names.iter().any(|name| name.met && (name.place == Where::Path) == names && name.instead.ends_with(PERSON))
        };
        let mut all = Vec::new();
        if folder(false) {
            all.push("the name of whoever runs this".to_owned());
        }
        if folder(true) {
            all.push("their home folder".to_owned());
        }
        if self.names.iter().any(|name| name.met && name.place == Where::Path && name.instead.contains("project")) {
            all.push("the folder of the project".to_owned());
        }
        if met(MACHINE) {
            all.push("the name of the machine".to_owned());
        }
        let others = self.people.values().filter(|instead| *instead != PERSON).count();
        let groups = self.names.iter().filter(|name| name.met && name.instead.starts_with("group-")).count();
        let counted = [
            (others, "name of somebody else", "names of others"),
            (groups, "group", "groups that the guide does not ask for"),
            (self.mails.len(), "address of mail", "addresses of mail"),
            (self.addresses.len(), "address of a network", "addresses of networks"),
            (self.cards.len(), "address of a network card", "addresses of network cards"),
            (self.hosts.len(), "name of an inner host", "names of inner hosts"),
            (self.tokens.len(), "thing that looks like a token", "things that look like tokens"),
        ];
        all.extend(
            counted
                .into_iter()
                .filter(|(count, ..)| *count > 0)
                .map(|(count, one, many)| format!("{count} {}", if count == 1 { one } else { many })),
        );
        all
    }
}

#[cfg(test)]
mod tests;
