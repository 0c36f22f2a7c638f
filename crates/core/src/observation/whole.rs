//! All that was seen, for where two short texts are alike and what was seen is not.

use super::{
    Account, Candidate, CheckoutState, Choice, DiskRoom, FileKind, MemoryState, Observation, Offered, PathState, ProgramCopy,
    Run, StartEffect, StartupOutcome, Surroundings, System, VariableState,
};
use crate::prelude::*;

impl Observation {
    /// In full: what [`core::fmt::Display`] says, and what a verdict may rest on and that leaves out. Sizes are in bytes.
    #[allow(clippy::wildcard_enum_match_arm, reason = "most short texts say all; a test finds those that do not")]
    pub fn whole(&self) -> String {
        let notes = match self {
            Self::Program(copies) | Self::ProgramElsewhere(copies) if !copies.is_empty() => {
                return copies.iter().map(copy).collect::<Vec<_>>().join("; ");
            }
            Self::Account(account) => rights(account),
            Self::System(system) => families(system),
            Self::Surroundings(Surroundings { outside: Some(outside), .. }) => {
                vec![format!("the project's files are {}", if *outside { "outside" } else { "inside" })]
            }
            Self::DiskRoom(room) => room_exactly(room),
            Self::Memory(memory) => memory_exactly(memory),
            Self::Path(state) => path(state),
            Self::Variable(state) => variable(state),
            Self::ClockBeside(Some(ahead)) => vec![format!("{ahead} ms")],
            Self::Candidate(Candidate::Version(Offered { download_bytes: Some(bytes), .. })) => vec![format!("{bytes} bytes")],
            Self::Library(library) => {
                let lacks = library.lacks.iter().map(|name| format!("it asks for {name}, which is not there"));
                let others = library.others.iter().map(|(file, version)| format!("also version {version}, by {file}"));
                lacks.chain(others).collect()
            }
            Self::Checkout(state) => working_copy(state),
            _ => Vec::new(),
        };
        [self.to_string()].into_iter().chain(notes).collect::<Vec<_>>().join("; ")
    }

    /// What two machines answered to one question, so that it can be seen in what they differ.
    pub fn apart(&self, other: &Self) -> (String, String) {
        let short = (self.to_string(), other.to_string());
        if short.0 != short.1 || self == other {
            return short;
        }
        if let (Self::Run(one), Self::Run(other)) = (self, other) {
            return lines_apart(one, other);
        }
        let whole = (self.whole(), other.whole());
        // What has no words yet is better read as it is kept than not at all.
        if whole.0 == whole.1 { (format!("{self:?}"), format!("{other:?}")) } else { whole }
    }
}

/// The first line of what two programs printed in which they differ.
fn lines_apart(one: &Run, other: &Run) -> (String, String) {
    let lines = |run: &Run| -> Vec<String> {
        let all = run.stdout.lines().chain(run.stderr.lines());
        all.map(|line| line.trim_end().to_owned()).filter(|line| !line.is_empty()).collect()
    };
    let runs = (one, other);
    let (one, other) = (lines(one), lines(other));
    let at = one.iter().zip(&other).position(|(one, other)| one != other).unwrap_or(one.len().min(other.len()));
    if at >= one.len().max(other.len()) {
        return (how_printed(runs.0), how_printed(runs.1));
    }
    // A long line is shown from shortly before the place where it differs.
    let pair = (one.get(at).map_or("", String::as_str), other.get(at).map_or("", String::as_str));
    let alike = pair.0.chars().zip(pair.1.chars()).take_while(|(one, other)| one == other).count();
    let from = if alike > 100 { alike - 40 } else { 0 };
    let shown = |line: Option<&String>| match line {
        Some(line) => {
            let text: String = line.chars().skip(from).take(200).collect();
            format!("line {}: {}{text}", at + 1, if from > 0 { "..." } else { "" })
        }
        None => format!("no line {}", at + 1),
    };
    (shown(one.get(at)), shown(other.get(at)))
}

/// Where the same lines went, and whether there were more.
fn how_printed(run: &Run) -> String {
    let (result, errors) = (run.stdout.lines().count(), run.stderr.lines().count());
    let more = if run.cut { ", and more than is kept" } else { "" };
    format!("{result} lines of standard output, {errors} of standard error{more}")
}

fn working_copy(state: &CheckoutState) -> Vec<String> {
    let notes = [
        state.shallow.then(|| "only the last part of its history".to_owned()),
        state.no_tags.then(|| "no tags".to_owned()),
        (state.untracked > 0).then(|| format!("{} new files", state.untracked)),
        state.windows_ends.map(|count| format!("{count} texts with line ends of Windows")),
        state.unfinished.as_ref().map(|begun| format!("a {} is not done", begun.verb())),
    ];
    notes.into_iter().flatten().collect()
}

fn variable(state: &VariableState) -> Vec<String> {
    let place = |(file, line): &(String, usize)| format!("{file}, line {line}");
    let notes = [
        state.leads_nowhere.then(|| "what it names is not there".to_owned()),
        state.of_another_system.then(|| "the file is written as on Windows".to_owned()),
        state.line.map(|line| format!("in line {line} of it")),
        state.startup_line.map(|line| format!("in line {line} of the start-up file")),
        state.startup.as_ref().map(|_| {
            let fate = match state.fate {
                StartupOutcome::NewTerminal => "a new terminal has it",
                StartupOutcome::SignIn => "the next sign-in has it",
                StartupOutcome::NotExported => "it is not exported",
                StartupOutcome::NotRead => "this shell does not read that",
                StartupOutcome::Left => "the file is left before that",
                StartupOutcome::Removed => "another line takes it away",
            };
            fate.to_owned()
        }),
        state.kept_by.as_ref().map(|by| format!("because of {}", place(by))),
    ];
    notes.into_iter().flatten().collect()
}

