//! Which files of a repository are read. Nothing is followed out of it, nothing that its own rules ignore, and only so much of each.

use super::format::{Node, json, toml, yaml};
use super::names::Names;
use super::readers::{ONLY_NAMES, for_file};
use ignore::WalkBuilder;
use ignore::overrides::OverrideBuilder;
use std::collections::BTreeSet;
use std::path::Path;

/// Entries of folders that are looked at, at most.
const MOST_ENTRIES: usize = 400_000;
/// Files that are read, at most.
const MOST_FILES: usize = 2_000;
/// Folders below which nothing is looked for, though no rule says so: what was brought or built.
const BROUGHT: [&str; 9] = [".git", "node_modules", "target", "vendor", "third_party", ".venv", "venv", "__pycache__", "_build"];
/// Folders that belong to the root though they lie deeper.
const OF_THE_ROOT: [&str; 9] =
    [".github/workflows", "docs", "doc", "scripts", "script", "tools", "ci", "gradle/wrapper", ".github"];

/// What a look through the folders came to.
#[derive(Debug, Default)]
pub(super) struct Found {
    pub(super) names: Names,
    /// The files to be read, in order.
    pub(super) chosen: Vec<String>,
    /// There is more than is looked at.
    pub(super) cut_short: bool,
}

/// Looks through a repository. `depth` says how many folders below the root belong to it, besides those that its workspaces name.
pub(super) fn find(root: &Path, depth: usize, read: &dyn Fn(&str) -> Option<String>) -> Found {
    let mut found = Found::default();
    let mut seen = 0;
    let mut walk = WalkBuilder::new(root);
    walk.hidden(false)
        .parents(false)
        .require_git(false)
        .git_global(false)
        .git_exclude(true)
        .follow_links(false)
        .max_depth(Some(12));
    walk.sort_by_file_name(std::cmp::Ord::cmp);
    let base = root.to_owned();
    walk.filter_entry(move |entry| {
        let is_folder = entry.file_type().is_some_and(|kind| kind.is_dir());
        let brought = || BROUGHT.iter().any(|name| entry.file_name() == *name);
        // A repository inside this one speaks for itself.
        let another = || entry.depth() > 0 && entry.path() != base && entry.path().join(".git").exists();
        !is_folder || !(brought() || another())
    });
    for entry in walk.build().flatten() {
        seen += 1;
        if seen > MOST_ENTRIES {
            found.cut_short = true;
            break;
        }
        if !entry.file_type().is_some_and(|kind| kind.is_file()) {
            continue;
        }
        let Some(path) = entry.path().strip_prefix(root).ok().and_then(Path::to_str) else { continue };
        let path = path.replace('\\', "/");
        let name = path.rsplit('/').next().unwrap_or(&path);
        if for_file(&path).is_some() || ONLY_NAMES.contains(&name) {
            found.names.all.insert(path);
        }
    }
    let members = members(root, &found.names, read);
    for path in &found.names.all {
        let folder = path.rsplit_once('/').map_or("", |(folder, _)| folder);
        let levels = if folder.is_empty() { 0 } else { folder.matches('/').count() + 1 };
        let belongs = levels <= depth || OF_THE_ROOT.contains(&folder) || members.iter().any(|member| member == folder);
        if belongs && for_file(path).is_some() {
            found.chosen.push(path.clone());
        }
    }
    found.cut_short |= found.chosen.len() > MOST_FILES;
    found.chosen.truncate(MOST_FILES);
    found
}

/// The folders that the files of workspaces name.
fn members(root: &Path, names: &Names, read: &dyn Fn(&str) -> Option<String>) -> BTreeSet<String> {
    let mut patterns: Vec<String> = Vec::new();
    let mut add = |node: Option<&Node>| {
        patterns.extend(node.map(Node::texts).unwrap_or_default().into_iter().map(|(text, _)| text.to_owned()));
    };
    let tree = |name: &str, parse: fn(&str) -> Result<Node, super::format::Unreadable>| {
        if names.has(name) { read(name).and_then(|text| parse(&text).ok()) } else { None }
    };
    if let Some(tree) = tree("package.json", json) {
        add(tree.get("workspaces"));
        add(tree.at(&["workspaces", "packages"]).map(|entry| &entry.node));
    }
    if let Some(tree) = tree("pnpm-workspace.yaml", yaml) {
        add(tree.get("packages"));
    }
    if let Some(tree) = tree("Cargo.toml", toml) {
        add(tree.at(&["workspace", "members"]).map(|entry| &entry.node));
    }
    if let Some(text) = names.has("go.work").then(|| read("go.work")).flatten() {
        let used = text.lines().map(str::trim).filter_map(|line| line.strip_prefix("use ").unwrap_or(line).strip_prefix("./"));
        patterns.extend(used.map(ToOwned::to_owned));
    }
    if patterns.is_empty() {
        return BTreeSet::new();
    }
    let mut rules = OverrideBuilder::new(root);
    for pattern in patterns.iter().take(1_000) {
        // One that begins with `!` takes back.
        let (sign, plain) = pattern.strip_prefix('!').map_or(("", pattern.as_str()), |rest| ("!", rest));
        let plain = plain.trim_start_matches("./").trim_end_matches('/');
        let _ = rules.add(&format!("{sign}/{plain}"));
    }
    let Ok(rules) = rules.build() else { return BTreeSet::new() };
    let folders: BTreeSet<&str> = names.all.iter().filter_map(|path| path.rsplit_once('/').map(|(folder, _)| folder)).collect();
    folders.into_iter().filter(|folder| rules.matched(root.join(folder), true).is_whitelist()).map(ToOwned::to_owned).collect()
}
