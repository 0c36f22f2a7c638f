//! What is seen of files and folders: what is there, and what this user may do with it.

use crate::prelude::*;
use crate::text::join_words;
use core::fmt::{self, Display};
use serde::{Deserialize, Serialize};

/// What is at a path.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct PathState {
    /// The path as the system knows it.
    pub path: String,
    /// What is there.
    pub nature: FileType,
    /// Its permission bits, where the system has such.
    pub mode: Option<u32>,
    /// Who may read or change it beside this user and those who look after the machine, where the system has lists of that and no bits;
    /// `None` where it has none, or does not tell.
    pub open_to: Option<Vec<String>>,
    /// It belongs to this user; `None` where the system does not tell.
    pub mine: Option<bool>,
    /// The user it belongs to, where it has a name.
    pub owner: Option<String>,
    /// The group it belongs to, where that may write to it and has a name.
    #[serde(default)]
    pub writers: Option<String>,
    /// This user may read it; of a folder, see what is in it.
    #[serde(default = "yes")]
    pub readable: bool,
    /// This user may write it, or where nothing is there, may make it.
    pub writable: bool,
    /// This user may execute it; of a folder, enter it.
    pub executable: bool,
    /// What the filesystem that it lies on keeps everybody from.
    #[serde(default)]
    pub mount: Option<MountBar>,
    /// The folder above it that this user may not enter, so that nobody can say what is there.
    #[serde(default)]
    pub barred_by: Option<AccessDenied>,
    /// Why it would not start although it may be executed, where it is a script.
    #[serde(default)]
    pub script: Option<ScriptTrouble>,
    /// Where nothing is there: the name of something beside it that differs only in upper and lower case.
    pub alike: Option<String>,
    /// Where nothing is there: the name of an example of it beside it.
    #[serde(default)]
    pub example: Option<String>,
    /// Whether its text holds what was looked for; `None` where nothing was, or it could not be read.
    pub holds: Option<bool>,
}

fn yes() -> bool {
    true
}

impl PathState {
    /// Nothing at a path, where this user could make something.
    pub fn nothing(path: impl Into<String>) -> Self {
        Self {
            path: path.into(),
            nature: FileType::Missing,
            mode: None,
            open_to: None,
            mine: None,
            owner: None,
            writers: None,
            readable: true,
            writable: true,
            executable: false,
            mount: None,
            barred_by: None,
            script: None,
            alike: None,
            example: None,
            holds: None,
        }
    }
}

/// What sort of thing is at a path.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum FileType {
    /// Nothing.
    Missing,
    /// A file.
    File,
    /// A folder.
    Folder,
    /// Something else: a device, a socket.
    Other,
    /// A link to this place, where nothing is.
    Dangling(String),
}

/// Something that stands in this user's way.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct AccessDenied {
    /// Where it is.
    pub path: String,
    /// Whose it is, where that has a name.
    pub owner: Option<String>,
    /// It is this user's own.
    pub mine: bool,
}

/// What a filesystem keeps everybody from, however the permissions are.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct MountBar {
    /// Where it is mounted.
    pub at: String,
    /// Nothing on it can be changed.
    pub read_only: bool,
    /// Nothing on it can be executed.
    pub no_execution: bool,
}

/// Why a script would not start.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ScriptTrouble {
    /// The interpreter that its first line names is not there.
    NoInterpreter(String),
    /// Its first line ends as on Windows, so that the interpreter's name has a character too many.
    LineEnds,
}

impl Display for PathState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let Some(barrier) = &self.barred_by {
            return write!(f, "not to be seen: {} may not be entered", barrier.path);
        }
        match &self.nature {
            FileType::Missing => {
                f.write_str("nothing there")?;
                if let Some(name) = &self.example {
                    write!(f, "; beside it is the example {name}")?;
                }
                return self.alike.as_ref().map_or(Ok(()), |name| write!(f, "; beside it is {name}"));
            }
            FileType::Dangling(target) => return write!(f, "a link to {target}, which is not there"),
            FileType::File => f.write_str("a file")?,
            FileType::Folder => f.write_str("a folder")?,
            FileType::Other => f.write_str("neither a file nor a folder")?,
        }
        if let Some(mode) = self.mode {
            write!(f, ", mode {mode:o}")?;
        }
        match self.open_to.as_deref() {
            Some([]) => f.write_str(", only for you")?,
            Some(others) => write!(f, ", open to {}", join_words(others, "and"))?,
            None => {}
        }
        match (self.mine, &self.owner) {
            (Some(true), _) => f.write_str(", yours")?,
            (_, Some(owner)) => write!(f, ", of {owner}")?,
            _ => {}
        }
        if !self.readable {
            f.write_str(", not readable for you")?;
        }
        if !self.writable {
            f.write_str(", not writable for you")?;
        }
        if let Some(mount) = &self.mount {
            let what = if mount.read_only { "changed" } else { "executed" };
            write!(f, "; nothing on the disk at {} can be {what}", mount.at)?;
        }
        match &self.script {
            Some(ScriptTrouble::NoInterpreter(name)) => write!(f, "; its first line names {name}, which is not there")?,
            Some(ScriptTrouble::LineEnds) => f.write_str("; its first line ends as on Windows")?,
            None => {}
        }
        match self.holds {
            Some(true) => f.write_str("; its text fits"),
            Some(false) => f.write_str("; its text does not fit"),
            None => Ok(()),
        }
    }
}
