//! What definitions of build servers have in common, and those that are plain lists of jobs.

use super::super::format::{Entry, Node, yaml};
use super::super::shell::{Kind, script};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::observation::Os;
use setup_ready_core::statement::{
    Confidence::{Mentioned, Used},
    Restriction, Topic,
};

/// Whether a job is about what comes after building: what it installs, no newcomer needs.
pub(super) fn is_for_releases(name: &str) -> bool {
    let name = name.to_ascii_lowercase();
    let words = name.split(|c: char| !c.is_ascii_alphanumeric());
    let aside = [
        "deploy",
        "deployment",
        "publish",
        "release",
        "releases",
        "nightly",
        "pages",
        "upload",
        "notify",
        "stale",
        "label",
        "labeler",
        "benchmark",
        "fuzz",
        "coverage",
    ];
    words.into_iter().any(|word| aside.contains(&word))
}

/// The system of a machine that a build server names.
pub(super) fn system_of_runner(name: &str) -> Option<Os> {
    let name = name.to_ascii_lowercase();
    let begins = |words: &[&str]| words.iter().any(|word| name.starts_with(word));
    if begins(&["ubuntu", "debian", "linux", "fedora"]) {
        Some(Os::Linux)
    } else if begins(&["macos", "mac-"]) {
        Some(Os::Macos)
    } else if begins(&["windows", "win-"]) {
        Some(Os::Windows)
    } else {
        None
    }
}

/// Keys of `.gitlab-ci.yml` that are no jobs.
const NO_JOBS: [&str; 10] =
    ["default", "variables", "stages", "include", "workflow", "image", "services", "cache", "before_script", "after_script"];

/// `.gitlab-ci.yml` (its keyword reference): images, services and scripts of jobs.
pub(super) fn gitlab(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = yaml(file.text)?;
    for node in [Some(&tree), tree.get("default")].into_iter().flatten() {
        image(node, said);
        services(node, said);
        lines(node, &["before_script"], said);
    }
    for job in tree
        .entries()
        .iter()
        .filter(|entry| !NO_JOBS.contains(&entry.key.as_str()) && matches!(entry.node.value, super::super::format::Value::Map(_)))
    {
        let stage = job.node.get("stage").and_then(Node::text).unwrap_or_default();
        let aside = is_for_releases(&job.key)
            || is_for_releases(stage)
            || job.node.get("rules").is_some()
            || job.node.get("only").is_some();
        let limit = aside.then(|| Restriction::Text(format!("in the job {}", job.key)));
        said.only(limit, || {
            image(&job.node, said);
            services(&job.node, said);
            lines(&job.node, &["before_script", "script"], said);
        });
    }
    Ok(())
}

/// `bitbucket-pipelines.yml` (its configuration reference): images and scripts of steps.
pub(super) fn bitbucket(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = yaml(file.text)?;
    image(&tree, said);
    for (kind, pipelines) in
        tree.get("pipelines").map(Node::entries).unwrap_or_default().iter().map(|entry| (entry.key.as_str(), &entry.node))
    {
        if kind == "default" || kind == "pull-requests" {
            steps(pipelines, said, 0);
        } else {
            for named in pipelines.entries() {
                said.only(Some(Restriction::Text(format!("in the {kind} {}", named.key))), || steps(&named.node, said, 0));
            }
        }
    }
    Ok(())
}

/// Steps lie in lists, in `parallel`, in `stage`; deeper than people nest them is not looked.
fn steps(node: &Node, said: &StatementSink, depth: usize) {
    if depth > 8 {
        return;
    }
    for item in node.items() {
        steps(item, said, depth + 1);
    }
    for entry in node.entries() {
        match entry.key.as_str() {
            "step" => {
                let name = entry.node.get("name").and_then(Node::text).unwrap_or_default();
                let aside = entry.node.get("deployment").is_some() || is_for_releases(name);
                let limit = aside.then(|| Restriction::Text(format!("in the step {name}")));
                said.only(limit, || {
                    image(&entry.node, said);
                    lines(&entry.node, &["script"], said);
                });
            }
            "parallel" | "stage" | "steps" => steps(&entry.node, said, depth + 1),
            key if key != "script" && depth == 0 => steps(&entry.node, said, depth + 1),
            _ => {}
        }
    }
}

fn image(node: &Node, said: &StatementSink) {
    let Some(entry) = node.entry("image") else { return };
    let name = entry.node.text().or_else(|| entry.node.get("name")?.text());
    for (program, range) in name.map(super::image::programs).unwrap_or_default() {
        said.tool(program, Used, (entry.line, "image", range));
    }
}

fn services(node: &Node, said: &StatementSink) {
    for item in node.get("services").map(Node::items).unwrap_or_default() {
        let (name, line) = match item.entry("name") {
            Some(entry) => (entry.node.text(), entry.line),
            None => (item.text(), item.line),
        };
        if let Some((name, port)) = name.and_then(super::image::service) {
            said.topic(Topic::Service(name.to_owned(), port), Mentioned, (line, "services"));
        }
    }
}

fn lines(node: &Node, keys: &[&str], said: &StatementSink) {
    for entry in keys.iter().filter_map(|key| node.entry(key)) {
        for (text, line) in texts(entry) {
            script(said, text, line, Kind::Build);
        }
    }
}

/// Lines may stand in lists within lists, as anchors bring them.
fn texts(entry: &Entry) -> Vec<(&str, usize)> {
    let mut found = entry.node.texts();
    found.extend(entry.node.items().iter().flat_map(|item| item.items().iter().flat_map(Node::texts)));
    found
}
