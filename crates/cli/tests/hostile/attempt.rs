//! One attempt: what it is made of, and the place it is made in.

use super::judge::Trial;
use super::large;
use serde::Deserialize;
use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;
use std::sync::atomic::{AtomicU32, Ordering};

/// The attempts of one file, which all try the same sort of harm.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Class {
    #[serde(rename = "class")]
    pub(crate) title: String,
    pub(crate) harm: String,
    pub(crate) attempt: BTreeMap<String, Attempt>,
}

/// What a list says of one attempt. Places are written `@project@`, `@home@`, `@tools@` (on PATH), `@away@` and `@canary@`.
#[derive(Default, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub(crate) struct Attempt {
    guide: String,
    guide_at: Option<String>,
    r#in: Option<String>,
    prepare: String,
    environment: BTreeMap<String, String>,
    path: Option<String>,
    arguments: Vec<String>,
    /// A script instead of one start of the program.
    pub(crate) run: Option<String>,
    /// A script that fails where harm was done.
    judge: String,
    pub(crate) needs: Option<String>,
    /// Which ends are right; without it, any but a panic or a signal.
    pub(crate) status: Vec<i32>,
    pub(crate) says: Vec<String>,
    pub(crate) never_says: Vec<String>,
    /// What may have changed afterwards, below the attempt's folder.
    pub(crate) may_write: Vec<String>,
    pub(crate) may_die: bool,
    /// Seconds on a machine with nothing else to do; 30 without it, 120 where all commands are run.
    pub(crate) ends_within: Option<u64>,
}

/// A number that no other attempt has, for what must be told apart among all processes.
static NUMBER: AtomicU32 = AtomicU32::new(1);

impl Attempt {
    /// Whether a word stands in what it is made with.
    pub(crate) fn mentions(&self, word: &str) -> bool {
        [Some(&self.prepare), self.run.as_ref(), Some(&self.judge)].into_iter().flatten().any(|script| script.contains(word))
    }

    /// Makes the place and what is in it.
    pub(crate) fn make(&self, suite: &Path) -> Trial<'_> {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path().canonicalize().unwrap();
        let listener = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
        let port = listener.local_addr().unwrap().port();
        drop(listener);
        let nap = format!("41.{}{:03}", std::process::id(), NUMBER.fetch_add(1, Ordering::Relaxed));
        // The name of no folder that tools look for.
        let place = |name: &str| root.join(if name == "tools" { "programs-on-path" } else { name }).display().to_string();
        for name in ["project", "home", "tools", "away"] {
            std::fs::create_dir(place(name)).unwrap();
        }
        let path = format!("{}:/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin", place("tools"));
        let fill = |text: &str| {
            let mut text = text.replace("@path@", &path).replace("@canary@", &place("ran")).replace("@port@", &port.to_string());
            for name in ["project", "home", "tools", "away"] {
                text = text.replace(&format!("@{name}@"), &place(name));
            }
            large::filled(&text.replace("@nap@", &nap))
        };
        let mut guide = fill(&self.guide);
        if !guide.starts_with("format") {
            guide.insert_str(0, "format = 1\n[project]\nname = \"Lure\"\n");
        }
        let file = root.join("project").join(self.guide_at.as_deref().unwrap_or("setup-guide.toml"));
        std::fs::create_dir_all(file.parent().unwrap()).unwrap();
        std::fs::write(file, guide).unwrap();

        let mut environment: BTreeMap<String, String> = [
            ("HOME", place("home")),
            ("PATH", self.path.as_ref().map_or_else(|| path.clone(), |path| fill(path))),
            ("LURE_TOKEN", "hunter2-Very+Secret/17=".to_owned()),
            ("USER", "lure-user".to_owned()),
            ("SHELL", "/bin/bash".to_owned()),
            ("LANG", "C.UTF-8".to_owned()),
            ("TERM", "dumb".to_owned()),
        ]
        .map(|(name, value)| (name.to_owned(), value))
        .into();
        environment.extend(self.environment.iter().map(|(name, value)| (name.clone(), fill(value))));
        let program = std::env::var("HOSTILE_PROGRAM").unwrap_or_else(|_| env!("CARGO_BIN_EXE_setup-ready").to_owned());
        // What scripts are told; not what the program is told that is started by itself.
        let mut told: BTreeMap<&str, String> = [("PROJECT", "project"), ("TOOLS", "tools"), ("AWAY", "away"), ("CANARY", "ran")]
            .map(|(name, at)| (name, place(at)))
            .into();
        told.extend([("ROOT", root.display().to_string()), ("SUITE", suite.display().to_string()), ("PROGRAM", program.clone())]);
        told.extend([("PORT", port.to_string()), ("PYTHON", python().to_owned())]);
        let bash = |script: &str| {
            let mut command = Command::new("bash");
            let lines = format!("{}\n{}", std::fs::read_to_string(suite.join("prelude.sh")).unwrap(), fill(script));
            command.args(["-c", &lines]).env_clear().envs(&told).current_dir(root.join("project"));
            command.envs([("PATH", std::env::var("PATH").unwrap()), ("HOME", place("home")), ("LANG", "C.UTF-8".to_owned())]);
            command
        };
        let prepared = bash(&format!("set -e\n{}", self.prepare)).output().unwrap();
        assert!(prepared.status.success(), "could not be prepared: {prepared:?}");
        let inside = self.r#in.as_ref().map_or_else(|| root.join("project"), |inside| root.join(inside));
        let arguments = if self.arguments.is_empty() { vec!["preflight".to_owned()] } else { self.arguments.clone() };
        let mut run = if let Some(script) = &self.run { bash(script) } else { Command::new(&program) };
        if self.run.is_none() {
            run.env_clear().args(arguments.iter().map(|word| fill(word)));
        }
        run.envs(&environment).current_dir(inside);
        let judge = (!self.judge.is_empty()).then(|| bash(&self.judge));
        Trial { attempt: self, folder, root, run, judge, nap }
    }
}

/// The interpreter itself, not a stand-in that chooses one by folder.
fn python() -> &'static str {
    static PYTHON: std::sync::OnceLock<String> = std::sync::OnceLock::new();
    PYTHON.get_or_init(|| {
        let said = Command::new("python3").args(["-c", "import sys; print(sys.executable)"]).output();
        said.map(|said| String::from_utf8(said.stdout).unwrap().trim().to_owned()).unwrap_or_default()
    })
}
