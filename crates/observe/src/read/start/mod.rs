//! How shells start: which files they read in which order, followed as far as that can be read. Nothing is run.
//!
//! Sources: bash(1) INVOCATION, zshall(1) STARTUP/SHUTDOWN FILES, fish(1) Configuration, mksh(1) and dash(1) invocation, tcsh(1) Startup and
//! shutdown; Debian's own `/etc/bash.bashrc` and `/etc/zsh`.

mod lines;
mod posix;
#[cfg(test)]
mod tests;
mod words;

use std::collections::HashMap;

/// The shells whose start is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Program {
    /// bash.
    Bash,
    /// sh, dash, ksh.
    Posix,
    /// mksh.
    Mksh,
    /// zsh.
    Zsh,
    /// fish.
    Fish,
    /// csh, tcsh.
    Csh,
}

impl Program {
    /// The shell with this file name; a `-` before it says that it was started by a sign-in.
    pub fn of(name: &str) -> Option<Self> {
        Some(match name.trim_start_matches('-') {
            "bash" => Self::Bash,
            "sh" | "dash" | "ash" | "ksh" | "ksh93" => Self::Posix,
            "mksh" => Self::Mksh,
            "zsh" => Self::Zsh,
            "fish" => Self::Fish,
            "csh" | "tcsh" => Self::Csh,
            _ => return None,
        })
    }
}

/// How a shell is started.
#[allow(missing_debug_implementations, reason = "it holds functions")]
#[derive(Clone, Copy)]
pub struct StartupConfig<'a> {
    /// Which one.
    pub program: Program,
    /// By a sign-in.
    pub login: bool,
    /// With somebody at it.
    pub interactive: bool,
    /// The person's home folder.
    pub home: &'a str,
    /// What the environment has before: only what says where files are is asked for (`ZDOTDIR`, `ENV`, `BASH_ENV`).
    pub environment: &'a dyn Fn(&str) -> Option<String>,
    /// The text of a file, where there is one.
    pub text: &'a dyn Fn(&str) -> Option<String>,
    /// Whether something is at a path.
    pub exists: &'a dyn Fn(&str) -> bool,
}

/// A line of a file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Place {
    /// The file.
    pub file: String,
    /// The number of the line.
    pub line: usize,
}

/// What a line does to a variable.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Assignment {
    /// Where.
    pub place: Place,
    /// The variable.
    pub name: String,
    /// What becomes of it.
    pub what: Effect,
    /// Whether it is sure that the line is reached.
    pub sure: bool,
}

/// What becomes of a variable.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Effect {
    /// It has this value; none where that cannot be read.
    Set(Option<String>),
    /// Programs get it from now on.
    Exported,
    /// It is taken away.
    Gone,
}

/// What a shell did on its start.
#[derive(Debug, Default, Clone, PartialEq, Eq)]
pub struct StartupTrace {
    /// The files that it read, in order.
    pub files: Vec<String>,
    /// What lines did to variables, in order.
    pub deeds: Vec<Assignment>,
    /// Where a file was left before its end.
    pub ends: Vec<Place>,
}

/// How a variable comes out of a start.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Outcome<'t> {
    /// No line sets it.
    Untouched,
    /// This line sets it, and programs get it.
    Given(&'t Place),
    /// This line sets it, and programs do not get it.
    Kept(&'t Place),
    /// This line takes it away again.
    Gone(&'t Place),
}

/// More files are not read, and longer ones not to their end.
const MOST_FILES: usize = 60;
const MOST_BYTES: usize = 1 << 17;
/// Files read one another no deeper than this.
const DEEPEST: usize = 8;

/// Where one is while a start is followed.
struct Follow<'a> {
    start: StartupConfig<'a>,
    values: HashMap<String, Option<String>>,
    trail: StartupTrace,
}

/// Follows the start of a shell.
pub fn follow(start: StartupConfig<'_>) -> StartupTrace {
    let mut values = HashMap::new();
    values.insert("HOME".to_owned(), Some(start.home.to_owned()));
    let flags = if start.interactive { "himBH" } else { "hB" };
    values.insert("-".to_owned(), Some(flags.to_owned()));
    values.insert("PS1".to_owned(), start.interactive.then(|| "$".to_owned()));
    values.insert("BASH_VERSION".to_owned(), (start.program == Program::Bash).then(|| "5".to_owned()));
    values.insert("ZSH_VERSION".to_owned(), (start.program == Program::Zsh).then(|| "5".to_owned()));
    let mut follow = Follow { start, values, trail: StartupTrace::default() };
    for one in follow.files() {
        match one {
            Step::Read(file) => {
                follow.read(&file, 0, Truth::Yes);
            }
            Step::First(files) => {
                if let Some(file) = files.iter().find(|file| (start.exists)(file)) {
                    follow.read(file, 0, Truth::Yes);
                }
            }
        }
    }
    follow.trail
}

/// One thing that a shell reads on its start.
enum Step {
    /// This file, where it is there.
    Read(String),
    /// The first of these that is there.
    First(Vec<String>),
}

/// Whether something holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Truth {
    Yes,
    No,
    Perhaps,
}

