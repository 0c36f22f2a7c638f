//! A described machine after a person did what a fix says, where what that does can be described. A command that is not known here leaves the
//! machine as it is.

use super::baseline::manager;
use super::machine_builder::{MachineBuilder, text, texts};
use super::satisfy::{Wanted, install, meet};
use setup_ready_core::fix::Fix;
use setup_ready_core::guide::Subject;
use setup_ready_core::packages::packages_for;

/// The machine after it; none where nobody can say what it does.
pub(super) fn after(broken: &MachineBuilder, wanted: Wanted<'_>, fix: &Fix) -> Option<MachineBuilder> {
    let mut sketch = broken.clone();
    let mut known = false;
    for command in &fix.run {
        known |= done(&mut sketch, wanted, command);
    }
    if let Some(edit) = &fix.edit {
        known |= line(&mut sketch, wanted, &edit.file, &edit.append);
    }
    if fix.then.is_some() {
        known |= new_terminal(&mut sketch);
    }
    known.then_some(sketch)
}

/// A terminal that begins has what the startup file exports.
fn new_terminal(sketch: &mut MachineBuilder) -> bool {
    let file = sketch.get("user", "startup_file").map(unquoted).unwrap_or_default();
    let said =
        sketch.entry("file", &file).and_then(|entry| entry.get("text").cloned()).map(|text| unquoted(&text)).unwrap_or_default();
    let exports: Vec<(&str, &str)> = said
        .lines()
        .filter_map(|line| line.strip_prefix("export ")?.split_once('='))
        .filter(|(name, _)| *name != "PATH")
        .collect();
    for (name, value) in &exports {
        sketch.set("environment", name, text(value.trim_matches(['\'', '"'])));
    }
    !exports.is_empty()
}

/// The words of a command line without what only quotes them, and without what asks for rights.
fn words(command: &str) -> Vec<String> {
    let mut all: Vec<String> = vec![String::new()];
    let mut quote = None;
    for c in command.chars() {
        match (quote, c) {
            (None, '\'' | '"') => quote = Some(c),
            (Some(open), _) if c == open => quote = None,
            (None, ' ') => all.push(String::new()),
            _ => {
                if let Some(last) = all.last_mut() {
                    last.push(c);
                }
            }
        }
    }
    all.retain(|word| !word.is_empty() && word != "sudo");
    all
}

/// Does one command to the machine; says whether it is known what it does.
fn done(sketch: &mut MachineBuilder, wanted: Wanted<'_>, command: &str) -> bool {
    let words = words(command);
    let words: Vec<&str> = words.iter().map(String::as_str).collect();
    match words.as_slice() {
        ["chmod", "+x", path] => change(sketch, path, "executable", "true"),
        ["xattr", "-d", _, path] | ["Unblock-File", "-LiteralPath", path] => change(sketch, path, "quarantined", "false"),
        ["usermod", "-aG", groups, _] => joined(sketch, groups),
        ["kill", pid] | ["Stop-Process", "-Id", pid] => stopped(sketch, pid),
        ["git", "submodule", "update", ..] => {
            sketch.set("checkout", "submodules_not_fetched", "[]");
            true
        }
        ["git", "config", "--global", key, value] => {
            sketch.set("settings", key, text(value));
            true
        }
        ["modprobe", module, ..] if module.starts_with("kvm") => {
            sketch.put("device", ("path", "/dev/kvm"), &[("state", text("opens"))]);
            true
        }
        ["dism", "/online", "/enable-feature", ..] => {
            sketch.set("virtualization", "feature", "true");
            sketch.set("virtualization", "started", "true");
            true
        }
        ["icacls", path, "/grant", ..] => {
            sketch.entry("folder", project(path, wanted)).map(|entry| entry.remove("writable")).is_some()
        }
        [first, ..] if first.starts_with("[Environment]::SetEnvironmentVariable(") => {
            let mut quoted = command.split('\'').skip(1).step_by(2);
            match (quoted.next(), quoted.next()) {
                (Some("Path"), Some(folder)) => search(sketch, wanted, folder),
                (Some(name), Some(value)) => {
                    sketch.set("environment", name, text(value));
                    true
                }
                _ => false,
            }
        }
        _ => brought(sketch, wanted, command),
    }
}

