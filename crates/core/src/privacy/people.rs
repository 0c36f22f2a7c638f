//! People: addresses of mail, folders of theirs, accounts at hosts and in directories. Each pass reads a text once.

use super::words::{head, is_word, runs};
use super::{HIDDEN, MACHINE, PERSON, Replacer, THIS_DOMAIN};
use crate::prelude::*;

/// Kinds of units of a service manager: `name@instance.service` is no address of mail.
const UNITS: &[&str] =
    &["service", "socket", "target", "timer", "scope", "slice", "mount", "device", "path", "swap", "automount"];
/// Folders that have a folder for each person, or for what a person plugged in.
const HOMES: &[&str] = &["/home/", "/users/", "/run/media/", "/media/", "\\users\\", "\\\\users\\\\"];
/// No longer name is one of a person.
const LONGEST_NAME: usize = 256;
/// What stands behind an at and before a colon, and is no host: digests of images, and where a package is to be had from.
const NO_HOSTS: &[&str] = &[
    "sha1",
    "sha256",
    "sha512",
    "md5",
    "npm",
    "workspace",
    "patch",
    "file",
    "link",
    "portal",
    "git",
    "http",
    "https",
    "ssh",
    "latest",
];
/// Keys of the names in a directory (RFC 4514) that say who and where somebody is.
const OF_DIRECTORY: &[&str] = &["cn", "ou", "dc", "uid"];

