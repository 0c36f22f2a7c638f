//! A sheet that text is laid out on. Whatever comes from outside is made harmless here, and nowhere else.

use super::{Colour, OutputStyle};
use anstyle::{AnsiColor, Style};
use setup_ready_core::text::Sanitised;
use std::fmt::Write;

/// What a piece of text is, which decides how it looks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Tone {
    /// Text to read.
    Body,
    /// A heading.
    Heading,
    /// Something that must be dealt with.
    Loud,
    /// Something that nobody knows.
    Unsure,
    /// Something to read only if one wants to.
    Quiet,
    /// Something good at the end.
    Good,
    /// Something to type, or a name to notice.
    Strong,
}

impl Tone {
    pub(crate) fn style(self) -> Style {
        match self {
            Self::Body => Style::new(),
            Self::Heading => Style::new().bold().underline(),
            Self::Loud => Style::new().bold().fg_color(Some(AnsiColor::Magenta.into())),
            Self::Unsure => Style::new().bold().fg_color(Some(AnsiColor::Blue.into())),
            Self::Quiet => Style::new().dimmed(),
            Self::Good => Style::new().bold().invert(),
            Self::Strong => Style::new().bold(),
        }
    }
}

/// The sheet.
#[derive(Debug)]
pub(crate) struct TextLayout<'l> {
    look: &'l OutputStyle,
    color: Colour,
    text: String,
}

impl<'l> TextLayout<'l> {
    /// A sheet for standard output.
    pub(crate) fn new(look: &'l OutputStyle) -> Self {
        Self { look, color: look.color, text: String::new() }
    }

    /// A sheet for standard error.
    pub(crate) fn for_errors(look: &'l OutputStyle) -> Self {
        Self { look, color: look.error_color, text: String::new() }
    }

    /// How things look.
    pub(crate) fn look(&self) -> &'l OutputStyle {
        self.look
    }

    /// What was laid out.
    pub(crate) fn into_text(self) -> String {
        self.text
    }

    /// An empty line, unless there is one.
    pub(crate) fn gap(&mut self) {
        if !self.text.is_empty() && !self.text.ends_with("\n\n") {
            self.text.push('\n');
        }
    }

    /// A text that was made ready by somebody else.
    pub(crate) fn ready_made(&mut self, text: &str) {
        self.text.push_str(text);
    }

    /// A heading between empty lines.
    pub(crate) fn heading(&mut self, text: &str) {
        self.gap();
        self.block(0, text, Tone::Heading);
        self.gap();
    }

    /// A paragraph, indented and wrapped.
    pub(crate) fn block(&mut self, indent: usize, text: &str, tone: Tone) {
        self.hanging(&" ".repeat(indent), indent, (text, tone));
    }

    /// A paragraph whose first line starts with a label; the others are indented to where the text starts.
    pub(crate) fn labelled(&mut self, indent: usize, (label, label_ink): (&str, Tone), column: usize, body: (&str, Tone)) {
        let column = column.max(label.chars().count() + 1);
        let pad = " ".repeat(column - label.chars().count());
        let first = format!("{}{}{pad}", " ".repeat(indent), self.painted(label, label_ink));
        self.hanging(&first, indent + column, body);
    }

    fn hanging(&mut self, first: &str, indent: usize, (text, tone): (&str, Tone)) {
        let room = self.look.width.saturating_sub(indent).max(20);
        let clean = Sanitised::lines(text).to_string();
        let clean = if self.look.plain { ascii(&clean) } else { clean };
        let rest = " ".repeat(indent);
        let mut start = first;
        for paragraph in clean.split('\n') {
            for line in wrapped(paragraph, room) {
                let painted = self.paint_ready(line.trim_end(), tone);
                let _ = writeln!(self.text, "{}", format!("{start}{painted}").trim_end());
                start = &rest;
            }
        }
    }

    /// A line that is never wrapped, so that it can be copied as it stands.
    pub(crate) fn copyable(&mut self, indent: usize, text: &str) {
        let clean = Sanitised::command(text).to_string();
        let clean = if self.look.plain { ascii(&clean) } else { clean };
        let painted = self.paint_ready(&clean, Tone::Strong);
        let _ = writeln!(self.text, "{}{painted}", " ".repeat(indent));
    }

    /// A text made harmless and given its look.
    pub(crate) fn painted(&self, text: &str, tone: Tone) -> String {
        let clean = Sanitised::line(text).to_string();
        let clean = if self.look.plain { ascii(&clean) } else { clean };
        self.paint_ready(&clean, tone)
    }

    fn paint_ready(&self, text: &str, tone: Tone) -> String {
        let style = tone.style();
        if self.color == Colour::On && !text.is_empty() { format!("{style}{text}{style:#}") } else { text.to_owned() }
    }
}

/// Stands where a word that is longer than a line may be broken; outside text cannot hold it, since it is made visible there.
const BREAK: char = '\u{200b}';

/// The lines of a paragraph. Words stay whole; a path or an address that is longer than a line is broken behind its separators.
fn wrapped(paragraph: &str, room: usize) -> Vec<String> {
    let is_long = |word: &str| word.chars().count() > room;
    let marked: Vec<String> = paragraph
        .split(' ')
        .map(|word| {
            if is_long(word) {
                word.replace('/', &format!("/{BREAK}")).replace('\\', &format!("\\{BREAK}"))
            } else {
                word.to_owned()
            }
        })
        .collect();
    let options = textwrap::Options::new(room)
        .word_splitter(textwrap::WordSplitter::NoHyphenation)
        .word_separator(textwrap::WordSeparator::Custom(pieces));
    textwrap::wrap(&marked.join(" "), options).into_iter().map(|line| line.replace(BREAK, "")).collect()
}

/// What may stand on a line of its own: words, and the parts of long ones.
fn pieces(line: &str) -> Box<dyn Iterator<Item = textwrap::core::Word<'_>> + '_> {
    Box::new(textwrap::WordSeparator::AsciiSpace.find_words(line).flat_map(|word| line_parts(word.word, word.whitespace)))
}

fn line_parts<'w>(word: &'w str, space: &'w str) -> Vec<textwrap::core::Word<'w>> {
    let mut parts: Vec<textwrap::core::Word<'w>> = word.split_inclusive(BREAK).map(textwrap::core::Word::from).collect();
    if let Some(last) = parts.last_mut() {
        last.whitespace = space;
    } else {
        parts.push(textwrap::core::Word { whitespace: space, ..textwrap::core::Word::from(word) });
    }
    parts
}

/// Characters that not every terminal has, in ASCII.
fn ascii(text: &str) -> String {
    let mut plain = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '…' => plain.push_str("..."),
            '\u{2018}' | '\u{2019}' => plain.push('\''),
            '\u{201c}' | '\u{201d}' => plain.push('"'),
            '\u{2013}' | '\u{2014}' => plain.push('-'),
            _ if c.is_ascii() => plain.push(c),
            _ => {
                let _ = write!(plain, "\\u{{{:x}}}", c as u32);
            }
        }
    }
    plain
}

#[cfg(test)]
mod tests;