/// The package manager brings what the requirement asks for: its own copy, where it puts all; what else is on PATH stays.
fn brought(sketch: &mut MachineBuilder, wanted: Wanted<'_>, command: &str) -> bool {
    let command = command.strip_prefix("sudo ").unwrap_or(command);
    let by = manager(wanted.os);
    let ways = [by.install(), by.upgrade(), by.reinstall()];
    let Some(names) = ways.iter().find_map(|way| command.strip_prefix(way)?.strip_prefix(' ')) else { return false };
    // Of alternatives, the one whose package it is.
    let of = |subject: &Subject| packages_for(subject, &[by]).iter().any(|(_, name)| names.split(' ').any(|word| word == name));
    let alternatives = match &wanted.requirement.subject {
        Subject::AnyOf(any) => any.alternatives.clone(),
        _ => Vec::new(),
    };
    let all = alternatives.iter().filter_map(|index| wanted.guide.requirements.get(*index)).chain([wanted.requirement]);
    let Some(requirement) = all.into_iter().find(|one| of(&one.subject)) else { return false };
    let wanted = Wanted { requirement, ..wanted };
    match &requirement.subject {
        Subject::Tool(tool) => install(sketch, wanted, tool),
        // Whether what was installed runs is another question.
        Subject::Socket(_) | Subject::Service(_) => return false,
        _ => meet(sketch, wanted),
    }
    true
}

/// A path as the guide has it, where it is the project's own folder.
fn project<'p>(path: &'p str, wanted: Wanted<'_>) -> &'p str {
    if path == wanted.at().project { "." } else { path }
}

fn change(sketch: &mut MachineBuilder, path: &str, key: &str, value: &str) -> bool {
    sketch.entry("program", path).map(|entry| entry.insert(key.to_owned(), value.to_owned())).is_some()
}

/// After signing out and in again.
fn joined(sketch: &mut MachineBuilder, groups: &str) -> bool {
    let groups: Vec<&str> = groups.split(',').chain(["newcomer"]).collect();
    sketch.set("user", "groups", texts(&groups));
    sketch.set("user", "database_groups", texts(&groups));
    for list in ["device", "socket"] {
        for group in &groups {
            sketch.for_each(list, |entry| {
                if entry.get("group").is_some_and(|of| *of == text(group))
                    && entry.get("state").is_some_and(|state| *state == text("denied"))
                {
                    entry.insert("state".to_owned(), text(if list == "device" { "opens" } else { "answers" }));
                }
            });
        }
    }
    true
}

fn stopped(sketch: &mut MachineBuilder, pid: &str) -> bool {
    sketch.drop_where("port", |entry| entry.get("pid").is_some_and(|of| of == pid));
    true
}

/// A folder is searched first, in a new terminal.
fn search(sketch: &mut MachineBuilder, wanted: Wanted<'_>, folder: &str) -> bool {
    let at = wanted.at();
    sketch.top("path", texts(&[folder, at.before, at.usual]));
    true
}

/// A line at the end of a file; a shell that begins after that has what it exports.
fn line(sketch: &mut MachineBuilder, wanted: Wanted<'_>, file: &str, line: &str) -> bool {
    let before = sketch.entry("file", file).and_then(|entry| entry.get("text").cloned());
    let before = before.map(|quoted| unquoted(&quoted)).unwrap_or_default();
    sketch.put("file", ("path", file), &[("text", text(&format!("{before}{line}\n")))]);
    let Some((name, value)) = line.trim().strip_prefix("export ").and_then(|rest| rest.split_once('=')) else {
        return line.contains('=');
    };
    let value = value.replace(['\'', '"'], "");
    if let Some(folder) = value.strip_suffix(":$PATH").filter(|_| name == "PATH") {
        return search(sketch, wanted, folder);
    }
    sketch.set("environment", name, text(&value));
    true
}

/// A text as it was before it was quoted for TOML, as far as we write such.
fn unquoted(value: &str) -> String {
    value.trim_matches('"').replace("\\U0000000A", "\n").replace("\\\"", "\"").replace("\\\\", "\\")
}
