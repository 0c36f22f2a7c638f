//! JSON in which what a reader could not see, or take for something else, is escaped.

use serde::Serialize;
use serde_json::ser::{Formatter, PrettyFormatter};
use setup_ready_core::text::{MOST_ACCENTS, Sanitised};
use std::io::{self, Write};

/// Writes a value as JSON. Every character that acts on a terminal, is not drawn, or is not what it looks like is a `\u` escape (RFC 8259, 7).
///
/// # Errors
/// When the writer fails.
pub fn write_json(value: &impl Serialize, writer: impl Write) -> io::Result<()> {
    value.serialize(&mut serde_json::Serializer::with_formatter(writer, Escaping(PrettyFormatter::new())))?;
    Ok(())
}

/// A layout whose texts are escaped further than JSON itself needs.
struct Escaping<F>(F);

/// Hands every method on to the layout.
macro_rules! hand_on {
    ($($name:ident($($argument:ident: $type:ty),*);)+) => {
        $(#[inline]
        fn $name<W: ?Sized + Write>(&mut self, writer: &mut W, $($argument: $type),*) -> io::Result<()> {
            self.0.$name(writer, $($argument),*)
        })+
    };
}

impl<F: Formatter> Formatter for Escaping<F> {
    hand_on! {
        begin_array();
        end_array();
        begin_array_value(first: bool);
        end_array_value();
        begin_object();
        end_object();
        begin_object_key(first: bool);
        end_object_key();
        begin_object_value();
        end_object_value();
    }

    #[inline]
    fn write_string_fragment<W: ?Sized + Write>(&mut self, writer: &mut W, fragment: &str) -> io::Result<()> {
        if fragment.bytes().all(|byte| byte.is_ascii() && byte != 0x7f) {
            return writer.write_all(fragment.as_bytes());
        }
        escaped(writer, fragment)
    }
}

/// Writes a text with what cannot be seen as escapes.
fn escaped<W: ?Sized + Write>(writer: &mut W, text: &str) -> io::Result<()> {
    let mut accents = 0;
    for c in text.chars() {
        accents = if Sanitised::piles_up(c) { accents + 1 } else { 0 };
        if Sanitised::hides(c) || accents > MOST_ACCENTS {
            for unit in c.encode_utf16(&mut [0; 2]) {
                write!(writer, "\\u{unit:04x}")?;
            }
        } else {
            writer.write_all(c.encode_utf8(&mut [0; 4]).as_bytes())?;
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::write_json;

    #[test]
    fn what_cannot_be_seen_is_escaped_and_read_back_as_it_was() {
        let odd = "a\u{200b}\u{202e}\u{7f}\u{e0041}\u{f8ff}e\u{301}\u{301}\u{301}\u{301}\u{301}Ü浮";
        let mut bytes = Vec::new();
        write_json(&odd, &mut bytes).unwrap();
        let text = String::from_utf8(bytes).unwrap();
        assert_eq!(text, "\"a\\u200b\\u202e\\u007f\\udb40\\udc41\\uf8ffe\u{301}\u{301}\u{301}\u{301}\\u0301Ü浮\"");
        assert_eq!(serde_json::from_str::<String>(&text).unwrap(), odd);
    }
}
