//! Definitions of a build server (`.github/workflows`): jobs, their machines, steps that set tools up, scripts, matrices.

use super::super::format::{Entry, Node, yaml};
use super::super::shell::{Kind, script};
use super::super::statement_sink::{Read, Source, StatementSink};
use super::servers::{is_for_releases, system_of_runner};
use setup_ready_core::guide::Language;
use setup_ready_core::manager::Manager;
use setup_ready_core::statement::{
    Confidence::{Mentioned, Used},
    Restriction, Topic,
};
use setup_ready_observe::pinned::ranges::{exact_or_series, from_npm};

/// Steps that set a tool up: the end of the action's name, the tool, and the key with its version.
const SETS_UP: [(&str, &str, &str); 11] = [
    ("setup-node", "node", "node-version"),
    ("setup-python", "python3", "python-version"),
    ("setup-go", "go", "go-version"),
    ("setup-java", "java", "java-version"),
    ("setup-dotnet", "dotnet", "dotnet-version"),
    ("setup-ruby", "ruby", "ruby-version"),
    ("setup-php", "php", "php-version"),
    ("setup-cmake", "cmake", "cmake-version"),
    ("setup-ninja", "ninja", "version"),
    ("setup-protoc", "protoc", "version"),
    ("setup-elixir", "elixir", "elixir-version"),
];

pub(super) fn workflow(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = yaml(file.text)?;
    for job in tree.get("jobs").map(Node::entries).unwrap_or_default() {
        let name = job.node.get("name").and_then(Node::text).unwrap_or_default();
        let aside = is_for_releases(&job.key) || is_for_releases(name) || job.node.get("if").is_some();
        let limit = aside.then(|| Restriction::Text(format!("in the job {}", job.key)));
        if limit.is_none() {
            systems(&job.node, said);
        }
        said.only(limit, || of_job(job, said));
    }
    Ok(())
}

/// The values of a matrix under a key, and those that `include` adds.
fn of_matrix<'n>(job: &'n Node, key: &str) -> Vec<(&'n str, usize)> {
    let Some(matrix) = job.at(&["strategy", "matrix"]) else { return Vec::new() };
    let mut found = matrix.node.get(key).map(Node::texts).unwrap_or_default();
    for included in matrix.node.get("include").map(Node::items).unwrap_or_default() {
        found.extend(included.get(key).map(Node::texts).unwrap_or_default());
    }
    found
}

/// `${{ matrix.os }}`: the key.
fn matrix_key(text: &str) -> Option<&str> {
    text.trim().strip_prefix("${{")?.strip_suffix("}}")?.trim().strip_prefix("matrix.")
}

/// A value, or all that a matrix has for it.
fn values<'n>(node: &'n Node, job: &'n Node) -> Vec<(&'n str, usize)> {
    let own = node.texts();
    match own.as_slice() {
        [(text, _)] if text.contains("${{") => matrix_key(text).map(|key| of_matrix(job, key)).unwrap_or_default(),
        _ => own,
    }
}

/// The systems on which a job runs.
fn systems(job: &Node, said: &StatementSink) {
    for (runner, line) in job.get("runs-on").map(|node| values(node, job)).unwrap_or_default() {
        if let Some(os) = system_of_runner(runner) {
            said.topic(Topic::System(os), Used, (line, "runs-on"));
        }
    }
}

fn of_job(job: &Entry, said: &StatementSink) {
    let job = &job.node;
    let container = job.get("container").and_then(|node| node.text().or_else(|| node.get("image")?.text()));
    if let Some(entry) = job.entry("container")
        && let Some(image) = container
    {
        for (program, range) in super::image::programs(image) {
            said.tool(program, Used, (entry.line, "container", range));
        }
    }
    for service in job.get("services").map(Node::entries).unwrap_or_default() {
        if let Some(entry) = service.node.entry("image")
            && let Some((name, port)) = entry.node.text().and_then(super::image::service)
        {
            said.topic(Topic::Service(name.to_owned(), port), Mentioned, (entry.line, &*service.key));
        }
    }
    for step in job.get("steps").map(Node::items).unwrap_or_default() {
        said.only(condition(step), || of_step(step, job, said));
    }
}

