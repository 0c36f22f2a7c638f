//! Addresses of networks and of their cards. Each text is read once.

use super::words::{is_word, runs, tail};
use super::{HIDDEN, Replacer};
use crate::catalogue;
use crate::observation::Network;
use crate::prelude::*;
use core::net::{IpAddr, Ipv4Addr, Ipv6Addr};

/// What the names of links begin with that are called like their card.
const KINDS_OF_LINKS: &[&str] = &["enx", "wlx", "wwx"];
/// A guide that names more has said enough.
const MOST_NETWORKS: usize = 100;
/// So far back a word is looked for that says what follows.
const LONGEST_WORDS: usize = 80;
/// What stands between the numbers of addresses.
const SEPARATORS: [char; 3] = ['.', ':', '-'];
/// Words that say that an address follows.
const SAYS_ADDRESS: &[&str] =
    &["address", "ip", "ipv4", "ipv6", "inet", "inet6", "peer", "gateway", "nameserver", "resolver", "dns", "remote", "via"];

/// Addresses of networks and of their cards.
pub(super) fn addresses(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains(['.', ':', '-']) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    for (inside, run) in runs(text, |c| c.is_ascii_hexdigit() || SEPARATORS.contains(&c)) {
        rest = rest.get(run.len()..).unwrap_or_default();
        if !inside || run.len() < 3 {
            out.push_str(run);
            continue;
        }
        // The end of a word before it, and the beginning of one behind it, are none of it.
        let of_word = if out.ends_with(is_word) { run.find(SEPARATORS).unwrap_or(run.len()) } else { 0 };
        let follows = rest.starts_with(is_word);
        let end = if follows { run.rfind(SEPARATORS).map_or(of_word, |at| at + 1) } else { run.len() };
        let run_inside = run.get(of_word..end.max(of_word)).unwrap_or_default();
        let start = run_inside.len() - without_lead(run_inside).len();
        let core = without_tail(without_lead(run_inside));
        out.push_str(run.get(..of_word + start).unwrap_or_default());
        // What goes on as a version does is one: `42.12.10.3.el9`.
        let goes_on = follows && run.ends_with(['.', '-', '+']);
        let after = run.get(of_word + start + core.len()..).unwrap_or_default();
        let next = after.chars().next().or_else(|| rest.chars().next());
        let told = piece(replacer, core, &out, next, goes_on);
        out.push_str(&told);
        out.push_str(after);
    }
    out
}

fn without_lead(run: &str) -> &str {
    let inner = run.trim_start_matches(SEPARATORS);
    // What begins with two colons does so by itself.
    let start = run.len() - inner.len();
    if run.get(..start).is_some_and(|lead| lead.ends_with("::")) { run.get(start - 2..).unwrap_or(inner) } else { inner }
}

fn without_tail(run: &str) -> &str {
    let inner = run.trim_end_matches(SEPARATORS);
    if run.get(inner.len()..).is_some_and(|tail| tail.starts_with("::")) {
        run.get(..inner.len() + 2).unwrap_or(inner)
    } else {
        inner
    }
}

