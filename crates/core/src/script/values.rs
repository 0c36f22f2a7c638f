//! Texts of a guide as a shell reads them.

use crate::prelude::*;
use crate::text::{Pattern, Sanitised};

/// A text of the guide within single quotes of a shell, on one line.
pub(crate) fn quoted(text: &str) -> String {
    format!("'{}'", Sanitised::line(text).to_string().replace('\'', "'\\''"))
}

/// A path of the guide as the shell reads it.
pub(crate) fn place(path: &str) -> String {
    match path.strip_prefix('~') {
        Some("") => "\"$HOME\"".to_owned(),
        Some(rest) if rest.starts_with('/') => format!("\"$HOME\"{}", quoted(rest)),
        _ => quoted(path),
    }
}

/// A pattern that means one text and nothing else.
pub(crate) fn literal(pattern: &Pattern) -> Option<&str> {
    let text = pattern.source();
    let plain = |c: char| c.is_ascii_alphanumeric() || " _-/:=,;@%&~<>\"'!".contains(c);
    (!text.is_empty() && text.chars().all(plain)).then_some(text)
}

/// A pattern that awk takes for the same (POSIX, extended regular expressions) in a text of one line.
pub(crate) fn extended(pattern: &Pattern) -> Option<&str> {
    let text = pattern.source();
    let plain = |c: char| c.is_ascii_alphanumeric() || " _-/:=,;@%~<>!^$()|[].*+?".contains(c);
    let odd = ["(?", "*?", "+?", "??", "**", "[[", "[:", "--", "~~", "^*", "(*", "|*", "()", "||", "(|", "|)", "^+", "^?"];
    let whole = text.chars().all(plain) && !odd.iter().any(|odd| text.contains(odd)) && !text.is_empty();
    // A bracket within brackets, or a class that is left open, reads otherwise there.
    let brackets = text.split('[').skip(1).all(|part| part.contains(']') && !part.starts_with(']') && !part.starts_with("^]"));
    (whole && brackets).then_some(text)
}

/// Variables that shells set or change by themselves.
const OF_SHELLS: [&str; 12] =
    ["PWD", "OLDPWD", "SHLVL", "_", "IFS", "PPID", "OPTIND", "RANDOM", "SECONDS", "LINENO", "COLUMNS", "LINES"];

/// A variable that a shell has from its environment alone.
pub(crate) fn is_plain_variable(name: &str) -> bool {
    let plain = name.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'_');
    plain && !name.is_empty() && !name.starts_with(|c: char| c.is_ascii_digit()) && !OF_SHELLS.contains(&name)
}

/// A file of the project, or none.
pub(crate) fn is_inside(file: &str) -> bool {
    file.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"._-/".contains(&byte))
        && !file.starts_with('/')
        && !file.contains("..")
}
