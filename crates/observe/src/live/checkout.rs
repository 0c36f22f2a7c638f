//! The project's working copy, and its version control's settings.

use super::{Live, os, program};
use crate::read::{branch_of_head, gitlinks, is_large_file_pointer, packed_ref, submodule_paths};
use setup_ready_core::observation::{CheckoutState, Observation, Run, RunEnd, Unfinished, Value};
use setup_ready_core::text::Pattern;
use std::collections::HashSet;
use std::io::Read;
use std::path::{Path, PathBuf};

/// Submodules within submodules are followed so deep.
const DEEPEST: usize = 4;
/// Nothing that the working copy configures is started by looking at it; a folder that only looks like a repository is none.
const HARMLESS: [&str; 7] =
    ["--no-pager", "-c", "core.fsmonitor=false", "-c", "core.hooksPath=/dev/null", "-c", "safe.bareRepository=explicit"];
/// Nothing is fetched, whatever the working copy lacks and whatever it allows: this goes before its settings (git's manual, `GIT_ALLOW_PROTOCOL`).
const OFFLINE: [(&str, &str); 2] = [("GIT_NO_LAZY_FETCH", "1"), ("GIT_ALLOW_PROTOCOL", "")];

fn git(live: &Live, folder: &Path, arguments: &[&str]) -> Result<Run, String> {
    let found = program::copies(live, "git").into_iter().find(|copy| copy.executable && copy.is_the_persons());
    let Some(git) = found else { return Err("git, which would tell, was not found on PATH".to_owned()) };
    let folder = folder.display().to_string();
    let words = ["-C", &folder].into_iter().chain(HARMLESS).chain(arguments.iter().copied());
    Ok(live.run_apart(Path::new(git.asked()), &words.map(ToOwned::to_owned).collect::<Vec<_>>(), &OFFLINE))
}

