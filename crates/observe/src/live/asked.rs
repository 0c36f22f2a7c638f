//! What a guide wants to have started beyond questions, as it would be started on this machine, and the mark of exactly that.

use super::{Live, os, place, program, shim};
use crate::guide_file::hex;
use setup_ready_core::consent::{ConsentRequest, concerned};
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::{Choice, Observation, Run, StartFailure};
use setup_ready_core::probe::Permission;
use setup_ready_core::selection::Selection;
use sha2::{Digest, Sha256};
use std::io::Read;
use std::path::{Path, PathBuf};
use std::time::Duration;

/// Something that a guide wants to have started, as it would be started here.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Ask {
    /// The title of the requirement that wants it.
    pub title: String,
    /// The argument list, the program first.
    pub words: Vec<String>,
    /// The file that runs, behind all links.
    pub program: PathBuf,
    /// The project's own files that the words name, relative to its folder: what they hold is part of what is agreed to.
    pub scripts: Vec<PathBuf>,
    /// Stands for all of this, the folder and what the scripts hold.
    pub mark: String,
}

/// Files that a program reads by itself in the folder where it starts, and does what they say.
const READ_UNNAMED: [(&str, &[&str]); 12] = [
    ("cargo", &["Cargo.toml", "build.rs", ".cargo/config.toml"]),
    ("cmake", &["CMakeLists.txt", "CMakePresets.json"]),
    ("gmake", &["GNUmakefile", "makefile", "Makefile"]),
    ("gradle", &["build.gradle", "build.gradle.kts", "settings.gradle", "settings.gradle.kts"]),
    ("just", &["justfile", "Justfile"]),
    ("make", &["GNUmakefile", "makefile", "Makefile"]),
    ("mvn", &["pom.xml", ".mvn/jvm.config", ".mvn/maven.config"]),
    ("npm", &["package.json", ".npmrc"]),
    ("npx", &["package.json", ".npmrc"]),
    ("pnpm", &["package.json", ".npmrc"]),
    ("rake", &["Rakefile"]),
    ("yarn", &["package.json", ".yarnrc.yml", ".yarnrc"]),
];
/// So much of a script is part of a mark, in bytes.
const LARGEST_SCRIPT: u64 = 64 << 20;
/// So many of the words' files.
const MOST_SCRIPTS: usize = 200;

impl Live {
    /// What the selected requirements of a guide want to have started that needs a yes, as it would be started now. What is not on this
    /// machine is not among it.
    pub fn asks(&self, guide: &Guide, selection: &Selection) -> Vec<Ask> {
        let mut asks = Vec::new();
        let plain_path = !self.path_may_choose();
        for (requirement, wish) in concerned(guide, selection) {
            let (path, words) = match wish {
                ConsentRequest::Command(words) => match self.command_file(words) {
                    Ok(path) => (path, words.to_vec()),
                    Err(_) => continue,
                },
                ConsentRequest::Tool { name, odd: false, .. } if plain_path && !shim::DECIDED_BY_FOLDER.contains(&name) => {
                    continue;
                }
                ConsentRequest::Tool { name, arguments, odd } => {
                    let Some(copy) = program::copies(self, name).into_iter().find(|copy| copy.executable) else { continue };
                    if !odd && !copy.in_project && !copy.by_relative_entry && copy.choice != Choice::Unclear {
                        continue;
                    }
                    let path = copy.asked().to_owned();
                    (PathBuf::from(&path), std::iter::once(path).chain(arguments).collect())
                }
            };
            let scripts = self.scripts(&path, &words);
            let mark = self.mark(&path, &words, &scripts);
            asks.push(Ask { title: requirement.title(), words, program: place::real(&path).unwrap_or(path), scripts, mark });
        }
        asks
    }

    /// Whether PATH has a folder whose programs are the project's, or choose by the folder that they are started in.
    fn path_may_choose(&self) -> bool {
        let choosing =
            |folder: &Path| folder.ends_with("shims") || folder.join("../tools/image").is_dir() || folder.join("rustup").exists();
        let real = |folder: &Path| place::real(folder).is_ok_and(|real| self.project.holds(&real));
        let may = |folder: PathBuf| !folder.is_absolute() || choosing(&folder) || self.project.holds(&folder) || real(&folder);
        std::env::split_paths(&self.path).any(may)
    }