/// What is told of a run of digits and separators, behind this text and before that letter.
fn piece(replacer: &mut Replacer, core: &str, before: &str, next: Option<char>, goes_on: bool) -> String {
    // A fingerprint: pairs like a card's, and more of them (RFC 4716).
    if core.len() > 23 && core.split(':').all(|pair| pair.len() == 2) {
        return HIDDEN.to_owned();
    }
    if is_card(core) {
        let plain: String = core.chars().filter(char::is_ascii_hexdigit).collect();
        let pairs: Vec<&str> = (0..6).filter_map(|at| plain.get(2 * at..2 * at + 2)).collect();
        return some_card(replacer, &pairs.join(":"));
    }
    let version = ends_as_version(replacer, before);
    let shown = next == Some('/') || before.ends_with("//") || before.ends_with(['[', '@']) || ends_as_address(before);
    if let Ok(address) = core.parse::<Ipv6Addr>() {
        return if is_private(replacer, address.into(), false, false) {
            instead(replacer, address.into()).to_string()
        } else {
            core.to_owned()
        };
    }
    // From one to another; anything else behind a dash belongs to a version.
    let parts: Vec<&str> = core.split('-').collect();
    if parts.len() > 1 && !parts.iter().all(|part| part.parse::<Ipv4Addr>().is_ok()) {
        return core.to_owned();
    }
    let mut told = Vec::new();
    for part in parts {
        let mut fields: Vec<String> = part.split(':').map(ToOwned::to_owned).collect();
        let has_port = fields.iter().skip(1).any(|field| !field.is_empty() && field.bytes().all(|byte| byte.is_ascii_digit()));
        for field in &mut fields {
            let Ok(address) = field.parse::<Ipv4Addr>() else { continue };
            let shown = (shown || has_port) && !version;
            if is_private(replacer, address.into(), shown, version || (goes_on && !shown && !address.is_private())) {
                *field = instead(replacer, address.into()).to_string();
            }
        }
        told.push(fields.join(":"));
    }
    told.join("-")
}

/// Whether what comes next is said to be a version: by the word for it, or by the name of a tool.
fn ends_as_version(replacer: &Replacer, before: &str) -> bool {
    let word = tail(before, LONGEST_WORDS).trim_end_matches([' ', ':', '=', '"', '(']);
    let said = ["version", "release", "-v", " v", "=="].iter().any(|end| {
        word.len() >= end.len() && word.get(word.len() - end.len()..).is_some_and(|tail| tail.eq_ignore_ascii_case(end))
    });
    let last = word.rsplit(|c: char| c.is_whitespace() || "\"'(".contains(c)).next().unwrap_or_default().to_lowercase();
    said || (!last.is_empty() && (catalogue::find(&last).is_some() || replacer.guide.contains(&format!("\"{last}\""))))
}

/// Whether what comes next is said to be an address.
fn ends_as_address(before: &str) -> bool {
    let is_between = |c: char| c.is_whitespace() || ":=\"'(".contains(c);
    let mut words = tail(before, LONGEST_WORDS).rsplit(is_between).filter(|word| !word.is_empty());
    let last = words.next().unwrap_or_default();
    let word = if ["is", "was"].contains(&last) { words.next().unwrap_or_default() } else { last };
    SAYS_ADDRESS.iter().any(|one| word.eq_ignore_ascii_case(one))
}

fn is_card(run: &str) -> bool {
    let of = |separator: char| {
        run.len() == 17
            && run.split(separator).count() == 6
            && run.split(separator).all(|part| part.len() == 2 && part.chars().all(|c| c.is_ascii_hexdigit()))
    };
    // Three groups of four, as some switches write it; without any letter it may be a version.
    let of_dots = run.len() == 14
        && run.split('.').map(str::len).eq([4, 4, 4])
        && run.chars().all(|c| c == '.' || c.is_ascii_hexdigit())
        && run.contains(|c: char| c.is_ascii_alphabetic());
    // All, none, and those that are kept for documents (RFC 7042) are nobody's.
    let nobodys = run.chars().filter(char::is_ascii_hexdigit).all(|c| c == '0')
        || run.chars().filter(char::is_ascii_hexdigit).all(|c| c.eq_ignore_ascii_case(&'f'))
        || run.to_lowercase().starts_with("00:00:5e:00:53");
    (of(':') || of('-') || of_dots) && !nobodys
}

/// Links that are called like their card, as systems call those that are plugged in.
pub(super) fn links(replacer: &mut Replacer, text: &str) -> String {
    if !KINDS_OF_LINKS.iter().any(|kind| text.contains(kind)) {
        return text.to_owned();
    }
    runs(text, is_word).map(|(inside, word)| if inside { link(replacer, word) } else { word.to_owned() }).collect()
}

