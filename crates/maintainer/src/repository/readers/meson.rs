//! `meson.build` by its structure: calls with their arguments, and `if` blocks (Meson's syntax reference).

#![allow(clippy::wildcard_enum_match_arm, reason = "only what begins a call or a block is looked at")]

use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Mentioned, Pinned},
    Restriction,
};

#[derive(Debug, Clone, PartialEq, Eq)]
enum Token<'t> {
    Word(&'t str),
    Text(&'t str),
    Sign(char),
    LineEnd,
}

/// Blocks that lie deeper limit nothing more.
const DEEPEST: usize = 32;
/// More of them are not read.
const MOST_TOKENS: usize = 200_000;

fn scan(text: &str) -> Vec<(Token<'_>, usize)> {
    let (mut found, mut line, mut at) = (Vec::new(), 1, 0);
    while let Some(rest) = text.get(at..).filter(|rest| !rest.is_empty())
        && found.len() < MOST_TOKENS
    {
        let first = rest.chars().next().unwrap_or(' ');
        let length = |end: Option<usize>| end.unwrap_or(rest.len());
        let (found_here, taken) = if first == '#' {
            (None, length(rest.find('\n')))
        } else if let Some(inner) = rest.strip_prefix("'''") {
            let end = length(inner.find("'''"));
            (inner.get(..end).map(Token::Text), end.saturating_add(6).min(rest.len()))
        } else if let Some(inner) = rest.strip_prefix('\'') {
            let mut escaped = false;
            let end = inner.find(|c: char| {
                let ends = c == '\n' || (c == '\'' && !escaped);
                escaped = c == '\\' && !escaped;
                ends
            });
            let end = end.unwrap_or(inner.len());
            (inner.get(..end).map(Token::Text), (end + 2).min(rest.len()))
        } else if first == '\n' {
            (Some(Token::LineEnd), 1)
        } else if first.is_alphanumeric() || first == '_' {
            let end = length(rest.find(|c: char| !c.is_alphanumeric() && c != '_'));
            (rest.get(..end).map(Token::Word), end)
        } else if first.is_whitespace() {
            (None, first.len_utf8())
        } else {
            (Some(Token::Sign(first)), first.len_utf8())
        };
        // A text is cut in the middle of no character: every end above is one that was found.
        let length = text.get(at..at + taken).map_or(first.len_utf8(), str::len);
        found.extend(found_here.map(|token| (token, line)));
        line += rest.get(..length).unwrap_or_default().matches('\n').count();
        at += length;
    }
    found
}

/// An argument: its key where it has one, the texts in it, and all of it as it stands.
#[derive(Debug, Default)]
struct Argument<'t> {
    key: Option<&'t str>,
    texts: Vec<(&'t str, usize)>,
    whole: String,
    line: usize,
}

struct Call<'t> {
    name: &'t str,
    line: usize,
    arguments: Vec<Argument<'t>>,
}

impl<'t> Call<'t> {
    fn key(&self, key: &str) -> Option<&Argument<'t>> {
        self.arguments.iter().find(|argument| argument.key == Some(key))
    }

    fn positional(&self) -> impl Iterator<Item = &Argument<'t>> {
        self.arguments.iter().filter(|argument| argument.key.is_none())
    }
}

