//! What projects in Ruby, PHP and Elixir say of their interpreter.

use super::super::format::{Node, json};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::guide::Language;
use setup_ready_core::statement::Confidence::{Mentioned, Pinned, Used};
use setup_ready_observe::pinned::ranges::exact_or_series;

/// Gems that are compiled against a library.
const COMPILED: [(&str, &str); 8] = [
    ("pg", "libpq"),
    ("mysql2", "libmariadb"),
    ("sqlite3", "sqlite3"),
    ("rmagick", "ImageMagick"),
    ("ruby-vips", "vips"),
    ("curb", "libcurl"),
    ("charlock_holmes", "icu-i18n"),
    ("rugged", "libgit2"),
];

/// A `Gemfile` (Bundler's manual): the interpreter, and gems that are compiled. It is a program; only lines of the plain form are read.
pub(super) fn gemfile(file: &Source<'_>, said: &StatementSink) -> Read {
    if !file.names.has_above(file.path, "Gemfile") {
        said.tool("bundle", Used, 1);
    }
    for (line, text) in (1..).zip(file.text.lines()) {
        let text = text.trim();
        if let Some(rest) = text.strip_prefix("ruby ") {
            let all: Vec<&str> = rest.split(['"', '\'']).skip(1).step_by(2).collect();
            let bounds: Option<Vec<String>> = all.iter().map(|text| pessimistic(text)).collect();
            // A file that is named there says it itself.
            if let Some(bounds) = bounds.filter(|bounds| !bounds.is_empty() && !rest.trim_start().starts_with("file")) {
                said.tool("ruby", Pinned, (line, "ruby", Some(bounds.join(", "))));
            }
        } else if let Some(gem) = text.strip_prefix("gem ").and_then(|rest| rest.split(['"', '\'']).nth(1))
            && let Some((_, library)) = COMPILED.iter().find(|(one, _)| *one == gem)
        {
            said.library(library, Mentioned, (line, gem));
        }
    }
    Ok(())
}

/// `Gemfile.lock`: the bundler that wrote it.
pub(super) fn gem_lock(file: &Source<'_>, said: &StatementSink) -> Read {
    let mut lines = (1..).zip(file.text.lines());
    while let Some((_, text)) = lines.next() {
        if text.trim() == "BUNDLED WITH"
            && let Some((line, version)) = lines.next()
        {
            said.tool("bundle", Mentioned, (line, "BUNDLED WITH", super::at_least(version.trim())));
        }
    }
    Ok(())
}

/// `~> 3.2.0`: at least that, and the last part alone may rise (`Gem::Requirement`; Elixir's `Version` has the same).
fn pessimistic(text: &str) -> Option<String> {
    let Some(version) = text.trim().strip_prefix("~>") else {
        let signed = text.trim().starts_with(['<', '>', '=', '!']);
        return if signed { super::bound(text) } else { exact_or_series(text) };
    };
    let version = version.trim();
    let numbers: Vec<u64> = version.split('.').map(str::parse).collect::<Result<_, _>>().ok()?;
    let kept = numbers.len().checked_sub(1).filter(|kept| *kept > 0).unwrap_or(1);
    let mut end: Vec<u64> = numbers.iter().copied().take(kept).collect();
    if let Some(last) = end.last_mut() {
        *last = last.saturating_add(1);
    }
    let end = end.iter().map(ToString::to_string).collect::<Vec<_>>().join(".");
    Some(format!(">= {version}, < {end}"))
}

/// `composer.json` (Composer's schema): the interpreter and its extensions.
pub(super) fn composer(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = json(file.text)?;
    if !file.names.has_above(file.path, "composer.json") {
        said.tool("composer", Used, 1);
    }
    for (section, firmness) in [("require", Pinned), ("require-dev", Mentioned)] {
        for entry in tree.get(section).map(Node::entries).unwrap_or_default() {
            if entry.key == "php" {
                said.tool("php", firmness, (entry.line, "php", entry.node.text().and_then(composer_range)));
            } else if let Some(extension) = entry.key.strip_prefix("ext-") {
                said.module(Language::Php, extension, firmness, (entry.line, &*entry.key));
            }
        }
    }
    Ok(())
}

/// A range of Composer's: npm's, but for `~`, which lets the last part rise, and for a bar that may stand alone.
fn composer_range(text: &str) -> Option<String> {
    let alternatives = text.split('|').map(str::trim).filter(|one| !one.is_empty());
    let each = alternatives.map(|one| {
        let words = one.split([' ', ',']).filter(|word| !word.is_empty()).map(|word| match word.strip_prefix('~') {
            Some(version) => pessimistic(&format!("~>{version}")),
            None => setup_ready_observe::pinned::ranges::from_npm(word),
        });
        words.collect::<Option<Vec<_>>>().map(|all| all.join(", "))
    });
    each.collect::<Option<Vec<_>>>().map(|all| all.join(" || "))
}

/// `mix.exs`: `elixir: "~> 1.15"`. It is a program; only that word of the plain form is read.
pub(super) fn mix(file: &Source<'_>, said: &StatementSink) -> Read {
    for (line, text) in (1..).zip(file.text.lines()) {
        let text = text.trim();
        if let Some(rest) = text.strip_prefix("elixir:").map(str::trim) {
            let range = rest
                .split('"')
                .nth(1)
                .map(|text| text.split(" or ").map(pessimistic).collect::<Option<Vec<_>>>().map(|all| all.join(" || ")));
            said.tool("elixir", Pinned, (line, "elixir", range.flatten()));
            return Ok(());
        }
    }
    said.tool("elixir", Pinned, 1);
    Ok(())
}