fn link(replacer: &mut Replacer, name: &str) -> String {
    let (Some(kind), Some(card)) = (name.get(..3), name.get(3..)) else { return name.to_owned() };
    if !KINDS_OF_LINKS.contains(&kind)
        || card.len() != 12
        || !card.chars().all(|c| c.is_ascii_hexdigit())
        || card.starts_with("00005e0053")
    {
        return name.to_owned();
    }
    let bytes: Vec<&str> = (0..6).filter_map(|at| card.get(2 * at..2 * at + 2)).collect();
    format!("{kind}{}", some_card(replacer, &bytes.join(":")).replace(':', ""))
}

/// A card of those that are kept for documents (RFC 7042).
fn some_card(replacer: &mut Replacer, card: &str) -> String {
    let next = format!("00:00:5e:00:53:{:02x}", replacer.cards.len().min(255));
    replacer.cards.entry(card.to_lowercase()).or_insert(next).clone()
}

/// Whether an address is nobody else's business. One that could be a version must stand where only addresses do, or be of an inner network.
fn is_private(replacer: &Replacer, address: IpAddr, shown: bool, version: bool) -> bool {
    if replacer.guide.contains(&address.to_string()) || in_networks_of_guide(replacer, address) {
        return false;
    }
    if replacer.own_addresses.contains(&address) {
        return !address.is_loopback() && !address.is_unspecified();
    }
    match address {
        IpAddr::V4(v4) => {
            let [a, b, ..] = v4.octets();
            let inner = v4.is_private() || v4.is_link_local() || (a == 100 && (64..128).contains(&b));
            let told = v4.is_loopback()
                || v4.is_unspecified()
                || v4.is_broadcast()
                || v4.is_multicast()
                || v4.is_documentation()
                || a == 0;
            !told && !version && (inner || shown || a >= 30)
        }
        IpAddr::V6(v6) => {
            let [first, second, ..] = v6.segments();
            let parts = v6.segments().iter().filter(|part| **part != 0).count();
            // Two words with colons between them are a name of a program's parts more often than an address.
            let common = first & 0xe000 == 0x2000 || first & 0xfe00 == 0xfc00 || first & 0xffc0 == 0xfe80;
            let told = v6.is_loopback() || v6.is_unspecified() || v6.is_multicast() || (first == 0x2001 && second == 0x0db8);
            !told && (parts > 2 || (common && parts > 1))
        }
    }
}

/// Whether an address lies in a network that the guide names, such as `10.77.0.0/24`.
fn in_networks_of_guide(replacer: &Replacer, address: IpAddr) -> bool {
    let own = Network { interface: String::new(), address, prefix: 128 };
    replacer.networks.iter().any(|(base, bits)| own.overlaps(*base, *bits))
}

/// The networks that a guide's text names.
pub(super) fn networks(guide: &str) -> Vec<(IpAddr, u8)> {
    let network = |word: &str| {
        let (base, bits) = word.split_once('/')?;
        Some((base.parse::<IpAddr>().ok()?, bits.parse::<u8>().ok()?))
    };
    let words = guide.split(|c: char| !(c.is_ascii_hexdigit() || ".:/".contains(c)));
    words.filter(|word| word.contains('/')).filter_map(network).take(MOST_NETWORKS).collect()
}

/// An address of those that are kept for documents (RFC 5737, RFC 3849), and of which the guide says nothing.
fn instead(replacer: &mut Replacer, address: IpAddr) -> IpAddr {
    let number = u8::try_from(replacer.addresses.len() + 1).unwrap_or(u8::MAX);
    let block = [[192, 0, 2], [198, 51, 100], [203, 0, 113]]
        .into_iter()
        .find(|[a, b, c]| !replacer.guide.contains(&format!("{a}.{b}.{c}.")));
    let [a, b, c] = block.unwrap_or([192, 0, 2]);
    let next = match address {
        IpAddr::V4(_) => IpAddr::V4(Ipv4Addr::new(a, b, c, number)),
        IpAddr::V6(_) => IpAddr::V6(Ipv6Addr::new(0x2001, 0xdb8, 0, 0, 0, 0, 0, number.into())),
    };
    *replacer.addresses.entry(address).or_insert(next)
}
