use crate::observation::Os;
use crate::prelude::*;

/// The shells that commands are written for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shell {
    /// sh, bash, zsh, dash, ksh.
    Posix,
    /// fish.
    Fish,
    /// `PowerShell`.
    PowerShell,
}

impl Shell {
    /// The shell with this name; the system's usual one where it is not known.
    pub fn of(name: Option<&str>, os: Option<Os>) -> Self {
        match name {
            Some("fish") => Self::Fish,
            Some("pwsh" | "powershell") => Self::PowerShell,
            None if os == Some(Os::Windows) => Self::PowerShell,
            Some(_) | None => Self::Posix,
        }
    }

    /// The line that puts a folder first on PATH.
    pub fn prepend_path(self, folder: &str) -> String {
        match self {
            Self::Posix => format!("export PATH={}:\"$PATH\"", quote(folder, self)),
            Self::Fish => format!("set -gx PATH {} $PATH", quote(folder, self)),
            Self::PowerShell => format!("$env:Path = {} + ';' + $env:Path", quoted(folder, self)),
        }
    }
}

/// A text as one word of a command line, quoted only where it must be.
pub fn quote(text: &str, shell: Shell) -> String {
    let safe = |c: char| c.is_ascii_alphanumeric() || "-_./+:@%,".contains(c);
    if !text.is_empty() && text.chars().all(safe) { text.to_owned() } else { quoted(text, shell) }
}

/// In single quotes nothing is special but the quote itself (POSIX Shell 2.2.2), in fish the backslash too.
fn quoted(text: &str, shell: Shell) -> String {
    match shell {
        Shell::Posix => format!("'{}'", text.replace('\'', r"'\''")),
        Shell::Fish => format!("'{}'", text.replace('\\', r"\\").replace('\'', r"\'")),
        Shell::PowerShell => format!("'{}'", text.replace('\'', "''")),
    }
}
