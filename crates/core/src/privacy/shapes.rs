//! What is private by its shape: logins, addresses of mail and networks, tokens, the folders of people. Each pass reads a text once.

use super::{HIDDEN, MACHINE, PERSON, Replacer};
use crate::prelude::*;
use core::net::{IpAddr, Ipv4Addr, Ipv6Addr};

/// An unbroken run of letters and digits from this length on, with both in it, is a token and no word.
const LONGEST_WORD: usize = 19;
/// What follows one of these is not told.
const KEYS: &[&str] = &[
    "token",
    "secret",
    "password",
    "passwd",
    "apikey",
    "api_key",
    "api-key",
    "access_key",
    "authorization",
    "bearer",
    "credential",
    "credentials",
];
/// Ends of names that are inside of somebody's network.
const INNER: &[&str] = &[".local", ".lan", ".internal", ".intranet", ".corp", ".home.arpa", ".localdomain"];
/// Kinds of units of a service manager: `name@instance.service` is no address of mail.
const UNITS: &[&str] =
    &["service", "socket", "target", "timer", "scope", "slice", "mount", "device", "path", "swap", "automount"];
/// Folders that have a folder for each person.
const HOMES: &[&str] = &["/home/", "/users/", "\\users\\", "\\\\users\\\\"];

fn is_word(c: char) -> bool {
    c.is_alphanumeric()
}

/// A text cut into runs of characters of one class and runs of others, in turn; the flag says which.
fn runs(text: &str, class: impl Fn(char) -> bool) -> impl Iterator<Item = (bool, &str)> {
    let mut rest = text;
    core::iter::from_fn(move || {
        let first = rest.chars().next()?;
        let inside = class(first);
        let end = rest.find(|c| class(c) != inside).unwrap_or(rest.len());
        let (run, after) = rest.split_at_checked(end)?;
        rest = after;
        Some((inside, run))
    })
}

/// A text with a name replaced wherever it stands as a word, or as a path with whatever lies below it. The name is in small letters.
pub(super) fn instead_of(text: &str, lower: &str, instead: &str, path: bool) -> String {
    // The places are those of the text only where small letters take as many bytes as large ones.
    let lowered = text.to_ascii_lowercase();
    let needle = lower.to_ascii_lowercase();
    if needle.is_empty() || !lowered.contains(&needle) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut from = 0;
    while let Some(at) = lowered.get(from..).and_then(|rest| rest.find(&needle)).map(|at| at + from) {
        let end = at + needle.len();
        let before = lowered.get(..at).and_then(|before| before.chars().next_back());
        let after = lowered.get(end..).and_then(|after| after.chars().next());
        let ends =
            if path { after.is_none_or(|c| !is_word(c) && !"-_.".contains(c) || c == '.') } else { !after.is_some_and(is_word) };
        let begins = if path { before.is_none_or(|c| !is_word(c) && c != '.') } else { !before.is_some_and(is_word) };
        out.push_str(text.get(from..at).unwrap_or_default());
        out.push_str(if begins && ends { instead } else { text.get(at..end).unwrap_or_default() });
        from = end;
    }
    out.push_str(text.get(from..).unwrap_or_default());
    out
}

/// A text whose addresses have lost the names and passwords in them.
pub fn without_logins(text: &str) -> String {
    if !text.contains("://") {
        return text.to_owned();
    }
    let mut parts = text.split("://");
    let mut out = parts.next().unwrap_or_default().to_owned();
    for part in parts {
        out.push_str("://");
        let authority = part.find(|c: char| c.is_whitespace() || "/?#\"'<>".contains(c)).unwrap_or(part.len());
        match part.get(..authority).and_then(|authority| authority.rfind('@')) {
            Some(at) => {
                out.push_str(HIDDEN);
                out.push_str(part.get(at..).unwrap_or_default());
            }
            None => out.push_str(part),
        }
    }
    out
}

/// What is called a token, and what looks like one.
pub(super) fn tokens(replacer: &mut Replacer, text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    // Whether a key came before, and nothing but what stands between a key and its value since.
    let mut keyed = false;
    for (inside, run) in runs(text, |c| !c.is_whitespace() && !"\"'`,;()<>|&".contains(c)) {
        if !inside {
            keyed &= run.chars().all(|c| " \"':=".contains(c)) && run.len() < 4;
            out.push_str(run);
            continue;
        }
        let lower = run.to_ascii_lowercase();
        let key = KEYS.iter().find_map(|key| {
            let at = lower.find(key)?;
            Some((at, at + key.len()))
        });
        if keyed && run != "=" && run != ":" && !KEYS.contains(&lower.as_str()) && lower != "basic" {
            out.push_str(HIDDEN);
            keyed = false;
            continue;
        }
        if let Some((_, end)) = key {
            let rest = run.get(end..).unwrap_or_default();
            if let Some(at) = rest.find(['=', ':']) {
                let value = rest.get(at + 1..).unwrap_or_default();
                if value.is_empty() {
                    keyed = true;
                    out.push_str(run);
                } else if value.starts_with("//") {
                    out.push_str(&opaque(replacer, run));
                } else {
                    out.push_str(run.get(..run.len() - value.len()).unwrap_or_default());
                    out.push_str(HIDDEN);
                }
                continue;
            }
            keyed = lower == "bearer" || lower == "authorization";
        }
        out.push_str(&opaque(replacer, run));
    }
    out
}

