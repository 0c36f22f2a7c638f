use crate::cause::About;
use crate::prelude::*;

/// What stands in braces in a fix and is filled in for the machine.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Placeholder {
    /// What was found.
    Found,
    /// What was wanted.
    Wanted,
    /// The path that the finding is about.
    Path,
    /// The port that the finding is about.
    Port,
    /// A port that is free.
    FreePort,
    /// The user's name.
    User,
    /// The startup file of the user's shell.
    StartupFile,
    /// Who holds the port.
    Holder,
    /// How much is missing.
    ShortBy,
    /// The folder of the path that the finding is about.
    Folder,
    /// What the fix's own pattern found in what was printed.
    Captured,
}

impl Placeholder {
    /// Every placeholder.
    pub const ALL: [Self; 11] = [
        Self::Found,
        Self::Wanted,
        Self::Path,
        Self::Port,
        Self::FreePort,
        Self::User,
        Self::StartupFile,
        Self::Holder,
        Self::ShortBy,
        Self::Folder,
        Self::Captured,
    ];

    /// The groups of causes whose findings can fill it; none where every finding can.
    pub const fn about(self) -> Option<&'static [About]> {
        use About::{Checkout, Command, Disk, Limit, Memory, Name, Path, Port, Reach, Service, Socket, System, Tool, Variable};
        Some(match self {
            Self::User | Self::StartupFile => return None,
            Self::Found => &[Tool, Disk, Memory, System, Path, Name, Limit, Checkout, Service, Reach],
            Self::Wanted => &[Tool, Disk, Memory, System, Path, Name, Limit, Checkout, Service, Reach, Command],
            Self::Path | Self::Folder => &[Tool, Disk, Path, Socket, Limit, Port, Variable, Checkout],
            Self::Port => &[Port, Service],
            Self::FreePort | Self::Holder => &[Port],
            Self::ShortBy => &[Disk, Memory],
            Self::Captured => &[Command],
        })
    }

    /// The word between the braces.
    pub fn word(self) -> &'static str {
        match self {
            Self::Found => "found",
            Self::Wanted => "wanted",
            Self::Path => "path",
            Self::Port => "port",
            Self::FreePort => "free-port",
            Self::User => "user",
            Self::StartupFile => "startup-file",
            Self::Holder => "holder",
            Self::ShortBy => "short-by",
            Self::Folder => "folder",
            Self::Captured => "captured",
        }
    }
}

/// Cuts a text into plain pieces (`Err`) and words in braces (`Ok`). Braces around anything but lowercase letters and hyphens are plain
/// text, so that shell and JSON pass through.
pub fn pieces(text: &str) -> Vec<Result<&str, &str>> {
    let mut found = Vec::new();
    let mut plain_from = 0;
    let mut from = 0;
    while let Some(open) = text.get(from..).and_then(|rest| rest.find('{')).map(|at| from + at) {
        let inner = text.get(open + 1..).unwrap_or("");
        let word = inner.split_once('}').map_or("", |(word, _)| word);
        let shell = text.get(..open).is_some_and(|before| before.ends_with('$'));
        from = open + 1;
        if !shell && !word.is_empty() && word.len() <= 20 && word.bytes().all(|b| b.is_ascii_lowercase() || b == b'-') {
            found.push(Err(text.get(plain_from..open).unwrap_or("")));
            found.push(Ok(word));
            from = open + word.len() + 2;
            plain_from = from;
        }
    }
    found.push(Err(text.get(plain_from..).unwrap_or("")));
    found
}