/// Addresses of mail.
pub(super) fn mails(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains('@') && !text.contains("%40") {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    for (inside, run) in runs(text, |c| c.is_alphanumeric() || "._%+-@".contains(c)) {
        let address = run.trim_end_matches(['.', '-', '_', '%', '+']);
        let found = inside.then(|| address.rsplit_once('@').or_else(|| address.rsplit_once("%40"))).flatten();
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

/// Folders of people: the name of each is its owner's. Those beside a home in an unusual place are told as if they were in the usual one.
pub(super) fn homes(replacer: &mut Replacer, text: &str) -> String {
    if !text.contains(['/', '\\']) {
        return text.to_owned();
    }
    let lower = text.to_ascii_lowercase();
    let mut out = String::with_capacity(text.len());
    let mut from = 0;
    for (at, _) in lower.match_indices(['/', '\\', '~']) {
        if at < from {
            continue;
        }
        let rest = lower.get(at..).unwrap_or_default();
        let before = lower.get(..at).and_then(|before| before.chars().next_back());
        let beside = replacer.homes.iter().find(|home| rest.starts_with(home.as_str()) && !before.is_some_and(is_word));
        let (start, prefix) = if let Some(home) = beside {
            (at + home.len(), Some("/home/"))
        } else if let Some(home) =
            HOMES.iter().find(|home| rest.starts_with(**home) && (**home != "/media/" || !before.is_some_and(is_word)))
        {
            (at + home.len(), None)
        } else if rest.starts_with('~') && before.is_none_or(|c| c.is_whitespace() || "\"'(=:".contains(c)) {
            (at + 1, None)
        } else {
            continue;
        };
        let name = head(lower.get(start..).unwrap_or_default(), LONGEST_NAME);
        let name = name.split(|c: char| "/\\:\"';,<>|".contains(c) || c.is_whitespace()).next().unwrap_or_default();
        // A sentence may end behind it.
        let end = start + name.trim_end_matches('.').len();
        let name = text.get(start..end).unwrap_or_default();
        // Behind a tilde it is a person only where a folder of theirs follows.
        let of_tilde = rest.starts_with('~');
        if of_tilde
            && !(name.starts_with(|c: char| c.is_ascii_alphabetic())
                && lower.get(end..).is_some_and(|rest| rest.starts_with('/')))
        {
            continue;
        }
        let small = name.to_lowercase();
        let shared = ["", "linuxbrew", "public", "shared", "default", "all", "cdrom", "floppy", PERSON].contains(&small.as_str())
            || (of_tilde && replacer.is_known(&small));
        // What a guide says of somebody's folder, it says itself.
        let said =
            text.get(start.saturating_sub("/home/".len())..end).is_some_and(|path| replacer.guide.contains(&path.to_lowercase()));
        out.push_str(text.get(from..if prefix.is_some() { at } else { start }).unwrap_or_default());
        out.push_str(prefix.unwrap_or_default());
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

/// Accounts: of somebody at a host, as in `oskar@buildbox:~`, and the domain before the person's own name, as Windows writes it.
pub(super) fn accounts(replacer: &mut Replacer, text: &str) -> String {
    let of_domain = text.contains(&format!("\\{PERSON}"));
    if !text.contains('@') && !of_domain {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    for (inside, run) in runs(text, |c| c.is_alphanumeric() || "._+-@".contains(c)) {
        rest = rest.get(run.len()..).unwrap_or_default();
        let before = out.chars().next_back();
        let begins = before.is_none_or(|c| c.is_whitespace() || "\"'([=".contains(c));
        let follows = rest.strip_prefix(':').and_then(|rest| rest.chars().next());
        match run.split_once('@').filter(|_| inside && begins) {
            Some((name, host))
                if !name.is_empty()
                    && host.starts_with(|c: char| c.is_ascii_alphabetic())
                    && !host.contains('@')
                    && !host.ends_with(".invalid")
                    && !NO_HOSTS.contains(&host)
                    && follows.is_some_and(|c| "~/$".contains(c) || c.is_ascii_alphabetic())
                    && !replacer.guide.contains(&run.to_lowercase()) =>
            {
                let small = name.to_lowercase();
                let known = replacer.is_known(&small);
                out.push_str(&if known { name.to_owned() } else { replacer.someone(&small) });
                out.push('@');
                let own = host == MACHINE || replacer.is_known(&host.to_lowercase());
                out.push_str(&if own { host.to_owned() } else { replacer.some_host(host) });
            }
            _ if of_domain && inside && begins && run.len() > 1 && rest.starts_with(&format!("\\{PERSON}")) => {
                out.push_str(if replacer.is_known(&run.to_lowercase()) { run } else { THIS_DOMAIN });
            }
            _ => out.push_str(run),
        }
    }
    out
}

/// Names in a directory: `CN=Marisol,OU=Survey,DC=harbour,DC=example`.
pub(super) fn directory(replacer: &Replacer, text: &str) -> String {
    if !text.contains('=') {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut from = 0;
    for (at, _) in text.match_indices('=') {
        if at < from {
            continue;
        }
        let before = text.get(from..at).unwrap_or_default().trim_end_matches(' ');
        let key = before.rsplit(|c: char| !c.is_ascii_alphanumeric()).next().unwrap_or_default();
        // A part of a word is another: `LANG_CN=`.
        let begins = before.strip_suffix(key).is_none_or(|before| !before.ends_with(['_', '-', '.', '$', '{']));
        if !begins || !OF_DIRECTORY.iter().any(|one| key.eq_ignore_ascii_case(one)) {
            continue;
        }
        let rest = text.get(at + 1..).unwrap_or_default();
        let start = at + 1 + (rest.len() - rest.trim_start_matches(' ').len());
        let value = head(text.get(start..).unwrap_or_default(), LONGEST_NAME);
        let value = value.split(|c: char| ",/;\"'<>+)\n".contains(c)).next().unwrap_or_default();
        // A number is an account of Unix.
        if !value.is_empty()
            && !value.starts_with(|c: char| c.is_ascii_digit())
            && !value.starts_with(HIDDEN)
            && !replacer.guide.contains(&value.to_lowercase())
        {
            out.push_str(text.get(from..start).unwrap_or_default());
            out.push_str(HIDDEN);
            from = start + value.len();
        }
    }
    out.push_str(text.get(from..).unwrap_or_default());
    out
}
