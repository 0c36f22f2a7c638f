//! How one sees by oneself that a step has worked: a line to type, and what it then says.

use crate::catalogue;
use crate::fix::{Shell, quote};
use crate::guide::{Existence, LimitKind, Requirement, Subject, Then};
use crate::prelude::*;
use crate::text::join_words;

/// More lines than these are not typed one after the other.
const MOST_LINES: usize = 6;

/// A sentence about how one sees that these are settled; `None` where only another check tells.
pub(crate) fn worked_if<'r>(
    requirements: impl Iterator<Item = &'r Requirement>,
    then: Option<Then>,
    shell: Shell,
) -> Option<String> {
    let when = match then {
        None => "",
        Some(Then::NewShell) => " in a new terminal",
        Some(Then::SignIn) => " when you are signed in again",
        Some(Then::Restart) => " after the restart",
    };
    let mut lines: Vec<(String, String)> = Vec::new();
    for requirement in requirements {
        let Some((line, then)) = line(requirement, shell) else { continue };
        if !lines.iter().any(|(other, _)| *other == line) {
            lines.push((line, then));
        }
    }
    match lines.as_slice() {
        [] => None,
        [(line, then)] => Some(format!("It has worked if `{line}` {then}{when}.")),
        several if several.len() <= MOST_LINES => {
            let lines: Vec<String> = several.iter().map(|(line, _)| format!("`{line}`")).collect();
            Some(format!("It has worked if each of these answers{when}: {}.", join_words(&lines, "and")))
        }
        _ => None,
    }
}

fn line(requirement: &Requirement, shell: Shell) -> Option<(String, String)> {
    let unix = matches!(shell, Shell::Posix | Shell::Fish | Shell::Csh);
    Some(match &requirement.subject {
        Subject::Tool(tool) if tool.expect == Existence::Present => {
            let name = tool.names.first()?;
            let own: Vec<&str> = tool.args.iter().map(String::as_str).collect();
            let arguments = if own.is_empty() { catalogue::version_arguments(name) } else { own.as_slice() };
            let words: Vec<String> =
                [name.as_str()].into_iter().chain(arguments.iter().copied()).map(|word| quote(word, shell)).collect();
            let then = match &tool.version {
                Some(range) => format!("says a version that is {range}"),
                None => "answers".to_owned(),
            };
            (words.join(" "), then)
        }
        Subject::Group(group) if unix => ("id -nG".to_owned(), format!("names {}", group.name)),
        Subject::Group(group) if shell == Shell::PowerShell => ("whoami /groups".to_owned(), format!("names {}", group.name)),
        Subject::Variable(variable) if unix && variable.env_file.is_none() => {
            let then = if variable.expect == Existence::Present { "shows your value" } else { "shows nothing" };
            (format!("printenv {}", quote(&variable.name, shell)), then.to_owned())
        }
        Subject::Hostname(host) if unix => {
            let then = match &host.points_to {
                Some(address) => format!("shows {address}"),
                None => "shows an address".to_owned(),
            };
            (format!("getent hosts {}", quote(&host.name, shell)), then)
        }
        Subject::Limit(limit) if unix => {
            let line = match limit.kind {
                LimitKind::OpenFiles => "ulimit -n",
                LimitKind::Processes => "ulimit -u",
                LimitKind::FileWatches => "cat /proc/sys/fs/inotify/max_user_watches",
                LimitKind::PathLength | LimitKind::SymbolicLinks => return None,
            };
            (line.to_owned(), format!("shows {} or more", limit.at_least?))
        }
        Subject::Locale(locale) if unix => ("locale -a".to_owned(), format!("lists {}", locale.name)),
        Subject::Setting(setting) => (format!("git config {}", quote(&setting.key, shell)), "shows your value".to_owned()),
        Subject::Library(library) if unix => {
            let then = match &library.version {
                Some(range) => format!("shows a version that is {range}"),
                None => "shows a version".to_owned(),
            };
            (format!("pkg-config --modversion {}", quote(&library.name, shell)), then)
        }
        Subject::Tool(_)
        | Subject::Port(_)
        | Subject::Disk(_)
        | Subject::Memory(_)
        | Subject::Swap(_)
        | Subject::Rights(_)
        | Subject::Cores(_)
        | Subject::Virtualization(_)
        | Subject::System(_)
        | Subject::Path(_)
        | Subject::Variable(_)
        | Subject::Group(_)
        | Subject::Socket(_)
        | Subject::Device(_)
        | Subject::Service(_)
        | Subject::Reach(_)
        | Subject::Clock(_)
        | Subject::Hostname(_)
        | Subject::Subnet(_)
        | Subject::Limit(_)
        | Subject::Library(_)
        | Subject::Component(_)
        | Subject::Locale(_)
        | Subject::Checkout(_)
        | Subject::Command(_)
        | Subject::AnyOf(_) => return None,
    })
}