fn copy(copy: &ProgramCopy) -> String {
    let mut notes: Vec<String> = Vec::new();
    if !copy.executable {
        notes.push("not executable for you".to_owned());
    }
    match &copy.kind {
        FileKind::Built(architectures) => notes.push(format!("built for {}", architectures.join(", "))),
        FileKind::Script(interpreter) => notes.push(format!("a script for {interpreter}")),
        FileKind::Placeholder => notes.push("it only stands in for the program".to_owned()),
        FileKind::Unknown => {}
    }
    notes.extend(copy.lacks.iter().map(|piece| format!("{} is not there", piece.name())));
    match copy.start {
        StartEffect::Quiet => {}
        StartEffect::Window => notes.push("it opens a window".to_owned()),
        StartEffect::Question => notes.push("the system would ask before it starts".to_owned()),
    }
    match &copy.choice {
        Choice::Itself => {}
        Choice::Other(path) => notes.push(format!("it stands in for {path}")),
        Choice::Absent { what, said_in } => notes.push(format!("{what}, which {said_in} asks for, is not installed")),
        Choice::Unclear => notes.push("what it stands in for cannot be read".to_owned()),
    }
    if copy.in_project {
        notes.push("of the project".to_owned());
    }
    if copy.by_relative_entry {
        notes.push("found by a folder that is another one elsewhere".to_owned());
    }
    if copy.real_path != copy.path {
        notes.push(format!("it is {}", copy.real_path));
    }
    if notes.is_empty() { copy.path.clone() } else { format!("{} ({})", copy.path, notes.join("; ")) }
}

fn rights(account: &Account) -> Vec<String> {
    let rights = match (account.root, account.admin) {
        (true, Some(true)) => "is the administrator",
        (true, _) => "is the administrator, without the right to act as one",
        (false, Some(true)) => "can act as administrator",
        (false, Some(false)) => "cannot act as administrator",
        (false, None) => "whether they can act as administrator is not known",
    };
    let named = |what: &str, name: &Option<String>| name.as_ref().map(|name| format!("{what} {name}"));
    let notes = [
        Some(rights.to_owned()),
        account.elevate.map(|elevator| format!("with {}", elevator.word())),
        named("user", &account.name),
        named("shell", &account.shell),
        named("which reads", &account.startup_file),
    ];
    notes.into_iter().flatten().collect()
}

fn families(system: &System) -> Vec<String> {
    let named = |what: &str, name: &Option<String>| name.as_ref().map(|name| format!("{what} {name}"));
    let notes = [
        named("edition", &system.edition),
        named("distribution", &system.distro),
        named("its version", &system.distro_version),
        (!system.distro_like.is_empty()).then(|| format!("like {}", system.distro_like.join(", "))),
        named("version", &system.version),
    ];
    notes.into_iter().flatten().collect()
}

fn room_exactly(room: &DiskRoom) -> Vec<String> {
    let files = room.available_inodes.map(|files| format!("room for {files} files"));
    let place =
        [format!("{} bytes", room.available_bytes), format!("for {}", room.path), format!("the disk {}", room.filesystem)];
    place.into_iter().chain(files).collect()
}

fn memory_exactly(memory: &MemoryState) -> Vec<String> {
    // Both for people and to the byte.
    let amount = |bytes: u64| format!("{} ({bytes} bytes)", crate::text::Size(bytes));
    let notes = [
        Some(format!("{} bytes in all", memory.total)),
        memory.available.map(|bytes| format!("{} free now", amount(bytes))),
        memory.swap.map(|bytes| format!("swap space {}", amount(bytes))),
    ];
    let caps = memory.caps.iter().map(|cap| format!("{} bytes by {}", cap.bytes, cap.by));
    notes.into_iter().flatten().chain(caps).collect()
}

fn path(state: &PathState) -> Vec<String> {
    let mut notes = vec![format!("at {}", state.path)];
    notes.push(if state.executable { "executable for you" } else { "not executable for you" }.to_owned());
    notes.push(if state.readable { "readable" } else { "not readable" }.to_owned());
    notes.push(if state.writable { "writable" } else { "not writable" }.to_owned());
    if let Some(owner) = &state.owner {
        notes.push(format!("of user {owner}"));
    }
    if let Some(mode) = state.mode {
        notes.push(format!("mode {mode:o}"));
    }
    if let Some(group) = &state.writers {
        notes.push(format!("group {group} may write it"));
    }
    if let Some(mount) = &state.mount {
        let barred = [(mount.read_only, "read-only"), (mount.no_execution, "without execution")];
        notes.extend(barred.into_iter().filter(|(holds, _)| *holds).map(|(_, word)| format!("a disk that is {word}")));
    }
    if let Some(barrier) = &state.barred_by {
        notes.push(format!("{} belongs to {}", barrier.path, barrier.owner.as_deref().unwrap_or("another user")));
    }
    match state.holds {
        Some(true) => notes.push("its text fits".to_owned()),
        Some(false) => notes.push("its text does not fit".to_owned()),
        None => {}
    }
    notes
}
