//! Packages of Node, as `require` resolves them from the project's folder (Node.js documentation, "Loading from `node_modules` folders").

use super::{Live, Looked, absent, here, is_plain, place};
use std::path::{Path, PathBuf};

/// What is built in and has no folder.
const BUILT_IN: [&str; 12] =
    ["assert", "buffer", "child_process", "crypto", "events", "fs", "http", "https", "net", "os", "path", "stream"];

pub(super) fn module(live: &Live, name: &str) -> Looked {
    if name.starts_with("node:") || BUILT_IN.contains(&name) {
        return Err(format!("{name} is a part of Node.js itself"));
    }
    if !is_plain(name) {
        return Ok(absent());
    }
    // Packages that are kept in an archive, and not in a folder, are found in another way.
    let kept_otherwise = [".pnp.cjs", ".pnp.js", ".pnp.loader.mjs"];
    if live.folder.ancestors().any(|folder| kept_otherwise.iter().any(|file| folder.join(file).is_file())) {
        return Err("this project's packages are not kept in node_modules".to_owned());
    }
    let own =
        live.folder.ancestors().filter(|folder| !folder.ends_with("node_modules")).map(|folder| folder.join("node_modules"));
    let by_variable = std::env::var_os("NODE_PATH").map(|paths| std::env::split_paths(&paths).collect::<Vec<_>>());
    let home = live.home.iter().flat_map(|home| [home.join(".node_modules"), home.join(".node_libraries")]);
    let system = ["/usr/share/nodejs", "/usr/lib/nodejs"].map(PathBuf::from);
    let mut folders = own.chain(by_variable.into_iter().flatten()).chain(home).chain(system);
    let found = folders.find_map(|folder| described(&folder.join(name)));
    Ok(found.map_or_else(absent, |(version, file)| here(version, &file)))
}

fn described(folder: &Path) -> Option<(Option<String>, PathBuf)> {
    let file = folder.join("package.json");
    let text = place::text(&file).ok()?;
    let description: serde_json::Value = serde_json::from_str(&text).ok()?;
    let version = description.get("version").and_then(serde_json::Value::as_str);
    Some((version.map(ToOwned::to_owned), file))
}