/// Whether a setting of git's is there, and has a shape. Its value goes no further than here.
pub(super) fn setting(live: &Live, of: &str, key: &str, pattern: Option<&Pattern>) -> Observation {
    if of != "git" {
        return Observation::NotSupported(format!("settings of {of} are not read"));
    }
    match git(live, &live.folder, &["config", "--get", "--", key]) {
        Ok(run) => match run.end {
            RunEnd::Exit(0) => Observation::Setting(Value::of(run.stdout.trim_end_matches(['\n', '\r']), pattern)),
            RunEnd::Exit(1) => Observation::Setting(Value::Unset),
            RunEnd::NotStarted(_, reason) => Observation::CouldNotLook(reason),
            RunEnd::Exit(_) | RunEnd::Signal(_) | RunEnd::TimeUp(_) | RunEnd::Interrupted => {
                Observation::CouldNotLook(format!("git says: {}", run.stderr.lines().next().unwrap_or("nothing")))
            }
        },
        // Where git is not here and no file of its settings either, none is set.
        Err(_) if no_settings(live) => Observation::Setting(Value::Unset),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// Whether none of the files is there from which git reads settings.
fn no_settings(live: &Live) -> bool {
    let given = ["GIT_CONFIG_GLOBAL", "GIT_CONFIG_SYSTEM", "XDG_CONFIG_HOME"].iter().any(|name| std::env::var_os(name).is_some());
    let above = live.folder.ancestors().map(|folder| folder.join(".git"));
    live.home.is_some()
        && !given
        && files_of_settings(live).into_iter().chain(above).all(|path| matches!(path.try_exists(), Ok(false)))
}

/// The files from which git reads settings (git-config(1), FILES).
pub(super) fn files_of_settings(live: &Live) -> Vec<PathBuf> {
    let variable = |name: &str| std::env::var_os(name).filter(|value| !value.is_empty()).map(PathBuf::from);
    let home = live.home.clone();
    let own = home.iter().flat_map(|home| [".gitconfig", ".config/git/config"].map(|file| home.join(file)));
    let given =
        variable("GIT_CONFIG_GLOBAL").into_iter().chain(variable("XDG_CONFIG_HOME").map(|folder| folder.join("git/config")));
    let of_project = root_of(&live.folder).and_then(git_folder).map(|folder| folder.join("config"));
    own.chain(given).chain(of_project).chain([PathBuf::from("/etc/gitconfig")]).collect()
}

/// The files that change with the state of the working copy that a folder is in (gitrepository-layout(5)); the place where it would be, where there
/// is none.
pub(super) fn files_of_state(folder: &Path) -> Vec<PathBuf> {
    let Some(root) = root_of(folder) else { return vec![folder.join(".git")] };
    let names =
        ["HEAD", "index", "index.lock", "logs/HEAD", "config", "packed-refs", "refs/tags", "shallow", "modules", "MERGE_HEAD"];
    let begun = ["rebase-merge", "rebase-apply"];
    let inside =
        git_folder(root).into_iter().flat_map(|folder| names.into_iter().chain(begun).map(move |name| folder.join(name)));
    inside.chain([root.to_owned(), root.join(".git"), root.join(".gitmodules")]).collect()
}

fn root_of(folder: &Path) -> Option<&Path> {
    folder.ancestors().find(|folder| folder.join(".git").exists())
}

/// What is asked of a working copy.
#[derive(Debug, Clone, Copy)]
#[allow(clippy::struct_excessive_bools, reason = "each is a part of the working copy that is asked about or not")]
pub(super) struct Asked {
    pub(super) submodules: bool,
    pub(super) large_files: bool,
    pub(super) clean: bool,
    pub(super) history: bool,
    pub(super) tags: bool,
    pub(super) line_ends: bool,
}

/// The state of the working copy that a folder is in.
pub(super) fn checkout(live: &Live, folder: &Path, asked: Asked) -> Observation {
    let Some(root) = root_of(folder) else {
        return Observation::Checkout(CheckoutState::default());
    };
    let head = git_folder(root).map(|folder| super::place::text(&folder.join("HEAD")));
    let branch = match head {
        Some(Ok(text)) => branch_of_head(&text),
        Some(Err(error)) => return Observation::CouldNotLook(error.to_string()),
        None => return Observation::CouldNotLook(format!("{} names no folder", root.join(".git").display())),
    };
    let mut state = CheckoutState {
        present: true,
        branch,
        unfinished: unfinished(root),
        foreign: os::foreign(root),
        ..CheckoutState::default()
    };
    if asked.submodules {
        match missing_submodules(root) {
            Ok(names) => state.submodules = names,
            Err(reason) => return Observation::CouldNotLook(reason),
        }
        if state.submodules.is_empty() && state.foreign.is_none() {
            match out_of_step(live, root) {
                Ok((moved, emptied)) => (state.moved, state.emptied) = (moved, emptied),
                Err(reason) => return Observation::CouldNotLook(reason),
            }
        }
    }
    if asked.large_files {
        match large_files(live, root) {
            Ok(names) => state.large_files = names,
            Err(reason) => return Observation::CouldNotLook(reason),
        }
    }
    if asked.clean {
        let counts = changed(live, root);
        state.changed = counts.map(|(changed, _)| changed);
        state.untracked = counts.map_or(0, |(_, untracked)| untracked);
    }
    if let Some(folder) = git_folder(root).filter(|_| asked.history || asked.tags) {
        // What all working copies of one repository share lies beside the first one's (gitrepository-layout(5), `commondir`).
        let shared =
            super::place::text(&folder.join("commondir")).map_or_else(|_| folder.clone(), |text| folder.join(text.trim()));
        state.shallow = shared.join("shallow").is_file();
        let packed = super::place::text(&shared.join("packed-refs")).is_ok_and(|text| text.contains(" refs/tags/"));
        let loose = std::fs::read_dir(shared.join("refs/tags")).is_ok_and(|mut entries| entries.next().is_some());
        state.no_tags = !packed && !loose;
    }
    if asked.line_ends {
        state.windows_ends = windows_ends(live, root);
    }
    Observation::Checkout(state)
}

/// How many texts have line ends of Windows in the working copy, and are not meant to; `None` where git does not say.
fn windows_ends(live: &Live, root: &Path) -> Option<usize> {
    let run = git(live, root, &["ls-files", "--eol"]).ok().filter(|run| run.end == RunEnd::Exit(0))?;
    if run.cut {
        // Of a long list the beginning tells enough, if it tells of one.
        let found = run.stdout.lines().filter(|line| has_windows_ends(line)).count();
        return (found > 0).then_some(found);
    }
    Some(run.stdout.lines().filter(|line| has_windows_ends(line)).count())
}

/// `i/lf    w/crlf  attr/text=auto          NAME`
fn has_windows_ends(line: &str) -> bool {
    // The name stands behind a tab; attributes are several words.
    let told = line.split('\t').next().unwrap_or_default();
    let worktree = told.split_whitespace().nth(1);
    let attributes = told.split_once("attr/").map_or("", |(_, attributes)| attributes);
    matches!(worktree, Some("w/crlf" | "w/mixed")) && !attributes.contains("eol=crlf") && !attributes.contains("-text")
}

/// What was begun and is not done, by git's own marks of that (gitrepository-layout(5)).
fn unfinished(root: &Path) -> Option<Unfinished> {
    let folder = git_folder(root)?;
    let lock = folder.join("index.lock");
    if lock.exists() {
        return Some(Unfinished::Locked(lock.display().to_string()));
    }
    if folder.join("rebase-merge").exists() || folder.join("rebase-apply").exists() {
        return Some(Unfinished::Rebase);
    }
    folder.join("MERGE_HEAD").exists().then_some(Unfinished::Merge)
}

/// How many files are changed, and how many of these git does not track; `None` where that cannot be had without starting what the working
/// copy itself names.
fn changed(live: &Live, root: &Path) -> Option<(usize, usize)> {
    // A filter is a program that git starts on files to compare them: those of the person's own settings are theirs, others a stranger's.
    let filters = git(live, root, &["config", "--show-scope", "--name-only", "--get-regexp", r"^filter\."]).ok()?;
    let own = |line: &str| ["system", "global"].contains(&line.split('\t').next().unwrap_or_default());
    match filters.end {
        RunEnd::Exit(0) if filters.stdout.lines().all(own) => (),
        RunEnd::Exit(1) => (),
        RunEnd::Exit(_) | RunEnd::Signal(_) | RunEnd::TimeUp(_) | RunEnd::Interrupted | RunEnd::NotStarted(..) => return None,
    }
    // Within a submodule another git would start, with that one's settings.
    let arguments = ["status", "--porcelain", "-z", "--untracked-files=normal", "--ignore-submodules=dirty"];
    let run = git(live, root, &arguments).ok().filter(|run| run.end == RunEnd::Exit(0))?;
    let mut entries = run.stdout.split_terminator('\0');
    let (mut changed, mut untracked) = (0, 0);
    while let Some(entry) = entries.next() {
        changed += 1;
        let state = entry.get(..2).unwrap_or_default();
        untracked += usize::from(state == "??");
        // A renamed or copied file is followed by the name that it had (git-status(1), porcelain format 1 with -z).
        if state.contains(['R', 'C']) {
            entries.next();
        }
    }
    Some((changed, untracked))
}

/// `.git` is a folder, or a file that names one.
fn git_folder(root: &Path) -> Option<PathBuf> {
    let path = root.join(".git");
    if path.is_dir() {
        return Some(path);
    }
    let text = super::place::text(&path).ok()?;
    let named = root.join(text.trim().strip_prefix("gitdir:")?.trim());
    os::elsewhere(&named, &[root]).is_none().then_some(named)
}

/// So many submodules are looked at, those within others too.
const MOST_SUBMODULES: usize = 10_000;

/// The submodules that are not fetched; why nobody can tell.
fn missing_submodules(root: &Path) -> Result<Vec<String>, String> {
    let mut missing = Vec::new();
    // Each folder once: links, or a `.git` of its own, may lead back.
    let mut seen = HashSet::new();
    let mut waiting = vec![(root.to_owned(), String::new(), 0)];
    let mut looked = 0_usize;
    while let Some((folder, prefix, depth)) = waiting.pop() {
        if !seen.insert(super::place::real(&folder).unwrap_or_else(|_| folder.clone())) {
            continue;
        }
        let Ok(text) = super::place::text(&folder.join(".gitmodules")) else { continue };
        for path in submodule_paths(&text) {
            looked += 1;
            if looked > MOST_SUBMODULES {
                return Err(format!("there are more than {MOST_SUBMODULES} submodules"));
            }
            let (name, inside) = (format!("{prefix}{path}"), folder.join(&path));
            // What a working copy names on another machine is none of its parts.
            if os::elsewhere(&inside, &[root]).is_some() || !inside.join(".git").exists() {
                missing.push(name);
            } else if depth < DEEPEST {
                waiting.push((inside, format!("{name}/"), depth + 1));
            }
        }
    }
    missing.sort();
    Ok(missing)
}

/// Fetched submodules that stand at another commit than is recorded, and those of which no file is left. Git is asked only what the outer
/// repository records; theirs is read.
fn out_of_step(live: &Live, root: &Path) -> Result<(Vec<String>, Vec<String>), String> {
    let (mut moved, mut emptied) = (Vec::new(), Vec::new());
    let text = super::place::text(&root.join(".gitmodules")).unwrap_or_default();
    let paths = submodule_paths(&text);
    if paths.is_empty() {
        return Ok((moved, emptied));
    }
    let mut arguments = vec!["--literal-pathspecs", "ls-files", "-s", "-z", "--"];
    arguments.extend(paths.iter().take(MOST_SUBMODULES).map(String::as_str));
    let run = git(live, root, &arguments)?;
    if run.end != RunEnd::Exit(0) {
        return Err(format!("git says: {}", run.stderr.lines().next().unwrap_or("nothing")));
    }
    let recorded = gitlinks(&run.stdout);
    for path in paths {
        let inside = root.join(&path);
        let mut names = std::fs::read_dir(&inside).into_iter().flatten().flatten().map(|entry| entry.file_name());
        if names.all(|name| name == ".git") && has_entries(&inside) {
            emptied.push(path);
        } else if let (Some(wanted), Some(found)) = (recorded.get(path.as_str()), commit(&inside))
            && *wanted != found
        {
            moved.push(path);
        }
    }
    Ok((moved, emptied))
}

/// Whether a working copy's index lists files (git's index format: a signature, the version, and the number of entries, four bytes each).
fn has_entries(root: &Path) -> bool {
    let mut head = [0; 12];
    let Some(folder) = git_folder(root) else { return false };
    let read = super::place::open(&folder.join("index")).and_then(|mut file| file.read_exact(&mut head));
    read.is_ok() && head.starts_with(b"DIRC") && !head.ends_with(&[0; 4])
}

/// The commit that a working copy stands at, where its files tell (gitrepository-layout(5)).
fn commit(root: &Path) -> Option<String> {
    let folder = git_folder(root)?;
    let head = super::place::text(&folder.join("HEAD")).ok()?;
    let Some(name) = head.trim().strip_prefix("ref:").map(str::trim) else { return Some(head.trim().to_owned()) };
    if !name.starts_with("refs/") || name.contains("..") {
        return None;
    }
    if let Ok(text) = super::place::text(&folder.join(name)) {
        return Some(text.trim().to_owned());
    }
    packed_ref(&super::place::text(&folder.join("packed-refs")).ok()?, name)
}

/// Files that the working copy marks as large and of which only the pointer is here.
fn large_files(live: &Live, root: &Path) -> Result<Vec<String>, String> {
    let run = git(live, root, &["ls-files", "-z", "--", ":(top,attr:filter=lfs)"])?;
    if run.end != RunEnd::Exit(0) {
        return Err(format!("git says: {}", run.stderr.lines().next().unwrap_or("nothing")));
    }
    let is_pointer = |name: &&str| {
        let mut head = [0; 64];
        let path = root.join(name);
        let plain = path.symlink_metadata().is_ok_and(|metadata| metadata.is_file());
        plain && std::fs::File::open(path).and_then(|mut file| file.read(&mut head)).is_ok() && is_large_file_pointer(&head)
    };
    Ok(run.stdout.split_terminator('\0').filter(is_pointer).map(ToOwned::to_owned).collect())
}
