//! Text within Markdown (CommonMark): what it would take for markup stays what it is.

use super::plan::line;
use std::io::{self, Write};

/// Anybody's text as one line of plain text.
pub fn plain(text: &str) -> String {
    let escaped = line(text).chars().fold(String::new(), |mut plain, c| {
        if "\\`*_[]<>#|&".contains(c) {
            plain.push('\\');
        }
        plain.push(c);
        plain
    });
    // At the beginning of a line these would begin a list.
    if escaped.starts_with(['-', '+']) { format!("\\{escaped}") } else { escaped }
}

/// Anybody's text as code within a line.
pub fn code(text: &str) -> String {
    let text = line(text);
    let fence = "`".repeat(longest_run(&text, '`') + 1);
    let pad = if text.starts_with('`') || text.ends_with('`') { " " } else { "" };
    format!("{fence}{pad}{text}{pad}{fence}")
}

/// How often a character stands in a row, at most.
pub fn longest_run(text: &str, c: char) -> usize {
    text.split(|other| other != c).map(str::len).max().unwrap_or(0)
}

/// Lines as a block to be copied, within a list that is indented so far.
pub fn block(writer: &mut dyn Write, indent: &str, lines: &[&String]) -> io::Result<()> {
    // Longer than any in the text (CommonMark, 4.5).
    let fence = "`".repeat(lines.iter().map(|text| longest_run(text, '`')).max().unwrap_or(0).max(3) + 1);
    writeln!(writer, "\n{indent}{fence}")?;
    for text in lines.iter().flat_map(|text| text.lines()) {
        writeln!(writer, "{indent}{}", line(text))?;
    }
    writeln!(writer, "{indent}{fence}\n")
}
