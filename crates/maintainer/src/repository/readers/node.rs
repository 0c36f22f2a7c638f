use super::super::format::{Node, json};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::Confidence::{Mentioned, Pinned, Used};
use setup_ready_observe::pinned::ranges::{exact_or_series, from_npm};

/// Programs whose versions `engines` may state; anything else there is no program of the person's.
const ENGINES: [&str; 5] = ["node", "npm", "yarn", "pnpm", "bun"];

/// `package.json` (npm's documentation of it): `engines`, `packageManager`, and what compiles native parts.
pub(super) fn package(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = json(file.text)?;
    let engines = tree.get("engines");
    for entry in engines.map(Node::entries).unwrap_or_default() {
        if ENGINES.contains(&entry.key.as_str())
            && let Some(range) = entry.node.text().and_then(from_npm)
        {
            said.tool(&entry.key, Pinned, (entry.line, &*format!("engines.{}", entry.key), Some(range)));
        }
    }
    if let Some(entry) = tree.entry("packageManager")
        && let Some((name, version)) = entry.node.text().and_then(|text| text.split_once('@'))
        && ENGINES.contains(&name)
    {
        let exact = version.split('+').next().and_then(exact_or_series);
        said.tool(name, Pinned, (entry.line, "packageManager", exact));
    }
    let own = ["scripts", "dependencies", "devDependencies"]
        .iter()
        .any(|key| tree.get(key).is_some_and(|node| !node.entries().is_empty()));
    let names_node = engines.and_then(|node| node.get("node")).is_some();
    if own && !names_node && !file.names.has_above(file.path, "package.json") {
        said.tool("node", Used, 1);
    }
    let native = tree.at(&["gypfile"]).filter(|entry| entry.node.text() == Some("true")).map(|entry| entry.line);
    if let Some(line) = native.or_else(|| file.has_beside("binding.gyp").then_some(1)) {
        // Most people get the native parts ready made; whoever changes them compiles them.
        let install = tree.at(&["scripts", "install"]).and_then(|entry| entry.node.text()).unwrap_or_default();
        let ready_made = ["prebuild", "node-pre-gyp", "node-gyp-build"].iter().any(|one| install.contains(one));
        for tool in ["python3", "make", "c++"] {
            said.tool(tool, if ready_made { Used } else { Pinned }, (line, "native parts"));
        }
    }
    Ok(())
}

/// `binding.gyp`: what it asks of pkg-config. It may ask under conditions of its own, so that is only mentioned.
pub(super) fn binding(file: &Source<'_>, said: &StatementSink) -> Read {
    for (line, text) in (1..).zip(file.text.lines()) {
        let asked = text.split("pkg-config ").nth(1).unwrap_or_default();
        let names = asked.split([' ', ')', '\'', '"']).filter(|word| !word.starts_with('-') && !word.is_empty());
        names
            .take_while(|name| super::super::statement_sink::is_name(name))
            .for_each(|name| said.library(name, Mentioned, (line, "pkg-config")));
    }
    Ok(())
}

/// A lock file: the installer that made it.
pub(super) fn lock(file: &Source<'_>, said: &StatementSink) -> Read {
    let tool = match file.name() {
        "pnpm-lock.yaml" => "pnpm",
        "yarn.lock" => "yarn",
        _ => "npm",
    };
    said.tool(tool, Pinned, 1);
    Ok(())
}
