use crate::observation::Os;
use crate::prelude::*;

/// The shells that commands are written for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shell {
    /// sh, bash, zsh, dash, ksh.
    Posix,
    /// fish.
    Fish,
    /// csh, tcsh.
    Csh,
    /// `PowerShell`.
    PowerShell,
    /// The Windows command prompt.
    Cmd,
}

impl Shell {
    /// Whether it is one of Unix, with the programs of Unix beside it.
    pub(crate) fn is_unix(self) -> bool {
        matches!(self, Self::Posix | Self::Fish | Self::Csh)
    }

    /// The shell with this name; the system's usual one where it is not known.
    pub fn of(name: Option<&str>, os: Option<Os>) -> Self {
        match name {
            Some("fish") => Self::Fish,
            Some("csh" | "tcsh") => Self::Csh,
            Some("pwsh" | "powershell") => Self::PowerShell,
            Some("cmd") => Self::Cmd,
            None if os == Some(Os::Windows) => Self::PowerShell,
            Some(_) | None => Self::Posix,
        }
    }

    /// The line that puts a folder first on PATH.
    pub fn prepend_path(self, folder: &str) -> String {
        match self {
            Self::Posix => format!("export PATH={}:\"$PATH\"", quote(folder, self)),
            Self::Fish => format!("set -gx PATH {} $PATH", quote(folder, self)),
            Self::Csh => format!("setenv PATH {}:\"$PATH\"", quote(folder, self)),
            Self::PowerShell => format!("$env:Path = {} + ';' + $env:Path", quoted(folder, self)),
            Self::Cmd => format!("set \"PATH={};%PATH%\"", folder.replace('"', "")),
        }
    }

    /// The line that puts a folder first on a list of folders that may not be set yet.
    pub(crate) fn prepend_to(self, variable: &str, folder: &str) -> String {
        match self {
            // An empty part would name the folder that one happens to be in.
            Self::Posix => format!("export {variable}={}\"${{{variable}:+:${variable}}}\"", quote(folder, self)),
            Self::Fish => format!("set -gx {variable} {} ${variable}", quote(folder, self)),
            // One that is not set is an error there.
            Self::Csh => format!("setenv {variable} {}", quote(folder, self)),
            Self::PowerShell => format!("$env:{variable} = {} + ';' + $env:{variable}", quoted(folder, self)),
            Self::Cmd => format!("set \"{variable}={};%{variable}%\"", folder.replace('"', "")),
        }
    }

    /// The line that puts folders last on PATH.
    pub(crate) fn append_path(self, folders: &[&str]) -> String {
        let quoted: Vec<String> = folders.iter().map(|folder| quote(folder, self)).collect();
        match self {
            Self::Posix => format!("export PATH=\"$PATH\":{}", quoted.join(":")),
            Self::Fish => format!("set -gx PATH $PATH {}", quoted.join(" ")),
            Self::Csh => format!("setenv PATH \"$PATH\":{}", quoted.join(":")),
            Self::PowerShell => format!("$env:Path = $env:Path + ';{}'", folders.join(";").replace('\'', "''")),
            Self::Cmd => format!("set \"PATH=%PATH%;{}\"", folders.join(";").replace('"', "")),
        }
    }

    /// The line that puts a folder first on the user's PATH for every new terminal, where no startup file does that; `None` where there is
    /// no safe one.
    pub fn prepend_path_for_good(self, folder: &str) -> Option<String> {
        let set = |folder: &str| {
            format!(
                "[Environment]::SetEnvironmentVariable('Path', {folder} + ';' + [Environment]::GetEnvironmentVariable('Path', 'User'), 'User')"
            )
        };
        match self {
            Self::Posix | Self::Fish | Self::Csh => None,
            Self::PowerShell => Some(set(&quoted(folder, self))),
            // The prompt's own command would cut a long PATH, and mix the machine's with the user's.
            Self::Cmd if folder.contains(['%', '"']) => None,
            Self::Cmd => Some(format!("powershell -NoProfile -Command \"{}\"", set(&quoted(folder, Self::PowerShell)))),
        }
    }

    /// The line that makes a folder with those above it.
    pub(crate) fn make_folder(self, folder: &str) -> String {
        match self {
            Self::Posix | Self::Fish | Self::Csh => format!("mkdir -p {}", quote(folder, self)),
            Self::PowerShell | Self::Cmd => format!("mkdir {}", quote(folder, self)),
        }
    }

    /// The line that gives a file or a folder another name.
    pub(crate) fn rename(self, from: &str, to: &str) -> String {
        let (from, to) = (quote(from, self), quote(to, self));
        match self {
            Self::Posix | Self::Fish | Self::Csh => format!("mv {from} {to}"),
            Self::PowerShell => format!("Move-Item -LiteralPath {from} -Destination {to}"),
            Self::Cmd => format!("move {from} {to}"),
        }
    }

