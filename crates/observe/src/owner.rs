//! Whose a file is.

use std::path::Path;

/// A user who is neither this one nor the administrator.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ForeignOwner {
    /// Their number.
    pub number: u32,
    /// Their name, where the account database has one.
    pub name: Option<String>,
}

impl ForeignOwner {
    /// Whether a word is their name or number.
    pub fn is_called(&self, word: &str) -> bool {
        self.name.as_deref() == Some(word) || self.number.to_string() == word
    }
}

impl std::fmt::Display for ForeignOwner {
    /// `ann (1001)`, or the number alone.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match &self.name {
            Some(name) => write!(f, "{} ({})", setup_ready_core::text::Sanitised::line(name), self.number),
            None => write!(f, "{}", self.number),
        }
    }
}

/// The user whom a file belongs to, links followed, where that is somebody else: neither this user, nor the administrator, nor who became
/// the administrator with sudo(8). On Windows nobody is told apart.
#[cfg(unix)]
pub fn other_owner(path: &Path) -> Option<ForeignOwner> {
    use std::os::unix::fs::MetadataExt;
    let own = rustix::process::geteuid().as_raw();
    let number = path.metadata().ok()?.uid();
    let before_sudo = || std::env::var("SUDO_UID").ok().and_then(|text| text.parse::<u32>().ok());
    if number == own || number == 0 || (own == 0 && before_sudo() == Some(number)) {
        return None;
    }
    let name = nix::unistd::User::from_uid(nix::unistd::Uid::from_raw(number)).ok().flatten().map(|user| user.name);
    Some(ForeignOwner { number, name })
}

/// The user whom a file belongs to, where that is somebody else. On Windows nobody is told apart.
#[cfg(windows)]
pub fn other_owner(_: &Path) -> Option<ForeignOwner> {
    None
}
