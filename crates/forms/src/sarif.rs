//! What every SARIF 2.1.0 (OASIS) has: places in texts.

use serde_json::{Value, json};
use setup_ready_core::problem::position;
use std::ops::Range;

/// The lines and columns of a span of a text.
pub fn region(text: &str, span: &Range<usize>) -> Value {
    let ((line, column), (end_line, end_column)) = (position(text, span.start), position(text, span.end.max(span.start)));
    json!({ "startLine": line, "startColumn": column, "endLine": end_line, "endColumn": end_column })
}

/// A value as text, ending with a line end.
pub fn written(value: &Value) -> String {
    // A value that is made here can always be written.
    serde_json::to_string_pretty(value).map(|text| text + "\n").unwrap_or_default()
}

/// A path as a reference from the root of the repository: what has a meaning of its own there is written by its number. Where a path begins at the
/// root of the machine, it says where somebody's files lie, and no code host knows that: then its last name is left.
pub fn reference(path: &str) -> String {
    let plain = |byte: u8| byte.is_ascii_alphanumeric() || b"-._~/".contains(&byte);
    let path = path.replace('\\', "/");
    let from_root = path.starts_with('/') || path.get(1..2) == Some(":") || path.split('/').any(|part| part == "..");
    let path = if from_root { path.rsplit('/').next().unwrap_or_default() } else { path.trim_start_matches("./") };
    path.bytes().map(|byte| if plain(byte) { char::from(byte).to_string() } else { format!("%{byte:02X}") }).collect()
}

/// A region of a file, by its reference.
pub fn place(uri: &str, region: &Value) -> Value {
    json!({ "physicalLocation": { "artifactLocation": { "uri": uri }, "region": region } })
}