/// What the `if` of a step means for people.
fn condition(step: &Node) -> Option<Restriction> {
    let text = step.get("if").and_then(Node::text)?.trim();
    let text = text.strip_prefix("${{").and_then(|rest| rest.strip_suffix("}}")).unwrap_or(text).trim();
    let plain: String = text.chars().filter(|c| !c.is_whitespace()).collect::<String>().replace('"', "'");
    let named = [("Linux", "linux"), ("macOS", "macos"), ("Windows", "windows")];
    for (name, word) in named {
        if plain == format!("runner.os=='{name}'") {
            return Some(Restriction::When(word.to_owned()));
        }
        if plain == format!("runner.os!='{name}'") {
            return Some(Restriction::When(format!("not {word}")));
        }
    }
    if plain == "always()" || plain == "success()" {
        return None;
    }
    Some(Restriction::Text(format!("where {text}")))
}

fn of_step(step: &Node, job: &Node, said: &StatementSink) {
    if let Some(run) = step.entry("run")
        && let Some(text) = run.node.text()
    {
        script(said, text, run.node.line, Kind::Build);
    }
    let Some(uses) = step.entry("uses") else { return };
    let action = uses.node.text().unwrap_or_default();
    let (path, at) = action.split_once('@').unwrap_or((action, ""));
    let name = path.rsplit('/').next().unwrap_or(path);
    let with = step.get("with");
    let input = |key: &str| with.and_then(|node| node.entry(key));
    if name == "checkout" {
        if let Some(entry) = input("submodules").filter(|entry| entry.node.text() != Some("false")) {
            said.topic(Topic::Submodules, Used, (entry.line, "submodules"));
        }
        if let Some(entry) = input("lfs").filter(|entry| entry.node.text() == Some("true")) {
            said.tool("git-lfs", Used, (entry.line, "lfs"));
        }
    }
    if let Some((_, tool, key)) = SETS_UP.iter().find(|(end, ..)| *end == name) {
        version(tool, input(key), uses.line, job, said);
    }
    match name {
        "setup-beam" => {
            for (tool, key) in [("erl", "otp-version"), ("elixir", "elixir-version")] {
                if let Some(entry) = input(key) {
                    version(tool, Some(entry), uses.line, job, said);
                }
            }
        }
        "rust-toolchain" | "toolchain" => match input("toolchain") {
            Some(entry) => version("rustc", Some(entry), uses.line, job, said),
            None => said.tool(
                "rustc",
                Used,
                (
                    uses.line,
                    "uses",
                    exact_or_series(at).filter(|_| at.starts_with(|c: char| c.is_ascii_digit()) && at.contains('.')),
                ),
            ),
        },
        "setup-php" => {
            if let Some(entry) = input("extensions") {
                for extension in entry.node.text().unwrap_or_default().split(',').map(str::trim) {
                    said.module(Language::Php, extension, Used, (entry.line, "extensions"));
                }
            }
        }
        "cache-apt-pkgs-action" => {
            if let Some(entry) = input("packages") {
                for package in entry.node.text().unwrap_or_default().split_whitespace() {
                    said.only(Some(Restriction::When("linux".to_owned())), || {
                        said.package(Manager::Apt, package, Used, entry.node.line);
                    });
                }
            }
        }
        _ => {}
    }
}

/// The versions that are set up, all in one statement.
fn version(tool: &str, entry: Option<&Entry>, line: usize, job: &Node, said: &StatementSink) {
    let Some(entry) = entry else {
        said.tool(tool, Used, line);
        return;
    };
    let all = values(&entry.node, job);
    let line = all.first().map_or(entry.line, |(_, line)| {
        if entry.node.text().is_some_and(|text| text.contains("${{")) { *line } else { entry.line }
    });
    let texts = all.iter().flat_map(|(text, _)| text.split(['\n', ','])).map(str::trim).filter(|text| !text.is_empty());
    let mut ranges: Vec<String> = Vec::new();
    for text in texts {
        // A word such as `stable` follows the newest.
        let Some(range) =
            exact_or_series(text.trim_end_matches(".x")).or_else(|| from_npm(text)).filter(|range| !range.is_empty())
        else {
            continue;
        };
        if !ranges.contains(&range) {
            ranges.push(range);
        }
    }
    said.tool(tool, Used, (line, &*entry.key, Some(ranges.join(" || "))));
}
