//! Managers of many tools, whose pins are lines of `.tool-versions`.

use super::{Live, Stand, is_version, place, root, variable};
use std::path::Path;

pub(super) fn stand(live: &Live, path: &Path, real: &Path, name: &str) -> Option<Stand> {
    // One of them has settings in many places and forms, which are not read.
    if root(live, "MISE_DATA_DIR", ".local/share/mise").is_some_and(|root| path.parent() == Some(&root.join("shims"))) {
        return Some(Stand::Unclear);
    }
    let root = root(live, "ASDF_DATA_DIR", ".asdf")?;
    if path.parent() != Some(&root.join("shims")) {
        return None;
    }
    // The stand-in names the tools that bring it, and their versions.
    let text = place::text(real).unwrap_or_default();
    let plugins: Vec<&str> =
        text.lines().filter_map(|line| line.strip_prefix("# asdf-plugin:")?.split_whitespace().next()).collect();
    let Some(plugin) = plugins.first().filter(|first| plugins.iter().all(|one| one == *first) && is_version(first)) else {
        return Some(Stand::Unclear);
    };
    Some(chosen(live, &root, plugin, name))
}

fn chosen(live: &Live, root: &Path, plugin: &str, name: &str) -> Stand {
    let by_variable = format!("ASDF_{}_VERSION", plugin.to_ascii_uppercase().replace('-', "_"));
    let home = live.home.iter().map(std::path::PathBuf::as_path);
    let pinned = live.folder.ancestors().chain(home).find_map(|folder| {
        let file = folder.join(".tool-versions");
        let versions = versions(&place::text(&file).ok()?, plugin)?;
        Some((versions, file.display().to_string()))
    });
    let pin = variable(&by_variable).map(|versions| (versions, format!("the variable {by_variable}"))).or(pinned);
    let Some((versions, said_in)) = pin else {
        return Stand::Absent(format!("{name}: no version of {plugin} is chosen"), ".tool-versions".to_owned());
    };
    for version in versions.split_whitespace() {
        if version == "system" {
            return Stand::NextOnPath;
        }
        // A path is whatever the pin says, and perhaps the project's.
        if !is_version(version) {
            return Stand::Unclear;
        }
        let folder = root.join("installs").join(plugin).join(version);
        if folder.is_dir() {
            let file = folder.join("bin").join(name);
            return if file.is_file() { Stand::For(file) } else { Stand::Unclear };
        }
    }
    Stand::Absent(format!("{plugin} {versions}"), said_in)
}

/// The versions that a text pins for a tool, in the order in which they are tried.
fn versions(text: &str, tool: &str) -> Option<String> {
    text.lines().find_map(|line| {
        let mut words = line.split('#').next().unwrap_or_default().split_whitespace();
        (words.next() == Some(tool)).then(|| words.collect::<Vec<_>>().join(" "))
    })
}
