//! The readers, one for each sort of file: pure functions from a text to statements.

#![allow(clippy::unnecessary_wraps, reason = "readers are of one type, whether or not their format can be broken")]

mod autoconf;
mod cmake;
mod compose;
mod container;
mod dotnet;
mod files;
mod github;
mod go;
mod image;
mod java;
mod make;
mod meson;
mod node;
mod pins;
mod prose;
mod python;
mod rust;
mod scripting;
mod servers;

use super::statement_sink::{Read, Source, StatementSink};

pub(super) type Reader = fn(&Source<'_>, &StatementSink) -> Read;

/// Readers of files by their names.
const BY_NAME: [(&str, Reader); 53] = [
    (".env.dist", files::environment),
    (".env.example", files::environment),
    (".env.sample", files::environment),
    (".env.template", files::environment),
    (".gitattributes", files::attributes),
    (".gitlab-ci.yml", servers::gitlab),
    (".gitmodules", files::submodules),
    (".go-version", pins::of_one),
    (".java-version", pins::of_one),
    (".node-version", pins::of_one),
    (".nvmrc", pins::of_one),
    (".pre-commit-config.yaml", files::hooks),
    (".python-version", pins::of_one),
    (".ruby-version", pins::of_one),
    (".terraform-version", pins::of_one),
    (".tool-versions", pins::of_several),
    ("CMakeLists.txt", cmake::lists),
    ("CMakePresets.json", cmake::presets),
    ("Cargo.lock", rust::lock),
    ("Cargo.toml", rust::manifest),
    ("Containerfile", container::definition),
    ("Dockerfile", container::definition),
    ("GNUmakefile", make::recipes),
    ("Gemfile", scripting::gemfile),
    ("Gemfile.lock", scripting::gem_lock),
    ("Makefile", make::recipes),
    ("Makefile.am", make::recipes),
    ("Pipfile", python::pipfile),
    ("binding.gyp", node::binding),
    ("bitbucket-pipelines.yml", servers::bitbucket),
    ("build.gradle", java::gradle),
    ("build.gradle.kts", java::gradle),
    ("compose.yaml", compose::services),
    ("compose.yml", compose::services),
    ("composer.json", scripting::composer),
    ("configure.ac", autoconf::configure),
    ("configure.in", autoconf::configure),
    ("docker-compose.yaml", compose::services),
    ("docker-compose.yml", compose::services),
    ("example.env", files::environment),
    ("global.json", dotnet::global),
    ("go.mod", go::module),
    ("go.work", go::module),
    ("makefile", make::recipes),
    ("meson.build", meson::build),
    ("mix.exs", scripting::mix),
    ("package-lock.json", node::lock),
    ("package.json", node::package),
    ("pnpm-lock.yaml", node::lock),
    ("pom.xml", java::maven),
    ("pyproject.toml", python::project),
    ("setup.cfg", python::setup_cfg),
    ("yarn.lock", node::lock),
];

/// Prose that tells how to build.
const PROSE: [&str; 8] = ["readme", "contributing", "install", "hacking", "building", "build", "develop", "development"];

/// Files that count though nothing in them is read: whether they are there changes what others mean.
pub(super) const ONLY_NAMES: [&str; 5] = ["mvnw", "gradlew", "configure", "gradle-wrapper.properties", "pnpm-workspace.yaml"];

/// The reader for a file, by where it lies and what it is called.
pub(super) fn for_file(path: &str) -> Option<Reader> {
    let (folder, name) = path.rsplit_once('/').unwrap_or(("", path));
    if let Some((_, reader)) = BY_NAME.iter().find(|(one, _)| *one == name) {
        return Some(*reader);
    }
    let (stem, extension) = name.rsplit_once('.').map_or((name, ""), |(stem, extension)| (stem, extension));
    match extension {
        "yml" | "yaml" if folder == ".github/workflows" => Some(github::workflow),
        "toml" if name == "rust-toolchain.toml" => Some(rust::toolchain),
        "" if name == "rust-toolchain" => Some(rust::toolchain),
        "csproj" | "fsproj" | "vbproj" => Some(dotnet::project),
        "go" => Some(go::source),
        "sh" | "bash" => Some(files::script),
        "md" | "markdown" | "rst" | "txt" | "" if PROSE.contains(&stem.to_ascii_lowercase().as_str()) => Some(prose::document),
        "md" if folder == "docs" || folder == "doc" => Some(prose::document),
        _ if name.starts_with("Dockerfile.") => Some(container::definition),
        _ => None,
    }
}

/// The first line that says something, without what stands around it, and its number.
fn first_line(text: &str) -> Option<(&str, usize)> {
    let lines = (1..).zip(text.trim_start_matches('\u{feff}').lines());
    lines.map(|(number, line)| (line.trim(), number)).find(|(line, _)| !line.is_empty() && !line.starts_with('#'))
}

/// At least this version; nothing where it is none.
fn at_least(version: &str) -> Option<String> {
    let plain = version.trim().trim_matches(['"', '\'']);
    let right = plain.starts_with(|c: char| c.is_ascii_digit())
        && plain.len() <= 20
        && plain.chars().all(|c| c.is_ascii_alphanumeric() || ".-_".contains(c));
    right.then(|| format!(">= {plain}"))
}

/// One bound as other tools write it: `>=2.66`, `< 3`, `==1.2`, `1.2` for at least that.
fn bound(text: &str) -> Option<String> {
    let text = text.trim();
    let version = text.trim_start_matches(['<', '>', '=', '!', ' ']);
    let sign = text.strip_suffix(version)?.trim();
    at_least(version)?;
    match sign {
        "" | ">=" | "=>" => Some(format!(">= {version}")),
        "=" | "==" => Some(format!("= {version}")),
        "<" | "<=" | ">" | "!=" => Some(format!("{sign} {version}")),
        _ => None,
    }
}

/// `cairo>=1.16`: the name and the bound.
fn with_range(text: &str) -> (&str, Option<String>) {
    match text.find(['<', '>', '=']) {
        Some(at) => (text.get(..at).unwrap_or(text).trim(), text.get(at..).and_then(bound)),
        None => (text, None),
    }
}

/// A range of Maven's: `[3.8,4)`, `17`, `(,1.0]`.
fn maven_range(text: &str) -> Option<String> {
    let text = text.trim();
    let Some(inner) = text.strip_prefix(['[', '(']) else { return at_least(text) };
    let inner = inner.strip_suffix([']', ')'])?;
    let Some((from, to)) = inner.split_once(',') else { return at_least(inner).map(|_| format!("= {inner}")) };
    let low = at_least(from).map(|low| if text.starts_with('(') { low.replace(">=", ">") } else { low });
    let high = at_least(to).map(|high| high.replace(">=", if text.ends_with(']') { "<=" } else { "<" }));
    let both: Vec<String> = low.into_iter().chain(high).collect();
    (!both.is_empty()).then(|| both.join(", "))
}

#[cfg(test)]
mod tests;
