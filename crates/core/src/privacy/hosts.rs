//! Hosts: of inner networks, of shares and mounts, and those that are called like their address. Each pass reads a text once.

use super::words::{is_word, runs};
use super::{MACHINE, Replacer};
use crate::prelude::*;
use core::net::Ipv4Addr;

/// Ends of names that are inside of somebody's network.
const INNER: &[&str] = &[".local", ".lan", ".internal", ".intranet", ".corp", ".home.arpa", ".localdomain", ".in-addr.arpa"];
/// What the names of hosts begin with that hold their address.
const CALLED_SO: &[&str] = &["ip-", "ec2-", "host-", "dhcp-", "dyn-", "static-", "vps-"];
/// Where Windows keeps what is no other machine's.
const NO_SERVERS: &[&str] = &["?", ".", "wsl$", "wsl.localhost", "localhost"];

/// Hosts of inner networks.
pub(super) fn hosts(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains(['.', '-']) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut before = ' ';
    for (inside, run) in runs(text, |c| c.is_ascii_alphanumeric() || ".-_".contains(c)) {
        let bare = run.trim_start_matches(['-', '_']);
        let name = bare.trim_end_matches(['.', '-', '_']).to_lowercase();
        // Behind a single slash it is the name of a file.
        let is_file = before == '\\' || (before == '/' && !out.ends_with("//")) || name.starts_with('.');
        let inner = || INNER.iter().any(|end| name.ends_with(end)) || has_address(&name);
        if inside && ((!is_file && inner()) || is_of_domain(replacer, &name)) && !replacer.guide.contains(&name) {
            let of_machine = name.starts_with(MACHINE);
            out.push_str(run.get(..run.len() - bare.len()).unwrap_or_default());
            out.push_str(&if of_machine { MACHINE.to_owned() } else { replacer.some_host(&name) });
            out.push_str(bare.get(name.len()..).unwrap_or_default());
        } else {
            out.push_str(run);
        }
        before = run.chars().next_back().unwrap_or(' ');
    }
    out
}

/// Whether a name, in small letters, is of a domain that is nobody else's business, or begins with one of its hosts.
fn is_of_domain(replacer: &Replacer, name: &str) -> bool {
    replacer.domains.iter().any(|domain| {
        name.find(domain.as_str()).is_some_and(|at| {
            let (before, rest) = (name.get(..at).unwrap_or_default(), name.get(at + domain.len()..).unwrap_or_default());
            !before.ends_with(is_word) && !rest.starts_with(is_word)
        })
    })
}

/// Whether the name of a host, in small letters, holds its address: `ip-10-41-7-93`.
fn has_address(name: &str) -> bool {
    let first = name.split('.').next().unwrap_or_default();
    let numbers: Vec<&str> =
        first.rsplitn(5, '-').take(4).take_while(|part| part.len() < 4 && part.parse::<u8>().is_ok()).collect();
    let [d, c, b, a] = numbers.as_slice() else { return false };
    let Ok(address) = format!("{a}.{b}.{c}.{d}").parse::<Ipv4Addr>() else { return false };
    // Four numbers alone may be a version.
    address.is_private() || CALLED_SO.iter().any(|start| first.starts_with(start))
}

/// Servers of files: a share of Windows, and what is mounted from another machine.
pub(super) fn servers(replacer: &mut Replacer, text: &str) -> String {
    let lower = text.to_ascii_lowercase();
    let mounts = lower.contains(":/");
    let says_so = ["nfs", "sshfs", "cifs"].iter().any(|word| lower.contains(word));
    if !mounts && !text.contains("\\\\") {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    let mut share = false;
    for (inside, run) in runs(text, |c| is_word(c) || "-_.$?".contains(c)) {
        rest = rest.get(run.len()..).unwrap_or_default();
        let begins = |out: &str, length: usize| {
            let before = out.get(..out.len().saturating_sub(length)).and_then(|before| before.chars().next_back());
            before.is_none_or(|c| c.is_whitespace() || "\"'=(,".contains(c))
        };
        let small = run.to_lowercase();
        if !inside {
            share &= run == "\\";
            out.push_str(run);
        } else if share {
            share = false;
            out.push_str("share");
        } else if out.ends_with("\\\\") && begins(&out, 2) && rest.starts_with('\\') && !NO_SERVERS.contains(&small.as_str()) {
            share = true;
            let server = replacer.some_host(run);
            out.push_str(&server);
        } else if mounts
            && begins(&out, 0)
            && run.len() > 1
            && rest.starts_with(":/")
            && !rest.starts_with("://")
            && says_so
            && small.starts_with(|c: char| c.is_ascii_alphabetic())
            && !replacer.is_known(&small)
            && !small.ends_with(".invalid")
        {
            let server = replacer.some_host(run);
            out.push_str(&server);
        } else {
            out.push_str(run);
        }
    }
    out
}
