//! `CMakeLists.txt` by its structure: commands with their arguments, comments, `if` blocks (cmake-language(7)).

use super::super::format::{Node, json};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::catalogue::libraries;
use setup_ready_core::statement::{
    Confidence::{Mentioned, Pinned, Used},
    Restriction,
};

/// A command, with the line of each argument.
struct Call {
    name: String,
    line: usize,
    arguments: Vec<(String, usize)>,
}

/// Blocks that lie deeper limit nothing more.
const DEEPEST: usize = 32;
/// More commands than this are not read.
const MOST_CALLS: usize = 20_000;

/// Reads commands as it is given characters.
#[derive(Default)]
struct Reader {
    found: Vec<Call>,
    /// The command whose arguments are being read, and how many brackets are open in them.
    open: Option<(Call, usize)>,
    word: String,
    /// The last word outside of a command, which may be the name of one.
    last: String,
    line: usize,
}

impl Reader {
    fn end_word(&mut self, line: usize) {
        if self.word.is_empty() {
            return;
        }
        let word = std::mem::take(&mut self.word);
        match self.open.as_mut() {
            Some((call, _)) => call.arguments.push((word, line)),
            None => self.last = word,
        }
    }

    fn opens(&mut self) {
        self.end_word(self.line);
        if let Some((call, depth)) = self.open.as_mut() {
            call.arguments.push(("(".to_owned(), self.line));
            *depth += 1;
        } else {
            let name = std::mem::take(&mut self.last).to_ascii_lowercase();
            self.open = Some((Call { name, line: self.line, arguments: Vec::new() }, 0));
        }
    }

    fn closes(&mut self) {
        self.end_word(self.line);
        match self.open.take() {
            Some((call, 0)) => self.found.push(call),
            Some((mut call, depth)) => {
                call.arguments.push((")".to_owned(), self.line));
                self.open = Some((call, depth - 1));
            }
            None => {}
        }
    }
}

fn calls(text: &str) -> Vec<Call> {
    let mut reader = Reader { line: 1, ..Reader::default() };
    let mut rest = text.char_indices().peekable();
    while let Some((at, c)) = rest.next() {
        if reader.found.len() >= MOST_CALLS {
            break;
        }
        match c {
            '#' => {
                reader.end_word(reader.line);
                let after = text.get(at + 1..).unwrap_or_default();
                let end = match bracket(after) {
                    Some(length) => at + 1 + length,
                    None => at + after.find('\n').map_or(text.len() - at, |found| found + 1),
                };
                while let Some((_, c)) = rest.next_if(|(next, _)| *next < end) {
                    reader.line += usize::from(c == '\n');
                }
            }
            '"' if reader.open.is_some() => {
                let begins = reader.line;
                while let Some((_, c)) = rest.next().filter(|(_, c)| *c != '"') {
                    let c = if c == '\\' { rest.next().map_or(' ', |(_, c)| c) } else { c };
                    reader.line += usize::from(c == '\n');
                    reader.word.push(c);
                }
                if reader.word.is_empty() {
                    reader.word.push_str("\"\"");
                }
                reader.end_word(begins);
            }
            '\\' => reader.word.extend(rest.next().map(|(_, c)| c)),
            '(' => reader.opens(),
            ')' => reader.closes(),
            c if c.is_whitespace() || c == ';' => {
                reader.end_word(reader.line);
                reader.line += usize::from(c == '\n');
            }
            c => reader.word.push(c),
        }
    }
    reader.found
}

/// No comment is longer.
const LONGEST_COMMENT: usize = 1 << 16;

/// How long a bracket is that begins here: `[[ ... ]]`, `[=[ ... ]=]`.
fn bracket(text: &str) -> Option<usize> {
    let inner = text.strip_prefix('[')?;
    let signs = inner.len() - inner.trim_start_matches('=').len();
    inner.get(signs..)?.strip_prefix('[')?;
    let end = format!("]{}]", "=".repeat(signs));
    let within = text.get(..setup_ready_core::text::floor_char_boundary(text, LONGEST_COMMENT)).unwrap_or(text);
    within.find(&end).map(|at| at + end.len())
}