/// A run without blanks, whose long parts of letters and digits are hidden.
fn opaque(replacer: &mut Replacer, run: &str) -> String {
    if run.len() <= LONGEST_WORD {
        return run.to_owned();
    }
    // Three parts of Base64 between points (RFC 7519).
    if let Some(at) =
        run.find("eyJ").filter(|at| run.get(*at..).is_some_and(|rest| rest.matches('.').count() >= 2 && !rest.contains('/')))
    {
        let (before, token) = run.split_at_checked(at).unwrap_or((run, ""));
        return format!("{before}{}", hidden(replacer, token));
    }
    let mut out = String::with_capacity(run.len());
    for (inside, part) in runs(run, |c| is_word(c) || c == '-') {
        // Numbers of machines and people, whose parts are short (RFC 9562, and those of Windows).
        let number = inside && (is_uuid(part) || part.starts_with("S-1-5-21-"));
        if number {
            out.push_str(&hidden(replacer, part));
            continue;
        }
        for (inside, word) in runs(part, is_word) {
            let letters = word.chars().any(|c| c.is_ascii_alphabetic());
            let digits = word.chars().any(|c| c.is_ascii_digit());
            let long = inside && word.len() > LONGEST_WORD && letters && digits;
            if long && !replacer.words.contains(&word.to_lowercase()) {
                out.push_str(&hidden(replacer, word));
            } else {
                out.push_str(word);
            }
        }
    }
    out
}

fn hidden(replacer: &mut Replacer, token: &str) -> String {
    let next = format!("hidden-{}", replacer.tokens.len() + 1);
    replacer.tokens.entry(token.to_owned()).or_insert(next).clone()
}

fn is_uuid(text: &str) -> bool {
    text.len() == 36
        && text.split('-').map(str::len).eq([8, 4, 4, 4, 12])
        && text.chars().all(|c| c.is_ascii_hexdigit() || c == '-')
}

