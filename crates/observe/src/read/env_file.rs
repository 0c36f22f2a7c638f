//! `.env`-style files: what sets a variable, and in which lines.

use std::ops::RangeInclusive;

/// One variable that a `.env`-style file sets.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct EnvEntry<'t> {
    /// The variable.
    pub name: &'t str,
    /// Its value, without quotes; nothing in it is expanded.
    pub value: String,
    /// The numbers of its lines, from 1: a value in quotes may go on over several.
    pub lines: RangeInclusive<usize>,
}

impl EnvEntry<'_> {
    /// The number of its line, where it has no other: only such a line can be replaced alone.
    pub fn only_line(&self) -> Option<usize> {
        (self.lines.start() == self.lines.end()).then_some(*self.lines.start())
    }
}

/// The variables that a `.env`-style file sets, in its order. Quotes, `export`, blank lines and comments are understood. What stands in a value
/// of several lines (a private key, say) sets nothing, however much it looks like it.
pub fn env_entries(text: &str) -> impl Iterator<Item = EnvEntry<'_>> {
    let mut lines = Lines { rest: text, number: 0 };
    std::iter::from_fn(move || {
        while let Some(line) = lines.next() {
            if let Some(entry) = entry(line, &mut lines) {
                return Some(entry);
            }
        }
        None
    })
}

/// Whether a file has what only some of its readers pass over: line ends of Windows, or the mark that some editors put before a text.
pub fn is_of_another_system(text: &str) -> bool {
    text.starts_with('\u{feff}') || text.contains("\r\n")
}

/// What sets a variable in a `.env`-style file; the last one wins.
pub fn env_value<'t>(text: &'t str, name: &str) -> Option<EnvEntry<'t>> {
    env_entries(text).filter(|entry| entry.name == name).last()
}

/// What is still to be read of a text, and how many lines were.
struct Lines<'t> {
    rest: &'t str,
    number: usize,
}

impl<'t> Lines<'t> {
    fn next(&mut self) -> Option<&'t str> {
        if self.rest.is_empty() {
            return None;
        }
        self.number += 1;
        let (line, rest) = self.rest.split_once('\n').unwrap_or((self.rest, ""));
        self.rest = rest;
        Some(line)
    }
}

/// What a line sets, with those behind it over which its value goes on.
fn entry<'t>(line: &'t str, lines: &mut Lines<'t>) -> Option<EnvEntry<'t>> {
    let line = line.trim_start_matches('\u{feff}').trim();
    let first = lines.number;
    let line = line.strip_prefix("export ").map_or(line, str::trim_start);
    let (name, value) = line.split_once('=').filter(|_| !line.starts_with('#'))?;
    let value = value.trim();
    let value = match value.strip_prefix(['"', '\'']).zip(value.chars().next()) {
        Some((inner, quote)) => quoted(inner, quote, lines),
        // A comment starts at a hash behind a space, so that colours and addresses with a hash survive.
        None => value.split_once(" #").map_or(value, |(value, _)| value.trim_end()).to_owned(),
    };
    Some(EnvEntry { name: name.trim_end(), value, lines: first..=lines.number })
}

/// A value behind its opening quote. Where nothing closes it, it ends with its line: whoever reads it then reads it in their own way.
///
/// It stays linear: where a quote has no end in the whole rest of a text, there is no second one of its sort that could be opened.
fn quoted(inner: &str, quote: char, lines: &mut Lines<'_>) -> String {
    if let Some(end) = closing(inner, quote) {
        return inner.get(..end).unwrap_or_default().to_owned();
    }
    let Some(end) = closing(lines.rest, quote) else { return inner.to_owned() };
    let more = lines.rest.get(..end).unwrap_or_default();
    for _ in 0..=more.matches('\n').count() {
        lines.next();
    }
    format!("{inner}\n{more}")
}

/// Where a quote ends. In double quotes a backslash takes its meaning from the next character.
fn closing(text: &str, quote: char) -> Option<usize> {
    let mut escaped = false;
    text.char_indices().find_map(|(at, c)| {
        let ends = c == quote && !escaped;
        escaped = quote == '"' && c == '\\' && !escaped;
        ends.then_some(at)
    })
}

#[cfg(test)]
mod tests {
    use super::env_value;
    use rstest::rstest;

    #[rstest]
    #[case::plain("SHORE_PORT=7070", Some("7070"))]
    #[case::exported("export SHORE_PORT=7071", Some("7071"))]
    #[case::quoted("SHORE_PORT = \"7072\" # the page", Some("7072"))]
    #[case::single_quotes("SHORE_PORT='70 73'", Some("70 73"))]
    #[case::a_comment_after("SHORE_PORT=7074 # the page", Some("7074"))]
    #[case::a_hash_inside("SHORE_PORT=#70", Some("#70"))]
    #[case::the_last_one_wins("SHORE_PORT=1\nSHORE_PORT=2\n", Some("2"))]
    #[case::set_to_nothing("SHORE_PORT=", Some(""))]
    #[case::commented_out("#SHORE_PORT=1", None)]
    #[case::another_key("MY_SHORE_PORT=1", None)]
    #[case::inside_a_key("KEY=\"-----BEGIN\nSHORE_PORT=8\n-----END\"\n", None)]
    #[case::inside_single_quotes("KEY='\nSHORE_PORT=8\n'\n", None)]
    #[case::behind_a_key("KEY=\"a\nSHORE_PORT=8\nb\"\nSHORE_PORT=9\n", Some("9"))]
    #[case::an_escaped_quote_does_not_end_a_key("KEY=\"a \\\"\nSHORE_PORT=8\nb\"\n", None)]
    #[case::a_quote_that_nothing_closes("KEY=\"a\nSHORE_PORT=8\n", Some("8"))]
    #[case::of_several_lines("SHORE_PORT=\"8\n9\"\n", Some("8\n9"))]
    fn values_are_read_as_shells_do(#[case] text: &str, #[case] value: Option<&str>) {
        assert_eq!(env_value(text, "SHORE_PORT").map(|entry| entry.value).as_deref(), value);
    }

    #[rstest]
    #[case::alone("A=1\nB=2\nC=3\n", Some(2))]
    #[case::behind_one_of_several_lines("A=\"1\n\n\"\nB=2\n", Some(4))]
    #[case::of_several_lines("A=1\nB='2\n3'\n", None)]
    fn only_what_has_a_line_of_its_own_can_be_replaced(#[case] text: &str, #[case] line: Option<usize>) {
        assert_eq!(env_value(text, "B").unwrap().only_line(), line);
    }
}
