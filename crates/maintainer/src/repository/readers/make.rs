use super::super::shell::{asked_for, commands, installs, program};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::catalogue;
use setup_ready_core::statement::Confidence::{Mentioned, Used};
use std::collections::HashMap;

/// What every system with a make has (POSIX's own utilities), or what no build is about.
const PLAIN: [&str; 52] = [
    "awk", "basename", "bash", "cat", "cd", "chmod", "cmp", "comm", "cp", "cut", "date", "dd", "diff", "dirname", "echo",
    "egrep", "env", "expr", "false", "find", "fgrep", "grep", "head", "id", "install", "kill", "less", "ln", "ls", "mkdir",
    "mktemp", "more", "mv", "od", "patch", "printf", "ps", "pwd", "rm", "sed", "sh", "sleep", "sort", "sudo", "tail", "tee",
    "test", "touch", "tr", "true", "uname", "xargs",
];

/// A `Makefile`: the programs that its recipes name. Which of its targets a newcomer makes, nobody can tell, so they are only mentioned.
pub(super) fn recipes(file: &Source<'_>, said: &StatementSink) -> Read {
    let name = file.name();
    if name != "Makefile.am" && !file.names.has_above(file.path, name) {
        said.tool("make", Mentioned, 1);
    }
    // One that compiles, or has other makes do it, is a way of its own to build.
    let compiles = ["$(CC)", "${CC}", "$(CXX)", "${CXX}", "$(MAKE) -C", "${MAKE} -C"].iter().any(|one| file.text.contains(one));
    let calls_others = ["cmake ", "meson ", "./configure", "ninja "].iter().any(|one| file.text.contains(one));
    if compiles && !calls_others && name != "Makefile.am" && file.folder().is_empty() {
        said.tool("make", Used, (1, "builds"));
    }
    let mut variables: HashMap<&str, &str> = HashMap::new();
    let mut joined = String::new();
    let mut first = 0;
    for (line, text) in (1..).zip(file.text.lines()) {
        if joined.is_empty() {
            first = line;
            if !text.starts_with('\t') {
                if let Some((name, value)) = text.split_once('=') {
                    let name = name.trim_end_matches([':', '?', '+']).trim();
                    if name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_') {
                        variables.insert(name, value.trim());
                    }
                    started(value, line, said);
                }
                continue;
            }
        }
        let part = text.trim_start_matches('\t');
        if let Some(part) = part.strip_suffix('\\') {
            joined.push_str(part);
            joined.push_str("\\\n");
            continue;
        }
        joined.push_str(part);
        recipe(&std::mem::take(&mut joined), first, &variables, said);
    }
    Ok(())
}

/// `$(shell ...)`
fn started(value: &str, line: usize, said: &StatementSink) {
    if let Some(inner) = value.split_once("$(shell ").map(|(_, rest)| rest.trim_end_matches(')')) {
        recipe(inner, line, &HashMap::new(), said);
    }
}

fn recipe(text: &str, line: usize, variables: &HashMap<&str, &str>, said: &StatementSink) {
    let mut text = text.trim_start_matches(['@', '-', '+']).to_owned();
    // The program may stand in a variable that is set above.
    if let Some((name, rest)) = text.strip_prefix("$(").and_then(|rest| rest.split_once(')'))
        && let Some(value) = variables.get(name).filter(|value| !value.contains('$'))
    {
        text = format!("{value}{rest}");
    }
    for words in commands(&text, line) {
        let Some(((name, line), arguments)) = program(&words) else { continue };
        if let Some((manager, packages)) = installs(name, arguments) {
            for (package, line) in &packages {
                said.package(manager, package, Mentioned, *line);
            }
        } else if let Some(asked) = asked_for(name, arguments) {
            for (asked, line) in asked {
                said.tool(asked, Mentioned, line);
            }
        } else if catalogue::has(name) && !PLAIN.contains(&name.as_str()) {
            said.tool(name, Mentioned, *line);
        }
    }
}