    /// The file that a command of the guide starts: by a path in the project, or by a name on PATH.
    ///
    /// # Errors
    /// Why it cannot be started, as a run that was not begun.
    fn command_file(&self, words: &[String]) -> Result<PathBuf, Run> {
        let missing = |reason: &str| Err(Run::not_started(StartFailure::NotFound, reason.to_owned()));
        let Some(program) = words.first() else { return missing("the command is empty") };
        let path = if program.contains(['/', '\\']) {
            Some(self.place(program)).filter(|path| path.is_file())
        } else {
            program::copies(self, program).into_iter().find(|copy| copy.executable).map(|copy| PathBuf::from(copy.path))
        };
        let Some(path) = path else { return missing("no such program") };
        if os::is_executable(&path) {
            Ok(path)
        } else {
            Err(Run::not_started(StartFailure::Denied, "it may not be executed".to_owned()))
        }
    }

    /// Runs a command of the guide in the guide's folder, if it is still what the person agreed to.
    pub(super) fn command(&self, words: &[String], timeout_ms: Option<u64>, permission: &Permission) -> Observation {
        match self.command_file(words) {
            Ok(path) => self.run_permitted(&path, words, timeout_ms.map(Duration::from_millis), permission),
            Err(run) => Observation::Run(run),
        }
    }

    /// Runs a program as a person in the project's folder would, if that is still what they agreed to.
    pub(super) fn run_permitted(
        &self,
        path: &Path,
        words: &[String],
        limit: Option<Duration>,
        permission: &Permission,
    ) -> Observation {
        let arguments = words.get(1..).unwrap_or_default();
        match permission {
            Permission::Question => Observation::Run(self.run(path, arguments)),
            Permission::Given => Observation::Run(self.run_in_project(path, arguments, limit)),
            Permission::Marked(mark) => {
                if self.mark(path, words, &self.scripts(path, words)) != *mark {
                    let reason =
                        "what would run is not what you agreed to any more: its program or a script that it names has changed";
                    return Observation::CouldNotLook(reason.to_owned());
                }
                Observation::Run(self.run_in_project(path, arguments, limit))
            }
        }
    }

    /// The project's files that words name, whole or as a part of an option or of a line for a shell.
    fn scripts(&self, program: &Path, words: &[String]) -> Vec<PathBuf> {
        let name = program.file_stem().and_then(|name| name.to_str()).unwrap_or_default();
        let unnamed = READ_UNNAMED.iter().find(|(program, _)| *program == name).map_or(&[][..], |(_, files)| files);
        let parts = words.iter().skip(1).flat_map(|word| {
            std::iter::once(word.as_str()).chain(word.split(|c: char| c.is_whitespace() || "=,:;&|<>()'\"`$".contains(c)))
        });
        let mut scripts: Vec<PathBuf> = Vec::new();
        let own = program.to_str().filter(|_| self.project.holds(program));
        for part in parts.chain(unnamed.iter().copied()).chain(own).filter(|part| !part.is_empty()) {
            let path = self.place(part);
            let inside = self.project.holds(&path) || place::real(&path).is_ok_and(|real| self.project.holds(&real));
            if inside && path.is_file() {
                let short = path.strip_prefix(&self.folder).map(Path::to_owned).unwrap_or(path);
                if !scripts.contains(&short) && scripts.len() < MOST_SCRIPTS {
                    scripts.push(short);
                }
            }
        }
        scripts
    }

    /// Stands for an argument list with its program, its folder, and what the scripts hold.
    fn mark(&self, program: &Path, words: &[String], scripts: &[PathBuf]) -> String {
        let mut digest = Sha256::new();
        // Each part with its length before it, so that none can pass for another.
        let mut take = |part: &[u8]| {
            digest.update(u64::try_from(part.len()).unwrap_or(u64::MAX).to_be_bytes());
            digest.update(part);
        };
        take(self.folder.as_os_str().as_encoded_bytes());
        take(program.as_os_str().as_encoded_bytes());
        take(place::real(program).unwrap_or_default().as_os_str().as_encoded_bytes());
        for word in words {
            take(word.as_bytes());
        }
        for script in scripts {
            let path = self.folder.join(script);
            take(script.as_os_str().as_encoded_bytes());
            take(place::real(&path).unwrap_or_default().as_os_str().as_encoded_bytes());
            take(held(&path).as_bytes());
        }
        hex(&digest.finalize())
    }
}

/// What a file holds, or where that is too much or cannot be read, what can be said of it.
fn held(path: &Path) -> String {
    let Ok(file) = os::open_file(path) else { return "unreadable".to_owned() };
    let known = file.metadata().ok();
    let mut digest = Sha256::new();
    let mut part = vec![0; 64 << 10];
    let mut rest = file.take(LARGEST_SCRIPT);
    while let Ok(count @ 1..) = rest.read(&mut part) {
        digest.update(part.get(..count).unwrap_or_default());
    }
    let size = known.as_ref().map_or(0, std::fs::Metadata::len);
    let time = known.filter(|known| known.len() > LARGEST_SCRIPT).and_then(|known| known.modified().ok());
    format!("{size} {time:?} {}", hex(&digest.finalize()))
}
