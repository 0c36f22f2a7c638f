//! The words of a POSIX shell's text, with the lines that they stand on (POSIX.1-2024, 2.3 Token Recognition), and what they expand to.

use std::collections::HashMap;

/// A word or a sign.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Token<'t> {
    pub(super) text: &'t str,
    pub(super) line: usize,
    /// It is one of the signs between commands, and not a word.
    pub(super) sign: bool,
}

/// More are not read of one file.
const MOST_TOKENS: usize = 20_000;

/// The words and signs of a text; comments are left out, and a line that goes on (`\` at its end) is one.
pub(super) fn tokens(text: &str) -> Vec<Token<'_>> {
    let bytes = text.as_bytes();
    let (mut found, mut at, mut line) = (Vec::new(), 0, 1);
    while at < bytes.len() && found.len() < MOST_TOKENS {
        let sign = |length: usize| Token { text: text.get(at..at + length).unwrap_or(""), line, sign: true };
        match bytes.get(at..).unwrap_or_default() {
            [b'\n', ..] => {
                found.push(sign(1));
                line += 1;
                at += 1;
            }
            [b'\\', b'\n', ..] => {
                line += 1;
                at += 2;
            }
            [b' ' | b'\t' | b'\r' | b'<' | b'>', ..] => at += 1,
            [b'#', ..] => at += bytes.get(at..).unwrap_or_default().iter().take_while(|byte| **byte != b'\n').count(),
            [b';', b';', ..] | [b'&', b'&', ..] | [b'|', b'|', ..] => {
                found.push(sign(2));
                at += 2;
            }
            [b';' | b'&' | b'|' | b'(' | b')', ..] => {
                found.push(sign(1));
                at += 1;
            }
            _ => {
                let length = word(bytes.get(at..).unwrap_or_default()).max(1);
                let text = text.get(at..at + length).unwrap_or("");
                found.push(Token { text, line, sign: false });
                line += text.matches('\n').count();
                at += length;
            }
        }
    }
    found
}

/// How long a word is.
fn word(bytes: &[u8]) -> usize {
    let (mut at, mut depth) = (0, 0_usize);
    while let Some(byte) = bytes.get(at) {
        match byte {
            b'\\' => at += 1,
            b'\'' if depth == 0 => {
                at += 1 + bytes.get(at + 1..).unwrap_or_default().iter().take_while(|byte| **byte != b'\'').count();
            }
            b'"' if depth == 0 => at += 1 + inside(bytes.get(at + 1..).unwrap_or_default()),
            b'$' if matches!(bytes.get(at + 1), Some(b'(' | b'{')) => {
                depth += 1;
                at += 1;
            }
            b')' | b'}' if depth > 0 => depth -= 1,
            b'`' if depth == 0 => {
                at += 1 + bytes.get(at + 1..).unwrap_or_default().iter().take_while(|byte| **byte != b'`').count();
            }
            b' ' | b'\t' | b'\r' | b'\n' | b';' | b'&' | b'|' | b'(' | b')' | b'<' | b'>' if depth == 0 => break,
            _ => {}
        }
        at += 1;
    }
    at.min(bytes.len())
}

/// Up to the quotation mark that ends.
fn inside(bytes: &[u8]) -> usize {
    let mut at = 0;
    while let Some(byte) = bytes.get(at).filter(|byte| **byte != b'"') {
        at += if *byte == b'\\' { 2 } else { 1 };
    }
    at
}

/// What a word comes to; `None` where it holds something that only running it would tell.
pub(super) fn expand(word: &str, values: &HashMap<String, Option<String>>) -> Option<String> {
    let mut all = String::new();
    let mut rest = word;
    if rest == "~" || rest.starts_with("~/") {
        all.push_str(values.get("HOME")?.as_deref()?);
        rest = rest.get(1..)?;
    }
    let mut quoted = false;
    while let Some(first) = rest.chars().next() {
        let after = rest.get(first.len_utf8()..)?;
        match first {
            '\'' if !quoted => {
                let (inner, behind) = after.split_once('\'')?;
                all.push_str(inner);
                rest = behind;
            }
            '"' => {
                quoted = !quoted;
                rest = after;
            }
            '\\' => {
                all.extend(after.chars().next());
                rest = after.get(after.chars().next().map_or(0, char::len_utf8)..)?;
            }
            '`' => return None,
            '$' => {
                let (value, behind) = variable(after, values)?;
                all.push_str(&value);
                rest = behind;
            }
            _ => {
                all.push(first);
                rest = after;
            }
        }
    }
    Some(all)
}

/// The value of a variable behind a `$`, and what follows it. One that nothing sets is empty.
fn variable<'t>(text: &'t str, values: &HashMap<String, Option<String>>) -> Option<(String, &'t str)> {
    let value = |name: &str| match values.get(name) {
        Some(Some(value)) => Some(value.clone()),
        // Whether the environment has it is not known.
        Some(None) if ["PS1", "BASH_VERSION", "ZSH_VERSION"].contains(&name) => Some(String::new()),
        Some(None) | None => None,
    };
    if let Some(inner) = text.strip_prefix('{') {
        let (inner, behind) = inner.split_once('}')?;
        if let Some((name, other)) = inner.split_once(":-").or_else(|| inner.split_once('-')) {
            return Some((value(name).filter(|value| !value.is_empty()).unwrap_or_else(|| other.to_owned()), behind));
        }
        return inner
            .chars()
            .all(|c| c.is_alphanumeric() || c == '_')
            .then(|| value(inner))
            .flatten()
            .map(|value| (value, behind));
    }
    if let Some(behind) = text.strip_prefix('-') {
        return Some((value("-")?, behind));
    }
    let end = text.find(|c: char| !(c.is_ascii_alphanumeric() || c == '_')).unwrap_or(text.len());
    if end == 0 {
        return None;
    }
    Some((value(text.get(..end)?)?, text.get(end..)?))
}
