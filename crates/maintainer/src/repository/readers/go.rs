use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::Confidence::{Mentioned, Pinned};

/// Modules that are compiled from C.
const COMPILED: [&str; 4] =
    ["github.com/mattn/go-sqlite3", "github.com/go-gl/gl", "github.com/go-gl/glfw", "github.com/google/gopacket"];

/// `go.mod` and `go.work` (the reference of Go's modules): the language's version is the oldest that does, by itself.
pub(super) fn module(file: &Source<'_>, said: &StatementSink) -> Read {
    for (line, text) in (1..).zip(file.text.lines()) {
        let code = text.split("//").next().unwrap_or_default().trim();
        let mut words = code.split_whitespace();
        match (words.next(), words.next()) {
            (Some("go"), Some(version)) => said.tool("go", Pinned, (line, "go", super::at_least(version))),
            (Some("require"), Some(module)) | (Some(module), Some(_)) if COMPILED.iter().any(|one| module.starts_with(one)) => {
                said.tool("cc", Mentioned, (line, module));
            }
            _ => {}
        }
    }
    Ok(())
}

/// What a source asks of pkg-config for its C parts (`cmd/cgo`).
pub(super) fn source(file: &Source<'_>, said: &StatementSink) -> Read {
    for (line, text) in (1..).zip(file.text.lines()) {
        let Some(rest) = text.trim().trim_start_matches("//").trim().strip_prefix("#cgo") else { continue };
        let Some((constraints, names)) = rest.split_once("pkg-config:") else { continue };
        said.softly(!constraints.trim().is_empty(), || {
            for name in names.split_whitespace().filter(|name| !name.starts_with('-')) {
                said.library(name, Mentioned, (line, "cgo"));
            }
        });
    }
    Ok(())
}
