//! Managers of many tools, whose pins are lines of `.tool-versions`. They are known by the layout of their folder (`shims` beside `installs`) and by the
//! line in each stand-in that names the tool.

use super::{Live, ShimTarget, is_version, place, variable};
use std::path::Path;

pub(super) fn stand(live: &Live, path: &Path, real: &Path, name: &str) -> Option<ShimTarget> {
    let shims = path.parent().filter(|folder| folder.ends_with("shims"))?;
    let root = shims.parent().filter(|root| root.join("installs").is_dir() && !live.project.holds(root))?;
    // The stand-in names the tools that bring it: `# MANAGER-plugin: TOOL VERSION`. Without such a line its pins are in many places and forms.
    let text = if real.starts_with(root) { place::text(real).unwrap_or_default() } else { String::new() };
    let named = text.lines().filter_map(|line| line.strip_prefix("# ")?.split_once("-plugin: "));
    let mut tools = named.filter_map(|(manager, rest)| Some((manager, rest.split_whitespace().next()?)));
    let Some((manager, tool)) = tools.next().filter(|(manager, tool)| is_version(manager) && is_version(tool)) else {
        return Some(ShimTarget::Unclear);
    };
    Some(if tools.all(|other| other == (manager, tool)) {
        chosen(live, root, (manager, tool), name)
    } else {
        ShimTarget::Unclear
    })
}

fn chosen(live: &Live, root: &Path, (manager, tool): (&str, &str), name: &str) -> ShimTarget {
    let upper = |word: &str| word.to_ascii_uppercase().replace('-', "_");
    let by_variable = format!("{}_{}_VERSION", upper(manager), upper(tool));
    let home = live.home.iter().map(std::path::PathBuf::as_path);
    let pinned = live.folder.ancestors().chain(home).find_map(|folder| {
        let file = folder.join(".tool-versions");
        let versions = versions(&place::text(&file).ok()?, tool)?;
        Some((versions, file.display().to_string()))
    });
    let pin = variable(&by_variable).map(|versions| (versions, format!("the variable {by_variable}"))).or(pinned);
    let Some((versions, said_in)) = pin else {
        return ShimTarget::Absent(format!("{name}: no version of {tool} is chosen"), ".tool-versions".to_owned());
    };
    for version in versions.split_whitespace() {
        if version == "system" {
            return ShimTarget::NextOnPath;
        }
        // A path is whatever the pin says, and perhaps the project's.
        if !is_version(version) {
            return ShimTarget::Unclear;
        }
        let folder = root.join("installs").join(tool).join(version);
        if folder.is_dir() {
            let file = folder.join("bin").join(name);
            return if file.is_file() { ShimTarget::For(file) } else { ShimTarget::Unclear };
        }
    }
    ShimTarget::Absent(format!("{tool} {versions}"), said_in)
}

/// The versions that a text pins for a tool, in the order in which they are tried.
fn versions(text: &str, tool: &str) -> Option<String> {
    text.lines().find_map(|line| {
        let mut words = line.split('#').next().unwrap_or_default().split_whitespace();
        (words.next() == Some(tool)).then(|| words.collect::<Vec<_>>().join(" "))
    })
}