/// What a condition means for people: a system, or anything else.
fn limit(arguments: &[(String, usize)], negated: bool) -> Restriction {
    let words: Vec<&str> = arguments.iter().map(|(word, _)| word.as_str()).collect();
    let system = match words.as_slice() {
        ["WIN32" | "MSVC" | "MINGW"] | ["CMAKE_SYSTEM_NAME", "STREQUAL" | "MATCHES", "Windows"] => Some("windows"),
        ["APPLE"] | ["CMAKE_SYSTEM_NAME", "STREQUAL" | "MATCHES", "Darwin"] => Some("macos"),
        ["UNIX"] | ["NOT", "WIN32" | "MSVC"] => Some("not windows"),
        ["LINUX"] | ["UNIX", "AND", "NOT", "APPLE"] | ["CMAKE_SYSTEM_NAME", "STREQUAL" | "MATCHES", "Linux"] => Some("linux"),
        ["NOT", "APPLE"] => Some("not macos"),
        _ => None,
    };
    match (system, negated) {
        (Some(system), false) => Restriction::When(system.to_owned()),
        (Some(system), true) => {
            Restriction::When(system.strip_prefix("not ").map_or_else(|| format!("not {system}"), ToOwned::to_owned))
        }
        (None, false) => Restriction::Text(format!("where {}", words.join(" "))),
        (None, true) => Restriction::Text(format!("where not {}", words.join(" "))),
    }
}

/// The limits of one branch, from those of the branches before it and its own; two that rule out two of three systems leave the third.
fn branch(before: &[Restriction], own: Option<Restriction>) -> Vec<Restriction> {
    let mut all: Vec<Restriction> = before.iter().cloned().chain(own).collect();
    let has = |all: &[Restriction], when: &str| all.contains(&Restriction::When(when.to_owned()));
    if has(&all, "not windows") && has(&all, "not macos") {
        all.retain(|one| !matches!(one, Restriction::When(_)));
        all.push(Restriction::When("linux".to_owned()));
    }
    all
}

struct Block {
    arguments: Vec<Vec<(String, usize)>>,
    is_else: bool,
}

pub(super) fn lists(file: &Source<'_>, said: &StatementSink) -> Read {
    let mut blocks: Vec<Block> = Vec::new();
    // Bodies of functions and loops run whenever, or never.
    let mut bodies = 0_usize;
    for call in calls(file.text) {
        match call.name.as_str() {
            "if" => blocks.push(Block { arguments: vec![call.arguments], is_else: false }),
            "elseif" => blocks.last_mut().into_iter().for_each(|block| block.arguments.push(call.arguments.clone())),
            "else" => blocks.last_mut().into_iter().for_each(|block| block.is_else = true),
            "endif" => {
                blocks.pop();
            }
            "function" | "macro" => bodies += 1,
            "endfunction" | "endmacro" => bodies = bodies.saturating_sub(1),
            _ => {
                let limits: Vec<Restriction> = blocks
                    .iter()
                    .take(DEEPEST)
                    .flat_map(|block| {
                        let last = if block.is_else { None } else { block.arguments.last() };
                        let before = block.arguments.len() - usize::from(last.is_some());
                        let before: Vec<Restriction> =
                            block.arguments.iter().take(before.min(DEEPEST)).map(|one| limit(one, true)).collect();
                        branch(&before, last.map(|one| limit(one, false)))
                    })
                    .take(DEEPEST)
                    .collect();
                said.only_all(&limits, &|| said.softly(bodies > 0, || one(&call, said, file)));
            }
        }
    }
    Ok(())
}

fn is_version(text: &str) -> bool {
    text.starts_with(|c: char| c.is_ascii_digit()) && text.chars().all(|c| c.is_ascii_digit() || c == '.')
}

fn one(call: &Call, said: &StatementSink, file: &Source<'_>) {
    let words: Vec<&str> = call.arguments.iter().map(|(word, _)| word.as_str()).collect();
    let line = call.line;
    match call.name.as_str() {
        "cmake_minimum_required" => {
            let version = words.iter().skip_while(|word| **word != "VERSION").nth(1).and_then(|text| text.split("...").next());
            said.tool("cmake", Pinned, (line, "cmake_minimum_required", version.and_then(super::at_least)));
        }
        "project" => languages(&words, line, said, file),
        "enable_language" => words.iter().for_each(|language| compiler(language, line, said)),
        "find_package" => package(&words, line, said),
        "find_program" => {
            let names: Vec<&str> = words.iter().skip(1).filter(|word| !word.contains(['$', '/'])).copied().collect();
            let first = names.iter().find(|name| !["NAMES", "REQUIRED", "HINTS", "PATHS", "DOC"].contains(name));
            if let Some(name) = first {
                said.tool(name, if words.contains(&"REQUIRED") { Pinned } else { Mentioned }, (line, "find_program"));
            }
        }
        "pkg_check_modules" | "pkg_search_module" => {
            // Of several that are searched one is enough.
            let firm = words.contains(&"REQUIRED") && call.name == "pkg_check_modules";
            let options = ["REQUIRED", "QUIET", "IMPORTED_TARGET", "GLOBAL", "NO_CMAKE_PATH", "NO_CMAKE_ENVIRONMENT_PATH"];
            for word in words.iter().skip(1).filter(|word| !options.contains(word) && !word.contains('$')) {
                let (name, range) = super::with_range(word);
                said.library(name, if firm { Pinned } else { Mentioned }, (line, &*call.name, range));
            }
        }
        _ => {}
    }
}

