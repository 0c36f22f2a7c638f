//! Small files: example environments, what git keeps, hooks, scripts.

use super::super::format::{Node, yaml};
use super::super::shell::{asked_for, commands, is_driver, program};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Mentioned, Pinned},
    Topic,
};

/// Parts of names of variables that hold what nobody else may know.
const SECRETS: [&str; 12] = [
    "SECRET",
    "TOKEN",
    "PASSWORD",
    "PASSWD",
    "PASSPHRASE",
    "PRIVATE",
    "CREDENTIAL",
    "API_KEY",
    "APIKEY",
    "ACCESS_KEY",
    "AUTH",
    "DSN",
];

/// An example of an environment file: the variables that people set in their own.
pub(super) fn environment(file: &Source<'_>, said: &StatementSink) -> Read {
    let own = format!("{}.env", file.folder());
    for (line, text) in (1..).zip(file.text.lines()) {
        let text = text.trim();
        let text = text.strip_prefix("export ").unwrap_or(text);
        let Some((name, value)) = text.split_once('=') else { continue };
        let name = name.trim();
        let right = |c: char| c.is_ascii_alphanumeric() || c == '_';
        if name.is_empty() || name.len() > 80 || name.starts_with(|c: char| c.is_ascii_digit()) || !name.chars().all(right) {
            continue;
        }
        let upper = name.to_ascii_uppercase();
        // An address may hold a password.
        let has_login =
            value.split_once("://").is_some_and(|(_, rest)| rest.split('/').next().is_some_and(|host| host.contains('@')));
        let secret = has_login || upper == "KEY" || upper.ends_with("_KEY") || SECRETS.iter().any(|part| upper.contains(part));
        said.variable(name, secret, line, &own);
    }
    Ok(())
}

/// `.gitmodules` (gitmodules(5)).
pub(super) fn submodules(file: &Source<'_>, said: &StatementSink) -> Read {
    let first = (1..).zip(file.text.lines()).find(|(_, text)| text.trim().starts_with("[submodule"));
    if let Some((line, _)) = first {
        said.topic(Topic::Submodules, Pinned, line);
    }
    Ok(())
}

/// `.gitattributes` (gitattributes(5)): files that are kept elsewhere.
pub(super) fn attributes(file: &Source<'_>, said: &StatementSink) -> Read {
    let large = (1..)
        .zip(file.text.lines())
        .find(|(_, text)| !text.trim().starts_with('#') && text.split_whitespace().any(|word| word == "filter=lfs"));
    if let Some((line, _)) = large {
        said.tool("git-lfs", Pinned, (line, "filter"));
    }
    Ok(())
}

/// Hooks of version control that are kept with a tool of their own.
pub(super) fn hooks(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = yaml(file.text)?;
    match tree.entry("minimum_pre_commit_version") {
        Some(entry) => {
            let range = entry.node.text().and_then(super::at_least);
            said.tool("pre-commit", Mentioned, (entry.line, "minimum_pre_commit_version", range));
        }
        None if tree.get("repos").is_some_and(|node| !Node::items(node).is_empty()) => said.tool("pre-commit", Mentioned, 1),
        None => {}
    }
    Ok(())
}

/// A script for a shell: the programs that it asks for, and those that it builds with.
pub(super) fn script(file: &Source<'_>, said: &StatementSink) -> Read {
    // What was written from the guide says nothing beside the guide.
    if file.text.lines().take(4).any(|line| line.contains("`setup-ready render sh`")) {
        return Ok(());
    }
    for words in commands(file.text, 1) {
        let Some(((name, line), arguments)) = program(&words) else { continue };
        if let Some(asked) = asked_for(name, arguments) {
            for (asked, line) in asked {
                said.tool(asked, Mentioned, line);
            }
        } else if is_driver(name) {
            said.tool(name, Mentioned, *line);
        }
    }
    Ok(())
}
