use core::fmt::{self, Display, Write};
use unicode_properties::{GeneralCategory, UnicodeGeneralCategory};

/// Displays a stranger's text so that it cannot act on a terminal.
///
/// Control characters (escape sequences included), characters that reorder text (bidirectional overrides), invisible ones, blanks that are no plain
/// space, private ones and heaps of accents are written as `\x1b` or `\u{202e}`. Line ends and tabs stay, become one space with [`Sanitised::line`], or
/// are made visible too with [`Sanitised::command`].
#[derive(Debug, Clone, Copy)]
pub struct Sanitised<'t> {
    text: &'t str,
    breaks: Breaks,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Breaks {
    Keep,
    Fold,
    Show,
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

    /// Shows everything on one line, and line ends as what they are: in a command they are no spaces.
    pub fn command(text: &'t str) -> Self {
        Self { text, breaks: Breaks::Show }
    }
}

impl Sanitised<'_> {
    /// Whether a character is made visible: it acts on a terminal, is not drawn, or is not what it looks like.
    pub fn hides(c: char) -> bool {
        is_hidden(c)
    }

    /// Whether a character is put on the letter before it, of which only a few are writing.
    pub fn piles_up(c: char) -> bool {
        is_accent(c)
    }
}

/// More accents than this on one letter are not writing any more.
pub const MOST_ACCENTS: usize = 4;

/// What is not drawn, acts, or is not what it looks like: by Unicode's general categories (UAX #44), its property
/// `Default_Ignorable_Code_Point`, and the empty Braille pattern.
fn is_hidden(c: char) -> bool {
    use GeneralCategory::{
        Control, Format, LineSeparator, ParagraphSeparator, PrivateUse, SpaceSeparator, Surrogate, Unassigned,
    };
    if c.is_ascii() {
        return c.is_ascii_control();
    }
    let acts = matches!(
        c.general_category(),
        Control | Format | LineSeparator | ParagraphSeparator | PrivateUse | SpaceSeparator | Surrogate | Unassigned
    );
    acts || matches!(c,
        '\u{34f}' | '\u{115f}'..='\u{1160}' | '\u{17b4}'..='\u{17b5}' | '\u{180b}'..='\u{180f}' | '\u{2800}' | '\u{3164}' | '\u{fe00}'..='\u{fe0f}'
        | '\u{ffa0}' | '\u{e0000}'..='\u{e0fff}')
}

/// What is put on the letter before it.
fn is_accent(c: char) -> bool {
    !c.is_ascii() && matches!(c.general_category(), GeneralCategory::NonspacingMark | GeneralCategory::EnclosingMark)
}

impl Display for Sanitised<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut accents = 0;
        let mut rest = self.text.chars().peekable();
        while let Some(c) = rest.next() {
            accents = if is_accent(c) { accents + 1 } else { 0 };
            match (c, self.breaks) {
                ('\n' | '\t', Breaks::Keep) => f.write_char(c)?,
                ('\n' | '\t', Breaks::Fold) => f.write_char(' ')?,
                ('\n', Breaks::Show) => f.write_str("\\n")?,
                ('\t', Breaks::Show) => f.write_str("\\t")?,
                // As other systems end lines; alone it would hide what stands before it.
                ('\r', Breaks::Keep | Breaks::Fold) if rest.peek() == Some(&'\n') => {}
                _ if accents > MOST_ACCENTS => write!(f, "\\u{{{:x}}}", c as u32)?,
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
    use proptest::prelude::*;
    use rstest::rstest;

    #[rstest]
    #[case::an_escape_sequence("\u{1b}[31mred", r"\x1b[31mred")]
    #[case::a_bell_and_a_backspace("a\u{7}b\u{8}", r"a\x07b\x08")]
    #[case::a_direction_override("abc\u{202e}fed", r"abc\u{202e}fed")]
    #[case::a_one_byte_sequence_starter("\u{9b}2J", r"\x9b2J")]
    #[case::plain_letters_of_any_script("Überbrückung 浮標", "Überbrückung 浮標")]
    #[case::line_ends("one\r\ntwo\tthree", "one two three")]
    #[case::a_return_that_would_hide_a_word("rm -r /\rls", r"rm -r /\x0dls")]
    #[case::blanks_that_are_no_spaces("a\u{a0}b\u{2800}c\u{3164}d", r"a\xa0b\u{2800}c\u{3164}d")]
    #[case::a_variation_and_a_tag("a\u{fe0f}b\u{e0101}", r"a\u{fe0f}b\u{e0101}")]
    #[case::what_is_private("\u{e0a0}\u{10ffff}\u{fdd0}", r"\u{e0a0}\u{10ffff}\u{fdd0}")]
    #[case::a_heap_of_accents("e\u{301}\u{301}\u{301}\u{301}\u{301}", "e\u{301}\u{301}\u{301}\u{301}\\u{301}")]
    fn shows_what_would_act(#[case] text: &str, #[case] shown: &str) {
        assert_eq!(Sanitised::line(text).to_string(), shown);
    }

    #[test]
    fn a_line_end_in_a_command_is_seen() {
        assert_eq!(Sanitised::command("echo a\r\nrm\tb").to_string(), r"echo a\x0d\nrm\tb");
    }

    proptest! {
        /// Written out by hand from Unicode's tables, beside the properties that the sieve goes by.
        #[test]
        fn no_character_of_the_classes_is_left(text in "(\\PC|[\\x00-\\x20\\u{7f}-\\u{a0}\\u{ad}\\u{34f}\\u{61c}\\u{115f}\\u{2000}-\\u{2070}\\u{2800}\\u{3164}\\u{e000}-\\u{e010}\\u{fe00}-\\u{fe0f}\\u{e0000}-\\u{e01ff}\\u{300}-\\u{310}]){0,60}") {
            let left = |c: char| matches!(c,
                '\0'..='\u{1f}' | '\u{7f}'..='\u{a0}' | '\u{ad}' | '\u{34f}' | '\u{61c}' | '\u{115f}'..='\u{1160}' | '\u{1680}' | '\u{17b4}'..='\u{17b5}'
                | '\u{180b}'..='\u{180e}' | '\u{2000}'..='\u{200f}' | '\u{2028}'..='\u{202f}' | '\u{205f}'..='\u{206f}' | '\u{2800}' | '\u{3000}' | '\u{3164}'
                | '\u{e000}'..='\u{f8ff}' | '\u{fe00}'..='\u{fe0f}' | '\u{feff}' | '\u{ffa0}' | '\u{fff0}'..='\u{fffb}' | '\u{1bca0}'..='\u{1bca3}'
                | '\u{1d173}'..='\u{1d17a}' | '\u{e0000}'..='\u{e0fff}' | '\u{f0000}'..);
            for shown in [Sanitised::line(&text).to_string(), Sanitised::command(&text).to_string()] {
                prop_assert!(!shown.chars().any(left), "{shown:?}");
                let heap = shown.chars().collect::<Vec<_>>().windows(5).any(|five| five.iter().all(|c| ('\u{300}'..='\u{36f}').contains(c)));
                prop_assert!(!heap, "{shown:?}");
            }
        }
    }
}