fn languages(words: &[&str], line: usize, said: &StatementSink, file: &Source<'_>) {
    let keywords = ["VERSION", "DESCRIPTION", "HOMEPAGE_URL", "LANGUAGES", "COMPAT_VERSION"];
    let listed = words.iter().position(|word| *word == "LANGUAGES");
    let rest: Vec<&str> = match listed {
        Some(at) => words.get(at + 1..).unwrap_or_default().iter().copied().take_while(|word| !keywords.contains(word)).collect(),
        None if words.iter().any(|word| keywords.contains(word)) => Vec::new(),
        None => words.get(1..).unwrap_or_default().to_vec(),
    };
    // A part of a larger project is told by that.
    if file.names.has_above(file.path, "CMakeLists.txt") {
        return;
    }
    let rest = if rest.is_empty() { vec!["C", "CXX"] } else { rest };
    for language in rest {
        compiler(language, line, said);
    }
}

fn compiler(language: &str, line: usize, said: &StatementSink) {
    let tool = match language {
        "C" => "cc",
        "CXX" => "c++",
        "Fortran" => "gfortran",
        "CUDA" => "nvcc",
        "Swift" => "swift",
        "ASM_NASM" => "nasm",
        _ => return,
    };
    said.tool(tool, Pinned, (line, "languages"));
}

/// Packages that are programs, and what they are called.
const PROGRAMS: [(&str, &str); 14] = [
    ("PkgConfig", "pkg-config"),
    ("Doxygen", "doxygen"),
    ("Python3", "python3"),
    ("Python", "python3"),
    ("PythonInterp", "python3"),
    ("Perl", "perl"),
    ("Git", "git"),
    ("BISON", "bison"),
    ("FLEX", "flex"),
    ("SWIG", "swig"),
    ("Gettext", "msgfmt"),
    ("Java", "javac"),
    ("Ruby", "ruby"),
    ("Sphinx", "sphinx-build"),
];

fn package(words: &[&str], line: usize, said: &StatementSink) {
    let Some((name, rest)) = words.split_first() else { return };
    if name.contains('$') {
        return;
    }
    let firmness = if rest.contains(&"REQUIRED") { Pinned } else { Mentioned };
    let range = rest.first().filter(|word| is_version(word.split("...").next().unwrap_or_default()));
    let range = range.and_then(|text| super::at_least(text.split("...").next().unwrap_or_default()));
    let how = (line, "find_package", range);
    if let Some((_, program)) = PROGRAMS.iter().find(|(one, _)| one == name) {
        // Headers and libraries of it are another thing than the program.
        let only_to_compile = rest.iter().any(|word| word.starts_with("Development")) && !rest.contains(&"Interpreter");
        if !only_to_compile {
            said.tool(program, firmness, how);
        }
        if rest.iter().any(|word| word.starts_with("Development")) && name.starts_with("Python") {
            said.topic(setup_ready_core::statement::Topic::Headers(setup_ready_core::guide::Language::Python), firmness, line);
        }
    } else if let Some(library) = libraries::found_as(name) {
        said.library(library.name, firmness, how);
    }
}

/// `CMakePresets.json` (cmake-presets(7)): the oldest that reads it, and what it builds with.
pub(super) fn presets(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = json(file.text)?;
    if let Some(entry) = tree.entry("cmakeMinimumRequired") {
        let part = |key: &str| entry.node.get(key).and_then(Node::text).unwrap_or("0").to_owned();
        let version = format!("{}.{}.{}", part("major"), part("minor"), part("patch"));
        said.tool("cmake", Pinned, (entry.line, "cmakeMinimumRequired", super::at_least(&version)));
    }
    for preset in tree.get("configurePresets").map(Node::items).unwrap_or_default() {
        if preset.get("condition").is_none()
            && let Some(entry) = preset.entry("generator")
            && entry.node.text().is_some_and(|text| text.starts_with("Ninja"))
        {
            said.tool("ninja", Used, (entry.line, "generator"));
        }
    }
    Ok(())
}
