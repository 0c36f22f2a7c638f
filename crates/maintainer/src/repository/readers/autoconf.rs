//! `configure.ac` by its structure: macros with their bracketed arguments, and the shell's `if` blocks (the manual of Autoconf).

use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Mentioned, Pinned},
    Restriction,
};

/// A macro, with its arguments as they stand.
struct Macro<'t> {
    name: &'t str,
    line: usize,
    arguments: Vec<(&'t str, usize)>,
}

/// The arguments of the macro whose bracket opens at `open`, and where it closes.
fn arguments(text: &str, open: usize) -> (Vec<(&str, usize)>, usize) {
    let (mut found, mut depth, mut quotes) = (Vec::new(), 0_usize, 0_usize);
    let mut start = open + 1;
    for (at, c) in text.get(open..).unwrap_or_default().char_indices().map(|(at, c)| (at + open, c)) {
        match c {
            '[' => quotes += 1,
            ']' => quotes = quotes.saturating_sub(1),
            '(' if quotes == 0 => depth += 1,
            ')' if quotes == 0 => {
                depth = depth.saturating_sub(1);
                if depth == 0 {
                    found.push((text.get(start..at).unwrap_or_default(), start));
                    return (found, at + 1);
                }
            }
            ',' if quotes == 0 && depth == 1 => {
                found.push((text.get(start..at).unwrap_or_default(), start));
                start = at + 1;
            }
            _ => {}
        }
    }
    (Vec::new(), text.len())
}

/// Macros whose own text may hold others that count: the limit is their first argument.
const BLOCKS: [&str; 4] = ["AS_IF", "AS_CASE", "AC_ARG_WITH", "AC_ARG_ENABLE"];
/// So deep are macros looked into.
const DEEPEST: usize = 8;

pub(super) fn configure(file: &Source<'_>, said: &StatementSink) -> Read {
    // Where the script that it makes is shipped, nobody needs what makes it.
    let shipped = file.has_beside("configure");
    let clean = without_comments(file.text);
    within(&clean, 1, said, (shipped, 0));
    Ok(())
}

/// Comments as blanks, so that lines and places stay.
fn without_comments(text: &str) -> String {
    let mut clean = String::with_capacity(text.len());
    for line in text.split_inclusive('\n') {
        let word = |at: usize| {
            line.get(at..).is_some_and(|rest| {
                rest.starts_with("dnl") && !rest.get(3..).is_some_and(|after| after.starts_with(|c: char| c.is_alphanumeric()))
            })
        };
        let comment = line.char_indices().find(|(at, c)| {
            (*c == 'd'
                && word(*at)
                && line.get(..*at).is_some_and(|before| !before.ends_with(|c: char| c.is_alphanumeric() || c == '_')))
                || (*c == '#' && line.get(..*at).is_some_and(|before| before.trim().is_empty()))
        });
        match comment {
            Some((at, _)) => {
                clean.push_str(line.get(..at).unwrap_or_default());
                clean.push('\n');
            }
            None => clean.push_str(line),
        }
    }
    clean
}

fn within(text: &str, first_line: usize, said: &StatementSink, (shipped, depth): (bool, usize)) {
    let mut at = 0;
    let mut blocks: Vec<String> = Vec::new();
    let (mut line, mut counted) = (first_line, 0);
    while let Some(rest) = text.get(at..).filter(|rest| !rest.is_empty()) {
        let first = rest.chars().next().unwrap_or(' ');
        if !(first.is_ascii_alphabetic() || first == '_') {
            at += first.len_utf8();
            continue;
        }
        let end = rest.find(|c: char| !c.is_ascii_alphanumeric() && c != '_').unwrap_or(rest.len());
        let word = rest.get(..end).unwrap_or_default();
        line += text.get(counted..at).unwrap_or_default().matches('\n').count();
        counted = at;
        let starts_line = || {
            let before = text.get(..at).unwrap_or_default().trim_end_matches([' ', '\t']);
            before.is_empty() || before.ends_with(['\n', ';'])
        };
        match word {
            "if" | "case" if starts_line() => {
                let condition: &str = rest.get(end..).unwrap_or_default().lines().next().unwrap_or_default();
                let condition =
                    condition.trim().trim_end_matches("then").trim().trim_end_matches(';').trim_end_matches(" in").trim();
                blocks.push(condition.to_owned());
                at += end;
            }
            "fi" | "esac" if starts_line() => {
                blocks.pop();
                at += end;
            }
            name if is_macro(name) => {
                let (arguments, after) = if rest.get(end..).is_some_and(|next| next.starts_with('(')) {
                    arguments(text, at + end)
                } else {
                    (Vec::new(), at + end)
                };
                let limit = blocks.last().map(|condition| Restriction::Text(format!("where {condition}")));
                let one = Macro { name, line, arguments };
                said.only(limit, || {
                    tell(&one, said, shipped);
                    inner(&one, text, said, (shipped, depth));
                });
                at = after.max(at + end);
            }
            _ => at += end,
        }
    }
}

