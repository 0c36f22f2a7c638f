//! The line of a requirement.

#![allow(clippy::wildcard_enum_match_arm, reason = "what is not named is for the program to look at")]
#![allow(clippy::too_many_lines, reason = "an arm for each kind")]

use super::{Part, condition, quoted};
use crate::catalogue;
use crate::guide::{
    EnvironmentVariable, Existence, Guide, LimitKind, Path, PathKind, Port, PortNumbers, Protocol, Requirement, Setting, Subject,
    Systems, Tool,
};
use crate::observation::Os;
use crate::prelude::*;
use crate::text::Pattern;
use alloc::collections::BTreeSet;

/// What a requirement rests on: it stands behind these.
pub(super) fn rests_on(requirement: &Requirement) -> Vec<usize> {
    let mut all: Vec<usize> = requirement.after.iter().chain(&requirement.needs).copied().collect();
    if let Subject::AnyOf(any) = &requirement.subject {
        all.extend(&any.alternatives);
    }
    all
}

/// How much a requirement needs on a disk, and where.
pub(super) fn disk_place(requirement: &Requirement) -> Option<String> {
    let Subject::Disk(disk) = &requirement.subject else { return None };
    Some(format!("{} {}", disk.size.0, place(&disk.at)))
}

/// The whole line: whether it is to be checked, and the check.
pub(super) fn line(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    let ids = |indexes: &[usize]| {
        indexes.iter().filter_map(|index| guide.requirements.get(*index)).map(|one| one.id.clone()).collect::<Vec<_>>().join(" ")
    };
    let roles: Vec<&str> =
        requirement.roles.iter().filter_map(|role| guide.roles.get(*role)).map(|role| role.id.as_str()).collect();
    let why = requirement.why.as_deref().map_or_else(|| "''".to_owned(), quoted);
    let check = check(guide, requirement, needed);
    format!(
        "want {} {} {} {} {} {} {why} && {check}",
        requirement.id,
        // An alternative makes no machine unready by itself.
        if requirement.alternative { "may" } else { requirement.level.word() },
        quoted(&roles.join(" ")),
        quoted(&ids(&requirement.after)),
        quoted(&ids(&requirement.needs)),
        when(guide, requirement, needed),
    )
}

/// Whether it is for this machine: `yes`, `no`, `unknown`, or a test that tells.
fn when(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    let stage = guide.stages.get(requirement.stage);
    if stage.is_some_and(|stage| stage.after_start) {
        return "no".to_owned();
    }
    let mut tests = Vec::new();
    for one in stage.and_then(|stage| stage.when.as_ref()).into_iter().chain(&requirement.when) {
        match condition::test(one) {
            Some(test) => tests.push(if tests.is_empty() { test } else { format!("{{ {test}; }}") }),
            None => return "unknown".to_owned(),
        }
    }
    // What belongs into a place is looked at there, and here where there is no such place.
    if let Some(place) = requirement.place.and_then(|place| guide.places.get(place)) {
        match (condition::test(&place.when), condition::test(&place.outside)) {
            (Some(inside), Some(outside)) => tests.push(format!("{{ {{ {inside}; }} || ! {{ {outside}; }}; }}")),
            _ => return "unknown".to_owned(),
        }
    }
    if tests.is_empty() {
        return "yes".to_owned();
    }
    needed.insert(Part::Conditions);
    format!("\"$(when '{}')\"", tests.join(" && "))
}

fn check(guide: &Guide, requirement: &Requirement, needed: &mut BTreeSet<Part>) -> String {
    let mut part = |one: Part| needed.insert(one);
    // What rests on a value that may be moved is looked at where it was moved to.
    let text = if requirement.values.is_empty() || matches!(requirement.subject, Subject::Port(_)) {
        match &requirement.subject {
            Subject::Tool(one) if one.expect == Existence::Absent => {
                part(Part::Tool);
                part(Part::Version);
                part(Part::NoTool);
                names(&one.names).map(|names| format!("no_tool {names}"))
            }
            Subject::Tool(one) => {
                part(Part::Version);
                part(Part::Tool);
                tool(one)
            }
            Subject::System(one) => {
                part(Part::Version);
                part(Part::System);
                system(one)
            }
            Subject::Disk(disk) => {
                part(Part::Disk);
                Some(format!("disk {} {} {}", disk.size.0, disk.inodes.unwrap_or(0), place(&disk.at)))
            }
            Subject::Memory(memory) => {
                part(Part::Groups);
                part(Part::Memory);
                Some(format!("memory {} {}", memory.size.0, if memory.free { "free" } else { "all" }))
            }
            Subject::Swap(size) => {
                part(Part::Swap);
                Some(format!("swap {}", size.0))
            }
            Subject::Cores(count) if *count < 10_000_000 => {
                part(Part::Groups);
                part(Part::Cores);
                Some(format!("cores {count}"))
            }
            Subject::Path(one) if one.or.is_empty() => {
                part(if one.expect == Existence::Absent { Part::Absent } else { Part::Path });
                Some(path(one))
            }
            Subject::Variable(one) => variable(one).inspect(|_| {
                part(Part::Value);
                part(Part::Variable);
            }),
            Subject::Group(group) if !group.name.contains(' ') => {
                part(Part::Group);
                Some(format!("group {}", quoted(&group.name)))
            }
            Subject::Port(one) => port(guide, one).inspect(|_| {
                part(Part::Value);
                part(Part::Port);
            }),
            Subject::Limit(limit) => match (limit.kind, limit.at_least) {
                (LimitKind::OpenFiles | LimitKind::FileWatches, Some(least)) => {
                    part(Part::Limit);
                    Some(format!("limit {} {least}", limit.kind.word()))
                }
                _ => None,
            },
            Subject::Setting(one) if one.of == "git" => {
                part(Part::Setting);
                Some(setting(one))
            }
            Subject::Library(one) => {
                part(Part::Version);
                part(Part::Library);
                let range = one.version.as_ref().map(crate::version::Range::text).unwrap_or_default();
                Some(format!("library {} {}", quoted(&one.name), quoted(range)))
            }
            Subject::AnyOf(any) => {
                part(Part::AnyOf);
                let ids: Vec<&str> = any
                    .alternatives
                    .iter()
                    .filter_map(|index| guide.requirements.get(*index))
                    .map(|one| one.id.as_str())
                    .collect();
                Some(format!("any_of {}", ids.join(" ")))
            }
            _ => None,
        }
    } else {
        None
    };
    text.unwrap_or_else(|| {
        part(Part::Only);
        format!("only {}", quoted(&requirement.title()))
    })
}