/// Addresses of mail.
pub(super) fn mails(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains('@') {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    for (inside, run) in runs(text, |c| c.is_alphanumeric() || "._%+-@".contains(c)) {
        let address = run.trim_end_matches(['.', '-']);
        let found = inside.then(|| address.rsplit_once('@')).flatten();
        let is_mail = found.is_some_and(|(local, domain)| {
            let last = domain.rsplit('.').next().unwrap_or_default();
            !local.is_empty()
                && domain.contains('.')
                && last.len() >= 2
                && last.chars().all(|c| c.is_ascii_alphabetic())
                && last != "invalid"
                && !UNITS.contains(&last)
                && !replacer.guide.contains(&address.to_lowercase())
        });
        if is_mail {
            let next = format!("person-{}@mail.invalid", replacer.mails.len() + 1);
            out.push_str(replacer.mails.entry(address.to_lowercase()).or_insert(next));
            out.push_str(run.get(address.len()..).unwrap_or_default());
        } else {
            out.push_str(run);
        }
    }
    out
}

/// Folders of people: the name of each is its owner's.
pub(super) fn homes(replacer: &mut Replacer, text: &str) -> String {
    let lower = text.to_ascii_lowercase();
    if !HOMES.iter().any(|home| lower.contains(home)) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut from = 0;
    loop {
        let rest = lower.get(from..).unwrap_or_default();
        let next = HOMES.iter().filter_map(|home| rest.find(home).map(|at| from + at + home.len())).min();
        let Some(start) = next else { break };
        let end = lower
            .get(start..)
            .and_then(|rest| rest.find(|c: char| "/\\:\"';,<>|".contains(c) || c.is_whitespace()))
            .map_or(text.len(), |at| start + at);
        out.push_str(text.get(from..start).unwrap_or_default());
        let name = text.get(start..end).unwrap_or_default();
        let small = name.to_lowercase();
        let shared = ["", "linuxbrew", "public", "shared", "default", "all", PERSON].contains(&small.as_str());
        // What a guide says of somebody's folder, it says itself.
        let said =
            text.get(start.saturating_sub("/home/".len())..end).is_some_and(|path| replacer.guide.contains(&path.to_lowercase()));
        if shared || small.starts_with("person-") || said {
            out.push_str(name);
        } else {
            let instead = replacer.someone(&small);
            out.push_str(&instead);
        }
        from = end;
    }
    out.push_str(text.get(from..).unwrap_or_default());
    out
}

/// Hosts of inner networks.
pub(super) fn hosts(replacer: &mut Replacer, text: &str) -> String {
    let lower = text.to_ascii_lowercase();
    let inner = |name: &str, replacer: &Replacer| {
        INNER.iter().any(|end| name.ends_with(end))
            || replacer
                .domains
                .iter()
                .any(|domain| name.strip_suffix(domain.as_str()).is_some_and(|rest| rest.is_empty() || rest.ends_with('.')))
    };
    if !INNER.iter().any(|end| lower.contains(end)) && !replacer.domains.iter().any(|domain| lower.contains(domain)) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut before = ' ';
    for (inside, run) in runs(text, |c| c.is_ascii_alphanumeric() || ".-_".contains(c)) {
        let name = run.trim_end_matches('.').to_lowercase();
        // Behind a single slash it is the name of a file.
        let is_file = before == '\\' || (before == '/' && !out.ends_with("//")) || name.starts_with('.');
        if inside && !is_file && inner(&name, replacer) && !replacer.guide.contains(&name) {
            let of_machine = name.starts_with(MACHINE);
            out.push_str(&if of_machine { MACHINE.to_owned() } else { replacer.some_host(&name) });
            out.push_str(run.get(name.len()..).unwrap_or_default());
        } else {
            out.push_str(run);
        }
        before = run.chars().next_back().unwrap_or(' ');
    }
    out
}

/// Addresses of networks and of their cards.
pub(super) fn addresses(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains(['.', ':', '-']) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    for (inside, run) in runs(text, |c| c.is_ascii_hexdigit() || ".:-".contains(c)) {
        rest = rest.get(run.len()..).unwrap_or_default();
        let after = rest.chars().next();
        let before = out.chars().next_back();
        if !inside
            || run.len() < 3
            || before.is_some_and(|c| is_word(c) || c == '_')
            || after.is_some_and(|c| is_word(c) || c == '_')
        {
            out.push_str(run);
            continue;
        }
        if is_card(run) {
            let next = format!("00:00:5e:00:53:{:02x}", replacer.cards.len().min(255));
            out.push_str(replacer.cards.entry(run.to_lowercase().replace('-', ":")).or_insert(next));
            continue;
        }
        let trimmed = run.trim_end_matches(['.', '-']).trim_end_matches(|c| c == ':' && run.matches(':').count() == 1);
        let (address, port) = match trimmed.split_once(':') {
            Some((address, port)) if address.contains('.') && port.chars().all(|c| c.is_ascii_digit()) => {
                (address, trimmed.get(address.len()..).unwrap_or_default())
            }
            _ => (trimmed, ""),
        };
        let shown = !port.is_empty() || after == Some('/') || out.ends_with("//") || before == Some('[') || before == Some('@');
        let found: Option<IpAddr> =
            address.parse::<Ipv4Addr>().map(IpAddr::V4).or_else(|_| address.parse::<Ipv6Addr>().map(IpAddr::V6)).ok();
        let said_as_version = ends_as_version(&out);
        match found.filter(|address| is_private(replacer, *address, shown && !said_as_version, said_as_version)) {
            Some(found) => {
                out.push_str(&instead(replacer, found).to_string());
                out.push_str(port);
                out.push_str(run.get(trimmed.len()..).unwrap_or_default());
            }
            None => out.push_str(run),
        }
    }
    out
}

/// Whether what comes next is said to be a version.
fn ends_as_version(before: &str) -> bool {
    let word = before.trim_end_matches([' ', ':', '=', '"', '(']);
    ["version", "release", "-v", " v", "=="].iter().any(|end| {
        word.len() >= end.len() && word.get(word.len() - end.len()..).is_some_and(|tail| tail.eq_ignore_ascii_case(end))
    })
}

fn is_card(run: &str) -> bool {
    let of = |separator: char| {
        run.len() == 17
            && run.split(separator).count() == 6
            && run.split(separator).all(|part| part.len() == 2 && part.chars().all(|c| c.is_ascii_hexdigit()))
    };
    (of(':') || of('-')) && !run.to_lowercase().starts_with("00:00:5e:00:53")
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
    use crate::observation::Network;
    let network = |word: &str| {
        let (base, bits) = word.split_once('/')?;
        Some((base.parse::<IpAddr>().ok()?, bits.parse::<u8>().ok()?))
    };
    let own = Network { interface: String::new(), address, prefix: 128 };
    let words = replacer.guide.split(|c: char| !(c.is_ascii_hexdigit() || ".:/".contains(c)));
    words.filter(|word| word.contains('/')).filter_map(network).any(|(base, bits)| own.overlaps(base, bits))
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