fn is_macro(name: &str) -> bool {
    ["AC_", "AM_", "AS_", "AX_", "PKG_", "LT_", "GTK_", "GETTEXT_"].iter().any(|start| name.starts_with(start))
}

/// What stands inside the arguments of a block holds only there.
fn inner(one: &Macro<'_>, text: &str, said: &StatementSink, (shipped, depth): (bool, usize)) {
    if !BLOCKS.contains(&one.name) || depth >= DEEPEST {
        return;
    }
    let condition = one.arguments.first().map_or("", |(first, _)| unquoted(first));
    let limit = Restriction::Text(if one.name == "AS_IF" { format!("where {condition}") } else { format!("with {condition}") });
    let first = one.arguments.first().map_or(0, |(_, at)| *at);
    for (argument, start) in one.arguments.iter().skip(1) {
        let line = one.line + text.get(first..*start).unwrap_or_default().matches('\n').count();
        said.only(Some(limit.clone()), || within(argument, line, said, (shipped, depth + 1)));
    }
}

fn unquoted(text: &str) -> &str {
    let text = text.trim();
    text.strip_prefix('[').and_then(|rest| rest.strip_suffix(']')).unwrap_or(text).trim()
}

fn tell(one: &Macro<'_>, said: &StatementSink, shipped: bool) {
    let argument = |at: usize| one.arguments.get(at).map(|(text, _)| unquoted(text)).filter(|text| !text.is_empty());
    let made = if shipped { Mentioned } else { Pinned };
    let how = |range: Option<String>| (one.line, one.name, range);
    match one.name {
        "AC_PREREQ" => said.tool("autoconf", made, how(argument(0).and_then(super::at_least))),
        "AM_INIT_AUTOMAKE" => {
            let version = argument(0).and_then(|text| text.split_whitespace().find_map(super::at_least));
            said.tool("automake", made, how(version));
        }
        "LT_INIT" | "AC_PROG_LIBTOOL" | "AM_PROG_LIBTOOL" => said.tool("libtoolize", made, how(None)),
        "AM_GNU_GETTEXT_VERSION" | "AM_GNU_GETTEXT_REQUIRE_VERSION" => {
            said.tool("autopoint", made, how(argument(0).and_then(super::at_least)));
        }
        "AC_PROG_CC" | "AC_PROG_CC_C99" | "AM_PROG_CC_C_O" => said.tool("cc", Pinned, how(None)),
        "AC_PROG_CXX" => said.tool("c++", Pinned, how(None)),
        "AC_PROG_FC" | "AC_PROG_F77" => said.tool("gfortran", Pinned, how(None)),
        "PKG_PROG_PKG_CONFIG" => said.tool("pkg-config", Pinned, how(argument(0).and_then(super::at_least))),
        // Releases have what these make.
        "AC_PROG_LEX" | "AM_PROG_LEX" => said.tool("flex", Mentioned, how(None)),
        "AC_PROG_YACC" => said.tool("bison", Mentioned, how(None)),
        "PKG_CHECK_MODULES" => {
            let firm = argument(3).is_none();
            modules(argument(1).unwrap_or_default(), said, one, firm);
        }
        "AC_PATH_PROG" | "AC_PATH_PROGS" | "AC_CHECK_PROG" | "AC_CHECK_PROGS" | "AC_CHECK_TOOL" | "AC_PATH_TOOL" => {
            if let Some(name) = argument(1).and_then(|names| names.split_whitespace().next()) {
                said.tool(name, Mentioned, how(None));
            }
        }
        _ => {}
    }
}

/// `glib-2.0 >= 2.40 gio-2.0`: names, each with a bound behind it or none.
fn modules(text: &str, said: &StatementSink, one: &Macro<'_>, firm: bool) {
    let mut words = text.split_whitespace().peekable();
    while let Some(name) = words.next() {
        let (name, mut range) = super::with_range(name);
        if let Some(sign) = words.next_if(|word| word.starts_with(['<', '>', '='])) {
            range = words.next().and_then(|version| super::bound(&format!("{sign}{version}")));
        }
        said.library(name, if firm { Pinned } else { Mentioned }, (one.line, "PKG_CHECK_MODULES", range));
    }
}
