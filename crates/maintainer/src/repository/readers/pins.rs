//! Files that do nothing but pin versions.

use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::Confidence::Pinned;
use setup_ready_observe::pinned::ranges::exact_or_series;

/// A file for one tool, whose name says which.
pub(super) fn of_one(file: &Source<'_>, said: &StatementSink) -> Read {
    let tool = match file.name() {
        ".nvmrc" | ".node-version" => "node",
        ".python-version" => "python3",
        ".ruby-version" => "ruby",
        ".java-version" => "java",
        ".go-version" => "go",
        ".terraform-version" => "terraform",
        _ => return Ok(()),
    };
    if let Some((text, line)) = super::first_line(file.text) {
        let version = text.strip_prefix("ruby-").unwrap_or(text);
        said.tool(tool, Pinned, (line, "", exact_or_series(version)));
    }
    Ok(())
}

/// `.tool-versions`: a tool and its versions in each line; the first is used, the others do too.
pub(super) fn of_several(file: &Source<'_>, said: &StatementSink) -> Read {
    for (line, text) in (1..).zip(file.text.lines()) {
        let mut words = text.split('#').next().unwrap_or_default().split_whitespace();
        let Some(name) = words.next() else { continue };
        let tool = match name {
            "nodejs" => "node",
            "python" => "python3",
            "golang" => "go",
            "erlang" => "erl",
            "rust" => "rustc",
            "maven" => "mvn",
            other => other,
        };
        // A maker's name may stand in front, and another program's release behind.
        let plain = |word: &str| {
            let start = word.find(|c: char| c.is_ascii_digit())?;
            let vendor = word.get(..start)?;
            (vendor.is_empty() || vendor.ends_with('-'))
                .then(|| word.get(start..))
                .flatten()
                .map(|text| text.split(['-', '+']).next().unwrap_or(text).to_owned())
        };
        let versions: Option<Vec<String>> = words.map(|word| plain(word).and_then(|version| exact_or_series(&version))).collect();
        said.tool(tool, Pinned, (line, name, versions.map(|all| all.join(" || "))));
    }
    Ok(())
}
