//! Packages of Node.

use super::{Live, is_there_and_not_empty, kind};
use crate::pinned::ranges::from_npm;
use serde_json::Value;
use setup_ready_core::observation::{FileKind, Recorded, RunsOn};
use std::collections::HashSet;
use std::path::{Path, PathBuf};

/// Packages that need more others than these are started.
const MOST_PACKAGES: usize = 800;
/// Where Debian's node looks behind all folders above a package.
const OF_THE_SYSTEM: [&str; 2] = ["/usr/share/nodejs", "/usr/lib/nodejs"];

/// The nearest `package.json` above the script, if it is this package's and says that the tool is this very script.
pub(super) fn of_package(live: &Live, real: &Path, (tool, package): (&str, &str)) -> Option<Recorded> {
    let FileKind::Script(interpreter) = kind(real)? else { return None };
    let path = match interpreter.as_str() {
        "node" => None,
        other if other.ends_with("/node") || other.ends_with("/nodejs") => Some(other.to_owned()),
        _ => return None,
    };
    // A package of the same name in a folder above the one where it is asked would go before it.
    let local = Path::new("node_modules").join(package);
    if live.apart().folder().ancestors().any(|folder| folder.join(&local).symlink_metadata().is_ok()) {
        return None;
    }
    let root = real.ancestors().skip(1).take(4).find(|folder| folder.join("package.json").is_file())?;
    let description = described(root)?;
    let text = |key: &str| description.get(key).and_then(Value::as_str);
    let scripts = description.get("bin")?;
    let script = scripts.as_str().or_else(|| scripts.get(tool)?.as_str())?;
    let is_this = super::place::real(&root.join(script)).is_ok_and(|file| file == real);
    if text("name") != Some(package) || !is_this || !is_whole(root, &description) {
        return None;
    }
    let range = from_npm(description.get("engines")?.get("node")?.as_str()?)?;
    let range = if range.is_empty() { ">= 0".to_owned() } else { range };
    Some(Recorded {
        version: text("version")?.to_owned(),
        file: root.join("package.json").display().to_string(),
        runs_on: Some(RunsOn { name: "node".to_owned(), path, range }),
    })
}

fn described(folder: &Path) -> Option<Value> {
    serde_json::from_str(&super::place::text(&folder.join("package.json")).ok()?).ok()
}

/// Whether all that a package consists of and all packages that it needs are there.
fn is_whole(root: &Path, description: &Value) -> bool {
    let files = description.get("files").and_then(Value::as_array).into_iter().flatten().filter_map(Value::as_str);
    let mut plain = files.filter(|file| !file.contains(['*', '!', '{', '[']) && !file.contains(".."));
    let main = description.get("main").and_then(Value::as_str).unwrap_or("index.js");
    // What is started need not have the file that others load.
    let has_main = description.get("main").is_none()
        || ["", ".js", "/index.js", ".cjs"].iter().any(|end| root.join(format!("{main}{end}")).exists());
    if !has_main || !plain.all(|file| root.join(file.trim_start_matches('/')).exists()) {
        return false;
    }
    let mut seen: HashSet<PathBuf> = HashSet::new();
    let mut waiting: Vec<(PathBuf, Value)> = vec![(root.to_owned(), description.clone())];
    while let Some((folder, description)) = waiting.pop() {
        let Some(needed) = description.get("dependencies").and_then(Value::as_object) else { continue };
        for name in needed.keys() {
            let Some(found) = resolved(&folder, name) else { return false };
            if seen.contains(&found) {
                continue;
            }
            if seen.len() >= MOST_PACKAGES {
                return false;
            }
            let Some(description) = described(&found) else { return false };
            let main = description.get("main").and_then(Value::as_str).unwrap_or("index.js");
            // A package of another shape is found in another way, which is not looked into.
            let plain = description.get("exports").is_none() && description.get("main").is_some();
            if plain
                && ![main, &format!("{main}.js"), &format!("{main}/index.js"), "index.js"]
                    .iter()
                    .any(|file| is_there_and_not_empty(&found.join(file)))
            {
                return false;
            }
            seen.insert(found.clone());
            waiting.push((found, description));
        }
    }
    true
}

/// The folder of a package that another one loads: the nearest of that name in the folders above it, then the system's.
fn resolved(from: &Path, name: &str) -> Option<PathBuf> {
    let plain = |part: &str| !part.is_empty() && !part.starts_with('.') && !part.contains(['\\', ':']);
    if !name.split('/').all(plain) {
        return None;
    }
    let beside =
        from.ancestors().filter(|folder| !folder.ends_with("node_modules")).map(|folder| folder.join("node_modules").join(name));
    let mut all = beside.chain(OF_THE_SYSTEM.iter().map(|folder| Path::new(folder).join(name)));
    all.find(|folder| folder.join("package.json").is_file())
}