impl Truth {
    fn and(self, other: Self) -> Self {
        match (self, other) {
            (Self::No, _) | (_, Self::No) => Self::No,
            (Self::Yes, Self::Yes) => Self::Yes,
            (Self::Perhaps, Self::Yes | Self::Perhaps) | (Self::Yes, Self::Perhaps) => Self::Perhaps,
        }
    }

    fn not(self) -> Self {
        match self {
            Self::Yes => Self::No,
            Self::No => Self::Yes,
            Self::Perhaps => Self::Perhaps,
        }
    }
}

impl From<bool> for Truth {
    fn from(holds: bool) -> Self {
        if holds { Self::Yes } else { Self::No }
    }
}

impl Follow<'_> {
    /// The files in the order in which they are read.
    fn files(&self) -> Vec<Step> {
        let StartupConfig { program, login, interactive, home, environment, .. } = self.start;
        let own = |file: &str| format!("{home}/{file}");
        let mut all = Vec::new();
        let mut read = |holds: bool, file: String| {
            if holds {
                all.push(Step::Read(file));
            }
        };
        match program {
            Program::Bash => {
                read(login, "/etc/profile".into());
                if login {
                    all.push(Step::First([".bash_profile", ".bash_login", ".profile"].map(own).to_vec()));
                } else if interactive {
                    all.push(Step::Read("/etc/bash.bashrc".into()));
                    all.push(Step::Read(own(".bashrc")));
                } else if let Some(file) = environment("BASH_ENV") {
                    all.push(Step::Read(file));
                }
            }
            Program::Posix | Program::Mksh => {
                read(login, "/etc/profile".into());
                read(login, own(".profile"));
                let file = environment("ENV").or_else(|| (program == Program::Mksh).then(|| own(".mkshrc")));
                if let Some(file) = file.filter(|_| interactive) {
                    all.push(Step::Read(file));
                }
            }
            Program::Zsh => {
                let folder = environment("ZDOTDIR").unwrap_or_else(|| home.to_owned());
                let own = |file: &str| format!("{folder}/{file}");
                read(true, "/etc/zsh/zshenv".into());
                read(true, own(".zshenv"));
                read(login, "/etc/zsh/zprofile".into());
                read(login, own(".zprofile"));
                read(interactive, "/etc/zsh/zshrc".into());
                read(interactive, own(".zshrc"));
                read(login, "/etc/zsh/zlogin".into());
                read(login, own(".zlogin"));
            }
            Program::Fish => {
                let folder = environment("XDG_CONFIG_HOME").unwrap_or_else(|| own(".config"));
                read(true, "/etc/fish/config.fish".into());
                read(true, format!("{folder}/fish/config.fish"));
            }
            Program::Csh => {
                read(true, "/etc/csh.cshrc".into());
                read(login, "/etc/csh.login".into());
                all.push(Step::First([".tcshrc", ".cshrc"].map(own).to_vec()));
                if login {
                    all.push(Step::Read(own(".login")));
                }
            }
        }
        all
    }

    /// Reads a file, if it is there; whether it is.
    fn read(&mut self, file: &str, depth: usize, guard: Truth) -> bool {
        let known = self.trail.files.len() < MOST_FILES && depth < DEEPEST;
        let Some(text) = known.then(|| (self.start.text)(file)).flatten() else { return false };
        self.trail.files.push(file.to_owned());
        let text = text.get(..setup_ready_core::text::floor_char_boundary(&text, MOST_BYTES)).unwrap_or("");
        let ended = match self.start.program {
            Program::Bash | Program::Posix | Program::Mksh | Program::Zsh => self.posix(file, text, depth, guard),
            Program::Fish => self.fish(file, text, depth, guard),
            Program::Csh => self.csh(file, text, depth, guard),
        };
        self.trail.ends.extend(ended.map(|line| Place { file: file.to_owned(), line }));
        true
    }

    fn note(&mut self, (file, line): (&str, usize), name: &str, what: Effect, guard: Truth) {
        if guard == Truth::No || name.is_empty() {
            return;
        }
        match &what {
            Effect::Set(value) => {
                self.values.insert(name.to_owned(), if guard == Truth::Yes { value.clone() } else { None });
            }
            Effect::Gone => {
                self.values.remove(name);
            }
            Effect::Exported => {}
        }
        let place = Place { file: file.to_owned(), line };
        self.trail.deeds.push(Assignment { place, name: name.to_owned(), what, sure: guard == Truth::Yes });
    }
}

impl StartupTrace {
    /// How a variable comes out: by the last line that does something to it. `given` is whether programs had it before.
    pub fn outcome(&self, name: &str, given: bool) -> Outcome<'_> {
        let (mut exported, mut outcome) = (given, Outcome::Untouched);
        for deed in self.deeds.iter().filter(|deed| deed.name == name) {
            outcome = match (&deed.what, outcome) {
                (Effect::Set(_), _) if exported => Outcome::Given(&deed.place),
                (Effect::Set(_), _) => Outcome::Kept(&deed.place),
                (Effect::Exported, Outcome::Kept(place) | Outcome::Given(place)) => {
                    exported = true;
                    Outcome::Given(place)
                }
                (Effect::Exported, other) => {
                    exported = true;
                    other
                }
                (Effect::Gone, _) => {
                    exported = false;
                    Outcome::Gone(&deed.place)
                }
            };
        }
        outcome
    }
}
