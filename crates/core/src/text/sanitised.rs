use core::fmt::{self, Display, Write};

/// Displays a stranger's text so that it cannot act on a terminal.
///
/// Control characters (escape sequences included), characters that reorder text (bidirectional overrides) and invisible
/// ones are written as `\x1b` or `\u{202e}`. Line ends and tabs stay, or become one space with [`Sanitised::line`].
#[derive(Debug, Clone, Copy)]
pub struct Sanitised<'t> {
    text: &'t str,
    breaks: Breaks,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Breaks {
    Keep,
    Fold,
}

impl<'t> Sanitised<'t> {
    /// Keeps line ends and tabs.
    pub fn lines(text: &'t str) -> Self {
        Self { text, breaks: Breaks::Keep }
    }

    /// Shows everything on one line.
    pub fn line(text: &'t str) -> Self {
        Self { text, breaks: Breaks::Fold }
    }
}

fn is_hidden(c: char) -> bool {
    // Unicode general categories Cc and the parts of Cf that hide or reorder text (UAX #9, UTS #39).
    c.is_control()
        || matches!(c, '\u{ad}' | '\u{61c}' | '\u{200b}'..='\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}' | '\u{fff9}'..='\u{fffb}' | '\u{e0000}'..='\u{e007f}')
}

impl Display for Sanitised<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for c in self.text.chars() {
            match c {
                '\n' | '\t' if self.breaks == Breaks::Keep => f.write_char(c)?,
                '\n' | '\t' => f.write_char(' ')?,
                '\r' => {}
                _ if (c as u32) < 0x100 && is_hidden(c) => write!(f, "\\x{:02x}", c as u32)?,
                _ if is_hidden(c) => write!(f, "\\u{{{:x}}}", c as u32)?,
                _ => f.write_char(c)?,
            }
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::Sanitised;
    use crate::prelude::*;
    use rstest::rstest;

    #[rstest]
    #[case::an_escape_sequence("\u{1b}[31mred", r"\x1b[31mred")]
    #[case::a_bell_and_a_backspace("a\u{7}b\u{8}", r"a\x07b\x08")]
    #[case::a_direction_override("abc\u{202e}fed", r"abc\u{202e}fed")]
    #[case::a_one_byte_sequence_starter("\u{9b}2J", r"\x9b2J")]
    #[case::plain_letters_of_any_script("Überbrückung 浮標", "Überbrückung 浮標")]
    #[case::line_ends("one\r\ntwo\tthree", "one two three")]
    fn shows_what_would_act(#[case] text: &str, #[case] shown: &str) {
        assert_eq!(Sanitised::line(text).to_string(), shown);
    }
}