/// Names of programs as words; none where one of them is a path or odd.
fn names(names: &[String]) -> Option<String> {
    let plain = |name: &String| {
        !name.is_empty()
            && !name.starts_with('-')
            && name.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._+-".contains(&byte))
    };
    (!names.is_empty() && names.iter().all(plain)).then(|| names.join(" "))
}

fn tool(tool: &Tool) -> Option<String> {
    let names = names(&tool.names)?;
    let arguments = |name: &String| -> Vec<String> {
        if tool.args.is_empty() {
            catalogue::version_arguments(name).iter().map(|one| (*one).to_owned()).collect()
        } else {
            tool.args.clone()
        }
    };
    let first = tool.names.first().map(arguments).unwrap_or_default();
    // What stands before the version where that is not the tool's name.
    let stem = |name: &str| name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.' || c == '-').to_lowercase();
    let says =
        |name: &String| catalogue::find(name).is_some_and(|row| !row.says.is_empty() && row.says.to_lowercase() != stem(name));
    // Consent, pins, patterns and processors are for the program to see to.
    let plainly_asked = tool.names.iter().all(|name| arguments(name) == first && !catalogue::is_never_started(name))
        && first.iter().all(|one| one.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._=-".contains(&byte)))
        && (tool.args.is_empty() || tool.names.iter().all(|name| catalogue::version_arguments(name) == tool.args))
        && tool.version_from.is_none()
        && tool.pattern.is_none()
        && tool.arch.is_none()
        && !(tool.version.is_some() && tool.names.iter().any(says));
    let range = tool.version.as_ref().map(crate::version::Range::text).unwrap_or_default();
    let words: Vec<String> =
        [quoted(&names), quoted(range)].into_iter().chain(first.into_iter().filter(|_| plainly_asked)).collect();
    Some(format!("tool {}", words.join(" ")))
}

fn system(systems: &Systems) -> Option<String> {
    let linux = systems.versions.iter().find(|(os, _)| *os == Os::Linux);
    let range = match (linux, systems.versions.is_empty()) {
        (Some((_, Some(range))), _) => range.text().to_owned(),
        (Some((_, None)), _) | (None, true) => "-".to_owned(),
        (None, false) => String::new(),
    };
    let lists = [&systems.distros, &systems.arches, &systems.editions];
    let plain = |one: &String| one.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._-".contains(&byte));
    if !lists.iter().all(|list| list.iter().all(plain)) {
        return None;
    }
    Some(format!(
        "system {} {} {} {}",
        quoted(&range),
        quoted(&systems.distros.join(" ")),
        quoted(&systems.arches.join(" ")),
        quoted(&systems.editions.join(" "))
    ))
}

/// A pattern that means one text and nothing else.
fn literal(pattern: &Pattern) -> Option<&str> {
    let text = pattern.source();
    let plain = |c: char| c.is_ascii_alphanumeric() || " _-/:=,;@%&~<>\"'!".contains(c);
    (!text.is_empty() && text.chars().all(plain)).then_some(text)
}

/// A pattern that awk takes for the same (POSIX, extended regular expressions) in a text of one line.
fn extended(pattern: &Pattern) -> Option<&str> {
    let text = pattern.source();
    let plain = |c: char| c.is_ascii_alphanumeric() || " _-/:=,;@%~<>!^$()|[].*+?".contains(c);
    let odd = ["(?", "*?", "+?", "??", "**", "[[", "[:", "--", "~~", "^*", "(*", "|*", "()", "||", "(|", "|)", "^+", "^?"];
    let whole = text.chars().all(plain) && !odd.iter().any(|odd| text.contains(odd)) && !text.is_empty();
    // A bracket within brackets, or a class that is left open, reads otherwise there.
    let brackets = text.split('[').skip(1).all(|part| part.contains(']') && !part.starts_with(']') && !part.starts_with("^]"));
    (whole && brackets).then_some(text)
}

/// A path of the guide as the shell reads it.
fn place(path: &str) -> String {
    match path.strip_prefix('~') {
        Some("") => "\"$HOME\"".to_owned(),
        Some(rest) if rest.starts_with('/') => format!("\"$HOME\"{}", quoted(rest)),
        _ => quoted(path),
    }
}

fn path(path: &Path) -> String {
    if path.expect == Existence::Absent {
        return format!("absent {}", place(&path.path));
    }
    let mut words = Vec::new();
    for (is, word) in [(path.mine, "mine"), (path.writable, "writable"), (path.executable, "executable")] {
        if is {
            words.push(word);
        }
    }
    let texts: Option<Vec<&str>> = path.contains.iter().map(literal).collect();
    let texts = texts.filter(|_| path.kind == PathKind::File);
    // Whether a script can start, and what a folder must have, only the program sees.
    if path.executable || path.runs_programs || (texts.is_none() && !path.contains.is_empty()) {
        words.push("more");
    }
    let sort = if path.kind == PathKind::File { "file" } else { "folder" };
    let mode = path.mode.map(|mode| format!("{mode:03o}")).unwrap_or_default();
    let mut all = vec![place(&path.path), quoted(&mode), quoted(&words.join(" "))];
    all.extend(texts.unwrap_or_default().into_iter().map(quoted));
    format!("path {sort} {}", all.join(" "))
}

/// Variables that shells set or change by themselves.
const OF_SHELLS: [&str; 12] =
    ["PWD", "OLDPWD", "SHLVL", "_", "IFS", "PPID", "OPTIND", "RANDOM", "SECONDS", "LINENO", "COLUMNS", "LINES"];

fn variable(variable: &EnvironmentVariable) -> Option<String> {
    let name = variable.name.as_str();
    let file = variable.env_file.as_deref().unwrap_or_default();
    if !is_plain_variable(name) || !is_inside(file) {
        return None;
    }
    let mut words = Vec::new();
    if variable.expect == Existence::Absent {
        words.push("absent");
    }
    let shape = variable.matches.as_ref().map(|pattern| extended(pattern).ok_or(()));
    let leads = name == "LANG" || name.starts_with("LC_") || name.ends_with("_HOME") || name.ends_with("_ROOT");
    if shape == Some(Err(())) || variable.of.is_some() || leads {
        words.push("more");
    }
    let shape = shape.and_then(Result::ok).unwrap_or_default();
    Some(format!("variable {name} {} {} {}", quoted(file), quoted(shape), quoted(&words.join(" "))))
}

fn setting(setting: &Setting) -> String {
    let shape = setting.matches.as_ref().map(|pattern| extended(pattern).ok_or(()));
    let more = if shape == Some(Err(())) { "more" } else { "" };
    format!("setting {} {} {}", quoted(&setting.key), quoted(shape.and_then(Result::ok).unwrap_or_default()), quoted(more))
}

/// More ports than these are for the program.
const MOST_PORTS: usize = 64;

fn port(guide: &Guide, port: &Port) -> Option<String> {
    let protocol = if port.protocol == Protocol::Udp { "udp" } else { "tcp" };
    if port.address.is_some() {
        return None;
    }
    let served = |number: Option<u16>| {
        let is = |one: &Requirement| matches!(&one.subject, Subject::Service(service) if number.is_none_or(|number| service.port == number));
        guide.requirements.iter().any(is)
    };
    let more = |served: bool| quoted(if served || !port.held_ok.is_empty() { "more" } else { "" });
    let numbers = match &port.numbers {
        PortNumbers::Span(first, last) if usize::from(last.saturating_sub(*first)) >= MOST_PORTS => return None,
        numbers => numbers.each(),
    };
    if let Some(by) = &port.set_by {
        // A key of another format is for the program to read.
        let [usual] = numbers.as_slice() else { return None };
        let name = by.variable.as_deref().filter(|_| by.entry.is_none()).filter(|name| is_plain_variable(name))?;
        let file = by.env_file.as_deref().unwrap_or_default();
        return is_inside(file)
            .then(|| format!("port {protocol} {} \"$(moved {name} {} {usual})\"", more(served(None)), quoted(file)));
    }
    let any_served = numbers.iter().any(|number| served(Some(*number)));
    let numbers: Vec<String> = numbers.iter().map(u16::to_string).collect();
    Some(format!("port {protocol} {} {}", more(any_served), numbers.join(" ")))
}

/// A variable that a shell has from its environment alone.
fn is_plain_variable(name: &str) -> bool {
    let plain = name.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'_');
    plain && !name.is_empty() && !name.starts_with(|c: char| c.is_ascii_digit()) && !OF_SHELLS.contains(&name)
}

/// A file of the project, or none.
fn is_inside(file: &str) -> bool {
    file.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._-/".contains(&byte))
        && !file.starts_with('/')
        && !file.contains("..")
}