    /// The line that copies a file.
    pub(crate) fn copy(self, from: &str, to: &str) -> String {
        let (from, to) = (quote(from, self), quote(to, self));
        match self {
            Self::Posix | Self::Fish | Self::Csh => format!("cp {from} {to}"),
            Self::PowerShell => format!("Copy-Item -LiteralPath {from} -Destination {to}"),
            Self::Cmd => format!("copy {from} {to}"),
        }
    }

    /// The line that removes a link, and not what it leads to.
    pub(crate) fn remove_link(self, link: &str, folder: bool) -> String {
        let name = quote(link, self);
        match self {
            Self::Posix | Self::Fish | Self::Csh => format!("rm {name}"),
            Self::PowerShell => format!("(Get-Item -LiteralPath {name} -Force).Delete()"),
            Self::Cmd if folder => format!("rmdir {name}"),
            Self::Cmd => format!("del {name}"),
        }
    }

    /// The line that sets a variable in this terminal.
    pub fn set(self, name: &str, value: &str) -> String {
        match self {
            Self::Posix => format!("export {name}={}", quote(value, self)),
            Self::Fish => format!("set -gx {name} {}", quote(value, self)),
            Self::Csh => format!("setenv {name} {}", quote(value, self)),
            Self::PowerShell => format!("$env:{name} = {}", quoted(value, self)),
            Self::Cmd => format!("set \"{name}={}\"", value.replace('"', "")),
        }
    }

    /// The line that sets a variable for every new terminal: in a startup file, or by itself where there is none.
    pub fn set_for_good(self, name: &str, value: &str) -> String {
        match self {
            Self::Posix | Self::Fish | Self::Csh => self.set(name, value),
            Self::PowerShell => format!("[Environment]::SetEnvironmentVariable('{name}', {}, 'User')", quoted(value, self)),
            Self::Cmd => format!("setx {name} {}", quote(value, self)),
        }
    }

    /// The line that makes an environment of Python the one of this terminal.
    pub(crate) fn activate(self, environment: &str) -> String {
        match self {
            Self::Posix => format!(". {environment}/bin/activate"),
            Self::Fish => format!("source {environment}/bin/activate.fish"),
            Self::Csh => format!("source {environment}/bin/activate.csh"),
            Self::PowerShell => format!("{environment}\\Scripts\\Activate.ps1"),
            Self::Cmd => format!("{environment}\\Scripts\\activate"),
        }
    }

    /// The line that takes a variable away in this terminal.
    pub fn unset(self, name: &str) -> String {
        match self {
            Self::Posix => format!("unset {name}"),
            Self::Fish => format!("set -e {name}"),
            Self::Csh => format!("unsetenv {name}"),
            Self::PowerShell => format!("Remove-Item Env:{name}"),
            Self::Cmd => format!("set {name}="),
        }
    }

    /// The line that puts a text at the end of a file, on Windows.
    pub(crate) fn append(self, text: &str, file: &str) -> String {
        match self {
            // A digit before the arrow would be taken for a stream.
            Self::Cmd => format!(">> {} echo {}", quote(file, self), text.replace('%', "^%")),
            Self::Posix | Self::Fish | Self::Csh | Self::PowerShell => {
                format!("Add-Content -Path {file} -Value {}", quote(text, self))
            }
        }
    }
}

/// A text as one word of a command line, quoted only where it must be.
///
/// ```
/// use setup_ready_core::fix::{Shell, quote};
///
/// assert_eq!(quote("buoy.key", Shell::Posix), "buoy.key");
/// assert_eq!(quote("it's mine", Shell::Posix), r"'it'\''s mine'");
/// assert_eq!(quote("it's mine", Shell::PowerShell), "'it''s mine'");
/// ```
pub fn quote(text: &str, shell: Shell) -> String {
    // Windows paths need no quotes there; elsewhere a backslash is special, and at the command prompt a slash begins an option.
    let more = match shell {
        Shell::Cmd => "-_.+:@\\",
        Shell::PowerShell => "-_./+:@\\",
        Shell::Posix | Shell::Fish | Shell::Csh => "-_./+:@%,",
    };
    let safe = |c: char| c.is_ascii_alphanumeric() || more.contains(c);
    if !text.is_empty() && text.chars().all(safe) { text.to_owned() } else { quoted(text, shell) }
}

/// In single quotes nothing is special but the quote itself (POSIX Shell 2.2.2), in fish the backslash too. Between double quotes of the command
/// prompt a percent sign still is, and stands outside of them; a quote and a line end cannot be in a name there, and are left out.
fn quoted(text: &str, shell: Shell) -> String {
    match shell {
        Shell::Posix => format!("'{}'", text.replace('\'', r"'\''")),
        // The sign of earlier commands is special there even so, and a line end must be announced (tcsh(1), Lexical structure).
        Shell::Csh => format!("'{}'", text.replace('\'', r"'\''").replace('!', r"\!").replace('\n', "\\\n")),
        Shell::Fish => format!("'{}'", text.replace('\\', r"\\").replace('\'', r"\'")),
        Shell::PowerShell => format!("'{}'", text.replace('\'', "''")),
        Shell::Cmd => format!("\"{}\"", text.replace(['"', '\n', '\r'], "").replace('%', "\"^%\"")),
    }
}