/// The call whose opening bracket stands at `at`, and where it ends.
fn call<'t>(name: &'t str, line: usize, tokens: &[(Token<'t>, usize)], at: usize) -> (Call<'t>, usize) {
    let mut arguments = Vec::new();
    let (mut depth, mut now, mut end) = (0_usize, Argument::default(), at);
    for (index, (token, line)) in tokens.iter().enumerate().skip(at) {
        end = index;
        match token {
            Token::Sign('(' | '[' | '{') => {
                depth += 1;
                if depth > 1 {
                    now.whole.push(if *token == Token::Sign('(') { '(' } else { '[' });
                }
            }
            Token::Sign(')' | ']' | '}') => {
                depth = depth.saturating_sub(1);
                if depth == 0 {
                    break;
                }
                now.whole.push(if *token == Token::Sign(')') { ')' } else { ']' });
            }
            Token::Sign(',') if depth == 1 => arguments.push(std::mem::take(&mut now)),
            Token::Sign(':') if depth == 1 && now.key.is_none() && now.texts.is_empty() => {
                if let Some((Token::Word(word), _)) = index.checked_sub(1).and_then(|before| tokens.get(before)) {
                    now = Argument { key: Some(word), line: *line, ..Argument::default() };
                }
            }
            Token::Sign(c) => now.whole.push(*c),
            Token::Text(text) => {
                now.texts.push((text, *line));
                now.whole.extend(["'", text, "'"]);
            }
            Token::Word(word) => {
                if now.whole.ends_with(|c: char| c.is_alphanumeric()) {
                    now.whole.push(' ');
                }
                now.whole.push_str(word);
            }
            Token::LineEnd => {}
        }
        if now.line == 0 {
            now.line = *line;
        }
    }
    if !now.whole.is_empty() {
        arguments.push(now);
    }
    (Call { name, line, arguments }, end)
}

fn limit(condition: &str, negated: bool) -> Restriction {
    let plain: String = condition.chars().filter(|c| !c.is_whitespace()).collect();
    let system = ["windows", "linux", "darwin"].into_iter().find_map(|name| {
        let asked = ["host_machine.system()==", "target_machine.system()==", "build_machine.system()=="];
        let word = if name == "darwin" { "macos" } else { name };
        let is = asked.iter().any(|start| plain == format!("{start}'{name}'"));
        let not = asked.iter().any(|start| plain == format!("{}'{name}'", start.replace("==", "!=")));
        if is {
            Some(word.to_owned())
        } else if not {
            Some(format!("not {word}"))
        } else {
            None
        }
    });
    match (system, negated) {
        (Some(system), false) => Restriction::When(system),
        (Some(system), true) => {
            Restriction::When(system.strip_prefix("not ").map_or_else(|| format!("not {system}"), ToOwned::to_owned))
        }
        (None, false) => Restriction::Text(format!("where {condition}")),
        (None, true) => Restriction::Text(format!("where not {condition}")),
    }
}

pub(super) fn build(file: &Source<'_>, said: &StatementSink) -> Read {
    let tokens = scan(file.text);
    // For each open block: the conditions that were tried before, and the one that holds now.
    let mut blocks: Vec<(Vec<String>, Option<String>)> = Vec::new();
    let mut at = 0;
    while let Some((token, line)) = tokens.get(at) {
        let mut condition = || {
            let mut words = String::new();
            let mut depth = 0_i32;
            while let Some((token, _)) = tokens.get(at + 1) {
                match token {
                    Token::LineEnd if depth <= 0 => break,
                    Token::LineEnd => {}
                    Token::Sign(c) => {
                        depth += i32::from(*c == '(') - i32::from(*c == ')');
                        words.push(*c);
                    }
                    Token::Word(word) => {
                        if words.ends_with(|c: char| c.is_alphanumeric() || c == ')') {
                            words.push(' ');
                        }
                        words.push_str(word);
                    }
                    Token::Text(text) => words.extend(["'", text, "'"]),
                }
                at += 1;
            }
            words
        };
        match token {
            Token::Word("if") => {
                let words = condition();
                blocks.push((Vec::new(), Some(words)));
            }
            Token::Word("elif") => {
                let words = condition();
                if let Some((before, now)) = blocks.last_mut() {
                    before.extend(now.replace(words));
                }
            }
            Token::Word("else") => {
                if let Some((before, now)) = blocks.last_mut() {
                    before.extend(now.take());
                }
            }
            Token::Word("endif") => {
                blocks.pop();
            }
            Token::Word(name)
                if ["project", "dependency", "find_program"].contains(name)
                    && tokens.get(at + 1).is_some_and(|(next, _)| *next == Token::Sign('(')) =>
            {
                let after_dot =
                    at.checked_sub(1).and_then(|before| tokens.get(before)).is_some_and(|(one, _)| *one == Token::Sign('.'));
                let (call, end) = call(name, *line, &tokens, at + 1);
                let limits: Vec<Restriction> = blocks
                    .iter()
                    .take(DEEPEST)
                    .flat_map(|(before, now)| {
                        before.iter().take(DEEPEST).map(|one| limit(one, true)).chain(now.iter().map(|one| limit(one, false)))
                    })
                    .take(DEEPEST)
                    .collect();
                if !after_dot {
                    said.only_all(&limits, &|| one(&call, said, file));
                }
                at = end;
            }
            _ => {}
        }
        at += 1;
    }
    Ok(())
}

/// What several bounds come to: `>= 2.13, < 3`.
fn range(texts: &[(&str, usize)]) -> Option<String> {
    let bounds: Vec<String> = texts.iter().map(|(text, _)| super::bound(text)).collect::<Option<_>>()?;
    (!bounds.is_empty()).then(|| bounds.join(", "))
}

fn one(call: &Call<'_>, said: &StatementSink, file: &Source<'_>) {
    let first = call.positional().next();
    let version = call.key("version").and_then(|argument| range(&argument.texts));
    let required = call.key("required").map(|argument| argument.whole.as_str());
    // What has a copy of its own to fall back on is not needed.
    let firm = matches!(required, None | Some("true")) && call.key("fallback").is_none() && call.key("disabler").is_none();
    let feature = required.filter(|text| text.starts_with("get_option")).map(|text| Restriction::Text(format!("where {text}")));
    let firmness = if firm { Pinned } else { Mentioned };
    match call.name {
        "project" => project(call, said, file),
        "dependency" => {
            let Some((name, _)) = first.and_then(|argument| argument.texts.first()) else { return };
            let own = [
                "threads",
                "openmp",
                "dl",
                "mpi",
                "python3",
                "boost",
                "llvm",
                "qt5",
                "qt6",
                "intl",
                "iconv",
                "appleframeworks",
                "cuda",
            ];
            said.only(feature, || match *name {
                "python3" => said.tool("python3", firmness, (call.line, "dependency")),
                "boost" | "qt5" | "qt6" => {
                    let found = setup_ready_core::catalogue::libraries::found_as(name).map_or(*name, |library| library.name);
                    said.library(found, firmness, (call.line, "dependency", version));
                }
                name if own.contains(&name) => {}
                name => said.library(name, firmness, (call.line, "dependency", version)),
            });
        }
        "find_program" => {
            let name = first.and_then(|argument| argument.texts.first()).map(|(name, _)| *name);
            // A file of the project itself is no program of the machine's.
            let own = |name: &str| name.contains('/') || file.has_beside(name);
            if let Some(name) = name.filter(|name| !own(name)) {
                said.only(feature, || said.tool(name, firmness, (call.line, "find_program", version)));
            }
        }
        _ => {}
    }
}

fn project(call: &Call<'_>, said: &StatementSink, file: &Source<'_>) {
    if file.names.has_above(file.path, "meson.build") {
        return;
    }
    said.tool("ninja", Pinned, call.line);
    if let Some(wanted) = call.key("meson_version") {
        said.tool("meson", Pinned, (wanted.line, "meson_version", range(&wanted.texts)));
    } else {
        said.tool("meson", Pinned, call.line);
    }
    for (language, line) in call.positional().skip(1).flat_map(|argument| &argument.texts) {
        let tool = match *language {
            "c" => "cc",
            "cpp" => "c++",
            "fortran" => "gfortran",
            "rust" => "rustc",
            "vala" => "valac",
            _ => continue,
        };
        said.tool(tool, Pinned, (*line, "languages"));
    }
}
