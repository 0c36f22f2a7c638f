use super::{Bench, quote};
use crate::finding::Finding;
use crate::guide::{Placeholder, placeholder_pieces};
use crate::prelude::*;

/// How values are put into a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Quoting {
    /// As they are, for people.
    Plain,
    /// As one word each, for the person's shell.
    Shell,
}

/// The text with its placeholders filled in. One that the finding cannot fill stays as it is, so that the gap can be seen.
pub(super) fn fill(text: &str, finding: &Finding, bench: &Bench<'_>, quoting: Quoting) -> String {
    let mut filled = String::with_capacity(text.len());
    for piece in placeholder_pieces(text) {
        match piece {
            Err(plain) => filled.push_str(plain),
            Ok(word) => match value(word, finding, bench) {
                Some(value) if quoting == Quoting::Shell => filled.push_str(&quote(&value, bench.shell)),
                Some(value) => filled.push_str(&value),
                None => {
                    for part in ["{", word, "}"] {
                        filled.push_str(part);
                    }
                }
            },
        }
    }
    filled
}

fn value(word: &str, finding: &Finding, bench: &Bench<'_>) -> Option<String> {
    let particulars = &finding.particulars;
    match Placeholder::ALL.into_iter().find(|one| one.word() == word)? {
        Placeholder::Found => finding.found.clone(),
        Placeholder::Wanted => finding.wanted.clone(),
        Placeholder::Path => particulars.path.clone(),
        Placeholder::Port => particulars.port.map(|port| port.to_string()),
        Placeholder::FreePort => particulars.free_port.map(|port| port.to_string()),
        Placeholder::User => bench.account.and_then(|account| account.name.clone()),
        Placeholder::StartupFile => bench.account.and_then(|account| account.startup_file.clone()),
        Placeholder::Holder => particulars.holder.clone(),
        Placeholder::ShortBy => particulars.short_by.map(|size| size.to_string()),
    }
}
